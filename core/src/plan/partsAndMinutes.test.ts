import { describe, expect, it } from 'vitest';
import { learnChangeOver, partsBring, partsList, pasteLayer } from '../index.ts';

describe('minutes learnt from change-overs', () => {
  it('takes what changed alone, then what is left of the rest', () => {
    const learnt = learnChangeOver([
      { changed: ['Paste'], minutes: 20 },
      { changed: ['Paste'], minutes: 24 },
      { changed: ['Paste'], minutes: 90 },
      { changed: ['Paste', 'Fan'], minutes: 30 },
    ]);
    expect(learnt).toEqual({ Paste: { minutes: 24, n: 3 }, Fan: { minutes: 6, n: 1 } });
  });

  it('credits neither of two that always changed together, and never less than no time', () => {
    expect(learnChangeOver([{ changed: ['A', 'B'], minutes: 30 }])).toEqual({});
    expect(
      learnChangeOver([
        { changed: ['A'], minutes: 30 },
        { changed: ['A', 'B'], minutes: 20 },
      ]).B,
    ).toEqual({ minutes: 0, n: 1 });
    expect(learnChangeOver([])).toEqual({});
    expect(() => learnChangeOver([{ changed: ['A'], minutes: -1 }])).toThrow(RangeError);
  });
});

describe('the parts list', () => {
  const part = { quantity: 1, reusable: false, price: 2, gramsEach: null };

  it('counts reusable parts once, consumables by mount with spare ones, paste by weight', () => {
    const { lines, cost } = partsList(
      [
        { ...part, id: 'sink', reusable: true, price: 30, mounts: 4 },
        { ...part, id: 'pad', quantity: 3, mounts: 4 },
        { ...part, id: 'paste', price: 5, gramsEach: 0.2, mounts: 2 },
        { ...part, id: 'not used', mounts: 0 },
      ],
      1,
    );
    expect(lines.map(({ id, pieces, spare }) => [id, pieces, spare])).toEqual([
      ['sink', 1, 0],
      ['pad', 15, 3],
      ['paste', 3, 1],
    ]);
    expect(lines[2]!.grams).toBeCloseTo(0.6, 12);
    expect(cost).toBeCloseTo(30 + 30 + 3, 12);
  });

  it('refuses negative prices and spare mounts', () => {
    expect(() => partsList([{ ...part, id: 'x', price: -1, mounts: 1 }], 0)).toThrow(RangeError);
    expect(() => partsList([], -1)).toThrow(RangeError);
  });
});

describe('what parts bring', () => {
  it('adds weights, and levels as powers, piece by piece', () => {
    const fan = { quantity: 2, weightG: 150, noiseDb: 26 };
    const brought = partsBring([fan, { quantity: 1, weightG: 700, noiseDb: null }]);
    expect(brought.weightG).toBe(1000);
    expect(brought.noiseDb).toBeCloseTo(26 + 10 * Math.log10(2), 12);
    expect(partsBring([])).toEqual({ weightG: 0, noiseDb: null });
    expect(() => partsBring([{ ...fan, weightG: -1 }])).toThrow(RangeError);
  });
});

describe('a layer of paste', () => {
  it('is area times bond line; a small hot die tells pastes apart better', () => {
    const small = pasteLayer({ areaMm2: 150, bondLineMm: 0.04, densityGPerCm3: 2.5, heatW: 150 });
    expect(small.layerMm3).toBeCloseTo(6, 12);
    expect(small.appliedG).toBeCloseTo(0.03, 12);
    expect(small.kelvinPerMm2KPerW).toBeCloseTo(1, 12);
    expect(pasteLayer({ areaMm2: 600, bondLineMm: 0.04, densityGPerCm3: 2.5, heatW: 150 }).kelvinPerMm2KPerW).toBeCloseTo(0.25, 12);
    expect(pasteLayer({ areaMm2: 1, bondLineMm: 1, densityGPerCm3: 1 }).kelvinPerMm2KPerW).toBeNull();
    expect(() => pasteLayer({ areaMm2: 0, bondLineMm: 1, densityGPerCm3: 1 })).toThrow(RangeError);
  });
});
