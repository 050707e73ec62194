import { marksDue, phaseEnd, type RecipePhase, type Series } from '@red-ember/core';
import { SIMULATED, type BenchOptions } from '@red-ember/rig';

export interface SimulatedRun {
  tMs: number[];
  values: Record<string, number[]>;
  phases: { kind: RecipePhase['kind']; name: string; startMs: number; endMs: number; endedBy: string }[];
  /** What was done to it, at the start of a phase. */
  changes: { atMs: number; text: string }[];
  /** What somebody would have typed at the marks of the recipe, by channel. */
  hand: { atMs: number; key: string; valueC: number }[];
}

/** How a family is simulated: seconds between samples, and between two looks at whether it has settled. */
const PACE: Record<keyof typeof SIMULATED, { stepS: number; settleEveryS: number }> = {
  drive: { stepS: 1, settleEveryS: 20 },
  card: { stepS: 2, settleEveryS: 60 },
  // A board takes an hour to settle: looked at more seldom, and sampled more coarsely.
  regulator: { stepS: 5, settleEveryS: 120 },
};

interface Led {
  spots: readonly string[];
  byHand?: readonly string[];
  family?: keyof typeof SIMULATED;
  /** Other than the family's own. */
  pace?: { stepS: number; settleEveryS: number };
}

/** Leads the simulated bench through a recipe, sample by sample, as a live run would. Deterministic by the bench's seeds. */
export function simulateRun(options: BenchOptions, recipe: readonly RecipePhase[], led: Led): SimulatedRun {
  const { spots, byHand = [], family = 'drive' } = led;
  const { stepS, settleEveryS } = led.pace ?? PACE[family];
  const bench = SIMULATED[family].begin(options);
  const run: SimulatedRun = { tMs: [], values: {}, phases: [], changes: [], hand: [] };
  const view = (key: string): Series => ({ t: Float64Array.from(run.tMs, (ms) => ms / 1000), y: Float64Array.from(run.values[key] ?? []) });
  let second = 0;
  for (const phase of recipe) {
    const startS = second;
    for (const { control, value } of phase.set ?? []) bench.set(control, value);
    if (phase.opensWith) run.changes.push({ atMs: startS * 1000, text: phase.opensWith });
    for (;;) {
      second += stepS;
      run.tMs.push(second * 1000);
      const shown = bench.step(stepS, phase.loadPercent);
      for (const [key, value] of Object.entries(shown))
        if (!byHand.includes(key)) (run.values[key] ??= []).push(value === null ? NaN : Math.round(value * 1000) / 1000);
      for (const minute of marksDue(phase, startS, second - stepS, second))
        byHand.forEach((key, i) => {
          const value = shown[key];
          // One after the other, as fast as somebody types.
          if (value != null) run.hand.push({ atMs: 1000 * (startS + 60 * minute + 4 * i), key, valueC: Math.round(value * 10) / 10 });
        });
      const judge = phase.mode === 'until-settled' && second % settleEveryS === 0;
      const end = phaseEnd(phase, startS, second, judge ? spots.map(view) : [], judge ? view('room') : null);
      if (!end) continue;
      run.phases.push({ kind: phase.kind, name: phase.name, startMs: startS * 1000, endMs: second * 1000, endedBy: end });
      break;
    }
  }
  return run;
}
