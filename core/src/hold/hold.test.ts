import { describe, expect, it } from 'vitest';
import { InsufficientDataError, watchLock, whatElseChanged } from '../index.ts';

const series = (f: (t: number) => number, n = 600) => {
  const t = Float64Array.from({ length: n }, (_, i) => i);
  return { t, y: t.map(f) };
};
const whole = { startS: 0, endS: 600 };

describe('watchLock', () => {
  it('holds what was held, rounding included', () => {
    expect(
      watchLock(
        series((t) => (t % 2 === 0 ? 59 : 61)),
        { value: 60, tolerance: 1 },
        whole,
      ),
    ).toMatchObject({ held: true, leftAtS: null, shareOutside: 0 });
  });
  it('says when a fan left its duty, and how far', () => {
    const watch = watchLock(
      series((t) => (t < 300 ? 60 : 66)),
      { value: 60, tolerance: 2 },
      whole,
    );
    expect(watch).toMatchObject({ held: false, leftAtS: 300, largestOff: 6 });
    expect(watch.shareOutside).toBeCloseTo(0.5, 2);
    expect(watch.mean).toBeCloseTo(63, 6);
  });
  it('does not mind a spike or a blip shorter than ten seconds', () => {
    expect(
      watchLock(
        series((t) => (t === 100 ? 95 : 60)),
        { value: 60, tolerance: 2 },
        whole,
      ).held,
    ).toBe(true);
    expect(
      watchLock(
        series((t) => (t >= 100 && t < 109 ? 64 : 60)),
        { value: 60, tolerance: 2 },
        whole,
      ).held,
    ).toBe(true);
    expect(
      watchLock(
        series((t) => (t >= 100 && t < 112 ? 64 : 60)),
        { value: 60, tolerance: 2 },
        whole,
      ).leftAtS,
    ).toBe(100);
  });
  it('looks only into its window, and says when there is nothing in it', () => {
    const moved = series((t) => (t < 300 ? 60 : 90));
    expect(watchLock(moved, { value: 60, tolerance: 2 }, { startS: 0, endS: 300 }).held).toBe(true);
    expect(() => watchLock(moved, { value: 60, tolerance: 2 }, { startS: 900, endS: 950 })).toThrow(InsufficientDataError);
    expect(() => watchLock(moved, { value: 60, tolerance: -1 }, whole)).toThrow(RangeError);
  });
});

describe('whatElseChanged', () => {
  it('lists what differs or is written down once only, and leaves out what was meant to', () => {
    expect(
      whatElseChanged({ Variant: 'bare', Firmware: '2.4', Fan: '60 %' }, { Variant: 'lid', Firmware: '2.5', Case: 'open' }, ['Variant']),
    ).toEqual([
      { name: 'Firmware', a: '2.4', b: '2.5' },
      { name: 'Fan', a: '60 %', b: null },
      { name: 'Case', a: null, b: 'open' },
    ]);
    expect(whatElseChanged({ Firmware: '2.4 ' }, { Firmware: '2.4' })).toEqual([]);
  });
});
