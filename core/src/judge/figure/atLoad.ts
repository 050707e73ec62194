import { heatPathOf } from '../../review/heatPath.ts';
import { outputsOf } from '../../review/outputs.ts';
import type { LoadReview } from '../../review/types.ts';
import type { JudgedRun, JudgedSide } from '../types.ts';

function readAt(run: JudgedRun, load: LoadReview): JudgedRun {
  const { review } = run;
  const last = review.loads.at(-1) === load;
  return {
    ...run,
    atLoad: load.name,
    review: {
      ...review,
      spots: review.spots.map((spot) => {
        const reading = load.spots.find((candidate) => candidate.spotId === spot.spotId)?.reading ?? null;
        return { ...spot, load: reading, heatPath: heatPathOf(reading, load.power) };
      }),
      ...outputsOf(load),
      room: load.room,
      besides: load.besides ?? [],
      // Throttling, locks, whether the fan moved and what was breathed are known of the last load only.
      throttle: last ? review.throttle : null,
      goneShare: last ? review.goneShare : 0,
      locks: last ? review.locks : [],
      air: last ? review.air : null,
      fanMovedShare: last ? review.fanMovedShare : null,
      loadS: load.endS - load.startS,
      loadEndedBy: load.endedBy,
    },
  };
}

/** Names of the loads that every one of these runs went through, in order; empty where runs have one load only. */
export function commonLoads(runs: readonly JudgedRun[]): string[] {
  const [first, ...others] = runs.map((run) => run.review.loads.map((load) => load.name));
  return (first ?? []).filter((name, i, all) => all.indexOf(name) === i && others.every((names) => names.includes(name)));
}

/** Runs as they stood at one of their loads; those that never had it are left out. */
export function atLoad(runs: readonly JudgedRun[], name: string): JudgedRun[] {
  return runs.flatMap((run) => {
    const load = run.review.loads.find((candidate) => candidate.name === name);
    return load ? [readAt(run, load)] : [];
  });
}

/** The loads of one variant's runs as sides of their own, so that what each change did can be judged like a variant. */
export function loadsAsSides(side: JudgedSide): JudgedSide[] {
  return commonLoads(side.runs).map((name, i) => ({
    ...side,
    variantId: `${side.variantId}#${i}`,
    name,
    levels: {},
    runs: atLoad(side.runs, name),
  }));
}
