import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  aliasesOf,
  anovaOneWay,
  combinations,
  factorEffects,
  InsufficientDataError,
  ladder,
  MOST_COMBINATIONS,
  type Factor,
} from '../index.ts';

const two = (name: string): Factor => ({ name, levels: ['low', 'high'] });
const ABC = [two('A'), two('B'), two('C')];
/** Signs as levels. */
const at = (signs: number[], names = ['A', 'B', 'C']) => Object.fromEntries(names.map((name, i) => [name, signs[i]! > 0 ? 'high' : 'low']));
const full = [-1, 1].flatMap((c) => [-1, 1].flatMap((b) => [-1, 1].map((a) => [a, b, c])));

describe('anovaOneWay', () => {
  /** NIST StRD SiRstv, resistivity of silicon wafers: certified between 5.11462616E-02 (4), residual 2.16636560E-01 (20). */
  const SIRSTV = [
    [196.3052, 196.124, 196.189, 196.2569, 196.3403],
    [196.3042, 196.3825, 196.1669, 196.3257, 196.0422],
    [196.1303, 196.2005, 196.2889, 196.0343, 196.1811],
    [196.2795, 196.1748, 196.1494, 196.1485, 195.9885],
    [196.2119, 196.1051, 196.185, 196.0052, 196.209],
  ];
  it('meets the certified values of NIST StRD SiRstv', () => {
    const { rows, residualSd } = anovaOneWay(SIRSTV);
    expect(rows[0]!.sumSq).toBeCloseTo(5.11462616e-2, 8);
    expect(rows[0]!.f).toBeCloseTo(1.18046237, 6);
    expect(rows[1]!.sumSq).toBeCloseTo(2.1663656e-1, 8);
    expect(residualSd).toBeCloseTo(0.104076068, 7);
  });
  it('keeps its digits where all readings agree to many', () => {
    const shifted = anovaOneWay(SIRSTV.map((group) => group.map((value) => value + 1e6)));
    expect(shifted.rows[0]!.f).toBeCloseTo(1.18046237, 4);
  });
  it('has no test where nothing scatters, and refuses what cannot be told', () => {
    expect(
      anovaOneWay([
        [1, 1],
        [2, 2],
      ]).rows[0],
    ).toMatchObject({ f: null, p: null, dof: 1 });
    expect(() => anovaOneWay([[1, 2, 3]])).toThrow(InsufficientDataError);
    expect(() => anovaOneWay([[1], [2]])).toThrow(InsufficientDataError);
    expect(() => anovaOneWay([[1, 2], []])).toThrow(InsufficientDataError);
    expect(() =>
      anovaOneWay([
        [1, 2],
        [3, Infinity],
      ]),
    ).toThrow(RangeError);
  });
});

describe('factorEffects', () => {
  it('reproduces the pilot plant example of Box, Hunter & Hunter: temperature 23, concentration −5, catalyst 1.5', () => {
    const yields = [60, 72, 54, 68, 52, 83, 45, 80];
    const { effects, aliased } = factorEffects(
      ABC,
      full.map((signs, i) => ({ levels: at(signs), value: yields[i]! })),
    );
    const of = (...term: string[]) => effects.find((entry) => entry.term.join() === term.join())!.effect;
    expect([of('A').value, of('B').value, of('C').value]).toEqual([23, -5, 1.5]);
    expect([of('A', 'B').value, of('A', 'C').value, of('B', 'C').value]).toEqual([1.5, 10, 0]);
    expect(of('A')).toMatchObject({ u: null, dof: 0 });
    expect(aliased).toEqual([]);
  });
  it('gives every effect its doubt from replicates, and rows that add up', () => {
    const runs = full.flatMap((signs) =>
      [0, 1].map((k) => ({ levels: at(signs), value: 50 + 4 * signs[0]! - signs[0]! * signs[1]! + (k === 0 ? 0.5 : -0.5) })),
    );
    const { effects, rows } = factorEffects(ABC, runs);
    expect(effects[0]!.effect.value).toBeCloseTo(8, 12);
    expect(effects[0]!.effect.u).toBeCloseTo(Math.sqrt(0.5 * (1 / 8 + 1 / 8)), 12);
    expect(effects[0]!.effect.dof).toBe(8);
    const mean = runs.reduce((sum, run) => sum + run.value / runs.length, 0);
    expect(rows.reduce((sum, row) => sum + row.sumSq, 0)).toBeCloseTo(
      runs.reduce((sum, run) => sum + (run.value - mean) ** 2, 0),
      9,
    );
    expect(rows.find((row) => row.term === 'A')!.p).toBeLessThan(1e-6);
    expect(rows.find((row) => row.term === 'C')!.p).toBeGreaterThan(0.9);
  });
  it('refuses to credit either of two factors that always changed together', () => {
    const runs = [-1, 1, -1, 1].map((sign, i) => ({ levels: at([sign, -sign], ['A', 'B']), value: 60 + sign + i / 10 }));
    const { effects, aliased } = factorEffects([two('A'), two('B')], runs);
    expect(effects).toEqual([]);
    expect(aliased).toEqual([[['A'], ['B']]]);
  });
  it('lists an interaction that looks like a factor, and keeps both effects', () => {
    const half = full.filter(([a, b, c]) => Math.sign(a! * b! * c!) === 1);
    const { effects, aliased } = factorEffects(
      ABC,
      half.map((signs, i) => ({ levels: at(signs), value: i })),
    );
    expect(aliased).toHaveLength(3);
    expect(aliased).toContainEqual([['A'], ['B', 'C']]);
    expect(effects.map((entry) => entry.term.join('*'))).toContain('A');
  });
  it('leaves out a product that never changes, and a factor that never changed', () => {
    const runs = [-1, 1].map((sign) => ({ levels: at([sign, sign, 1]), value: sign }));
    const { effects, aliased } = factorEffects(ABC, runs);
    expect(aliased.flat().map((names) => names.join('*'))).not.toContain('A*B');
    expect(aliased.flat().map((names) => names.join('*'))).not.toContain('C');
    expect(effects.every((entry) => entry.term.join() !== 'C')).toBe(true);
  });
  it('gives a factor of three levels a row of two dof', () => {
    const pastes = { name: 'Paste', levels: ['K', 'L', 'M'] };
    const runs = ['K', 'L', 'M', 'K', 'L', 'M'].map((Paste, i) => ({
      levels: { Paste },
      value: [61, 60, 64][i % 3]! + (i < 3 ? 0.2 : -0.2),
    }));
    const { rows, effects } = factorEffects([pastes], runs);
    const classic = anovaOneWay(['K', 'L', 'M'].map((level) => runs.filter((run) => run.levels.Paste === level).map((run) => run.value)));
    expect(effects).toEqual([]);
    expect(rows[0]).toMatchObject({ term: 'Paste', dof: 2 });
    expect(rows[0]!.f).toBeCloseTo(classic.rows[0]!.f!, 6);
  });
  it('turns round with the levels and does not care for the order of runs', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 20, max: 90, noNaN: true }), { minLength: 8, maxLength: 8 }), (values) => {
        const runs = full.map((signs, i) => ({ levels: at(signs), value: values[i]! }));
        const forth = factorEffects(ABC, runs).effects[0]!.effect.value;
        const turned = factorEffects([{ name: 'A', levels: ['high', 'low'] }, ABC[1]!, ABC[2]!], [...runs].reverse()).effects[0]!.effect
          .value;
        expect(turned).toBeCloseTo(-forth, 9);
      }),
    );
  });
  it('refuses unknown levels, empty designs and what is no number', () => {
    expect(() => factorEffects([two('A')], [{ levels: { A: 'other' }, value: 1 }])).toThrow(RangeError);
    expect(() => factorEffects([two('A')], [{ levels: {}, value: 1 }])).toThrow(RangeError);
    expect(() => factorEffects([two('A'), two('A')], [])).toThrow(RangeError);
    expect(() => factorEffects([{ name: 'A', levels: ['one'] }], [])).toThrow(/fewer than two/);
    expect(() => factorEffects([two('A')], [])).toThrow(InsufficientDataError);
    expect(() =>
      factorEffects(
        [two('A')],
        [
          { levels: { A: 'low' }, value: NaN },
          { levels: { A: 'high' }, value: 1 },
        ],
      ),
    ).toThrow(RangeError);
  });
});

describe('aliasesOf', () => {
  it('says before any run what a chosen half cannot tell apart, and that the whole can', () => {
    const half = full.filter(([a, b, c]) => Math.sign(a! * b! * c!) === 1).map((signs) => ({ levels: at(signs) }));
    expect(aliasesOf(ABC, half)).toEqual([
      [['A'], ['B', 'C']],
      [['B'], ['A', 'C']],
      [['C'], ['A', 'B']],
    ]);
    expect(
      aliasesOf(
        ABC,
        full.map((signs) => ({ levels: at(signs) })),
      ),
    ).toEqual([]);
  });
  it('sees that two factors of three levels always changed together', () => {
    const factors = ['Paste', 'Batch'].map((name) => ({ name, levels: ['1', '2', '3'] }));
    const runs = ['1', '2', '3'].map((level) => ({ levels: { Paste: level, Batch: level === '3' ? '1' : level === '1' ? '2' : '3' } }));
    expect(aliasesOf(factors, runs)).toEqual([[['Paste'], ['Batch']]]);
  });
});

describe('combinations and ladders', () => {
  it('strikes out what cannot be had together, with the reason', () => {
    const all = combinations([two('A'), two('B')], [{ levels: { A: 'high', B: 'low' }, reason: 'the duct needs its fan' }]);
    expect(all).toHaveLength(4);
    expect(all.filter((entry) => entry.struck)).toEqual([{ levels: { A: 'high', B: 'low' }, struck: 'the duct needs its fan' }]);
  });
  it('refuses thousands of combinations with their count', () => {
    const many = Array.from({ length: 13 }, (_, i) => two(`F${i}`));
    expect(() => combinations(many)).toThrow(/8192 combinations/);
    expect(combinations(many.slice(0, 12))).toHaveLength(4096);
    expect(MOST_COMBINATIONS).toBe(5000);
  });
  it('climbs a ladder one change at a time, over a rung that cannot be', () => {
    const pads = { name: 'Pad', levels: ['stock', 'P6', 'P12'] };
    const steps = ladder([two('A'), pads], [{ levels: { Pad: 'P6' }, reason: 'too thin' }]);
    expect(steps.map((step) => [step.levels.A, step.levels.Pad, step.struck])).toEqual([
      ['low', 'stock', null],
      ['high', 'stock', null],
      ['high', 'P6', 'too thin'],
      ['high', 'P12', null],
    ]);
  });
});
