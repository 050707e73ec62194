import { describe, expect, it } from 'vitest';
import { factorEffects, fitMainEffects, InsufficientDataError } from '../index.ts';

const factors = [
  { name: 'Plate', levels: ['off', 'on'] },
  { name: 'Fan', levels: ['off', 'on'] },
  { name: 'Cooler', levels: ['tower', 'downward'] },
];
const run = (levels: [string, string, string], value: number) => ({
  levels: { Plate: levels[0], Fan: levels[1], Cooler: levels[2] },
  value,
});
/** The plate warms by 6, the fan cools by 10, the other cooler by 4; nothing else. */
const truth = ([plate, fan, cooler]: [string, string, string]) =>
  60 + (plate === 'on' ? 6 : 0) - (fan === 'on' ? 10 : 0) - (cooler === 'downward' ? 4 : 0);
const all = ['off', 'on'].flatMap((plate) =>
  ['off', 'on'].flatMap((fan) => ['tower', 'downward'].map((cooler): [string, string, string] => [plate, fan, cooler])),
);

describe('main effects fitted together', () => {
  it('find what was planted in a set with holes, where contrasts do not', () => {
    // The fan sits in the plate: it cannot be had without, and one combination was lost besides.
    const cells = all.filter(([plate, fan]) => !(plate === 'off' && fan === 'on')).slice(0, 5);
    const runs = cells.map((cell) => run(cell, truth(cell)));
    const { effects, doubtFrom } = fitMainEffects(factors, runs);
    expect(effects.map(({ factor, value }) => [factor, Math.round(value * 1e6) / 1e6])).toEqual([
      ['Plate', 6],
      ['Fan', -10],
      ['Cooler', -4],
    ]);
    expect(doubtFrom).toBe('residual');
    expect(effects.every((effect) => effect.u! < 1e-6 && effect.dof === 1)).toBe(true);
    const contrast = factorEffects(factors, runs).effects.find((effect) => effect.term.join() === 'Plate')!.effect.value;
    expect(Math.abs(contrast - 6)).toBeGreaterThan(1);
  });

  it('are the contrasts, with the same u, in a full set with repeats', () => {
    const runs = all.flatMap((cell, i) => [run(cell, truth(cell) + 0.3 * Math.sin(i)), run(cell, truth(cell) - 0.2 * Math.cos(3 * i))]);
    const made = fitMainEffects(factors, runs);
    const contrasts = factorEffects(factors, runs).effects;
    expect(made.doubtFrom).toBe('repeats');
    for (const { factor, value, u, dof } of made.effects) {
      const { effect } = contrasts.find((other) => other.term.join() === factor)!;
      expect(value).toBeCloseTo(effect.value, 10);
      expect(u).toBeCloseTo(effect.u!, 10);
      expect(dof).toBe(effect.dof);
    }
  });

  it('rest their doubt on what is left over without repeats, and have none where nothing is', () => {
    const three = [['off', 'off', 'tower'], ['on', 'off', 'tower'], ['on', 'on', 'tower']] as [string, string, string][]; // prettier-ignore
    const exact = fitMainEffects(
      factors.slice(0, 2),
      three.map((cell) => run(cell, truth(cell))),
    );
    expect(exact.doubtFrom).toBe('nothing');
    expect(exact.effects.map(({ u, dof }) => [u, dof])).toEqual([[null, 0], [null, 0]]); // prettier-ignore
    // An interaction of 8 in a full two by two: the residual of each cell is 2, with one degree of freedom.
    const crossed = fitMainEffects(factors.slice(0, 2), all.filter(([, , cooler]) => cooler === 'tower').map((cell) => run(cell, truth(cell) + (cell[0] === 'on' && cell[1] === 'on' ? 8 : 0)))); // prettier-ignore
    expect(crossed.effects.map(({ value, u }) => [value, u])).toEqual([
      [expect.closeTo(10, 9), expect.closeTo(4, 9)],
      [expect.closeTo(-6, 9), expect.closeTo(4, 9)],
    ]);
  });

  it('are lost where two always changed together, and not for the third', () => {
    const cells = all.filter(([plate, fan]) => plate === fan);
    const { effects, lost } = fitMainEffects(factors, cells.map((cell) => run(cell, truth(cell)))); // prettier-ignore
    expect(lost).toEqual(['Plate', 'Fan']);
    expect(effects.map(({ factor, value }) => [factor, Math.round(value * 1e6) / 1e6])).toEqual([['Cooler', -4]]);
  });

  it('hold a factor of three levels without an effect of its own', () => {
    const made = fitMainEffects(
      [{ name: 'Case fans', levels: ['one', 'two', 'three'] }, factors[0]!],
      ['one', 'two', 'three'].flatMap((fans, i) => ['off', 'on'].slice(0, i === 2 ? 1 : 2).map((Plate) => ({ levels: { 'Case fans': fans, Plate }, value: 50 - 3 * i * i + (Plate === 'on' ? 5 : 0) }))), // prettier-ignore
    );
    expect(made.effects.map(({ factor, value }) => [factor, Math.round(value * 1e6) / 1e6])).toEqual([['Plate', 5]]);
    expect(() => fitMainEffects([], [])).toThrow(InsufficientDataError);
    expect(() => fitMainEffects(factors, [run(['off', 'off', 'none'], 1), run(['on', 'on', 'tower'], 2)])).toThrow(RangeError);
  });
});
