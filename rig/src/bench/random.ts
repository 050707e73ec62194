/** Seeded random numbers: the same seed replays the same bench. */
export class SeededRandom {
  private state: number;

  constructor(seed: number) {
    this.state = (seed ^ 0x9e3779b9) | 0;
    for (let i = 0; i < 4; i++) this.uniform(); // neighbouring seeds start alike: mix first
  }

  /** In [0, 1), mulberry32. */
  uniform(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let x = Math.imul(this.state ^ (this.state >>> 15), this.state | 1);
    x = (x + Math.imul(x ^ (x >>> 7), x | 61)) ^ x;
    return ((x ^ (x >>> 14)) >>> 0) / 4294967296;
  }

  /** Standard normal, Box-Muller. */
  normal(): number {
    return Math.sqrt(-2 * Math.log(1 - this.uniform())) * Math.cos(2 * Math.PI * this.uniform());
  }
}
