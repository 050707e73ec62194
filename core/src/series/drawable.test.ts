import { describe, expect, it } from 'vitest';
import { drawable } from '../index.ts';
import { madeTrace } from '@red-ember/testing/signals';

describe('drawable', () => {
  it('keeps gaps as gaps and stays within its budget', () => {
    const trace = madeTrace({ n: 5000, f: (t) => t % 97, sd: 1 });
    for (let i = 2000; i < 2100; i++) trace.y[i] = NaN;
    const { t, y } = drawable(trace, 400);
    expect(t.length).toBeLessThanOrEqual(401);
    expect(y.filter((value) => value === null)).toHaveLength(1);
    expect(t[y.indexOf(null)]).toBeGreaterThan(1999);
    expect(t[y.indexOf(null)]).toBeLessThan(2100);
    for (let i = 1; i < t.length; i++) expect(t[i]).toBeGreaterThan(t[i - 1]!);
  });
  it('returns nothing for nothing', () => {
    expect(drawable({ t: new Float64Array(), y: new Float64Array() }, 100)).toEqual({ t: [], y: [] });
    expect(() => drawable({ t: new Float64Array(), y: new Float64Array() }, 3)).toThrow(RangeError);
  });
});
