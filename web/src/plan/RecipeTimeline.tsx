import { duration } from '@red-ember/core';
import type { RecipePhaseBody } from '@red-ember/contract';

/** A run as a line of time: what is certain is filled, what may be added until settled is open. */
export function RecipeTimeline({ recipe }: { recipe: RecipePhaseBody[] }) {
  const known = recipe.filter((phase) => phase.durationS > 0);
  const most = (phase: RecipePhaseBody) => (phase.mode === 'fixed' ? phase.durationS : Math.max(phase.durationS, phase.capS));
  const total = known.reduce((sum, phase) => sum + most(phase), 0);
  if (!(total > 0)) return null;
  return (
    <ol aria-label="Time line of a run" className="flex border-b border-t border-ink">
      {known.map((phase, i) => {
        const share = (100 * most(phase)) / total;
        const least = (100 * phase.durationS) / most(phase);
        return (
          <li key={i} className="relative min-w-0 border-l border-rule py-2 first:border-l-0" style={{ width: `${share}%` }}>
            <span
              aria-hidden
              className={`absolute bottom-0 left-0 top-0 ${phase.loadPercent > 0 ? 'bg-ember/20' : 'bg-shade'}`}
              style={{ width: `${least}%` }}
            />
            {least < 100 ? (
              <span
                aria-hidden
                className="absolute bottom-0 right-0 top-0 border-y border-r border-dashed border-ember/60"
                style={{ left: `${least}%` }}
              />
            ) : null}
            <span className="relative block truncate px-2 font-semibold">{phase.name}</span>
            <span className="relative block truncate px-2 text-[0.83rem] text-soft">
              {phase.mode === 'fixed'
                ? duration(phase.durationS)
                : `${duration(phase.durationS)} to ${duration(phase.capS)}, until settled`}
              {phase.loadPercent > 0 ? ` · ${phase.loadPercent} %` : ''}
            </span>
          </li>
        );
      })}
    </ol>
  );
}
