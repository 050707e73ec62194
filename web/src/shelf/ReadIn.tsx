import { counted } from '@red-ember/core';
import { useState } from 'react';
import { Link } from 'react-router';
import type { StudyReadIn } from '@red-ember/contract';
import { sentenceOf, useReadStudyInMutation } from '../data/api.ts';
import { Notice, Waiting } from '../ui/Notice.tsx';
import { dayOf } from '../ui/dates.ts';

/** What became of one study file. */
interface Came {
  name: string;
  in?: StudyReadIn;
  problem?: string;
}

/** Reads study files in, one after the other, and keeps what became of each. */
export function useReadIn() {
  const [came, setCame] = useState<Came[]>([]);
  const [reading, setReading] = useState<string | null>(null);
  const [read] = useReadStudyInMutation();
  const readIn = async (files: readonly File[]) => {
    for (const file of files) {
      setReading(file.name);
      const { data, error } = await read(file);
      setCame((before) => [...before, { name: file.name, ...(data ? { in: data } : { problem: sentenceOf(error) }) }]);
    }
    setReading(null);
  };
  return { came, reading, readIn };
}

/** What this bench makes of a study that another one judged. */
function Compared({ study }: { study: StudyReadIn }) {
  const there = study.written ? `the bench that wrote the file on ${dayOf(study.written)}` : 'the bench that wrote the file';
  if (study.compared === 0) return <p>It holds nothing yet that could be compared with what {there} said.</p>;
  if (study.moved.length === 0)
    return (
      <p>
        Judged anew, {study.compared === 1 ? 'its one spot comes' : `all ${study.compared} spots come`} to what {there} said.
      </p>
    );
  return (
    <>
      <p>
        Judged anew, {counted(study.moved.length, 'spot')} of {study.compared} come{study.moved.length === 1 ? 's' : ''} to something else
        than {there} said.{' '}
        {study.sameMethod
          ? 'Both work readings out alike: this bench’s own history, which lends its scatter between mounts, is another.'
          : 'The two benches work readings out in different versions.'}
      </p>
      <ul className="mt-1.5 text-[0.93rem]">
        {study.moved.map(({ what, before, after }) => (
          <li key={what}>
            <strong className="font-semibold">{what}</strong>: {before} there, {after} here
          </li>
        ))}
      </ul>
    </>
  );
}

/** What became of the study files that were dropped on the shelf. */
export function ReadIn({ came, reading }: Pick<ReturnType<typeof useReadIn>, 'came' | 'reading'>) {
  return (
    <div aria-live="polite">
      {came.map(({ name, in: study, problem }, i) =>
        study ? (
          <Notice key={i} tone="hint" action={<Link to={`/studies/${study.studyId}/${study.runs > 1 ? 'judge' : 'ask'}`}>Open it</Link>}>
            <p>
              <strong className="font-semibold">{study.title}</strong> was read in, with{' '}
              {study.runs === 0 ? 'no runs' : counted(study.runs, 'run')}.
              {study.alreadyHere === null ? '' : ' The study that the file was made of is on this bench too: this is another, beside it.'}
            </p>
            <Compared study={study} />
          </Notice>
        ) : (
          <Notice key={i} tone="error">
            {name}: {problem}
          </Notice>
        ),
      )}
      {reading === null ? null : <Waiting what={`Reading ${reading} in and judging it anew`} />}
    </div>
  );
}
