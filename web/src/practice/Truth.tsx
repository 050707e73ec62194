import { counted, fixed, listWords, signed, midSentence } from '@red-ember/core';
import type { PracticeMarks, PracticeSheet } from '@red-ember/contract';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { callSentence, FIGURE_MARKS } from './words.ts';

function CallMark({ sheet, marks }: { sheet: PracticeSheet; marks: PracticeMarks }) {
  const { a, b } = sheet.question;
  const said = callSentence(sheet.answer!.call, a, b);
  if (marks.call === 'right') return <>You said it: {said}.</>;
  const could = sheet.truth!.calls.map((call) => callSentence(call, a, b)).join(', or ');
  if (marks.call === 'held-back') return <>You held back, and said nothing wrong. It could be shown: {could}.</>;
  return (
    <>
      You said: {said}. What was true: {could}.
    </>
  );
}

/** One line of what was right or missed; its word first, so that colour says nothing alone. */
function Line({ word, tone, children }: { word: string; tone: 'cool' | 'heat' | 'plain'; children: React.ReactNode }) {
  const colour = tone === 'cool' ? 'text-quench-text' : tone === 'heat' ? 'text-ember-text' : 'text-soft';
  return (
    <li className="grid gap-x-5 border-t border-rule py-2.5 sm:grid-cols-[8rem_minmax(0,1fr)]">
      <span className={`font-semibold ${colour}`}>{word}</span>
      <span className="max-w-prose">{children}</span>
    </li>
  );
}

/** What came of an answer, line by line. */
function Marks({ sheet, marks }: { sheet: PracticeSheet; marks: PracticeMarks }) {
  const label = (keys: readonly string[]) =>
    listWords(sheet.traps.filter(({ key }) => keys.includes(key)).map((trap) => midSentence(trap.label)));
  const thrift = marks.hours <= 1.25 * marks.goodHours;
  return (
    <ul>
      <Line
        word={marks.call === 'right' ? 'Right' : marks.call === 'wrong' ? 'Wrong' : 'Held back'}
        tone={marks.call === 'right' ? 'cool' : marks.call === 'wrong' ? 'heat' : 'plain'}
      >
        <CallMark sheet={sheet} marks={marks} />
      </Line>
      {marks.figure ? (
        <Line
          word={marks.figure === 'holds' ? 'Right' : marks.figure === 'misses' ? 'Wrong' : 'Wide'}
          tone={marks.figure === 'holds' ? 'cool' : marks.figure === 'misses' ? 'heat' : 'plain'}
        >
          {FIGURE_MARKS[marks.figure]}
        </Line>
      ) : null}
      {marks.found.length > 0 ? (
        <Line word="Found" tone="cool">
          {label(marks.found)}
        </Line>
      ) : null}
      {marks.missed.length > 0 ? (
        <Line word="Missed" tone="heat">
          {label(marks.missed)}
        </Line>
      ) : null}
      {marks.imagined.length > 0 ? (
        <Line word="Not there" tone="heat">
          {label(marks.imagined)}
        </Line>
      ) : null}
      {marks.skippedSteps > 0 ? (
        <Line word="Left out" tone="heat">
          {counted(marks.skippedSteps, 'step')} of the mount cards.
        </Line>
      ) : null}
      <Line word={thrift ? 'Thrifty' : 'Hours'} tone={thrift ? 'cool' : 'plain'}>
        {fixed(marks.hours, 1)} bench hours; a good hand takes about {fixed(marks.goodHours, 1)}.
        {marks.hints > 0 ? ` ${counted(marks.hints, 'hint')} taken.` : ''}
      </Line>
    </ul>
  );
}

/** The truth of an exercise, opened. */
export function Truth({ sheet }: { sheet: PracticeSheet }) {
  const { truth, marks, answer, question } = sheet;
  if (!truth || !marks || !answer) return null;
  return (
    <>
      <Section title="What came of it">
        <Marks sheet={sheet} marks={marks} />
      </Section>
      <Section title="What was true">
        <p className="max-w-prose">
          With nothing wrong {question.b} comes to <strong className="font-semibold">{signed(truth.differenceK, 1)} K</strong> against{' '}
          {question.a} at “{question.spot}”; {fixed(question.practicalK, 1)} K is what matters.
        </p>
        <ul className="mt-3 list-disc pl-5">
          {truth.planted.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
        {truth.seen.map((line) => (
          <p key={line} className="mt-3 max-w-prose">
            <span className="text-soft">Where it could have been seen. </span>
            {line}
          </p>
        ))}
        <Notice tone="hint">{truth.lesson}</Notice>
      </Section>
      <Section title="What the bench itself says of your runs">
        <p className="max-w-prose">{truth.verdict}</p>
        {answer.sentence ? (
          <p className="mt-3 max-w-prose">
            <span className="text-soft">And you wrote: </span>
            {answer.sentence}
          </p>
        ) : null}
      </Section>
    </>
  );
}
