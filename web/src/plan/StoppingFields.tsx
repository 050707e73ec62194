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

/** When a plan is decided: set before the runs, since a rule chosen after looking pays for nothing. */
export function StoppingFields({
  body,
  started,
  setPlan,
}: {
  body: StudyBody;
  started: boolean;
  setPlan: (part: Partial<PlanBody>) => void;
}) {
  const { stopRule = 'none', mostASide = USUAL_MOST_A_SIDE, fromASide = FIRST_LOOK } = body.plan;
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
