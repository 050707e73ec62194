import type { Levels } from '../factors/aliases.ts';

export interface ChangeOverCosts {
  /** Minutes to change each factor, by its name; one that is not listed takes none. */
  factorMin: Readonly<Record<string, number>>;
  /** To put anything on an idle bench. */
  mountMin: number;
  /** To take the same variant off and put it on again. */
  remountMin: number;
  /** To put on a variant about which nothing is known but that it is another one. */
  otherMin: number;
}

export interface PlannedRun {
  variantId: string;
  levels: Levels;
}

/**
 * Minutes of change-over between planned runs, ready for `orderRuns`.
 *
 * From one variant to another: the sum over the factors that differ, each by its own minutes. Two variants without known levels
 * cost `otherMin`; the same variant again is a remount.
 *
 * @returns `changeMin` shape [n][n], `startMin` shape [n]
 */
export function changeOverMinutes(runs: readonly PlannedRun[], costs: ChangeOverCosts): { changeMin: number[][]; startMin: number[] } {
  const between = (a: PlannedRun, b: PlannedRun): number => {
    if (a.variantId === b.variantId) return costs.remountMin;
    const names = [...new Set([...Object.keys(a.levels), ...Object.keys(b.levels)])].filter((name) => a.levels[name] !== b.levels[name]);
    return names.length === 0 ? costs.otherMin : names.reduce((sum, name) => sum + (costs.factorMin[name] ?? 0), 0);
  };
  return { changeMin: runs.map((a) => runs.map((b) => between(a, b))), startMin: runs.map(() => costs.mountMin) };
}
