/** How a recorder's clock goes against one's own. */
export interface ClockOff {
  /** Of the time that went by: above zero where it is fast. */
  share: number;
  /** What that has come to, s of one's own time. */
  byS: number;
  overS: number;
}

/** The quickest message of so long a stretch tells how late one is at the least, ms. */
const STRETCH_MS = 20_000;
/** Nothing is said before, ms. */
const LEAST_MS = 300_000;
/** Less than this may be a network that has become slower, ms, or is of no consequence. */
const LEAST_BY_MS = 2_000;
const LEAST_SHARE = 0.002;

/**
 * Holds the times that a recorder puts to its messages against when they arrive. A message is late by a little that changes, and never
 * early: the least lateness of a stretch is that of its quickest message, and what it moves by from the first stretch to the last is the
 * clock's. In time-lapse a bench that waits for its listener falls behind by itself, so that only a fast one can be told there.
 */
export class ClockWatch {
  private first: { atMs: number; tMs: number } | null = null;
  private readonly earliest: { atMs: number; lateMs: number }[] = [];
  private latest: { atMs: number; lateMs: number }[] = [];

  constructor(private readonly timeScale: number) {}

  /** @param tMs newest time of a message, ms of the recorder's clock; @param atMs when it arrived, ms of one's own monotonic one */
  heard(tMs: number, atMs: number): void {
    this.first ??= { atMs, tMs };
    const lateMs = atMs - this.first.atMs - (tMs - this.first.tMs) / this.timeScale;
    const heard = { atMs, lateMs };
    if (atMs - this.first.atMs <= STRETCH_MS) this.earliest.push(heard);
    // Of those that came before, only what is quicker than all after them can still be the quickest.
    this.latest = this.latest.filter((other) => other.lateMs < lateMs && atMs - other.atMs <= STRETCH_MS);
    this.latest.push(heard);
  }

  /** null while too little is known, and where the clock goes as one's own does. */
  off(): ClockOff | null {
    const quickest = (all: readonly { atMs: number; lateMs: number }[]) => all.reduce((p, q) => (q.lateMs < p.lateMs ? q : p));
    if (!this.first || this.latest.length === 0) return null;
    const [before, after] = [quickest(this.earliest), quickest(this.latest)];
    const overMs = after.atMs - before.atMs;
    const byMs = before.lateMs - after.lateMs;
    const share = byMs / overMs;
    const slowInLapse = byMs < 0 && this.timeScale > 1;
    if (overMs < LEAST_MS || Math.abs(byMs) < LEAST_BY_MS || Math.abs(share) < LEAST_SHARE || slowInLapse) return null;
    return { share, byS: byMs / 1000, overS: overMs / 1000 };
  }
}
