import { useEffect, useState } from 'react';
import { callWords, measured } from '@red-ember/core';
import type { LogGlance, LogsStudyBody } from '@red-ember/contract';
import { skipToken } from '@reduxjs/toolkit/query';
import { sentenceOf, useGlanceAtLogsQuery } from '../data/api.ts';
import { useDegrees } from '../data/useDegrees.ts';
import { TONE_TEXT, toneOf } from '../ui/tones.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { Segments } from '../ui/Segments.tsx';

/** So many cells are read in a second or two; more of them only when somebody asks. */
const AT_ONCE = 4_000_000;
/** So many that are left out are named. */
const LISTED = 4;
/** What is being typed is not asked about at every key, ms. */
const PAUSE_MS = 700;

/** The newest of it, once it has stayed the same for a moment. */
function useSteady<T>(value: T): T {
  const key = JSON.stringify(value);
  const [steady, setSteady] = useState({ key, value });
  useEffect(() => {
    if (key === steady.key) return undefined;
    const timer = setTimeout(() => setSteady({ key, value }), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [key, steady.key, value]);
  return steady.value;
}

function Found({ glance: { verdict, leftOut } }: { glance: LogGlance }) {
  const { text } = useDegrees();
  if (!verdict) return null;
  const { judgement, spots } = verdict;
  const nameOf = (id: string) => spots.find((spot) => spot.id === id)?.name ?? '';
  return (
    <>
      <p className="text-[1.15rem]">{verdict.refusal ?? <Segments segments={verdict.sentence} />}</p>
      <ul className="mt-2 grid gap-x-6 gap-y-1 sm:grid-cols-2">
        {judgement.spots.map(({ spotId, comparison, call }) => (
          <li key={spotId}>
            {nameOf(spotId)}:{' '}
            {comparison ? (
              <b className={`font-semibold ${TONE_TEXT[toneOf(call)]}`}>
                {text(measured(comparison.difference.value, comparison.budget.expanded, 'K', { sign: true }))}
              </b>
            ) : null}{' '}
            <span className="text-soft">
              {callWords(call).words}
              {call.kind === 'withheld' && call.why ? `: ${text(call.why)}` : ''}
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-[0.93rem] text-soft">
        {judgement.b.name} against {judgement.a.name}, {judgement.b.runIds.length} against {judgement.a.runIds.length} in use. Nothing is
        stored, and how this bench repeats in its other studies is not in it yet.
      </p>
      {leftOut.length > 0 ? (
        <ul className="mt-1 text-[0.93rem] text-soft" aria-label="Left out">
          {leftOut.slice(0, LISTED).map(({ fileName, reason }) => (
            <li key={fileName}>
              Without {fileName}: {text(reason)}
            </li>
          ))}
          {leftOut.length > LISTED ? <li>and without {leftOut.length - LISTED} more.</li> : null}
        </ul>
      ) : null}
    </>
  );
}

/** What logs that lie on the page say together, while it is still being put right what they are. */
export function Glance({ body, cells }: { body: LogsStudyBody; cells: number }) {
  const steady = useSteady(body);
  const [asked, setAsked] = useState(false);
  const due = asked || cells <= AT_ONCE;
  const { data, error, isFetching } = useGlanceAtLogsQuery(due ? steady : skipToken);
  if (!due)
    return (
      <p className="mb-4">
        <Button onClick={() => setAsked(true)}>What do they say together?</Button>
      </p>
    );
  if (!data && !error) return <p className="mb-4 text-soft">Seeing what they say together…</p>;
  if (data && !data.verdict && data.refused === null) return null;
  return (
    <Section title="At a glance" hint={isFetching ? 'being worked out anew…' : 'provisional: as they are understood now'}>
      {error ? <Notice tone="hint">{sentenceOf(error)}</Notice> : null}
      {data?.refused ? <p className="text-soft">{data.refused}</p> : null}
      {data?.verdict ? <Found glance={data} /> : null}
    </Section>
  );
}
