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

/** The recipe with a pause without load after the present phase, and the present phase once more, whole, after the pause. */
export function withPause(recipe: readonly RecipePhase[], present: number): RecipePhase[] {
  const again = recipe[present]!;
  const name = again.name.endsWith(', again') ? again.name : `${again.name}, again`;
  return spliced(
    recipe,
    present + 1,
    { kind: 'pause', name: 'Pause', mode: 'fixed', durationS: PAUSE_S, capS: PAUSE_S, loadPercent: 0 },
    { ...again, name },
  );
}

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
