import { settlingNow, settlingTrace, slice, type Series, type Settling } from '@red-ember/core';

/** A spot is judged again at most this often, seconds of the run's clock. */
const EVERY_S = 20;
/** A judgement older than this no longer ends a phase. */
const STALE_S = 240;
/** Time that judging may take of the server before it goes on with other things, ms; one spot is always judged. */
const BUDGET_MS = 20;

interface Judged {
  atS: number;
  settling: Settling | null;
}

/**
 * Judges the spots of a phase in turn, a few at a time: a fit takes tens of milliseconds, and thirty of them at once would hold up
 * the samples of every rig.
 */
export class SettlingWatch {
  private readonly judged = new Map<string, Judged>();

  /** Forgets everything: a new phase settles anew. */
  reset(): void {
    this.judged.clear();
  }

  of(spotId: string): Settling | null {
    return this.judged.get(spotId)?.settling ?? null;
  }

  /** Judges those that were not judged for longest, as far as the time goes. */
  look(spots: readonly { spotId: string; series: Series }[], room: Series | null, fromS: number, nowS: number): void {
    const window = { startS: fromS, endS: nowS + 1e-6 };
    const due = spots
      .filter(({ spotId }) => nowS - (this.judged.get(spotId)?.atS ?? -Infinity) >= EVERY_S)
      .sort((a, b) => (this.judged.get(a.spotId)?.atS ?? -1) - (this.judged.get(b.spotId)?.atS ?? -1));
    const begun = performance.now();
    for (const { spotId, series } of due) {
      this.judged.set(spotId, { atS: nowS, settling: settlingNow(settlingTrace(slice(series, window), room)) });
      if (performance.now() - begun > BUDGET_MS) return;
    }
  }

  /** Every spot that shows anything is settled, by a judgement that is not old. */
  allSettled(spots: readonly { spotId: string }[], nowS: number): boolean {
    const all = spots.map(({ spotId }) => this.judged.get(spotId));
    if (all.some((entry) => !entry || nowS - entry.atS > STALE_S)) return false;
    const readable = all.filter((entry) => entry!.settling !== null);
    return readable.length > 0 && readable.every((entry) => entry!.settling!.settled);
  }
}
