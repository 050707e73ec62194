import { studentCoverage } from '../distributions/studentT.ts';
import { FEATURES, featuresOf, type Feature, type FeatureKey, type SignatureRecord } from './features.ts';

/** What is normal of one feature, from clean runs. */
export interface Normal {
  key: FeatureKey;
  id: string;
  mean: number;
  /** Between runs, with what is assumed of any bench pooled in: two runs that agree by luck say little. */
  sd: number;
  dof: number;
  runs: number;
}

/** A feature that lies further from what is normal than its own scatter explains. */
export interface OffNormal {
  key: FeatureKey;
  id: string;
  value: number;
  normal: number;
  /** How far beyond its limit: 1 at the limit. */
  times: number;
}

/** With fewer clean runs nothing is known yet. */
export const LEAST_RUNS = 2;
/** What is assumed of the scatter weighs like so many runs. */
const ASSUMED_DOF = 10;
/** So many features are looked at in a run that one in a thousand is already often enough. */
const COVERAGE = 0.999;

/** What is normal, from runs that were meant to be equal and were clean; empty from fewer than two. */
export function signatureOf(records: readonly SignatureRecord[]): Normal[] {
  if (records.length < LEAST_RUNS) return [];
  const all = new Map<string, Feature[]>();
  for (const feature of records.flatMap(featuresOf)) {
    const name = `${feature.key} ${feature.id}`;
    all.set(name, [...(all.get(name) ?? []), feature]);
  }
  return [...all.values()].flatMap((same): Normal[] => {
    if (same.length < LEAST_RUNS) return [];
    const { key, id } = same[0]!;
    const mean = same.reduce((sum, { value }) => sum + value / same.length, 0);
    const { least, relative, floor = 0 }: { least: number; relative: boolean; floor?: number } = FEATURES[key];
    const assumed = Math.max(floor, relative ? least * Math.abs(mean) : least);
    const squares = same.reduce((sum, { value }) => sum + (value - mean) ** 2, 0);
    const dof = same.length - 1 + ASSUMED_DOF;
    return [{ key, id, mean, sd: Math.sqrt((squares + ASSUMED_DOF * assumed ** 2) / dof), dof, runs: same.length }];
  });
}

/** How far one more clean run may lie from what is normal, in the unit of the feature. */
export const limitOf = ({ sd, dof, runs }: Normal): number => studentCoverage(COVERAGE, dof) * sd * Math.sqrt(1 + 1 / runs);

/** What of a run departs from what is normal, the farthest first. */
export function offNormalOf(normals: readonly Normal[], record: SignatureRecord): OffNormal[] {
  return featuresOf(record)
    .flatMap(({ key, id, value }): OffNormal[] => {
      const normal = normals.find((candidate) => candidate.key === key && candidate.id === id);
      if (!normal) return [];
      const limit = limitOf(normal);
      const times = limit > 0 ? Math.abs(value - normal.mean) / limit : 0;
      return times > 1 ? [{ key, id, value, normal: normal.mean, times }] : [];
    })
    .sort((p, q) => q.times - p.times);
}
