import { describe, expect, it } from 'vitest';
import { aliasesOf, combinations, fewestForMainEffects, fractionOf, type Factor } from '../index.ts';

const factor = (name: string, n: number): Factor => ({ name, levels: Array.from({ length: n }, (_, i) => `${name}${i}`) });
const factors = (count: number, levels: number) => Array.from({ length: count }, (_, i) => factor(String.fromCharCode(65 + i), levels));
const counts = (of: Factor, runs: readonly { levels: Record<string, string> }[]) =>
  of.levels.map((level) => runs.filter(({ levels }) => levels[of.name] === level).length);

describe('a fraction of all combinations', () => {
  it.each([
    ['half of 2³', factors(3, 2), 4],
    ['a quarter of 2⁵', factors(5, 2), 8],
    ['nine of 3⁴, the orthogonal array of Taguchi’s L9', factors(4, 3), 9],
    ['27 of 3⁵', factors(5, 3), 27],
  ])('%s loses nothing: every main effect apart from every other', (_, all, n) => {
    const { chosen, efficiency } = fractionOf(all, combinations(all), n);
    expect(chosen).toHaveLength(n);
    expect(efficiency).toBeCloseTo(1, 6);
    // Orthogonal: any two factors show every pair of levels equally often.
    for (const a of all)
      for (const b of all) {
        if (a === b) continue;
        const pairs = a.levels.flatMap((p) =>
          b.levels.map((q) => chosen.filter(({ levels }) => levels[a.name] === p && levels[b.name] === q).length),
        );
        expect(new Set(pairs).size).toBe(1);
      }
  });

  it('of 243 takes forty, each once, nearly as good as can be', () => {
    const all = factors(5, 3);
    const { chosen, efficiency } = fractionOf(all, combinations(all), 40);
    expect(new Set(chosen.map(({ levels }) => Object.values(levels).join())).size).toBe(40);
    expect(efficiency).toBeGreaterThan(0.97);
    // No better than chance would be no reason to choose: the first forty never change the first factor enough to tell it.
    expect(fractionOf(all, combinations(all).slice(0, 40), 40).efficiency).toBe(0);
    for (const one of all) for (const n of counts(one, chosen)) expect(Math.abs(n - 40 / 3)).toBeLessThan(2);
  });

  it('builds on what was run already, and mends what could not be told from it', () => {
    const [a, b, c] = [factor('A', 2), factor('B', 2), factor('C', 2)];
    const all = combinations([a, b, c]);
    // A and B always changed together.
    const there = all.filter(({ levels }) => levels.A!.slice(1) === levels.B!.slice(1) && levels.C === 'C0');
    expect(aliasesOf([a, b, c], there)).not.toEqual([]);
    const offered = all.filter((one) => !there.includes(one));
    const { chosen, efficiency } = fractionOf([a, b, c], offered, 2, there);
    expect(efficiency).toBeCloseTo(1, 6);
    expect(chosen.every(({ levels }) => levels.A!.slice(1) !== levels.B!.slice(1) && levels.C === 'C1')).toBe(true);
  });

  it('says so where too few are asked for, and takes all where there are no more', () => {
    const all = factors(5, 3);
    expect(fewestForMainEffects(all)).toBe(11);
    expect(fractionOf(all, combinations(all), 10).efficiency).toBe(0);
    expect(fractionOf(all, combinations(all), 11).efficiency).toBeGreaterThan(0.7);
    const two = factors(2, 2);
    expect(fractionOf(two, combinations(two), 9).chosen).toHaveLength(4);
    expect(fractionOf(two, combinations(two), 0)).toEqual({ chosen: [], efficiency: 0 });
  });

  it('is the same every time it is asked', () => {
    const all = factors(4, 3);
    expect(fractionOf(all, combinations(all), 20)).toEqual(fractionOf(all, combinations(all), 20));
  });
});
