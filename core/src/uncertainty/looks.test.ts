import { describe, expect, it } from 'vitest';
import { normalQuantile } from '../distributions/normal.ts';
import { seededNormal } from '@red-ember/testing/signals';
import { levelsOfLooks } from './looks.ts';

const bounds = (...args: Parameters<typeof levelsOfLooks>) => levelsOfLooks(...args).map((level) => -normalQuantile(level / 2));

describe('looking again', () => {
  it.each([
    // Published constants, two-sided 0.05.
    ['pocock', 2, 2.178],
    ['pocock', 3, 2.289],
    ['pocock', 5, 2.413],
    ['pocock', 10, 2.555],
    ['obrien-fleming', 2, 1.977],
    ['obrien-fleming', 3, 2.004],
    ['obrien-fleming', 5, 2.04],
    ['obrien-fleming', 10, 2.087],
  ] as const)('by %s with %s looks ends at %s deviations', (rule, looks, last) => {
    expect(bounds(rule, looks, 0.05).at(-1)).toBeCloseTo(last, 2);
  });
  it('begins strictly and relaxes, or stays the same', () => {
    expect(bounds('obrien-fleming', 5, 0.05)[0]).toBeCloseTo(2.04 * Math.sqrt(5), 1);
    expect(new Set(bounds('pocock', 4, 0.01).map((bound) => bound.toFixed(6))).size).toBe(1);
    expect(bounds('pocock', 1, 0.05)[0]).toBeCloseTo(1.96, 3);
  });
  it('is wrong as often as it says over all looks together: drawn', () => {
    const levels = levelsOfLooks('pocock', 5, 0.1).map((level) => -normalQuantile(level / 2));
    const normal = seededNormal(3);
    let crossed = 0;
    for (let i = 0; i < 8000; i++) {
      let sum = 0;
      if (levels.some((bound, k) => Math.abs((sum += normal())) / Math.sqrt(k + 1) > bound)) crossed++;
    }
    expect(crossed / 8000).toBeGreaterThan(0.09);
    expect(crossed / 8000).toBeLessThan(0.11);
  });
  it('refuses what cannot be planned', () => {
    for (const looks of [0, 1.5, 11]) expect(() => levelsOfLooks('pocock', looks, 0.05)).toThrow(RangeError);
    expect(() => levelsOfLooks('pocock', 3, 1)).toThrow(RangeError);
  });
});
