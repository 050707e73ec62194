import { describe, expect, it } from 'vitest';
import { HouseRulesBody, type Study, type StudyBody } from '@red-ember/contract';
import { spot, studyBody } from '@red-ember/testing';
import { whatChanged } from './whatChanged.ts';

const before = (): Study => ({
  ...studyBody(),
  id: 's',
  version: 1,
  createdAt: '',
  updatedAt: '',
  predictionLockedAt: null,
  predictionStamps: {},
  variantsWithRuns: [],
});
const after = (change: (body: StudyBody) => Partial<StudyBody>) => whatChanged(before(), { ...studyBody(), ...change(studyBody()) });

describe('what a save changed, in words', () => {
  it('is nothing where a study is sent back as it was, in whatever order its fields stand', () => {
    expect(after(() => ({}))).toEqual([]);
    const turned = (value: object) => Object.fromEntries(Object.entries(value).reverse());
    expect(after((body) => ({ rules: turned(body.rules) as never, spots: body.spots.map(turned) as never }))).toEqual([]);
  });

  it('is nothing where only the class differs: bodies arrive as instances, studies are read as plain objects', () => {
    expect(after((body) => ({ rules: Object.assign(new HouseRulesBody(), body.rules) }))).toEqual([]);
  });

  it('names what is one thing by what it is called', () => {
    const rule = { levels: [{ factor: 'Pad', level: 'P6' }], reason: 'none left' };
    expect(after(() => ({ title: 'Other' }))).toEqual(['title']);
    expect(after(() => ({ impossible: [rule] }))).toEqual(['combinations that cannot be had']);
    expect(after((body) => ({ plan: { ...body.plan, cureMin: 30 } }))).toEqual(['plan']);
    expect(after((body) => ({ rules: { ...body.rules, practicalK: 2 }, question: 'Why?' }))).toEqual(['question', 'house rules']);
  });

  it('names parts, spots and locks one by one, what came, what went and what differs', () => {
    const [first, second] = studyBody().spots;
    expect(after(() => ({ spots: [{ ...first!, limitC: 70 }, spot('tc9')] }))).toEqual([
      `spot ${first!.name}`,
      'spot Spot tc9 added',
      `spot ${second!.name} removed`,
    ]);
    const lock = { name: 'Fan duty', value: '60', unit: '%', tolerance: null, channel: '', overrides: [] };
    expect(after((body) => ({ locks: [...body.locks, lock] }))).toEqual(['lock Fan duty added']);
    expect(after((body) => ({ subjects: body.subjects.map((subject) => ({ ...subject, details: 'No. 4' })) }))).toEqual([
      `part ${studyBody().subjects[0]!.name}`,
    ]);
  });
});
