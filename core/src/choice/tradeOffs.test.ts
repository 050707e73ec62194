import { describe, expect, it } from 'vitest';
import { InsufficientDataError, kelvinPerMoney, kneeOf, tradeOffs, type Choice, type Criterion } from '../index.ts';

const CRITERIA: Criterion[] = [
  { key: 'temp', label: 'temperature', unit: 'K', better: 'low', tolerance: 1 },
  { key: 'cost', label: 'cost', unit: 'EUR', better: 'low', tolerance: 0 },
  { key: 'minutes', label: 'refit', unit: 'min', better: 'low', tolerance: 0 },
];
const choice = (id: string, temp: number, cost: number, minutes: number | null): Choice => ({
  id,
  name: `paste ${id}`,
  values: { temp, cost, minutes },
});
const PASTES = [
  choice('k', 52, 0.4, 12),
  choice('l', 50.4, 0.9, 14),
  choice('m', 50.1, 2.6, 14),
  choice('z', 68, 0.2, 12),
  choice('q', 47, 4.5, 55),
];

describe('tradeOffs', () => {
  const record = { name: 'record hunter', weights: { temp: 1 } };
  const many = { name: 'fits hundreds', weights: { temp: 1, cost: 2, minutes: 4 } };
  const made = tradeOffs(PASTES, CRITERIA, [record, many]);
  it('picks otherwise for other readers, and says by what', () => {
    expect(made.picks.map((pick) => pick.scores[0]!.id)).toEqual(['q', 'k']);
    expect(made.picks[0]!.because).toBe('Before paste m by temperature 47 against 50.1 K.');
    expect(made.picks[1]!.because).toContain('refit 12 against 14 min');
  });
  it('keeps what nothing beats', () => {
    // m is dearer than l, as long to fit, and a third of a kelvin buys nothing.
    expect(made.front).toEqual(['k', 'l', 'z', 'q']);
    expect(tradeOffs([PASTES[0]!, choice('w', 53, 0.5, 12)], CRITERIA, []).front).toEqual(['k']);
  });
  it('lets a difference within the tolerance of the best buy nothing', () => {
    const close = [choice('a', 50, 1, 10), choice('b', 49.2, 3, 10)];
    expect(tradeOffs(close, CRITERIA, [record]).picks[0]!.because).toContain('nothing that counts');
    expect(tradeOffs(close, CRITERIA, []).front).toEqual(['a']);
  });
  it('beats nobody by what doubt does not tell apart', () => {
    const pair = [choice('a', 50, 1, 10), choice('b', 46, 3, 10)];
    const untold = (p: string, q: string, key: string) => key === 'temp' && p !== q;
    expect(tradeOffs(pair, CRITERIA, [record]).front).toEqual(['a', 'b']);
    expect(tradeOffs(pair, CRITERIA, [record], untold).front).toEqual(['a']);
    const [tied] = tradeOffs(pair, CRITERIA, [record], untold).picks;
    expect(tied!.because).toContain('nothing that counts');
    expect(tied!.level).toEqual(['paste b', 'paste a']);
    expect(made.picks.map(({ level }) => level)).toEqual([['paste q'], ['paste k']]);
    expect(() => tradeOffs(pair, [], [])).toThrow(InsufficientDataError);
  });
  it('leaves out and names what is not known, and refuses a reader who cares for nothing', () => {
    const gap = tradeOffs([...PASTES, choice('x', 40, 1, null)], CRITERIA, [record]);
    expect(gap.without).toEqual([{ name: 'paste x', missing: ['refit'] }]);
    expect(gap.front).not.toContain('x');
    expect(() => tradeOffs(PASTES, CRITERIA, [{ name: 'nobody', weights: {} }])).toThrow(InsufficientDataError);
    expect(() => tradeOffs([choice('x', 40, 1, null)], CRITERIA, [])).toThrow(InsufficientDataError);
    expect(() => tradeOffs(PASTES, CRITERIA, [{ name: 'odd', weights: { temp: -1 } }])).toThrow(RangeError);
  });
});

describe('kelvinPerMoney', () => {
  it('divides only a gain by an extra', () => {
    const stock = { tempK: 60, cost: 0 };
    expect(kelvinPerMoney(stock, { tempK: 51, cost: 90 })).toBeCloseTo(0.1, 12);
    expect(kelvinPerMoney(stock, { tempK: 61, cost: 90 })).toBeNull();
    expect(kelvinPerMoney({ tempK: 60, cost: 20 }, { tempK: 55, cost: 10 })).toBeNull();
  });
});

describe('kneeOf', () => {
  it('finds where more speed stops helping, in any order', () => {
    const curve = [100, 40, 20, 60, 80].map((x) => ({ x, y: 30 + 900 / x }));
    expect(curve[kneeOf(curve)!]!.x).toBe(40);
  });
  it('finds none in a straight line, and refuses too few or flat points', () => {
    expect(kneeOf([1, 2, 3, 4].map((x) => ({ x, y: 90 - 5 * x })))).toBeNull();
    expect(() =>
      kneeOf([
        { x: 1, y: 2 },
        { x: 2, y: 1 },
      ]),
    ).toThrow(InsufficientDataError);
    expect(() => kneeOf([1, 2, 3].map((x) => ({ x, y: 5 })))).toThrow(InsufficientDataError);
  });
});
