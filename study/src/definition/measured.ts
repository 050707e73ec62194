import type { StudyDefinition, StudyRecord } from './study.ts';

/** Something of a variant that was measured and would be something else afterwards. */
export interface MeasuredChange {
  variantId: string;
  /** Index of the variant in what is to be saved. */
  index: number;
  field: 'levels' | 'subjectId' | 'setup';
  /** What would become of its runs, in a sentence. */
  sentence: string;
}

/**
 * What runs that are there would become by a change of their study. A run belongs to its variant; where that changes its level, its part
 * or its set-up, what was measured with paste K would pass for paste W. A factor that is called otherwise changes nothing.
 */
export function measuredChanges(before: StudyRecord, after: StudyDefinition): MeasuredChange[] {
  const factorNow = (name: string, i: number) =>
    after.factors.some((factor) => factor.name === name) ? name : (after.factors[i]?.name ?? name);
  const partOf = (study: StudyDefinition, id: string) => study.subjects.find((subject) => subject.id === id)?.name ?? id;
  return before.variants
    .filter(({ id }) => before.variantsWithRuns.includes(id))
    .flatMap((was): MeasuredChange[] => {
      const index = after.variants.findIndex(({ id }) => id === was.id);
      const now = after.variants[index];
      if (!now) return [];
      const change = (field: MeasuredChange['field'], what: string, from: string, to: string): MeasuredChange => ({
        variantId: was.id,
        index,
        field,
        sentence: `${was.name} has runs with ${what}${from}. They would become runs with ${what}${to}.`,
      });
      const levels = before.factors.flatMap(({ name }, i) => {
        const [from, to] = [was.levels?.find(({ factor }) => factor === name)?.level, now.levels?.find(({ factor }) => factor === factorNow(name, i))?.level]; // prettier-ignore
        return from !== undefined && to !== undefined && from !== to ? [change('levels', `${name} `, from, to)] : [];
      });
      return [
        ...levels,
        ...(was.subjectId === now.subjectId ? [] : [change('subjectId', '', partOf(before, was.subjectId), partOf(after, now.subjectId))]),
        ...(was.setup === now.setup || was.setup === '' ? [] : [change('setup', 'the set-up ', was.setup, now.setup || 'none')]),
      ];
    });
}
