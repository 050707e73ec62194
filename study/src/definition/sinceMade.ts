import type { StudyDefinition } from './study.ts';

/** What a study said when a run was started: what it says later does not change it. */
export interface MadeAs {
  variant: string;
  part: string;
  setup: string;
  levels: { factor: string; level: string }[];
  /** Of the spots, °C. */
  limits: { spotId: string; spot: string; limitC: number; throttleC: number | null; cutOutC: number }[];
}

/** What stood in a study for a variant and its spots at this moment. */
export function madeAs(study: StudyDefinition, variantId: string): MadeAs {
  const variant = study.variants.find((candidate) => candidate.id === variantId);
  return {
    variant: variant?.name ?? '',
    part: study.subjects.find((subject) => subject.id === variant?.subjectId)?.name ?? '',
    setup: variant?.setup ?? '',
    levels: (variant?.levels ?? []).map(({ factor, level }) => ({ factor, level })),
    limits: study.spots.map(({ id, name, limitC, throttleC, cutOutC }) => ({ spotId: id, spot: name, limitC, throttleC, cutOutC })),
  };
}

/**
 * What a study says otherwise now than when a run was started, a sentence each. Names are names: what is called otherwise is the same.
 * A limit that was looked up later is held against every run alike, and that has to be said.
 *
 * @param made as the run keeps it; null for one from before this was kept, of which nothing can be said
 */
export function sinceMade(made: MadeAs | null, study: StudyDefinition, variantId: string): string[] {
  if (made === null) return [];
  const now = madeAs(study, variantId);
  const levels = made.levels.flatMap(({ factor, level }) => {
    const at = now.levels.find((choice) => choice.factor === factor)?.level;
    return at === undefined || at === level ? [] : [`${factor} was called ${level} then, ${at} now.`];
  });
  const limits = made.limits.flatMap((then) => {
    const spot = now.limits.find((candidate) => candidate.spotId === then.spotId);
    if (!spot) return [];
    const moved = (what: string, from: number | null, to: number | null) =>
      from === to
        ? []
        : [
            `${what} of ${spot.spot} was ${from === null ? 'unknown' : `${from} °C`} then, ${to === null ? 'unknown' : `${to} °C`} now: runs are held against what stands now.`,
          ];
    return [...moved('The limit', then.limitC, spot.limitC), ...moved('The throttling point', then.throttleC, spot.throttleC)];
  });
  return [
    ...(made.variant === now.variant ? [] : [`It was called ${made.variant} then.`]),
    ...(made.part === now.part ? [] : [`Its part was called ${made.part} then.`]),
    ...(made.setup === now.setup || made.setup === '' ? [] : [`It was run on the set-up ${made.setup}.`]),
    ...levels,
    ...limits,
  ];
}
