import { expect, it } from 'vitest';
import { changesWithin, reviewRun, type RecipePhase, type RunReview } from '@red-ember/core';
import { fedSeries } from '@red-ember/contract';
import { simulateRun } from './simulateRun.ts';

const CHANNELS = ['die', 'mem'];
/** Long beside the half hour in which the card's frame warms, so that what is held for the truth is one. */
const MINUTES = 120;
const hold = (kind: 'idle-soak' | 'load', name: string, set: RecipePhase['set'], minutes: number): RecipePhase =>
  ({
    kind,
    name,
    mode: 'fixed',
    durationS: 60 * minutes,
    capS: 60 * minutes,
    loadPercent: kind === 'idle-soak' ? 0 : 100,
    set,
  }) as RecipePhase;

/** One session of the card in the small case, read as the server reads it, with what its intake and fan showed. */
function session(seed: number, mountSeed: number, phases: RecipePhase[]): { review: RunReview; duty: number[] } {
  const run = simulateRun({ setup: 'open-case', seed, mountSeed, room: { startC: 22, driftKPerH: 0, wanderK: 0 } }, phases, {
    spots: CHANNELS,
    family: 'card',
  });
  const t = Float64Array.from(run.tMs, (ms) => ms / 1000);
  const series = (key: string) => (run.values[key] ? { t, y: Float64Array.from(run.values[key]) } : null);
  const review = reviewRun({
    spots: CHANNELS.map((id) => ({ id, series: series(id)! })),
    ...fedSeries(series),
    phases: run.phases.map(({ kind, name, startMs, endMs, endedBy }) => ({
      kind,
      name,
      startS: startMs / 1000,
      endS: endMs / 1000,
      endedBy,
    })),
    throttle: null,
    locks: [],
  });
  const duty = run.phases.map(({ endMs }) => run.values.duty![run.tMs.indexOf(endMs)]!);
  return { review, duty };
}

const CHANGES: [string, RecipePhase['set']][] = [
  ['Vent blocked', [{ control: 'vent', value: 'blocked' }]],
  ['Side opened', [{ control: 'side-panel', value: 'off' }]],
  ['Power limit raised', [{ control: 'power-limit', value: 200 }]],
];

it.each([3, 17])(
  'what a change would have done had the fan not reacted: against the bench with its fan locked, seed %i',
  (seed) => {
    const idle = hold('idle-soak', 'Idle', [], 10);
    // Little power, so that the part's own limit is reached nowhere.
    const start = [{ control: 'power-limit', value: 160 }];
    const load = hold('load', 'Load', start, MINUTES);
    const auto = session(seed, 40 + seed, [idle, load, ...CHANGES.map(([name, set]) => hold('load', name, set, MINUTES))]);
    const changes = changesWithin(auto.review.loads);
    let reacted = 0;
    CHANGES.forEach(([name], i) => {
      // The same mount led to the same place, with the fan held where it stood before this change.
      const before = auto.duty[i + 1]!;
      const locked = [
        { control: 'fan-mode', value: 'locked' },
        { control: 'fan-duty', value: Math.round(before) },
      ];
      const held = session(seed + 1000, 40 + seed, [
        idle,
        hold('load', 'Load', [...locked, ...start, ...CHANGES.slice(0, i).flatMap(([, set]) => set ?? [])], MINUTES),
        hold('load', name, CHANGES[i]![1], MINUTES),
      ]).review.loads;
      CHANNELS.forEach((channel, k) => {
        const rise = (n: number) => held[n]!.spots[k]!.reading!.rise!.mean.value;
        const truth = rise(1) - rise(0);
        const { fanHeld, settled } = changes[i + 1]![k]!;
        expect(fanHeld, `${name}, ${channel}`).not.toBeNull();
        // Whole degrees are read on either side.
        expect(Math.abs(fanHeld!.value - truth), `${name}, ${channel}: ${fanHeld!.value} for ${truth}`).toBeLessThan(
          Math.max(1, 2.5 * fanHeld!.u),
        );
        if (Math.abs(settled!.value - truth) > 1.5) reacted++;
      });
    });
    // The fan hid a good part of what was changed, or nothing was tried here.
    expect(reacted).toBeGreaterThan(1);
  },
  120_000,
);
