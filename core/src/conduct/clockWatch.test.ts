import { describe, expect, it } from 'vitest';
import { seededUniform } from '../seeded.ts';
import { ClockWatch, type ClockOff } from './clockWatch.ts';

interface Line {
  rate: number;
  minutes: number;
  timeScale?: number;
  /** What a message is late by, ms, at a time in s. */
  late?: (atS: number, random: () => number) => number;
}

/** Messages once a second over a line that is late by something, from a clock that goes at a rate of its own. */
function heardOver({ rate, minutes, timeScale = 1, late = (_, random) => 20 + 80 * random() }: Line, seed = 1): ClockOff | null {
  const random = seededUniform(seed);
  const watch = new ClockWatch(timeScale);
  for (let s = 1; s <= 60 * minutes; s++) watch.heard(1000 * s * rate * timeScale, 1000 * s + late(s, random));
  return watch.off();
}

describe('the clock of a recorder', () => {
  it('is told to be fast or slow, by how much', () => {
    const fast = heardOver({ rate: 1.008, minutes: 10 })!;
    expect(fast.share).toBeCloseTo(0.008, 3);
    expect(fast.byS).toBeCloseTo(4.7, 0);
    expect(heardOver({ rate: 0.99, minutes: 10 })!.share).toBeCloseTo(-0.01, 3);
    // The least that is planted in the simulated bench, within ten minutes, over lines of any kind.
    const found = Array.from({ length: 200 }, (_, i) => heardOver({ rate: 1.004, minutes: 10 }, i + 1));
    expect(found.filter((off) => off !== null).length).toBeGreaterThanOrEqual(196);
  });

  it('is not made out of a slow line: jitter, a busy machine at first or at last, a gap that is caught up with', () => {
    const lines: NonNullable<Line['late']>[] = [
      (_, random) => 400 * random() ** 2,
      (at, random) => (at < 60 ? 900 : 20) + 100 * random(),
      (at, random) => (at > 500 ? 900 : 20) + 100 * random(),
      // Half a minute without a line, and all that waited at once.
      (at, random) => (at > 300 && at < 330 ? 1000 * (330 - at) : 0) + 50 * random(),
    ];
    for (const late of lines) for (let seed = 1; seed <= 50; seed++) expect(heardOver({ rate: 1, minutes: 10, late }, seed)).toBeNull();
  });

  it('is not spoken of too early, nor slow in time-lapse, where a bench waits by itself', () => {
    expect(heardOver({ rate: 1.02, minutes: 4 })).toBeNull();
    expect(heardOver({ rate: 0.98, minutes: 10, timeScale: 60 })).toBeNull();
    expect(heardOver({ rate: 1.02, minutes: 10, timeScale: 60 })!.share).toBeCloseTo(0.02, 2);
    expect(new ClockWatch(1).off()).toBeNull();
  });
});
