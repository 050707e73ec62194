import type { Series } from '@red-ember/core';

/** A channel that grows while a run goes on; views are handed out, nothing is copied. */
export class GrowingSeries {
  private t = new Float64Array(1024);
  private y = new Float64Array(1024);
  length = 0;

  static from(series: Series): GrowingSeries {
    const growing = new GrowingSeries();
    series.t.forEach((time, i) => growing.push(time, series.y[i]!));
    return growing;
  }

  push(tS: number, value: number): void {
    if (this.length === this.t.length) {
      const grown = (old: Float64Array) => {
        const larger = new Float64Array(old.length * 2);
        larger.set(old);
        return larger;
      };
      this.t = grown(this.t);
      this.y = grown(this.y);
    }
    this.t[this.length] = tS;
    this.y[this.length++] = value;
  }

  get view(): Series {
    return { t: this.t.subarray(0, this.length), y: this.y.subarray(0, this.length) };
  }

  /** Latest value that is there, or null. */
  get latest(): number | null {
    for (let i = this.length - 1; i >= 0 && i >= this.length - 30; i--) if (!Number.isNaN(this.y[i]!)) return this.y[i]!;
    return null;
  }

  /** Time of the latest value that is there, or null. */
  get latestAtS(): number | null {
    for (let i = this.length - 1; i >= 0; i--) if (!Number.isNaN(this.y[i]!)) return this.t[i]!;
    return null;
  }
}
