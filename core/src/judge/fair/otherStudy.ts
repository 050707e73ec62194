import type { Finding, HouseRuleKey, JudgedSide, Origin, Severity } from '../types.ts';

/** A spot as two studies can be held against each other by it. */
export interface MatchableSpot {
  id: string;
  name: string;
  componentClass: string;
  /** Channel of the rig or file that reads it. */
  channel: string;
}

const same = (p: string, q: string) => p.trim().toLowerCase() === q.trim().toLowerCase();

/**
 * Which spot of another study is which of this one: by name, else by being the only one of its class on the same channel.
 *
 * @returns this study's spot id by the other's; spots without a counterpart are missing
 */
export function matchSpots(own: readonly MatchableSpot[], other: readonly MatchableSpot[]): Record<string, string> {
  const matched: Record<string, string> = {};
  const free = () => own.filter((spot) => !Object.values(matched).includes(spot.id));
  for (const spot of other) {
    const named = free().find((candidate) => same(candidate.name, spot.name) && candidate.componentClass === spot.componentClass);
    if (named) matched[spot.id] = named.id;
  }
  for (const spot of other.filter((candidate) => !matched[candidate.id])) {
    const alike = (candidate: MatchableSpot) => candidate.componentClass === spot.componentClass && candidate.channel === spot.channel;
    const found = free().filter(alike);
    if (found.length === 1 && other.filter(alike).length === 1) matched[spot.id] = found[0]!.id;
  }
  return matched;
}

/** A side of another study with its spots called as this study calls them; what has no counterpart is left off. */
export function renamedSide(side: JudgedSide, names: Readonly<Record<string, string>>): JudgedSide {
  const rename = <T extends { spotId: string }>(spots: readonly T[]): T[] =>
    spots.flatMap((spot) => (names[spot.spotId] ? [{ ...spot, spotId: names[spot.spotId]! }] : []));
  return {
    ...side,
    runs: side.runs.map((run) => ({
      ...run,
      sensors: Object.fromEntries(Object.entries(run.sensors).flatMap(([id, sensor]) => (names[id] ? [[names[id], sensor]] : []))),
      overdue: run.overdue.map((entry) => ({ ...entry, spotId: entry.spotId && (names[entry.spotId] ?? null) })),
      review: {
        ...run.review,
        spots: rename(run.review.spots),
        loads: run.review.loads.map((load) => ({ ...load, spots: rename(load.spots) })),
      },
    })),
  };
}

/**
 * What a house rule that differs does to a comparison of two studies. Where figures are only read otherwise they are read anew by
 * this study's rule; where the bench itself was run otherwise nothing can be restated.
 */
const RULES: Record<HouseRuleKey, { name: string; severity: Severity; remedy: string }> = {
  basis: { name: 'reporting', severity: 'note', remedy: 'Both are read anew by this study’s rule.' },
  figure: { name: 'figure', severity: 'note', remedy: 'Both are read anew by this study’s rule.' },
  duration: { name: 'duration', severity: 'note', remedy: 'Fine where both were settled.' },
  paste: { name: 'paste', severity: 'weakens', remedy: 'Part of the difference may be the way of spreading.' },
  sensorOfRecord: { name: 'sensor of record', severity: 'weakens', remedy: 'Compare spots that one sensor read on both sides.' },
  fans: { name: 'fans', severity: 'blocks', remedy: 'Run one of them again with the fans as in the other.' },
  load: { name: 'load', severity: 'blocks', remedy: 'Run one of them again under the load of the other.' },
  place: { name: 'place', severity: 'blocks', remedy: 'Run one of them again in the place of the other.' },
  stress: { name: 'stress', severity: 'blocks', remedy: 'Run one of them again at the stress of the other.' },
};

/** What speaks against holding a side of another study against one of this, by its house rules and its part; nothing within a study. */
export function otherStudyFindings(a: Origin | undefined, b: Origin | undefined): Finding[] {
  if (!a || !b || a.studyId === b.studyId) return [];
  const make = (check: Finding['check'], severity: Severity, evidence: string, remedy: string): Finding => ({
    check,
    severity,
    evidence,
    remedy,
    runId: null,
    spotId: null,
  });
  const rules = (Object.keys(RULES) as HouseRuleKey[]).flatMap((key) => {
    const [here, there] = [a.rules[key], b.rules[key]];
    if (here.value === there.value) return [];
    const { name, severity, remedy } = RULES[key];
    return [make('house-rules', severity, `House rules differ, ${name}: ${here.words} here; ${there.words} there.`, remedy)];
  });
  if (a.part === b.part) return rules;
  return [
    ...rules,
    make(
      'one-change',
      'weakens',
      `Not the same piece, as it is written down: “${a.part}” here and “${b.part}” there.`,
      'Parts of one make differ too: put both on one piece.',
    ),
  ];
}
