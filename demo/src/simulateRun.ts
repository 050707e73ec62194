import { phaseEnd, type RecipePhase, type Series } from '@red-ember/core';
import { SIMULATED, type BenchOptions } from '@red-ember/rig';

export interface SimulatedRun {
  tMs: number[];
  values: Record<string, number[]>;
  phases: { kind: RecipePhase['kind']; name: string; startMs: number; endMs: number; endedBy: string }[];
}

/** Settling is judged as seldom as a live run does, seconds. */
const SETTLE_EVERY_S = 20;

/** Leads the simulated bench through a recipe, sample by sample, as a live run would. Deterministic by the bench's seeds. */
export function simulateRun(
  options: BenchOptions,
  recipe: readonly RecipePhase[],
  spotChannels: readonly string[],
  family: keyof typeof SIMULATED = 'drive',
): SimulatedRun {
  const bench = SIMULATED[family].begin(options);
  const run: SimulatedRun = { tMs: [], values: {}, phases: [] };
  const view = (key: string): Series => ({ t: Float64Array.from(run.tMs, (ms) => ms / 1000), y: Float64Array.from(run.values[key] ?? []) });
  let second = 0;
  for (const phase of recipe) {
    const startS = second;
    for (const { control, value } of phase.set ?? []) bench.set(control, value);
    for (;;) {
      second++;
      run.tMs.push(second * 1000);
      for (const [key, value] of Object.entries(bench.step(1, phase.loadPercent)))
        (run.values[key] ??= []).push(value === null ? NaN : Math.round(value * 1000) / 1000);
      const judge = phase.mode === 'until-settled' && second % SETTLE_EVERY_S === 0;
      const end = phaseEnd(phase, startS, second, judge ? spotChannels.map(view) : [], judge ? view('room') : null);
      if (!end) continue;
      run.phases.push({ kind: phase.kind, name: phase.name, startMs: startS * 1000, endMs: second * 1000, endedBy: end });
      break;
    }
  }
  return run;
}
