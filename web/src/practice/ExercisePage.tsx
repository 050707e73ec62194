import { capital, counted, fixed } from '@red-ember/core';
import { Link, useNavigate } from 'react-router';
import type { PracticeSheet } from '@red-ember/contract';
import { sentenceOf, useBeginPracticeMutation, usePracticeHintMutation, usePracticeSheetQuery } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { STATION_NAMES, STATIONS } from '../frame/stations.ts';
import { useStudy } from '../study/StudyFrame.tsx';
import { Button, ButtonLink } from '../ui/Button.tsx';
import { Notice, Waiting } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { HandIn } from './HandIn.tsx';
import { Truth } from './Truth.tsx';

function Hints({ sheet }: { sheet: PracticeSheet }) {
  const [take, { error, isLoading }] = usePracticeHintMutation();
  return (
    <>
      {sheet.hints.map((hint, i) => (
        <Note key={hint} lead={`Hint ${i + 1}.`}>
          {hint}
        </Note>
      ))}
      {error ? <Note tone="heat">{sentenceOf(error)}</Note> : null}
      {sheet.hintsLeft > 0 && !sheet.answer ? (
        <Button className="justify-self-start" disabled={isLoading} onClick={() => void take(sheet.studyId)}>
          {sheet.hints.length === 0 ? 'Take a hint' : 'Take another'}
        </Button>
      ) : null}
      {sheet.hints.length === 0 && sheet.hintsLeft > 0 && !sheet.answer ? (
        <Note>{counted(sheet.hintsLeft, 'hint')}; each one taken stands in your record.</Note>
      ) : null}
    </>
  );
}

function Again({ sheet }: { sheet: PracticeSheet }) {
  const [begin, { isLoading }] = useBeginPracticeMutation();
  const navigate = useNavigate();
  if (sheet.exercise === '') return null;
  const again = async () => {
    const answer = await begin({ exercise: sheet.exercise });
    if ('data' in answer && answer.data) void navigate(`/studies/${answer.data.studyId}/practice`);
  };
  return (
    <Button disabled={isLoading} onClick={() => void again()}>
      Begin anew with another seed
    </Button>
  );
}

/** What an exercise asks, its hints, where the answer is handed in, and the truth afterwards. */
export function ExercisePage() {
  const study = useStudy();
  const { data: sheet, error } = usePracticeSheetQuery(study.id);
  const at = (station: string) => `/studies/${study.id}/${station}`;
  return (
    <Sheet
      crumb={<Link to="/practice">Practice</Link>}
      windowTitle={`Practice, ${study.title}`}
      heading={study.title}
      actions={sheet?.answer ? <Again sheet={sheet} /> : null}
      margin={
        <>
          <MarginGroup title="Hints">{sheet ? <Hints sheet={sheet} /> : null}</MarginGroup>
          <MarginGroup title="This try">
            <Note>
              Seed {sheet?.seed ?? ''}. {sheet ? (sheet.runs === 0 ? 'Nothing run yet.' : `${counted(sheet.runs, 'run')} made.`) : ''}
            </Note>
            <Note>
              Everything is as in a study of your own, but on a simulated bench: up to 600 times as fast as the clock. It stands in no list
              but this one.
            </Note>
          </MarginGroup>
        </>
      }
    >
      {error ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
      {!sheet && !error ? <Waiting what="Opening the exercise" /> : null}
      {sheet ? (
        <>
          <Section title="What is asked">
            <p className="max-w-prose">{sheet.brief}</p>
            <p className="mt-3 max-w-prose">
              <strong className="font-semibold">
                {capital(sheet.question.b)} against {sheet.question.a}
              </strong>
              , at “{sheet.question.spot}”. {fixed(sheet.question.practicalK, 1)} K is what matters.
            </p>
            <p className="mt-4 flex flex-wrap gap-2">
              {STATIONS.filter((station) => ['plan', 'mount', 'run', 'read', 'judge'].includes(station)).map((station) => (
                <ButtonLink key={station} to={at(station)}>
                  {STATION_NAMES[station]}
                </ButtonLink>
              ))}
            </p>
          </Section>
          {sheet.answer ? (
            <Truth sheet={sheet} />
          ) : (
            <Section title="Hand in">
              <HandIn sheet={sheet} />
            </Section>
          )}
        </>
      ) : null}
    </Sheet>
  );
}
