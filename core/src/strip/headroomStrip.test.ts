import { describe, expect, it } from 'vitest';
import * as fc from 'fast-check';
import { headroomStrip } from '../index.ts';

describe('headroomStrip', () => {
  it('puts room at 0 and the limit at 1', () => {
    const strip = headroomStrip({ roomC: 20, limitC: 80, spotC: 50, doubtK: 3, idleC: 32, projectedC: 62 });
    expect(strip).toMatchObject({ solid: 0.45, soft: 0.55, spot: 0.5, idle: 0.2, projected: 0.7, headroomK: 30, overLimit: false });
  });
  it('says when the limit is passed and clamps what is drawn', () => {
    expect(headroomStrip({ roomC: 20, limitC: 80, spotC: 84, doubtK: 1 })).toMatchObject({
      solid: 1,
      spot: 1,
      headroomK: -4,
      overLimit: true,
      idle: null,
      projected: null,
    });
  });
  it('never draws outside its track', () => {
    const c = fc.double({ min: -50, max: 200, noNaN: true });
    fc.assert(
      fc.property(c, c, c, fc.double({ min: 0, max: 30, noNaN: true }), (roomC, limitC, spotC, doubtK) => {
        fc.pre(limitC > roomC);
        const { solid, soft, spot } = headroomStrip({ roomC, limitC, spotC, doubtK });
        expect(solid).toBeLessThanOrEqual(soft);
        for (const share of [solid, soft, spot]) expect(share >= 0 && share <= 1).toBe(true);
      }),
    );
  });
  it('refuses a limit below the room', () => {
    expect(() => headroomStrip({ roomC: 30, limitC: 25, spotC: 28, doubtK: 0 })).toThrow(RangeError);
    expect(() => headroomStrip({ roomC: NaN, limitC: 25, spotC: 28, doubtK: 0 })).toThrow(RangeError);
  });
});
