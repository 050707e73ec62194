import { setImmediate } from 'node:timers/promises';
import { cloudOf, heldBackIn, meanWithin, onceUp, type RunReview, type Window } from '@red-ember/core';
import { goesOn, type RecordedRole, type Run, type RunHeldBack, type Study, type StudyHeldBack } from '@red-ember/contract';
import { throttlingSpot } from '../readings/inputs.ts';
import type { ReadingService } from '../readings/service.ts';
import { powerLimit } from '../runs/watchedLocks.ts';
import type { RunStore } from '../runs/store.ts';
import type { SampleStore } from '../samples/store.ts';
import type { StudyService } from '../studies/service.ts';

/** Points of a cloud that still show its shape. */
const CLOUD = 160;
/** A run says what the part can do only where nothing held it for such a share of its load. */
const LEAST_FREE = 0.2;

const ROLE = { performance: 'throughput', clock: 'clock' } as const;

/** What held the parts of a study back: shares of the load, and what it cost them. */
export class HeldBackService {
  constructor(
    private readonly studies: StudyService,
    private readonly runs: RunStore,
    private readonly readings: ReadingService,
    private readonly samples: SampleStore,
  ) {}

  /** Run by run, with room between for whatever else is asked. */
  async ofStudy(studyId: string): Promise<StudyHeldBack> {
    const study = this.studies.get(studyId);
    const runs: RunHeldBack[] = [];
    for (const run of this.runs.measured(studyId)) {
      const held = goesOn(run) ? null : this.ofRun(run, study);
      if (held) runs.push(held);
      await setImmediate();
    }
    const free = runs.filter((run) => run.free >= LEAST_FREE);
    // Where all of them stand at their power limit, the best of those is the best that was seen.
    const capped = runs.filter((run) => run.free + (run.by.find(({ limiter }) => limiter === 'power')?.share ?? 0) >= LEAST_FREE);
    const [best] = [...(free.length > 0 ? free : capped)].sort((p, q) => q.keptUp - p.keptUp);
    return { runs, best: best ? { value: best.keptUp, runNumber: best.runNumber, atLimit: free.length === 0 } : null };
  }

  private ofRun(run: Run, study: Study): RunHeldBack | null {
    const review = this.readings.review(run, study);
    const load = run.phases.findLast(({ kind }) => kind === 'load');
    if (!review.throttle || !load) return null;
    const window = { startS: load.startS, endS: load.endS ?? run.lengthS };
    const { of } = review.throttle;
    const work = this.series(run, ROLE[of], window);
    if (!work) return null;
    const spotId = drawnSpot(run, study, review);
    const temperature = spotId === null ? null : this.atSpot(run, spotId);
    const [clock, power] = [this.series(run, 'clock', window), this.series(run, 'power', window)];
    const capW = powerLimit(run, study);
    return {
      runId: run.id,
      runNumber: run.number,
      variantId: run.variantId,
      of,
      ...heldBackIn(work, window, review.throttle, {
        cap: capW !== null && power ? { powerW: capW, power } : null,
        utilisation: this.series(run, 'utilisation', window),
      }),
      cloudOf: clock ? 'clock' : 'performance',
      cloud: temperature ? cloudOf(temperature, clock ?? work, onceUp(window), CLOUD) : [],
      spotId,
      powerW: review.power?.value ?? null,
      wallW: this.wall(run, review),
    };
  }

  private series(run: Run, role: RecordedRole, { startS, endS }: Window) {
    const key = run.channels.find((channel) => channel.role === role)?.key;
    return key === undefined ? null : this.samples.read(run.id, key, startS, endS);
  }

  private atSpot(run: Run, spotId: string) {
    const key = run.channels.find((channel) => channel.role === 'spot' && channel.spotId === spotId)?.key;
    return key === undefined ? null : this.readings.corrected(run, key);
  }

  /** At the socket, over the window that the other figures were read in. */
  private wall(run: Run, review: RunReview): number | null {
    const window = review.spots.find(({ load }) => load)?.load?.window;
    const series = window && this.series(run, 'wall', window);
    return series ? meanWithin(series, window) : null;
  }
}

/** The spot that throttles the part, else the hottest that was read. */
function drawnSpot(run: Run, study: Study, review: RunReview): string | null {
  const read = review.spots.flatMap(({ spotId, load }) => (load ? [{ spotId, atC: load.absolute.mean.value }] : []));
  const [hottest] = read.sort((p, q) => q.atC - p.atC);
  return throttlingSpot(run, study)?.id ?? hottest?.spotId ?? null;
}
