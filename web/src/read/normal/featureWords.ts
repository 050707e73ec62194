import { fixed, type FeatureKey, type Normal } from '@red-ember/core';

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

/** A signature as rows of a table, in words. */
export function rowsOfNormals(normals: readonly (Normal & { limit: number })[], nameOf: (id: string) => string): NormalRow[] {
  const has = (key: FeatureKey) => normals.some((normal) => normal.key === key);
  const wordsOf = (key: Exclude<FeatureKey, 'turns'>): Words => {
    if (key === 'speed') return has('duty') ? { label: 'Speed for each percent of duty', unit: 'rpm', digits: 1 } : { label: 'Speed under load', unit: 'rpm', digits: 0 }; // prettier-ignore
    if (key === 'perWatt') return has('power') ? { label: 'Rise of the load, each watt', unit: 'K/W', digits: 3 } : { label: 'Rise of the load', unit: 'K', digits: 1 }; // prettier-ignore
    return WORDS[key];
  };
  return normals.flatMap(({ key, id, mean, limit, runs }): NormalRow[] => {
    if (key === 'turns') return [];
    const { label, unit, digits, times = 1 } = wordsOf(key);
    const of = id === '' ? (key === 'roomRise' ? 'Room' : key === 'power' ? 'Part' : 'Fan') : nameOf(id);
    return [{ of, label, normal: `${fixed(times * mean, digits)} ${unit}`, within: `± ${fixed(times * limit, digits)}`, runs }];
  });
}
