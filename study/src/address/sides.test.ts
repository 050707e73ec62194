import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { otherStudyOf, parseRestatement, parseSide, printRestatement, printSide, type RestatementName, type SideName } from './sides.ts';

const id = fc.stringMatching(/^[A-Za-z0-9-]{1,64}$/);
const name = fc.string({ minLength: 1, maxLength: 60, unit: 'grapheme' });
const side: fc.Arbitrary<SideName> = fc.oneof(
  id.map((value): SideName => ({ kind: 'variant', id: value })),
  id.map((value): SideName => ({ kind: 'run', id: value })),
  fc.tuple(name, name).map(([factor, level]): SideName => ({ kind: 'level', factor, level })),
  fc.tuple(id, id).map(([studyId, variantId]): SideName => ({ kind: 'elsewhere', studyId, variantId })),
);
const restatement: fc.Arbitrary<RestatementName> = fc.oneof(
  fc
    .tuple(fc.double({ min: 0.1, max: 5000, noNaN: true }), fc.double({ min: 0.1, max: 3, noNaN: true }))
    .map(([targetW, exponent]): RestatementName => ({ kind: 'power', targetW, exponent })),
  fc.double({ min: 0, max: 140, noNaN: true }).map((levelDb): RestatementName => ({ kind: 'noise', levelDb: levelDb + 0 })),
);

describe('names in addresses', () => {
  it('come back as they were printed, whatever factors and levels are called', () => {
    fc.assert(fc.property(side, (given) => void expect(parseSide(printSide(given))).toEqual(given)));
    fc.assert(fc.property(restatement, (given) => void expect(parseRestatement(printRestatement(given))).toEqual(given)));
    // Through the query of an address as well.
    fc.assert(
      fc.property(side, (given) => {
        const query = new URLSearchParams({ a: printSide(given) }).toString();
        expect(parseSide(new URLSearchParams(query).get('a')!)).toEqual(given);
      }),
    );
  });
  it('read what earlier versions wrote', () => {
    expect(parseSide('level:Fan duty=60 %')).toEqual({ kind: 'level', factor: 'Fan duty', level: '60 %' });
    expect(parseSide('study:s-1:v-2')).toEqual({ kind: 'elsewhere', studyId: 's-1', variantId: 'v-2' });
    expect(parseRestatement('power:200')).toEqual({ kind: 'power', targetW: 200, exponent: 1 });
    expect(otherStudyOf('study:s-1:v-2')).toBe('s-1');
    expect([otherStudyOf('v-2'), otherStudyOf(undefined)]).toEqual([null, null]);
  });
  it.each(['power:1e308:1e308', 'power:0:1', 'power::1', 'power:0x10:1', 'noise:-3', 'noise:Infinity', 'noise:', 'loud:33', ''])(
    'refuse %j with a sentence',
    (text) => {
      expect(() => parseRestatement(text)).toThrow(RangeError);
    },
  );
});
