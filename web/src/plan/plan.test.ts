import { describe, expect, it } from 'vitest';
import { orderRuns } from '@red-ember/core';
import { type FactorBody, type StudyBody, type VariantBody } from '@red-ember/contract';
import { blankPlan, blankStudy } from '@red-ember/study';
import { run } from '@red-ember/testing';
import { candidatesOf, withCandidates, withFactor, withoutFactor, withoutVariant } from './edits.ts';
import { balanced, calendar, changeOvers, figuresOf, leastTeardown, plannedOrder, runLength } from './schedule.ts';

const FACTORS: FactorBody[] = [
  { name: 'Plate', levels: ['none', 'plate'], changeMin: 15 },
  { name: 'Fan', levels: ['off', 'on'], changeMin: 2 },
];
const variant = (id: string, levels: Record<string, string>, change: Partial<VariantBody> = {}): VariantBody => ({
  id,
  name: id,
  subjectId: 'part-1',
  isReference: false,
  setup: '',
  notes: '',
  levels: Object.entries(levels).map(([factor, level]) => ({ factor, level })),
  ...change,
});
const body = (change: Partial<StudyBody> = {}): StudyBody => ({
  ...blankStudy('Plate'),
  subjects: [{ id: 'part-1', name: 'Ferry B4', details: '', drive: null, map: null }],
  factors: FACTORS,
  variants: [variant('a', { Plate: 'none', Fan: 'off' }), variant('b', { Plate: 'plate', Fan: 'off' })],
  impossible: [{ levels: [{ factor: 'Plate', level: 'none' }, { factor: 'Fan', level: 'on' }], reason: 'it sits in the plate' }], // prettier-ignore
  ...change,
});

describe('edits of a plan', () => {
  it('follow a renamed level and a renamed factor into variants and rules', () => {
    const renamed = { ...body(), ...withFactor(body(), 0, { levels: ['bare', 'plate'] }) };
    expect(renamed.variants[0]!.levels).toContainEqual({ factor: 'Plate', level: 'bare' });
    expect(renamed.impossible[0]!.levels[0]).toEqual({ factor: 'Plate', level: 'bare' });
    const cover = withFactor(renamed, 0, { name: 'Cover' });
    expect(cover.variants![1]!.levels![0]).toEqual({ factor: 'Cover', level: 'plate' });
  });
  it('leave variants where they stand when levels are only put in another order', () => {
    const turned = withFactor(body(), 0, { levels: ['plate', 'none'] });
    expect(turned.variants).toEqual(body().variants);
    // One stays, one is written differently, wherever they stand.
    const renamed = withFactor(body(), 0, { levels: ['plate', 'bare'] });
    expect(renamed.variants!.map((entry) => entry.levels![0]!.level)).toEqual(['bare', 'plate']);
  });
  it('take a level that is gone, or a whole factor, off the variants', () => {
    expect(withFactor(body(), 0, { levels: ['plate', 'duct', 'cowl'] }).variants![0]!.levels).toEqual([{ factor: 'Fan', level: 'off' }]);
    const less = withoutFactor(body(), 1);
    expect(less.variants!.every((entry) => entry.levels!.length === 1)).toBe(true);
    expect(less.impossible).toEqual([{ levels: [{ factor: 'Plate', level: 'none' }], reason: 'it sits in the plate' }]);
  });
  it('take a variant out of the plan too', () => {
    const planned = body({ plan: { ...blankPlan(), order: ['a', 'b', 'b', 'a'], firstVariantId: 'a', lastVariantId: 'b' } });
    expect(withoutVariant(planned, 'a').plan).toMatchObject({ order: ['b', 'b'], firstVariantId: null, lastVariantId: 'b' });
  });
  it('can still be saved when what was retested goes: the retest is a variant of its own then', () => {
    const planned = body({
      variants: [variant('a', {}), variant('b', {}, { retest: { variantId: 'a', suspect: 'Fan' } })],
    });
    expect(withoutVariant(planned, 'a').variants).toMatchObject([{ id: 'b', retest: null }]);
  });
  it('offer what is possible, know what stands there, and add only what is new', () => {
    const made = candidatesOf(body(), 'full');
    if (!('candidates' in made)) throw new Error('no candidates');
    expect(made.candidates.map((entry) => [entry.name, entry.struck, entry.variant?.id ?? null])).toEqual([
      ['none, off', null, 'a'],
      ['none, on', 'it sits in the plate', null],
      ['plate, off', null, 'b'],
      ['plate, on', null, null],
    ]);
    const { variants } = withCandidates(body(), made.candidates);
    expect(variants!.map((entry) => entry.name)).toEqual(['a', 'b', 'plate, on']);
  });
  it('stay as many where their names are longer than those of variants may be', () => {
    const long = (what: string) => `${what} of the second-hand tower with its strips`;
    const factors = ['Sink', 'Fan'].map((name) => ({
      name,
      levels: [long(`${name} as it came`), long(`${name} turned round`)],
      changeMin: 1,
    }));
    const made = candidatesOf(body({ factors, variants: [], impossible: [] }), 'full');
    if (!('candidates' in made)) throw new Error('no candidates');
    const names = withCandidates(body({ factors, variants: [] }), made.candidates).variants!.map(({ name }) => name);
    expect(new Set(names).size).toBe(4);
    expect(names.every((name) => name.length <= 60)).toBe(true);
  });
  it('refuse thousands of combinations with their number', () => {
    const many = Array.from({ length: 13 }, (_, i) => ({ name: `F${i}`, levels: ['1', '2'], changeMin: 1 }));
    const made = candidatesOf(body({ factors: many, variants: [], impossible: [] }), 'full');
    expect('sentence' in made && made.sentence).toMatch(/8,?192/);
  });
});

describe('the schedule', () => {
  const four = body({
    variants: [
      variant('a', { Plate: 'none', Fan: 'off' }),
      variant('b', { Plate: 'plate', Fan: 'off' }),
      variant('c', { Plate: 'plate', Fan: 'on' }),
    ],
  });
  it('lets a steady drift fall out of the balanced order, and refits less in the other', () => {
    const forth = balanced(four);
    const { runs, input } = leastTeardown(four)!;
    const least = orderRuns(input).order.map((k) => runs[k]!);
    expect(figuresOf(four, forth).drift).toBeLessThan(0.02);
    expect(figuresOf(four, least).drift).toBeGreaterThan(0.3);
    expect(figuresOf(four, least).changeOverMin).toBeLessThan(figuresOf(four, forth).changeOverMin);
    expect(changeOvers(four, least).reduce((sum, minutes) => sum + minutes, 0)).toBe(figuresOf(four, least).changeOverMin);
  });
  it('holds first and last in both orders', () => {
    const held = { ...four, plan: { ...four.plan, firstVariantId: 'b', lastVariantId: 'a' } };
    const { runs, input } = leastTeardown(held)!;
    for (const order of [balanced(held), orderRuns(input).order.map((k) => runs[k]!)]) {
      const ids = order.map((entry) => entry.id);
      expect(ids).toHaveLength(6);
      expect([ids.slice(0, 2), ids.slice(-2)]).toEqual([
        ['b', 'b'],
        ['a', 'a'],
      ]);
    }
  });
  it('takes the length of a run from earlier runs, else says it is a guess', () => {
    expect(runLength(four, [run('r1', 1, 'a', { lengthS: 1800 }), run('r2', 2, 'b', { lengthS: 3600 })])).toEqual({
      minutes: 45,
      from: 'runs',
    });
    expect(runLength(four, [run('r3', 1, 'a', { state: 'stopped' as never })]).from).toBe('recipe');
  });
  it('draws an order where one variant is both first and last, as can be typed', () => {
    const id = four.variants[0]!.id;
    const both = { ...four, plan: { ...four.plan, firstVariantId: id, lastVariantId: id } };
    expect(balanced(both)).toHaveLength(balanced(four).length);
    expect(balanced(both)[0]!.id).toBe(id);
    expect(() => leastTeardown(both)).not.toThrow();
  });

  it('lays runs into days, and says what does not fit', () => {
    const order = balanced(four);
    const made = calendar(four, order, 90, '2026-03-02');
    if (!('slots' in made)) throw new Error(made.sentence);
    const slotRuns = made.slots.filter((slot) => slot.part === 'run');
    expect(slotRuns).toHaveLength(6);
    // From 9 to 12 and 12:45 to 17 on working days alone, without overlap.
    for (const slot of made.slots) {
      const [from, to] = [slot.startMin % 1440, slot.endMin - Math.floor(slot.startMin / 1440) * 1440];
      expect(from >= 540 && to <= 1020 && (to <= 720 || from >= 765)).toBe(true);
    }
    for (let k = 1; k < made.slots.length; k++) expect(made.slots[k]!.startMin).toBeGreaterThanOrEqual(made.slots[k - 1]!.endMin);
    expect(calendar(four, order, 900, '2026-03-02')).toMatchObject({ sentence: expect.stringMatching(/^[A-Z].*\.$/) });
  });
});

describe('a variant that was retired', () => {
  it('is planned no more, keeps the number that was planned of it, and leaves the order of the others', () => {
    const study = body({
      variants: [
        variant('a', { Plate: 'none', Fan: 'off' }, { repeats: 3 }),
        variant('b', { Plate: 'plate', Fan: 'off' }, { repeats: 3, retired: true }),
      ],
    });
    expect(balanced(study).map(({ id }) => id)).toEqual(['a', 'a', 'a']);
    expect(study.variants[1]!.repeats).toBe(3);
    // An order that was taken over while it was planned no longer holds the runs that are wanted.
    const ordered = { ...study, plan: { ...blankPlan(), order: ['a', 'b', 'a', 'b', 'a', 'b'] } };
    expect(plannedOrder(ordered)).toMatchObject({ taken: false, order: [{ id: 'a' }, { id: 'a' }, { id: 'a' }] });
  });
});
