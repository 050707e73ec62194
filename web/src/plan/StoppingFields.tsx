import { FIRST_LOOK, fixed, lookedAt } from '@red-ember/core';
import type { PlanBody, StudyBody } from '@red-ember/contract';
import { FEWEST_A_SIDE, MOST_A_SIDE, USUAL_MOST_A_SIDE, type StopRule } from '@red-ember/study';
import { ChoiceField, NumberField } from '../ui/Field.tsx';
import { Note } from '../frame/Margin.tsx';

const CHOICES: { value: StopRule; label: string }[] = [
  { value: 'none', label: 'after all planned runs' },
  { value: 'pocock', label: 'as soon as a look tells, one bound at each' },
  { value: 'obrien-fleming', label: 'as soon as a look tells, strict at first' },
];

const FIRST = [
  { value: '2', label: 'with two a side' },
  { value: '1', label: 'with one a side' },
];

/** What every look asks of an interval, in words; empty where a number is half typed. */
function looksWords(rule: StopRule, fromASide: number, mostASide: number, coverage: number): string {
  const sound = coverage > 0 && coverage < 1 && Number.isInteger(mostASide) && mostASide >= FEWEST_A_SIDE && mostASide <= MOST_A_SIDE;
  if (rule === 'none' || !sound) return '';
  const mounts = Array.from({ length: mostASide - fromASide + 1 }, (_, i) => fromASide + i);
  const stopping = { rule, mostASide, fromASide };
  const levels = mounts.map((n) => `${fixed(100 * lookedAt({ stopping, coverage }, n)!.coverage, 1)} %`);
  const at =
    new Set(levels).size === 1
      ? `${levels[0]} at ${mounts.length === 1 ? `${mounts[0]} a side` : `each look from ${fromASide} to ${mostASide} a side`}`
      : mounts.map((n, i) => `${n} a side ${levels[i]}`).join(', ');
  const one = fromASide < FIRST_LOOK ? ' One a side is called only where the bench knows how far its mounts lie apart.' : '';
  return `Intervals are held at ${at}, so that all looks together are wrong no more often than one.${one}`;
}

/** So many degrees of freedom tell how far mounts lie apart well enough that one a side may decide; the simulated benches had twelve. Our own figure. */
const KNOWS_DOF = 8;

interface Proposal {
  plan: Required<Pick<PlanBody, 'stopRule' | 'mostASide' | 'fromASide'>>;
  words: string;
}

/** The rule that simulations found to take the fewest hours at a bench that knows so much (docs/proof.md). */
function proposalFor(known: { sd: number; dof: number } | null): Proposal {
  if (known && known.dof >= KNOWS_DOF)
    return {
      plan: { stopRule: 'pocock', fromASide: 1, mostASide: 3 },
      words: `This bench knows that mounts lie ${fixed(known.sd, 2)} K apart. Looking from one a side on, up to three, took two fifths of the bench hours of three a side in simulation; about one in seven of what those decide stayed open.`,
    };
  return {
    plan: { stopRule: 'obrien-fleming', fromASide: 2, mostASide: 4 },
    words: `This bench has shown too little of how far mounts lie apart. Looking from two a side on, up to four, took three fifths of the bench hours of three a side in simulation; about one in nine of what those decide stayed open.`,
  };
}

/** When a plan is decided: set before the runs, since a rule chosen after looking pays for nothing. */
export function StoppingFields({
  body,
  started,
  known,
  setPlan,
}: {
  body: StudyBody;
  started: boolean;
  /** How far mounts lie apart, K, as the bench has shown it; null where it has not. */
  known: { sd: number; dof: number } | null;
  setPlan: (part: Partial<PlanBody>) => void;
}) {
  const { stopRule = 'none', mostASide = USUAL_MOST_A_SIDE, fromASide = FIRST_LOOK } = body.plan;
  const { plan: proposed, words: why } = proposalFor(known);
  const asProposed = proposed.stopRule === stopRule && proposed.mostASide === mostASide && proposed.fromASide === fromASide;
  const words = looksWords(stopRule, fromASide, mostASide, body.rules.coverage);
  return (
    <div className="mt-4 grid gap-x-6 gap-y-2 sm:grid-cols-[2fr_1.1fr_1fr]">
      <ChoiceField
        label="It is decided"
        pointer="/plan/stopRule"
        value={stopRule}
        options={CHOICES}
        onChange={(chosen) => setPlan({ stopRule: chosen as StopRule, mostASide })}
      />
      {stopRule === 'none' ? null : (
        <>
          <ChoiceField
            label="First looked at"
            pointer="/plan/fromASide"
            value={String(fromASide)}
            options={FIRST}
            onChange={(from) => setPlan({ fromASide: Number(from) })}
          />
          <NumberField
            label="Looked at up to"
            unit="mounts a side"
            pointer="/plan/mostASide"
            value={mostASide}
            onChange={(most) => setPlan({ mostASide: most })}
          />
        </>
      )}
      {started || asProposed ? null : (
        <div className="sm:col-span-3">
          <Note>
            {why}{' '}
            <button type="button" className="underline hover:text-soft" onClick={() => setPlan(proposed)}>
              Plan it so
            </button>
          </Note>
        </div>
      )}
      {words || (started && stopRule !== 'none') ? (
        <div className="sm:col-span-3">
          <Note tone={started ? 'caution' : 'plain'}>
            {words} {started ? 'This study has runs already: a rule that is chosen after looking at them pays for nothing.' : ''}
          </Note>
        </div>
      ) : null}
    </div>
  );
}
