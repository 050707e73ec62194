import type { LineUpRun, LineUpSide } from '@red-ember/core';

let made = 0;
/** A run among others, on a mount of its own: 'top' settled at so many kelvin, known to a tenth. */
export function lineUpRun(topK: number, change: Partial<LineUpRun> = {}): LineUpRun {
  return {
    id: `r${++made}`,
    label: 'run 1',
    mountNo: 1,
    mount: `m${made}`,
    atMs: 0,
    disposition: 'undecided',
    doubts: {},
    figures: { top: { value: topK, u: 0.1, dof: 30 } },
    sensors: {},
    outcomes: {},
    hottest: 'top',
    throttled: null,
    loadMin: 30,
    roomC: 22,
    settings: {},
    points: {},
    atRest: {},
    fanHeld: {},
    slowTauS: { top: 600 },
    ...change,
  };
}

/** A side of these runs, all of which take part. */
export const lineUpSide = (variantId: string, runs: LineUpRun[]): LineUpSide => ({
  variantId,
  name: variantId,
  subject: '',
  levels: {},
  runs,
  workRuns: runs,
  leftOut: [],
});
