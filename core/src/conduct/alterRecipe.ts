import { requirePositive } from '../errors.ts';
import type { RecipePhase } from './recipe.ts';

/** A phase that lasts until the tester goes on: eight hours are a day at the bench. */
const PAUSE_S = 28_800;

const spliced = (recipe: readonly RecipePhase[], at: number, ...put: RecipePhase[]): RecipePhase[] => [
  ...recipe.slice(0, at),
  ...put,
  ...recipe.slice(at),
];

/** The recipe with a phase after the present one, which is then over. */
export function withIntervention(recipe: readonly RecipePhase[], present: number, phase: RecipePhase): RecipePhase[] {
  return spliced(recipe, present + 1, phase);
}

/** What a phase is called that is done once more, after its name. */
export const AGAIN = ', again';

/** A wait without load after the present phase, and the present phase once more, whole, after it. */
function withWait(recipe: readonly RecipePhase[], present: number, name: string): RecipePhase[] {
  const again = recipe[present]!;
  return spliced(
    recipe,
    present + 1,
    { kind: 'pause', name, mode: 'fixed', durationS: PAUSE_S, capS: PAUSE_S, loadPercent: 0 },
    { ...again, name: again.name.endsWith(AGAIN) ? again.name : again.name + AGAIN },
  );
}

/** The recipe with a pause without load after the present phase, and the present phase once more, whole, after the pause. */
export const withPause = (recipe: readonly RecipePhase[], present: number) => withWait(recipe, present, 'Pause');

/** The same where the load went by itself: the run waits until somebody says go on. */
export const withInterruption = (recipe: readonly RecipePhase[], present: number) => withWait(recipe, present, 'Waiting, the load is off');

/** The recipe with the present phase longer: a fixed one by its length, one that waits by its cap. */
export function withMoreTime(recipe: readonly RecipePhase[], present: number, moreS: number): RecipePhase[] {
  requirePositive(moreS, 'moreS');
  return recipe.map((phase, i) => {
    if (i !== present) return phase;
    return phase.mode === 'fixed'
      ? { ...phase, durationS: phase.durationS + moreS, capS: phase.capS + moreS }
      : { ...phase, capS: phase.capS + moreS };
  });
}
