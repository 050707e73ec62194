import { describe, expect, it } from 'vitest';
import { fitCheck, padForAll, pasteAlone, unserved, type BoardMap, type MapCover, type MapPart } from './index.ts';

const part = (id: string, xMm: number, tallMm: number): MapPart => ({
  id,
  name: id,
  face: 'top',
  componentClass: 'power stage',
  xMm,
  yMm: 10,
  widthMm: 10,
  heightMm: 10,
  tallMm,
  heatShare: 0.2,
});
const sink: MapCover = {
  id: 'sink',
  name: 'sink',
  face: 'top',
  xMm: 0,
  yMm: 0,
  widthMm: 60,
  heightMm: 30,
  undersideMm: 3,
  gapToleranceMm: 0.1,
};
const map = (parts: MapPart[], covers = [sink]): BoardMap => ({
  widthMm: 100,
  heightMm: 60,
  heatW: 20,
  parts,
  covers,
  pads: [],
  placements: [],
});

describe('one pad for all parts under a sink', () => {
  it('finds the thickness that serves every part, and the least drop among those', () => {
    const advice = padForAll(map([part('a', 5, 2), part('b', 25, 1.9)]), sink, 6);
    expect(advice.best!.padMm).toBe(1.5);
    expect(advice.best!.parts.map(({ part: { id }, gapMm }) => [id, Number(gapMm.toFixed(3))])).toEqual([
      ['a', 1],
      ['b', 1.1],
    ]);
    // R = t/(kA): the wider gap, at its worst, 1.2 mm over 6 W/mK and 100 mm², times 4 W.
    expect(advice.best!.mostDropK).toBeCloseTo((1000 * 1.2 * 4) / (6 * 100), 9);
    expect(advice.split).toBeNull();
  });

  it('splits the sink where heights differ too much, in neighbouring groups', () => {
    const advice = padForAll(map([part('tall', 5, 2.2), part('low', 25, 0.5), part('lower', 40, 0.4)]), sink, 6);
    expect(advice.best).toBeNull();
    expect(advice.split).toEqual([
      { padMm: 1, partIds: ['tall'] },
      { padMm: 3, partIds: ['low', 'lower'] },
    ]);
  });

  it('names parts that stand too high, and says when no pad serves', () => {
    const advice = padForAll(map([part('over', 5, 3.4), part('far', 25, 0)]), { ...sink, undersideMm: 3 }, 6, [1]);
    expect(advice.collides.map(({ id }) => id)).toEqual(['over']);
    expect(advice).toMatchObject({ best: null, split: null });
    expect(
      unserved(padForAll(map([part('over', 5, 3.4), part('far', 25, 0)]), { ...sink, undersideMm: 3 }, 6, [1])).map(
        ({ part: { name } }) => name,
      ),
    ).toEqual(['far']);
    const face = { ...sink, undersideMm: 0.93, gapToleranceMm: 0 };
    expect([0.9, 0.7, 1].map((tallMm) => pasteAlone(padForAll(map([part('die', 5, tallMm)]), face, 6)))).toEqual([true, false, false]);
    expect(pasteAlone(padForAll(map([]), face, 6))).toBe(false);
    expect(padForAll(map([]), sink, 6)).toMatchObject({ choices: [], best: null, split: null });
    expect(() => padForAll(map([part('a', 5, 2)]), sink, 6, [])).toThrow(RangeError);
  });
});

describe('whether a cover fits', () => {
  const zone = { id: 'z', name: 'neighbour card', face: 'top' as const, xMm: 0, yMm: 20, widthMm: 100, heightMm: 40, clearMm: 20 };
  const tower = { coverId: 'sink', topMm: 25, weightG: 300 };

  it('says what it lacks under a neighbour, and what is close', () => {
    expect(fitCheck(map([]), [zone], [tower])).toEqual([{ kind: 'blocked', coverId: 'sink', other: 'neighbour card', amount: 5 }]);
    expect(fitCheck(map([]), [zone], [{ ...tower, topMm: 19 }])).toEqual([
      { kind: 'tight', coverId: 'sink', other: 'neighbour card', amount: -1 },
    ]);
    expect(fitCheck(map([]), [{ ...zone, face: 'under' }], [tower])).toEqual([]);
    expect(fitCheck(map([]), [{ ...zone, yMm: 30 }], [tower])).toEqual([]);
  });

  it('finds parts that are too tall, covers in each other, overhang and weight', () => {
    const covers = [sink, { ...sink, id: 'plate', name: 'plate', xMm: 40, widthMm: 80, undersideMm: 10 }];
    const found = fitCheck(
      map([part('choke', 5, 4)], covers),
      [],
      [
        { ...tower, topMm: 12 },
        { coverId: 'plate', topMm: 14, weightG: 1200 },
      ],
    );
    expect(found.map(({ kind, other, amount }) => [kind, other, amount])).toEqual([
      ['collides', 'choke', 1],
      ['covers-clash', 'plate', 2],
      ['overhang', '', 20],
      ['heavy', '', 1200],
    ]);
    expect(found[2]!.share).toBeCloseTo(0.25, 12);
  });

  it('refuses an envelope that ends below its own lower face', () => {
    expect(() => fitCheck(map([]), [], [{ ...tower, topMm: 1 }])).toThrow('ends lower');
  });
});
