import { describe, expect, it } from 'vitest';
import { seatCheck, seatReading, type RecipePhase, type SeatMount } from '@red-ember/core';
import { simulateRun } from './simulateRun.ts';

const phase = (kind: RecipePhase['kind'], durationS: number, loadPercent: number): RecipePhase => ({
  kind,
  name: kind,
  mode: 'fixed',
  durationS,
  capS: durationS,
  loadPercent,
});
/** As a check of the seat runs: two minutes of idle, a short load. */
const RECIPE = [phase('idle-soak', 120, 0), phase('load', 210, 100)];

/** One mount on the simulated bench, read as the server reads it. */
function mount(mountSeed: number, filmLeftOn = false): SeatMount {
  const run = simulateRun({ setup: 'slot-lid', seed: 900 + mountSeed, mountSeed, faults: filmLeftOn ? ['film-left-on'] : [] }, RECIPE, {
    spots: [],
  });
  const t = Float64Array.from(run.tMs, (ms) => ms / 1000);
  const series = (key: string) => ({ t, y: Float64Array.from(run.values[key]!) });
  return seatReading({
    spots: ['tc1', 'tc2', 'tc3'].map((spotId) => ({ spotId, series: series(spotId) })),
    room: series('room'),
    power: series('power'),
    loadStartS: 120,
    loadEndS: 330,
  })!;
}

describe('a film left on', () => {
  const earlier = [1, 2, 3].map((seed) => mount(seed));

  it('is found within minutes, at the part that the lid cools, and nothing is called of good mounts', () => {
    const filmed = seatCheck(mount(50, true), earlier);
    expect(filmed.verdict).toBe('hotter');
    expect(filmed.spots.find((spot) => spot.spotId === 'tc2')!.verdict).toBe('hotter');
    expect(['contact', 'one-part']).toContain(filmed.causes[0]);
    const good = Array.from({ length: 20 }, (_, i) => seatCheck(mount(60 + i), earlier).verdict);
    expect(good.filter((verdict) => verdict !== 'alike').length).toBeLessThanOrEqual(1);
  });
});
