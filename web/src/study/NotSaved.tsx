import type { FieldProblem, Study } from '@red-ember/contract';
import { sentenceOf, statusOf } from '../data/api.ts';
import { useAppDispatch, useAppSelector } from '../data/store.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { conflictWords } from './conflictWords.ts';
import { conflictsOf, rebased, takenOver, undone } from './draftSlice.ts';
import { draftOf } from './drafts.ts';

/** Something of a variant that has runs. */
const MEASURED = /^\/variants\/\d+\/(levels|subjectId|setup)$/;

interface Props {
  studyId: string;
  error: unknown;
  problems: FieldProblem[];
  /** What another window saved meanwhile, where it is known. */
  other: Study | null;
  /** Fetches the other version and goes on from it. */
  onSettle: (how: typeof takenOver | typeof rebased) => void;
  /** The runs stay those of what is called otherwise now. */
  onSame: () => void;
}

/** Why the study was not saved, and the ways on. */
export function NotSaved({ studyId, error, problems, other, onSettle, onSame }: Props) {
  const dispatch = useAppDispatch();
  const stored = useAppSelector((state) => draftOf(state, studyId));
  const conflict = statusOf(error) === 412;
  // Runs that are there would become runs of something else: only the tester knows whether it is another name.
  const measured = statusOf(error) === 409 && problems.some(({ pointer }) => MEASURED.test(pointer));
  return (
    <Notice
      tone="error"
      action={
        conflict ? (
          <span className="flex gap-2">
            <Button onClick={() => onSettle(takenOver)}>Take over the other version</Button>
            <Button look="strong" onClick={() => onSettle(rebased)}>
              Keep mine on top
            </Button>
          </span>
        ) : measured ? (
          <span className="flex gap-2">
            <Button onClick={() => onSame()}>It is the same, called otherwise</Button>
            <Button look="quiet" onClick={() => dispatch(undone(studyId))}>
              Undo
            </Button>
          </span>
        ) : undefined
      }
    >
      {sentenceOf(error)}
      {conflict && other && stored ? <span className="mt-1 block">{conflictWords(conflictsOf(stored, other))}</span> : null}
    </Notice>
  );
}
