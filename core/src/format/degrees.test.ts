import * as fc from 'fast-check';
import { expect, it } from 'vitest';
import {
  ladderSteps,
  lineUp,
  inDegrees,
  judgePair,
  namesWithDegrees,
  rankLineUp,
  shownStep,
  shownTemperature,
  toCelsius,
  verdictSentence,
  type JudgedRun,
} from '../index.ts';
import { rules, run, spots } from '@red-ember/testing/judged';

it.each([
  ['61.3 ± 0.8 K', '110.3 ± 1.4 °F'],
  ['−9.1 ± 1.6 K', '−16.4 ± 2.9 °F'],
  ['+4.1 ± 1.5 K', '+7.4 ± 2.7 °F'],
  ['56.3 ± 0.8 °C', '133.3 ± 1.4 °F'],
  ['a band of 20 to 25 °C', 'a band of 68 to 77 °F'],
  ['room 22.0 to 22.9 °C, same sensors', 'room 71.6 to 73.2 °F, same sensors'],
  ['limit 95 °C · general figure', 'limit 203 °F · general figure'],
  ['0.08 K per minute', '0.14 °F per minute'],
  ['40.1, 40.9, 41.2 °C', '104.2, 105.6, 106.2 °F'],
  ['−40 °C', '−40 °F'],
  ['by graphics chip 51.5 against 54.7 K.', 'by graphics chip 92.7 against 98.5 °F.'],
  ['0.412 K/W and 2.4 W/K stay', '0.412 K/W and 2.4 W/K stay'],
  ['paste K leads', 'paste K leads'],
  ['0.25 ± under 0.01 K', '0.45 ± under 0.02 °F'],
])('%s is %s', (text, shown) => {
  expect(inDegrees(text, 'F')).toBe(shown);
  expect(inDegrees(text, 'C')).toBe(text);
});

it('shows what the exact conversion says, there and back', () => {
  fc.assert(
    fc.property(fc.double({ min: -60, max: 200, noNaN: true }), (celsius) => {
      expect(toCelsius(shownTemperature(celsius, 'F'), 'F')).toBeCloseTo(celsius, 9);
      expect(shownTemperature(celsius + 5, 'F') - shownTemperature(celsius, 'F')).toBeCloseTo(shownStep(5, 'F'), 9);
    }),
  );
});

it('takes only names for names, the longest first, also at the head of a sentence', () => {
  expect(namesWithDegrees(['lid', '60 °C', 'grease 705 K', 'room at 22 °C', 'grease 705 K'])).toEqual([
    'Room at 22 °C',
    'room at 22 °C',
    'Grease 705 K',
    'grease 705 K',
  ]);
  expect(namesWithDegrees(['0.4 K/W class'])).toEqual([]);
  expect(inDegrees('Grease 705 K is cooler by 2.0 K than pad 705 K', 'F', namesWithDegrees(['grease 705 K', 'pad 705 K']))).toBe(
    'Grease 705 K is cooler by 3.6 °F than pad 705 K',
  );
});

/** Every text in what was made, wherever it lies. */
function texts(value: unknown): string[] {
  if (typeof value === 'string') return [value];
  return typeof value === 'object' && value !== null ? Object.values(value).flatMap(texts) : [];
}
const NUMBERS = /[+−-]?\d+(?:\.\d+)?/g;
const numbers = (text: string) => [...text.matchAll(NUMBERS)].map(([digits]) => ({ value: Number(digits.replace('−', '-')), step: 10 ** -(digits.split('.')[1]?.length ?? 0) })); // prettier-ignore

it('shows every sentence of a judgement in °F and leads back from it, and leaves names as they were typed', () => {
  const names = { a: 'grease 705 K', b: 'pad 6 W/mK at 60 °C' };
  const named = [
    { ...spots[0]!, name: 'chip 90 °C class' },
    { ...spots[1]!, name: 'underside' },
  ];
  const judged = (tops: [number, number], change: Parameters<typeof run>[2] = {}, more: Partial<typeof rules> = {}) => {
    const runs = (at: number): JudgedRun[] => [0, 0.2].map((off) => run(at + off, at - 3, change));
    const sides = {
      a: { variantId: 'a', name: names.a, runs: runs(tops[0]) },
      b: { variantId: 'b', name: names.b, runs: runs(tops[1]) },
    };
    const judgement = judgePair({ ...sides, spots: named, rules: { ...rules, ...more }, history: {} });
    const of = lineUp([sides.a, sides.b], named, { ...rules, ...more }, {});
    const sentence = verdictSentence(judgement, named, null).map((segment) => segment.text);
    return [...texts(judgement), ...sentence, ...texts(rankLineUp(of, { spotId: 'top' })), ...texts(ladderSteps(of, ['a', 'b'], 'top'))];
  };
  const sentences = [
    ...judged([40, 36]),
    ...judged([40, 40.1]),
    ...judged([36, 40], { review: { power: { value: 9, u: 0.1, dof: 40 } } }, { basis: 'as-found' }),
    ...judged([36, 40], { review: { room: { meanC: 25, minC: 21, maxC: 27, driftK: 2 } } }),
  ];
  const kept = namesWithDegrees([...Object.values(names), ...named.map((spot) => spot.name)]);
  const without = (text: string) => kept.reduce((rest, name) => rest.split(name).join('§'), text);
  let converted = 0;
  // A unit by itself is no sentence.
  for (const sentence of new Set(sentences.filter((text) => text.includes(' ')))) {
    const shown = inDegrees(sentence, 'F', kept);
    for (const name of kept) expect(shown.split(name).length, shown).toBe(sentence.split(name).length);
    const [before, after] = [without(sentence), without(shown)];
    expect(after).not.toMatch(/ (K|°C)(?![\w/])/);
    expect(after.replace(NUMBERS, '').replace(/°F/g, '')).toBe(before.replace(NUMBERS, '').replace(/°C|\bK(?!\/)/g, ''));
    const [stored, read] = [numbers(before), numbers(after)];
    stored.forEach(({ value, step }, i) => {
      const { value: seen } = read[i]!;
      const back = [seen, (seen - 32) / 1.8, seen / 1.8];
      expect(Math.min(...back.map((one) => Math.abs(one - value))), `${before} → ${after}`).toBeLessThanOrEqual(step / 2);
      if (seen !== value) converted++;
    });
  }
  expect(converted).toBeGreaterThan(20);
});
