import { fixed, type FeatureKey, type Normal } from '@red-ember/core';
import type { MovedNormal } from '@red-ember/contract';

interface Words {
  label: string;
  unit: string;
  digits: number;
  /** Shown as so many times the stored value. */
  times?: number;
}

/** What each feature is called; one that is only a yes or no is not shown as a figure. */
const WORDS: Record<Exclude<FeatureKey, 'turns' | 'speed' | 'perWatt'>, Words> = {
  duty: { label: 'Duty under load', unit: '%', digits: 0 },
  apart: { label: 'Under load over at rest, against the first fan', unit: '×', digits: 2 },
  idle: { label: 'Rise at rest', unit: 'K', digits: 1 },
  beside: { label: 'Rise against the other spots', unit: '×', digits: 3 },
  early: { label: 'Share of the ten-minute rise after one minute', unit: '%', digits: 0, times: 100 },
  third: { label: 'Until a third of the ten-minute rise', unit: 's', digits: 0 },
  noise: { label: 'Flicker from sample to sample', unit: 'K', digits: 3 },
  missing: { label: 'Samples that did not come', unit: '%', digits: 1, times: 100 },
  spikes: { label: 'Spikes', unit: 'an hour', digits: 1 },
  roomRise: { label: 'What the room rose by', unit: 'K', digits: 1 },
  power: { label: 'Power under load', unit: 'W', digits: 1 },
};

export interface NormalRow {
  /** Spot, fan, or what belongs to none. */
  of: string;
  label: string;
  /** With its unit. */
  normal: string;
  /** How far one more clean run may lie from it. */
  within: string;
  runs: number;
}

type Shown = Exclude<FeatureKey, 'turns'>;

/** What a feature is called beside the others that are known: speed is for each percent of duty where duty was recorded. */
function wordsIn(known: readonly { key: FeatureKey }[]): (key: Shown) => Words {
  const has = (key: FeatureKey) => known.some((other) => other.key === key);
  return (key) => {
    if (key === 'speed') return has('duty') ? { label: 'Speed for each percent of duty', unit: 'rpm', digits: 1 } : { label: 'Speed under load', unit: 'rpm', digits: 0 }; // prettier-ignore
    if (key === 'perWatt') return has('power') ? { label: 'Rise of the load, each watt', unit: 'K/W', digits: 3 } : { label: 'Rise of the load', unit: 'K', digits: 1 }; // prettier-ignore
    return WORDS[key];
  };
}

const ofWhat = (key: FeatureKey, id: string, nameOf: (id: string) => string): string =>
  id === '' ? (key === 'roomRise' ? 'Room' : key === 'power' ? 'Part' : 'Fan') : nameOf(id);

/** A signature as rows of a table, in words. */
export function rowsOfNormals(normals: readonly (Normal & { limit: number })[], nameOf: (id: string) => string): NormalRow[] {
  const wordsOf = wordsIn(normals);
  return normals.flatMap(({ key, id, mean, limit, runs }): NormalRow[] => {
    if (key === 'turns') return [];
    const { label, unit, digits, times = 1 } = wordsOf(key);
    const of = ofWhat(key, id, nameOf);
    return [{ of, label, normal: `${fixed(times * mean, digits)} ${unit}`, within: `± ${fixed(times * limit, digits)}`, runs }];
  });
}

/**
 * What became otherwise from one version to the next, a sentence each.
 *
 * @param known what is normal now: it says what was recorded
 */
export function movedWords(moved: readonly MovedNormal[], known: readonly { key: FeatureKey }[], nameOf: (id: string) => string): string[] {
  const wordsOf = wordsIn(known);
  return moved.map(({ key, of, from, to }) => {
    const who = ofWhat(key, of, nameOf);
    if (key === 'turns') return to > from ? `${who}: turns now.` : `${who}: shows no speed now.`;
    const { label, unit, digits, times = 1 } = wordsOf(key);
    return `${who}: ${label.charAt(0).toLowerCase()}${label.slice(1)} ${fixed(times * to, digits)} ${unit}, ${fixed(times * from, digits)} ${unit} before.`;
  });
}
