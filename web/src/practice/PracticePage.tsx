import { counted } from '@red-ember/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { PracticeExercise } from '@red-ember/contract';
import { familyOf } from '@red-ember/study';
import { sentenceOf, useBeginPracticeMutation, usePracticeQuery, useRigsQuery, useShelfQuery } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { Button } from '../ui/Button.tsx';
import { Notice, Waiting } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { Attempts } from './Attempts.tsx';
import { LEVELS } from './words.ts';

/** Begins an exercise and opens its sheet. */
function useBegin() {
  const [begin, { isLoading, error }] = useBeginPracticeMutation();
  const navigate = useNavigate();
  const start = async (body: Parameters<typeof begin>[0]) => {
    const answer = await begin(body);
    if ('data' in answer && answer.data) void navigate(`/studies/${answer.data.studyId}/practice`);
  };
  return { start, isLoading, error };
}

function Exercise({ exercise, tries, busy, onBegin }: { exercise: PracticeExercise; tries: number; busy: boolean; onBegin: () => void }) {
  return (
    <li className="grid items-start gap-x-6 gap-y-2 border-t border-rule py-4 md:grid-cols-[minmax(0,1fr)_auto]">
      <div>
        <h3 className="text-[1.07rem] font-semibold leading-snug">{exercise.title}</h3>
        <p className="mt-1 max-w-prose">{exercise.brief}</p>
        <p className="mt-1 text-[0.87rem] text-soft">
          {familyOf(exercise.family).name}
          {tries > 0 ? `, tried ${tries === 1 ? 'once' : `${tries} times`}` : ''}
        </p>
      </div>
      <Button disabled={busy} aria-label={`Begin ${exercise.title}`} onClick={onBegin}>
        {tries > 0 ? 'Begin anew' : 'Begin'}
      </Button>
    </li>
  );
}

/** One's own bench, spoilt by a seed. */
function OfOnesOwn({ busy, onBegin }: { busy: boolean; onBegin: (studyId: string) => void }) {
  const { data: studies } = useShelfQuery({ trash: false });
  const [chosen, setChosen] = useState('');
  const fit = (studies ?? []).filter(({ family }) => family !== 'regulator');
  if (fit.length === 0) return null;
  return (
    <Section title="Out of a study of your own">
      <p className="mb-3 max-w-prose">
        Its question on a simulated bench that a seed spoils, or leaves alone. The study itself stays as it is. It needs two variants that
        are set up on a simulated bench.
      </p>
      <div className="flex flex-wrap items-end gap-3">
        <div className="min-w-64 flex-1">
          <label htmlFor="practice-study" className="mb-1 block text-[0.87rem] text-soft">
            Study
          </label>
          <select id="practice-study" className="field-box" value={chosen} onChange={(event) => setChosen(event.target.value)}>
            <option value="">choose one</option>
            {fit.map(({ id, title }) => (
              <option key={id} value={id}>
                {title}
              </option>
            ))}
          </select>
        </div>
        <Button disabled={busy || chosen === ''} onClick={() => onBegin(chosen)}>
          Spoil its bench
        </Button>
      </div>
    </Section>
  );
}

/** Thirteen exercises with something wrong that nobody is told of, and a record of one's tries. */
export function PracticePage() {
  const { data, error, isLoading, refetch } = usePracticeQuery();
  const { data: rigs } = useRigsQuery(undefined, { pollingInterval: 4000 });
  const { start, isLoading: beginning, error: refused } = useBegin();
  const exercises = data?.exercises ?? [];
  const attempts = data?.attempts ?? [];
  const simulated = (rigs ?? []).filter((rig) => rig.connected && rig.simulated);
  const handed = attempts.filter(({ marks }) => marks !== null);
  const right = handed.filter(({ marks }) => marks!.call === 'right').length;
  const missed = handed.filter(({ marks }) => marks!.missed.length > 0).length;
  return (
    <Sheet
      crumb="Practice"
      windowTitle="Practice"
      heading="Learn on a bench where nothing can break"
      margin={
        <>
          <MarginGroup title="How it goes">
            <Note>
              Something may be wrong with the bench, or nothing. Plan, mount by the card, run in time-lapse, read and judge as ever; then
              hand in what you found.
            </Note>
            <Note>Then what was true is opened, and where it could have been seen. Hints are there, and counted.</Note>
            <Note>Cautions are part of it: a step of the card that is left out counts as a fault.</Note>
          </MarginGroup>
          <MarginGroup title="Your record">
            {handed.length === 0 ? (
              <Note>No exercise handed in yet.</Note>
            ) : (
              <Note tone={right === handed.length ? 'cool' : 'plain'} lead={`${right} of ${handed.length} called right.`}>
                {missed === 0 ? 'Nothing that was wrong was missed.' : `In ${missed} what was wrong was missed.`}
              </Note>
            )}
          </MarginGroup>
          {rigs && simulated.length === 0 ? (
            <MarginGroup title="The bench">
              <Note tone="caution" lead="No simulated bench is connected.">
                Exercises run on one. Start it with npm run demo, or beside a server that runs.
              </Note>
            </MarginGroup>
          ) : null}
        </>
      }
    >
      {isLoading ? <Waiting what="Fetching the exercises" /> : null}
      {error ? (
        <Notice tone="error" action={<Button onClick={() => void refetch()}>Try again</Button>}>
          {sentenceOf(error)}
        </Notice>
      ) : null}
      {refused ? <Notice tone="error">{sentenceOf(refused)}</Notice> : null}
      <p className="mb-6 max-w-prose text-soft">
        {data
          ? `${counted(exercises.length, 'exercise')}, drawn by seed: what is compared, and where something is wrong, changes from try to try.`
          : ''}{' '}
        None of them stands among your studies, lends its scatter to one, or counts among your predictions.
      </p>
      {attempts.length > 0 ? (
        <Section title="Your tries">
          <Attempts attempts={attempts} exercises={exercises} onAgain={({ exercise, seed }) => void start({ exercise, seed })} />
        </Section>
      ) : null}
      {([1, 2, 3] as const).map((level) => (
        <Section key={level} title={LEVELS[level]}>
          <ul>
            {exercises
              .filter((exercise) => exercise.level === level)
              .map((exercise) => (
                <Exercise
                  key={exercise.key}
                  exercise={exercise}
                  tries={attempts.filter((attempt) => attempt.exercise === exercise.key).length}
                  busy={beginning}
                  onBegin={() => void start({ exercise: exercise.key })}
                />
              ))}
          </ul>
        </Section>
      ))}
      <OfOnesOwn busy={beginning} onBegin={(studyId) => void start({ studyId })} />
    </Sheet>
  );
}
