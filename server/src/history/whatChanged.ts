import { isDeepStrictEqual } from 'node:util';
import type { Study, StudyBody } from '@red-ember/contract';

const PARTS: [keyof StudyBody, string][] = [
  ['title', 'title'],
  ['question', 'question'],
  ['family', 'family of part'],
  ['claims', 'claims'],
  ['predictions', 'predictions'],
  ['rules', 'house rules'],
  ['enclosure', 'where the part will work'],
  ['roomChannelId', 'room probe'],
  ['factors', 'factors'],
  ['impossible', 'combinations that cannot be had'],
  ['plan', 'plan'],
  ['parts', 'parts to fit'],
  ['steps', 'steps of mounting'],
  ['recipe', 'recipe'],
  ['variants', 'variants'],
  ['figures', 'figures of its own'],
  ['judging', 'loads and readers'],
];

/** As they would be sent: neither the class nor the order in which fields were written makes a difference. */
const sent = (value: unknown): unknown => JSON.parse(JSON.stringify(value ?? null));
const same = (a: unknown, b: unknown) => isDeepStrictEqual(sent(a), sent(b));

/** What differs between two versions of a study, in words. */
export function whatChanged(before: Study, after: StudyBody): string[] {
  const changed = PARTS.filter(([key]) => !same(before[key], after[key])).map(([, name]) => name);
  const named = <T extends { name: string }>(old: T[], now: T[], what: string, keyOf: (entry: T) => string) => {
    for (const entry of now) {
      const was = old.find((candidate) => keyOf(candidate) === keyOf(entry));
      if (!was) changed.push(`${what} ${entry.name} added`);
      else if (!same(was, entry)) changed.push(`${what} ${entry.name}`);
    }
    for (const entry of old) if (!now.some((candidate) => keyOf(candidate) === keyOf(entry))) changed.push(`${what} ${entry.name} removed`);
  };
  named(before.subjects, after.subjects, 'part', (subject) => subject.id);
  named(before.spots, after.spots, 'spot', (spot) => spot.id);
  named(before.locks, after.locks, 'lock', (lock) => lock.name);
  return changed;
}
