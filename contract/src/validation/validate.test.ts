import { describe, expect, it } from 'vitest';
import * as fc from 'fast-check';
import { blankStudy } from '@red-ember/study';
import { check, parseRigMessage, StartRunBody, StudyBody } from '../index.ts';

describe('check', () => {
  it('accepts a blank study as it is', () => {
    expect(check(StudyBody, blankStudy('New')).ok).toBe(true);
  });
  it('grows the pointer down to the field and says one thing about it', () => {
    const body = blankStudy('New');
    body.recipe[1]!.capS = 10;
    body.recipe[2]!.durationS = Number.NaN;
    const result = check(StudyBody, body);
    expect(result.ok ? [] : result.problems).toEqual([
      { pointer: '/recipe/1/capS', sentence: 'The cap must be longer than the least length.' },
      { pointer: '/recipe/2/durationS', sentence: 'The length must be a number.' },
    ]);
  });
  it('refuses what no class could look at: too deep, too much, names that every object has', () => {
    const deep = JSON.parse(`{"title":${'{"a":'.repeat(100)}1${'}'.repeat(100)}}`) as object;
    const sentence = (data: unknown) => {
      const result = check(StudyBody, data);
      return result.ok ? null : result.problems[0]!.sentence;
    };
    expect(sentence(deep)).toContain('nested more than 40 deep');
    expect(sentence({ ...blankStudy('x'), locks: [[]] })).toBe('A list stands where one thing of a list is meant.');
    expect(sentence(JSON.parse('{"__proto__":{"title":1}}'))).toBe('“__proto__” is no name for a field.');
    expect(sentence({ ...blankStudy('x'), constructor: 1 })).toBe('“constructor” is no name for a field.');
    expect(sentence({ variants: Array.from({ length: 60_000 }, () => 1) })).toContain('more than 50000 things');
    const many = check(StudyBody, { ...blankStudy('x'), variants: Array.from({ length: 20_000 }, () => ({ id: 7 })) });
    expect(many.ok ? [] : many.problems.map(({ pointer }) => pointer)).toEqual(['/variants']);
  });
  it('leaves signs out that are not seen, and keeps line ends', () => {
    const result = check(StudyBody, { ...blankStudy('a\u0000b\u202ec\u001b[31m'), question: 'one\ntwo\u0007' });
    expect(result.ok && [result.value.title, result.value.question]).toEqual(['abc[31m', 'one\ntwo']);
  });
  it('takes a seed or none, and only known speeds', () => {
    expect(check(StartRunBody, { mountId: 'm', timeScale: 60, seed: null }).ok).toBe(true);
    expect(check(StartRunBody, { mountId: 'm', timeScale: 7, seed: null }).ok).toBe(false);
    expect(check(StartRunBody, { mountId: 'm', timeScale: 1, seed: 1.5 }).ok).toBe(false);
  });
  it('answers anything at all with problems, never with an error', () => {
    fc.assert(
      fc.property(fc.anything(), (data) => {
        const result = check(StudyBody, data);
        if (!result.ok) expect(result.problems.length).toBeGreaterThan(0);
      }),
    );
  });
});

describe('parseRigMessage', () => {
  it('never throws', () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.json()), (text) => {
        expect(typeof parseRigMessage(text).ok).toBe('boolean');
      }),
    );
  });
  it('takes what the link describes', () => {
    const message = { type: 'samples', runId: 'r', seq: 1, tMs: [1000, 2000], values: { tc1: [20.5, null] } };
    expect(parseRigMessage(JSON.stringify(message))).toEqual({ ok: true, message });
  });
});
