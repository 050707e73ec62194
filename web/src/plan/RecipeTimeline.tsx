import { useDrag } from '@use-gesture/react';
import { useRef, type KeyboardEvent } from 'react';
import { duration, WAITS_FOR } from '@red-ember/core';
import type { RecipePhaseBody } from '@red-ember/contract';

type Edge = 'durationS' | 'capS';

const MINUTE = 60;
const SHORTEST_S = 60;
const LONGEST_S = 28_800;
/** A phase that takes less of the line than this has no room for its words. */
const SHORT_PERCENT = 14;

const timesOf = (phase: RecipePhaseBody) => (phase.kind === 'sweep' ? Math.max(1, phase.steps ?? 1) : 1);
const mostOf = (phase: RecipePhaseBody) => (phase.mode === 'fixed' ? phase.durationS : Math.max(phase.durationS, phase.capS));

/** A length in whole minutes, within what a phase may last. */
function withEdge(phase: RecipePhaseBody, edge: Edge, seconds: number): Partial<RecipePhaseBody> {
  const whole = Math.min(LONGEST_S, Math.max(SHORTEST_S, Math.round(seconds / MINUTE) * MINUTE));
  if (phase.mode === 'fixed') return { durationS: whole, capS: whole };
  return edge === 'durationS' ? { durationS: Math.min(whole, phase.capS - MINUTE) } : { capS: Math.max(whole, phase.durationS + MINUTE) };
}

/**
 * A run as a line of time: what is certain is filled, what may be added until settled is open. Its edges are dragged, or moved by
 * the arrow keys, a minute at a time, five with Shift.
 */
export function RecipeTimeline({
  recipe,
  onChange,
}: {
  recipe: RecipePhaseBody[];
  onChange: (index: number, part: Partial<RecipePhaseBody>) => void;
}) {
  const line = useRef<HTMLOListElement>(null);
  const known = recipe.map((phase, index) => ({ phase, index })).filter(({ phase }) => phase.durationS > 0 && mostOf(phase) > 0);
  const total = known.reduce((sum, { phase }) => sum + timesOf(phase) * mostOf(phase), 0);
  const dragged = useDrag(
    ({ args: [index, edge], first, movement: [x], event, memo }) => {
      const phase = recipe[index as number]!;
      if (first) (event.currentTarget as HTMLElement | null)?.focus();
      // Held while dragging: the line must not grow under the pointer.
      const start = (memo as { fromS: number; secondsPerPx: number } | undefined) ?? {
        fromS: phase[edge as Edge],
        secondsPerPx: total / line.current!.getBoundingClientRect().width / timesOf(phase),
      };
      const part = withEdge(phase, edge as Edge, start.fromS + x * start.secondsPerPx);
      if (part[edge as Edge] !== phase[edge as Edge]) onChange(index as number, part);
      return start;
    },
    { pointer: { keys: false } },
  );
  if (!(total > 0)) return null;

  const handle = (phase: RecipePhaseBody, index: number, edge: Edge) => {
    const seconds = edge === 'durationS' ? phase.durationS : phase.capS;
    const what = edge === 'capS' ? 'at most' : phase.mode === 'fixed' ? 'lasts' : 'at least';
    return (
      <span
        role="slider"
        tabIndex={0}
        aria-label={`${phase.name} ${what}`}
        aria-valuemin={SHORTEST_S / MINUTE}
        aria-valuemax={LONGEST_S / MINUTE}
        aria-valuenow={Math.round(seconds / MINUTE)}
        aria-valuetext={duration(seconds)}
        className="absolute bottom-0 top-0 z-10 -mr-1.5 w-3 cursor-ew-resize touch-none before:absolute before:inset-y-0 before:left-[5px] before:w-[2px] before:bg-ink/30 hover:before:bg-ember focus-visible:before:bg-ember"
        style={{ right: `${edge === 'durationS' ? 100 - (100 * phase.durationS) / mostOf(phase) : 0}%` }}
        {...dragged(index, edge)}
        onKeyDown={(event: KeyboardEvent) => {
          const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key];
          if (!by) return;
          event.preventDefault();
          onChange(index, withEdge(phase, edge, seconds + by * (event.shiftKey ? 5 : 1) * MINUTE));
        }}
      />
    );
  };

  const shares = known.map(({ phase }) => (100 * timesOf(phase) * mostOf(phase)) / total);
  const wordsOf = (phase: RecipePhaseBody) => {
    const each = phase.kind === 'sweep' ? `${timesOf(phase)} × ` : '';
    const load = phase.kind === 'sweep' ? `${phase.loadPercent} to ${phase.toPercent ?? 0} %` : `${phase.loadPercent} %`;
    const lasts =
      phase.mode === 'fixed'
        ? duration(phase.durationS)
        : `${duration(phase.durationS)} to ${duration(phase.capS)}, ${WAITS_FOR[phase.mode]}`;
    return `${each}${lasts}${phase.loadPercent > 0 || phase.kind === 'sweep' ? ` · ${load}` : ''}`;
  };

  return (
    <>
      <ol ref={line} aria-label="Time line of a run" className="drawn flex border-b border-t border-ink">
        {known.map(({ phase, index }, k) => {
          const least = (100 * phase.durationS) / mostOf(phase);
          // What is too short for its words has its number here, and its words beneath; on a phone all of them.
          const words = shares[k]! < SHORT_PERCENT ? 'sr-only' : 'max-md:sr-only';
          return (
            <li key={index} className="relative min-w-0 border-l border-rule py-2 first:border-l-0" style={{ width: `${shares[k]}%` }}>
              <span
                aria-hidden
                className={`absolute bottom-0 left-0 top-0 ${phase.loadPercent > 0 || phase.kind === 'sweep' ? 'bg-ember/20' : 'bg-shade'}`}
                style={{ width: `${least}%` }}
              />
              {least < 100 ? (
                <span
                  aria-hidden
                  className="absolute bottom-0 right-0 top-0 border-y border-r border-dashed border-ember/60"
                  style={{ left: `${least}%` }}
                />
              ) : null}
              {(phase.marksMin ?? [])
                .filter((minute) => minute * MINUTE <= mostOf(phase))
                .map((minute) => (
                  <span
                    key={minute}
                    aria-hidden
                    className="absolute bottom-0 h-2 w-[2px] bg-ink"
                    style={{ left: `${(100 * minute * MINUTE) / mostOf(phase)}%` }}
                  />
                ))}
              <span className={`relative block break-words px-2 font-semibold ${words}`}>{phase.name}</span>
              <span className={`relative block px-2 text-[0.83rem] text-ink ${words}`}>{wordsOf(phase)}</span>
              <span aria-hidden className={`relative block text-center font-semibold ${shares[k]! < SHORT_PERCENT ? '' : 'md:hidden'}`}>
                {k + 1}
              </span>
              {handle(phase, index, 'durationS')}
              {phase.mode !== 'fixed' ? handle(phase, index, 'capS') : null}
            </li>
          );
        })}
      </ol>
      <p aria-hidden className="mt-1 flex flex-wrap gap-x-4 text-[0.83rem] text-soft">
        {known.map(({ phase, index }, k) => (
          <span key={index} className={shares[k]! < SHORT_PERCENT ? '' : 'md:hidden'}>
            <b className="font-semibold text-ink">{k + 1}</b> {phase.name}, {wordsOf(phase)}
          </span>
        ))}
      </p>
    </>
  );
}
