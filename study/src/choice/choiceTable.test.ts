import { describe, expect, it } from 'vitest';
import type { Estimate, LineUpSide } from '@red-ember/core';
import { lineUpRun, lineUpSide } from '@red-ember/testing/lineUps';
import { blankJudging, blankPart, blankStep, blankStudy, type StudyDefinition } from '../index.ts';
import { choiceTable, idleWords, type ChosenBy } from './choiceTable.ts';

const known = (value: number, u = 0.1): Estimate => ({ value, u, dof: 30 });

const viewOf = (sides: LineUpSide[]) =>
  ({
    field: {
      sides,
      spots: [{ id: 'top', name: 'Top', limitC: 95, accuracyK: 0.5, resolutionK: 0.1, placementK: 0.5 }],
      rules: { basis: 'rise', figure: 'settled-mean', practicalK: 1, coverage: 0.95, roomBand: null },
      findings: [],
      stands: [],
      history: {},
    },
    spotId: 'top',
    name: 'Top',
  }) as unknown as ChosenBy;

function body(change: Partial<StudyDefinition> = {}): StudyDefinition {
  const study = blankStudy('Coolers', 'card');
  const spot = { id: 'top', name: 'Top', limitC: 95, limitSource: 'x' };
  return {
    ...study,
    spots: [spot as StudyDefinition['spots'][number]],
    variants: ['stock', 'tower'].map((id, i) => ({ id, name: id, subjectId: 'part-1', isReference: i === 0, setup: '', notes: '' })),
    parts: [
      { ...blankPart('p1', 'stock part'), variantId: 'stock', price: 0, weightG: 400, noiseDb: 40 },
      { ...blankPart('p2', 'tower part'), variantId: 'tower', price: 30, weightG: 900, noiseDb: 31 },
    ],
    ...change,
  };
}

describe('choices', () => {
  const sides = [lineUpSide('stock', [lineUpRun(60)]), lineUpSide('tower', [lineUpRun(48)])];
  it('knows cost, weight and refit of the parts, measured noise before stated, and kelvin for money', () => {
    const table = choiceTable(body(), blankJudging(), viewOf(sides), []);
    expect(table.choices.map(({ values }) => values)).toEqual([
      { temperature: 60, noise: 40, cost: 0, minutes: 15, weight: 400, throughput: null, conductive: 0, cleaning: 0, cure: 0 },
      { temperature: 48, noise: 31, cost: 30, minutes: 15, weight: 900, throughput: null, conductive: 0, cleaning: 0, cure: 0 },
    ]);
    expect(table.perMoney).toEqual({ stock: null, tower: expect.closeTo(0.4, 9) });
    const measured = choiceTable(
      body(),
      blankJudging(),
      viewOf([lineUpSide('stock', [lineUpRun(60, { outcomes: { noise: known(36) } })]), sides[1]!]),
      [],
    );
    expect(measured.choices[0]!.values.noise).toBe(36);
  });
  it('weighs only what tells choices apart, and what is not left out', () => {
    const keys = (leave: string[]) => choiceTable(body(), blankJudging(), viewOf(sides), leave).criteria.map(({ key }) => key);
    // One mount each: that tells nobody apart.
    expect(keys([])).toEqual(['temperature', 'noise', 'cost', 'weight']);
    expect(keys(['cost', 'weight'])).toEqual(['temperature', 'noise']);
    const alike = choiceTable(
      body(),
      blankJudging(),
      viewOf([lineUpSide('stock', [lineUpRun(48.4)]), lineUpSide('tower', [lineUpRun(48)])]),
      [],
    );
    expect(alike.criteria.map(({ key }) => key)).not.toContain('temperature');
  });
  it('says of what counts for a reader and decides nothing that it does not, and why', () => {
    const weights = [
      { criterion: 'temperature' as const, weight: 2 },
      { criterion: 'cost' as const, weight: 1 },
    ];
    expect(idleWords(choiceTable(body(), blankJudging(), viewOf(sides)), weights)).toBe('');
    const alike = choiceTable(
      body(),
      blankJudging(),
      viewOf([lineUpSide('stock', [lineUpRun(48.4)]), lineUpSide('tower', [lineUpRun(48)])]),
    );
    expect(idleWords(alike, weights)).toBe(
      'Top counts for this reader and decides nothing here: no two choices differ in it by what matters.',
    );
    // Both throttled: they held their own temperature, and are known by nothing but money.
    const unread = choiceTable(body(), blankJudging(), viewOf(sides.map((one) => ({ ...one, runs: [] }))));
    expect(idleWords(unread, weights)).toBe(
      'Top counts for this reader and decides nothing here: fewer than two choices have a figure for it.',
    );
    expect(idleWords(unread, [{ criterion: 'noise', weight: 0 }])).toBe('');
  });
  it('beats nothing, and buys no kelvin, where the doubt does not tell two apart', () => {
    const near = [lineUpSide('stock', [lineUpRun(50)]), lineUpSide('tower', [lineUpRun(48.5)])];
    const table = choiceTable(body(), blankJudging(), viewOf(near), ['noise', 'cost', 'weight']);
    expect(table.made?.front).toEqual(['stock', 'tower']);
    expect(table.perMoney.tower).toBeNull();
    expect(choiceTable(body(), blankJudging(), viewOf(sides), ['noise', 'cost', 'weight']).made?.front).toEqual(['tower']);
  });
  it('weighs what conducts, what has to be cleaned off and what has to cure', () => {
    const paste = { areaMm2: 200, bondLineMm: 0.04, densityGPerCm3: 2.5, remover: 'isopropanol', dryMin: 3 };
    const study = body({
      parts: [
        { ...blankPart('p1', 'stock paste'), variantId: 'stock', kind: 'paste', paste },
        { ...blankPart('p2', 'metal'), variantId: 'tower', kind: 'paste', paste: { ...paste, dryMin: 5 }, conductive: true },
      ],
      steps: [
        { ...blankStep('s1', 'off', 'Polish the plate'), variantId: 'tower', waitMin: 10 },
        { ...blankStep('s2', 'on', 'Let it bed in'), variantId: 'stock', waitMin: 30 },
      ],
    });
    const judging = {
      ...blankJudging(),
      profiles: [{ id: 'r', name: 'careful', weights: [{ criterion: 'conductive' as const, weight: 1 }] }],
    };
    const table = choiceTable(study, judging, viewOf(sides), ['cost', 'noise', 'weight']);
    expect(table.choices.map(({ values }) => [values.conductive, values.cleaning, values.cure])).toEqual([
      [0, 3, 30],
      [1, 15, 0],
    ]);
    expect(table.criteria.map(({ key }) => key)).toEqual(['temperature', 'conductive', 'cleaning', 'cure']);
    expect(table.made!.picks[0]).toMatchObject({ level: ['stock'], because: 'Before tower by electricity: insulates against conducts.' });
    // Nothing was written down: nothing is known.
    expect(choiceTable(body({ parts: [] }), judging, viewOf(sides), []).choices[0]!.values).toMatchObject({ conductive: null, cure: null });
  });
  it('costs nothing where a variant brings no part, and others do', () => {
    const only = body();
    const table = choiceTable({ ...only, parts: only.parts.slice(1) }, blankJudging(), viewOf(sides), []);
    expect(table.choices[0]!.values).toMatchObject({ cost: 0, weight: 0 });
  });
  it('refuses where nothing is known of both', () => {
    const bare = choiceTable(
      body({ parts: [] }),
      blankJudging(),
      viewOf([lineUpSide('stock', [lineUpRun(60, { figures: {} })]), lineUpSide('tower', [lineUpRun(48)])]),
      ['minutes'],
    );
    expect(bare.made).toBeNull();
    expect(bare.refusal).toBeTruthy();
  });
});
