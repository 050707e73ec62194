import { clock, duration, WAITS_FOR, type RecipePhase } from '@red-ember/core';
import type { LiveSnapshot, Run } from '@red-ember/contract';

/** Where in the recipe the run is: past phases with their length, the present one with its clock, what is still to come. */
export function PhaseLine({ recipe, run, snapshot }: { recipe: RecipePhase[]; run: Run; snapshot: LiveSnapshot | null }) {
  const current = run.phases.length - 1;
  // On a phone the others have no room; between two phases, and before the first, there is still one.
  const alone = Math.max(0, current);
  return (
    <ol aria-label="Phases" className="flex border-b border-rule">
      {recipe.map((phase, i) => {
        const record = run.phases[i];
        const state = i < current || record?.endS != null ? 'past' : i === current ? 'now' : 'next';
        const most =
          phase.kind === 'pause'
            ? 'until you go on'
            : phase.mode === 'fixed'
              ? duration(phase.durationS)
              : `${WAITS_FOR[phase.mode]}, ${duration(phase.capS)} at most`;
        return (
          <li
            key={i}
            aria-current={state === 'now' ? 'step' : undefined}
            className={`min-w-0 border-l border-rule px-2 py-1.5 first:border-l-0 ${state === 'now' ? 'flex-[3] bg-shade font-semibold' : state === 'past' ? 'flex-1' : 'flex-1 text-soft'} ${i === alone ? '' : 'max-sm:hidden'}`}
          >
            <span className="block break-words">
              {phase.name}
              {i === alone ? (
                <span className="font-normal text-soft sm:hidden">
                  {' '}
                  · {i + 1} of {recipe.length}
                </span>
              ) : null}
            </span>
            <span className="block text-[0.87rem] font-normal">
              {state === 'past'
                ? clock((record!.endS ?? 0) - record!.startS)
                : state === 'now'
                  ? `${clock(snapshot?.phaseElapsedS ?? 0)} so far, ${most}`
                  : most}
            </span>
          </li>
        );
      })}
    </ol>
  );
}
