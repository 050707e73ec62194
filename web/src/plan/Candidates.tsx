import { useMemo, useState } from 'react';
import { countCombinations, counted, fewestForMainEffects, fixed, fractionOf } from '@red-ember/core';
import { MOST_VARIANTS } from '@red-ember/contract';
import { levelsOf } from '@red-ember/study';
import { Button } from '../ui/Button.tsx';
import { NumberField, TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import type { StudyDraft } from '../study/useStudyDraft.ts';
import { candidatesOf, shownBy, soundFactors, withCandidates, type Candidate } from './edits.ts';

/** A list of more is gone through by its filter. */
const MOST_SHOWN = 200;

const SCHOOLS = [
  ['ladder', 'One change at a time'],
  ['full', 'All combinations'],
] as const;

/** How well chosen combinations and the variants that are there tell the factors apart, in a sentence. */
function apartWords(efficiency: number, runs: number): string {
  if (efficiency === 0) return 'they cannot tell every factor by itself: choose more, or others.';
  if (efficiency > 0.999) return 'every factor can be told by itself, as well as with all combinations.';
  return `every factor can be told by itself, ${fixed(100 * efficiency, 0)} % as well as ${runs} runs can at best.`;
}

/** Combinations by their names, those that are variants or cannot be told so. */
function CandidateList({
  found,
  isPicked,
  onPick,
}: {
  found: readonly Candidate[];
  isPicked: (entry: Candidate) => boolean;
  onPick: (entry: Candidate, on: boolean) => void;
}) {
  return (
    <>
      <ol className="grid max-h-[26rem] gap-x-6 overflow-y-auto sm:grid-cols-2" tabIndex={0} aria-label="Combinations">
        {found.slice(0, MOST_SHOWN).map((entry, i) => (
          <li key={`${entry.name}/${i}`} className="border-b border-rule py-1">
            <label className={`flex items-baseline gap-2 ${entry.struck ? 'text-soft' : ''}`}>
              <input
                type="checkbox"
                disabled={entry.struck !== null || entry.variant !== null}
                checked={entry.variant !== null || (entry.struck === null && isPicked(entry))}
                onChange={(event) => onPick(entry, event.target.checked)}
              />
              <span>
                <span className={entry.struck ? 'line-through' : ''}>{entry.name}</span>
                <span className="ml-2 text-[0.87rem] text-soft">
                  {entry.struck ??
                    (entry.variant ? (entry.variant.name === entry.name ? 'is a variant' : `is “${entry.variant.name}”`) : '')}
                </span>
              </span>
            </label>
          </li>
        ))}
      </ol>
      {found.length > MOST_SHOWN ? (
        <p className="mt-2 text-[0.93rem] text-soft">{found.length - MOST_SHOWN} more are not shown: type words that stand in them.</p>
      ) : null}
    </>
  );
}

type School = (typeof SCHOOLS)[number][0];

function SchoolChoice({ school, combinations, onChoose }: { school: School; combinations: number; onChoose: (school: School) => void }) {
  return (
    <div className="mb-3 flex" role="group" aria-label="How the factors are combined">
      {SCHOOLS.map(([value, label]) => (
        <button
          key={value}
          type="button"
          aria-pressed={school === value}
          className={`-ml-px border px-3 py-1 first:ml-0 ${school === value ? 'border-ink bg-ink text-paper' : 'border-stone'}`}
          onClick={() => onChoose(value)}
        >
          {value === 'full' ? `${label}, ${combinations}` : label}
        </button>
      ))}
    </div>
  );
}

function AllOrNone({ which, disabled, onPick }: { which: string; disabled: boolean; onPick: (on: boolean) => void }) {
  return (
    <>
      <Button look="quiet" disabled={disabled} onClick={() => onPick(true)}>
        All{which}
      </Button>
      <Button look="quiet" disabled={disabled} onClick={() => onPick(false)}>
        None{which}
      </Button>
    </>
  );
}

function TooMany({ by }: { by: number }) {
  if (by <= 0) return null;
  return (
    <span className="text-ember-text">
      {' '}
      A study holds up to {MOST_VARIANTS} variants: choose {by} fewer.
    </span>
  );
}

/** The variants that are combinations of the factors as they are now. */
const placed = ({ variants, factors }: StudyDraft['body']) =>
  variants
    .map((variant) => ({ levels: levelsOf(variant) }))
    .filter(({ levels }) => factors.every((factor) => factor.levels.includes(levels[factor.name] ?? '')));

/** Variants out of factors: one change at a time, or all combinations, or a fraction of them that keeps the factors apart. */
export function Candidates({ body, change }: Pick<StudyDraft, 'body' | 'change'>) {
  const [school, setSchool] = useState<School>(body.rules.ladder === 'full' ? 'full' : 'ladder');
  // By name; null where nothing was chosen yet: all of them then, or none where they are too many.
  const [picked, setPicked] = useState<ReadonlySet<string> | null>(null);
  const [filter, setFilter] = useState('');
  const sound = soundFactors(body.factors);
  const fewest = sound ? fewestForMainEffects(body.factors) : 0;
  const [howMany, setHowMany] = useState<number | null>(null);
  const made = useMemo(() => (sound ? candidatesOf(body, school) : null), [body, school, sound]);
  if (!made) return null;
  const room = MOST_VARIANTS - body.variants.length;
  const open = 'candidates' in made ? made.candidates.filter((entry) => !entry.struck && !entry.variant) : [];
  const isPicked = (entry: Candidate) => (picked === null ? open.length <= room : picked.has(entry.name));
  const chosen = open.filter(isPicked);
  const found = 'candidates' in made ? shownBy(made.candidates, filter) : [];
  const pick = (entries: readonly Candidate[], on: boolean) => {
    const names = new Set(chosen.map(({ name }) => name));
    for (const { name } of entries) {
      if (on) names.add(name);
      else names.delete(name);
    }
    setPicked(names);
  };
  const there = placed(body);
  const wanted = howMany ?? Math.min(open.length, Math.max(1, Math.min(room, 2 * fewest) - there.length));
  const takeFraction = () =>
    setPicked(new Set(fractionOf(body.factors, open, Math.min(wanted, room), there).chosen.map(({ name }) => name)));
  const opened = found.filter((entry) => !entry.struck && !entry.variant);
  const which = filter.trim() === '' ? '' : ' of these';
  return (
    <Section
      title="Variants of these factors"
      action={
        <Button
          look="strong"
          disabled={chosen.length === 0 || chosen.length > room}
          onClick={() => {
            change(withCandidates(body, chosen));
            // What was left out stays out.
            setPicked(new Set());
          }}
        >
          {chosen.length === 0 ? 'Nothing to add' : `Make ${chosen.length === 1 ? 'one variant' : `${chosen.length} variants`}`}
        </Button>
      }
    >
      <SchoolChoice
        school={school}
        combinations={countCombinations(body.factors)}
        onChoose={(value) => {
          setSchool(value);
          setPicked(null);
        }}
      />
      {'sentence' in made ? (
        <Notice tone="error">{made.sentence}</Notice>
      ) : (
        <>
          <div className="mb-2 flex flex-wrap items-end gap-x-4 gap-y-2">
            {open.length > 8 ? (
              <TextField
                className="w-56"
                label="Show those with"
                pointer=""
                placeholder="words, such as P12 two"
                value={filter}
                onChange={setFilter}
              />
            ) : null}
            <AllOrNone which={which} disabled={opened.length === 0} onPick={(on) => pick(opened, on)} />
            {school === 'full' && open.length > fewest ? (
              <span className="flex items-end gap-2">
                <NumberField
                  className="w-20"
                  label="A fraction of"
                  pointer=""
                  value={wanted}
                  onChange={(count) => setHowMany(Number.isFinite(count) ? Math.max(0, Math.round(count)) : null)}
                />
                <Button onClick={takeFraction}>Choose those that keep the factors apart</Button>
              </span>
            ) : null}
          </div>
          <p className="mb-2 text-[0.93rem] text-soft" role="status">
            {counted(chosen.length, 'combination')} of {made.candidates.length} chosen
            {there.length > 0 ? `, beside ${counted(there.length, 'variant')} that ${there.length === 1 ? 'is' : 'are'} there` : ''}
            {school === 'full' && chosen.length + there.length > 1
              ? `: ${apartWords(fractionOf(body.factors, chosen, chosen.length, there).efficiency, chosen.length + there.length)}`
              : '.'}
            <TooMany by={chosen.length - room} />
          </p>
          <CandidateList found={found} isPicked={isPicked} onPick={(entry, on) => pick([entry], on)} />
        </>
      )}
    </Section>
  );
}
