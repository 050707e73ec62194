import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { merge } from './merge.ts';

const base = {
  title: 'Lid',
  question: 'Does it cool?',
  rules: { basis: 'rise', practicalK: 1 },
  spots: [
    { id: 'a', name: 'Top', limitC: 85 },
    { id: 'b', name: 'Under', limitC: 85 },
  ],
  tags: ['x'],
};
const changed = (change: object) => ({ ...structuredClone(base), ...change }) as typeof base;

describe('two changes of one study', () => {
  it('are both kept where they changed different fields', () => {
    const mine = changed({ title: 'Lid, again', rules: { basis: 'rise', practicalK: 2 } });
    const theirs = changed({ question: 'By how much?', rules: { basis: 'absolute', practicalK: 1 } });
    expect(merge(base, mine, theirs)).toEqual({
      value: changed({ title: 'Lid, again', question: 'By how much?', rules: { basis: 'absolute', practicalK: 2 } }),
      conflicts: [],
    });
  });

  it('name what both changed: mine stands, theirs is told', () => {
    const { value, conflicts } = merge(base, changed({ title: 'Mine' }), changed({ title: 'Theirs' }));
    expect(value.title).toBe('Mine');
    expect(conflicts).toEqual([{ path: ['title'], theirs: 'Theirs' }]);
  });

  it('go member by member in lists, whatever their order', () => {
    const mine = changed({ spots: [{ id: 'b', name: 'Under', limitC: 90 }, base.spots[0], { id: 'm', name: 'Mine', limitC: 70 }] });
    const theirs = changed({ spots: [{ id: 'a', name: 'Top', limitC: 80 }, base.spots[1], { id: 't', name: 'Theirs', limitC: 60 }] });
    const { value, conflicts } = merge(base, mine, theirs);
    expect(value.spots.map(({ id, limitC }) => [id, limitC])).toEqual([['b', 90], ['a', 80], ['m', 70], ['t', 60]]); // prettier-ignore
    expect(conflicts).toEqual([]);
  });

  it('let go what one side took away, but not what the other changed meanwhile', () => {
    const without = changed({ spots: [base.spots[1]] });
    expect(merge(base, without, base).value.spots).toHaveLength(1);
    expect(merge(base, base, without).value.spots).toHaveLength(1);
    const altered = changed({ spots: [{ id: 'a', name: 'Top', limitC: 99 }, base.spots[1]] });
    for (const [mine, theirs] of [
      [without, altered],
      [altered, without],
    ] as const) {
      // prettier-ignore
      const { value, conflicts } = merge(base, mine, theirs);
      expect(value.spots.find(({ id }) => id === 'a')!.limitC).toBe(99);
      expect(conflicts).toMatchObject([{ path: ['spots', 'Top'] }]);
    }
  });

  it('take a list without names as a whole', () => {
    expect(merge(base, changed({ tags: ['x', 'm'] }), changed({ tags: ['t'] }))).toMatchObject({
      value: { tags: ['x', 'm'] },
      conflicts: [{ path: ['tags'], theirs: ['t'] }],
    });
  });

  it('lose nothing of either, whatever is changed: one that changed nothing gives the other', () => {
    const any = fc.record({ title: fc.string(), n: fc.integer(), list: fc.uniqueArray(fc.record({ id: fc.constantFrom('a', 'b', 'c'), v: fc.integer() }), { selector: ({ id }) => id }) }); // prettier-ignore
    fc.assert(
      fc.property(any, any, (was, other) => {
        expect(merge(was, was, other)).toEqual({ value: other, conflicts: [] });
        expect(merge(was, other, was)).toEqual({ value: other, conflicts: [] });
        expect(merge(was, other, other)).toEqual({ value: other, conflicts: [] });
      }),
      { seed: 3 },
    );
  });
});
