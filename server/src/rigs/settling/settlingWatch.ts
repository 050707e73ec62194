import { slice, type Series, type BoundedSettling } from '@red-ember/core';
import { judgesHere, type SettlingJudge } from './judge.ts';

/** A spot is judged again at most this often, seconds of the run's clock. */
const EVERY_S = 60;
/** A judgement older than this no longer ends a phase. */
const STALE_S = 240;
/** Time that judging may take before the run goes on with other things, ms; one spot is always judged. */
const BUDGET_MS = 20;

interface Judged {
  atS: number;
  settling: BoundedSettling | null;
}

const copied = ({ t, y }: Series): Series => ({ t: t.slice(), y: y.slice() });

/**
 * Judges the spots of a phase in turn, a few at a time: a fit takes tens of milliseconds, and thirty of them at once would hold up
 * the samples of every rig.
 */
export class SettlingWatch {
  private readonly judged = new Map<string, Judged>();
  private round = 0;
  private busy = false;

  constructor(private readonly by: SettlingJudge = judgesHere) {}

  /** Forgets everything: a new phase settles anew. */
  reset(): void {
    this.judged.clear();
    this.round++;
  }

  of(spotId: string): BoundedSettling | null {
    return this.judged.get(spotId)?.settling ?? null;
  }

  /** Judges those that were not judged for longest, as far as the time goes; nothing while it is still at it. */
  async look(spots: readonly { spotId: string; series: Series }[], room: Series | null, fromS: number, nowS: number): Promise<void> {
    if (this.busy) return;
    const window = { startS: fromS, endS: nowS + 1e-6 };
    const due = spots
      .filter(({ spotId }) => nowS - (this.judged.get(spotId)?.atS ?? -Infinity) >= EVERY_S)
      .sort((a, b) => (this.judged.get(a.spotId)?.atS ?? -1) - (this.judged.get(b.spotId)?.atS ?? -1));
    const { round } = this;
    const begun = performance.now();
    this.busy = true;
    try {
      for (const { spotId, series } of due) {
        const settling = await this.by.judge({ spot: copied(slice(series, window)), room: room && copied(slice(room, window)) });
        // The phase was over before it was judged.
        if (round !== this.round) return;
        this.judged.set(spotId, { atS: nowS, settling });
        if (performance.now() - begun > BUDGET_MS) return;
      }
    } finally {
      this.busy = false;
    }
  }

  /** Every spot that shows anything is settled, or says enough otherwise, by a judgement that is not old. */
  all(
    spots: readonly { spotId: string }[],
    nowS: number,
    enough: (settling: BoundedSettling) => boolean = (settling) => settling.settled,
  ): boolean {
    const all = spots.map(({ spotId }) => this.judged.get(spotId));
    if (all.some((entry) => !entry || nowS - entry.atS > STALE_S)) return false;
    const readable = all.filter((entry) => entry!.settling !== null);
    return readable.length > 0 && readable.every((entry) => enough(entry!.settling!));
  }
}
