import { describe, expect, it } from 'vitest';
import type { PairJudgement, SideFigure } from '@red-ember/core';
import type { Study } from '@red-ember/contract';
import { aboveRoom } from './pair/aboveRoom.ts';
import { restated, tightestInAir } from './pair/restate.ts';

const side = (spotC: number) => ({ spotC }) as SideFigure;
const study = {
  enclosure: { powerTempCo: 0 },
  spots: [
    { id: 'a', name: 'Controller', limitC: 95 },
    { id: 'b', name: 'Flash', limitC: 85 },
  ],
} as unknown as Study;
const judgement = {
  roomC: 22,
  a: { name: 'bare' },
  b: { name: 'lid' },
  spots: [
    { spotId: 'a', a: side(76), b: side(77) },
    { spotId: 'b', a: side(66), b: null },
  ],
} as unknown as PairJudgement;

describe('restating for another air', () => {
  it('is one for one, more where heat grows, and says when a part runs away', () => {
    expect(restated(side(76), 22, 31.5, 0)).toBeCloseTo(85.5, 9);
    expect(restated(side(76), 22, 31.5, 0.002)!).toBeGreaterThan(86);
    expect(restated(side(76), 22, 31.5, 0.02)).toBeNull();
  });
  it('names the tightest spot of each side', () => {
    const words = tightestInAir(judgement, study, 32);
    expect(words).toEqual([
      { side: 'bare', spot: 'Controller', headroomK: 9 },
      { side: 'lid', spot: 'Controller', headroomK: 8 },
    ]);
  });
});

describe('aboveRoom', () => {
  it('subtracts a sparser room and keeps gaps', () => {
    const rise = aboveRoom({ t: [10, 20, 25, 30, 200], y: [50, 51, null, 52, 53] }, { t: [0, 40], y: [20, 24] });
    expect(rise.t).toEqual([10, 20, 25, 30]);
    expect(rise.y).toEqual([29, 29, null, 29]);
  });
});
