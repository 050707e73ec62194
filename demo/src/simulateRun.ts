import { assessSettling, marksDue, phaseEnd, settlingTrace, slice, type RecipePhase, type Series } from '@red-ember/core';
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

/** A patient tester: goes on for this much of the time at which it looked steady. */
const PATIENCE = 1.5;

/**
 * Whether every spot looks steady by slope and best fit. The recorder does not end its runs by the bound that readings are judged by:
 * what is shown would else be what was made to fit.
 */
function looksSteady(spots: readonly Series[], room: Series | null, startS: number, nowS: number): boolean {
  const window = { startS, endS: nowS + 1e-6 };
  return spots.every((spot) => assessSettling(settlingTrace(slice(spot, window), room)).settled);
}

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
    let steadyS: number | null = null;
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
      const elapsedS = second - startS;
      const looks = phase.mode === 'until-settled' && second % settleEveryS === 0 && elapsedS >= Math.max(phase.durationS, 300);
      if (looks && steadyS === null && looksSteady(spots.map(view), view('room'), startS, second)) steadyS = elapsedS;
      const end = phaseEnd(phase, startS, second, [], null) ?? (steadyS !== null && elapsedS >= PATIENCE * steadyS ? 'settled' : null);
      if (!end) continue;
      run.phases.push({ kind: phase.kind, name: phase.name, startMs: startS * 1000, endMs: second * 1000, endedBy: end });
      break;
    }
  }
  return run;
}
