import { Link, useNavigate } from 'react-router';
import { scratchAnswers } from '@red-ember/core';
import { blankSpot, blankStudy } from '@red-ember/study';
import { sentenceOf, useCreateStudyMutation } from '../data/api.ts';
import { useDegrees } from '../data/useDegrees.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Answers } from './Answers.tsx';
import { NoteForm } from './NoteForm.tsx';
import { noteInWords, readNote, type ReadNote, type TypedNote } from './typedNote.ts';
import { useTypedNote } from './useTypedNote.ts';
import { timeOf } from '../ui/dates.ts';

/** A study that begins with a note: its spots with their limits, the other air, and the note itself as it was typed. */
function studyOf(typed: TypedNote, { note }: ReadNote) {
  const blank = blankStudy(`Note of ${timeOf(new Date())}`);
  return {
    ...blank,
    question: `To be asked. On the note: ${noteInWords(typed)}.`.slice(0, 500),
    enclosure: note.otherAirC === null ? blank.enclosure : { ...blank.enclosure, airC: note.otherAirC },
    spots: note.spots.map(({ name, limitC }, i) => ({
      ...blankSpot(crypto.randomUUID(), name, `tc${i + 1}`),
      ...(limitC === null ? {} : { limitC, limitSource: 'off a note', cutOutC: limitC + 5 }),
    })),
  };
}

/** Quick answers, without a study: what stands on a note, and everything that follows from it. */
export function ScratchPage() {
  const { typed, put, wipe, bringBack } = useTypedNote();
  const { degrees, tempUnit } = useDegrees();
  const navigate = useNavigate();
  const [create, creating] = useCreateStudyMutation();
  const read = readNote(typed, degrees);
  const keep = async () => {
    const answer = await create(studyOf(typed, read));
    if ('data' in answer && answer.data) void navigate(`/studies/${answer.data.id}/ask`);
  };
  return (
    <Sheet
      crumb={<Link to="/">All studies</Link>}
      windowTitle="Scratch sheet"
      heading="What does the note say?"
      actions={
        <>
          {bringBack ? (
            <Button look="quiet" onClick={bringBack}>
              Bring it back
            </Button>
          ) : null}
          <Button look="quiet" onClick={wipe}>
            Wipe it
          </Button>
          <Button disabled={read.note.spots.length === 0 || creating.isLoading} onClick={() => void keep()}>
            Keep as a study
          </Button>
        </>
      }
      margin={
        <>
          <MarginGroup title="How to type">
            <Note>
              As it stands: <b>83</b>, <b>83,5</b>, <b>181F</b>, <b>83 ± 1</b>. A bare number is in {tempUnit}. Several levels with blanks
              between.
            </Note>
            <Note>
              What stands behind ± is taken for the most that a number may be off; answers then carry twice their standard uncertainty.
            </Note>
          </MarginGroup>
          <MarginGroup title="What it is worth">
            <Note tone="caution">
              First order, from numbers that nobody can check any more: whether a part had settled, whether a fan was free. Nothing here is
              a verdict.
            </Note>
            <Note>Watts and other powers go by rise in proportion to power, give or take: passive sinks do better as they get hotter.</Note>
            <Note>Kept as a study, spots, limits and the note come along; the numbers stay a note.</Note>
          </MarginGroup>
        </>
      }
    >
      {creating.error ? <Notice tone="error">{sentenceOf(creating.error)}</Notice> : null}
      <div className="mt-5 grid items-start gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,22rem)_minmax(0,1fr)]">
        <NoteForm typed={typed} unclear={read.unclear} put={put} tempUnit={tempUnit} />
        <Answers answers={scratchAnswers(read.note)} />
      </div>
    </Sheet>
  );
}
