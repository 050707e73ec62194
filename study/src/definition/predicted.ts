import type { PredictionEntry } from './ask.ts';
import type { StudyDefinition, StudyRecord } from './study.ts';

/**
 * Whether predictions would be changed that are fixed. The first run of a study fixes all that were written by then; of a variant that has
 * no runs yet more may be written afterwards, and changed until it has.
 */
export function fixedPredictionsChange(before: StudyRecord, after: StudyDefinition): boolean {
  const since = before.predictionLockedAt;
  if (since === null) return false;
  const open = ({ id, variantId }: PredictionEntry) => {
    const written = before.predictionStamps[id];
    return variantId != null && !before.variantsWithRuns.includes(variantId) && (written === undefined || written > since);
  };
  const fixed = (study: StudyDefinition) => JSON.stringify(study.predictions.filter((prediction) => !open(prediction)));
  return fixed(before) !== fixed(after);
}
