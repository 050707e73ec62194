import { Link, isRouteErrorResponse, useParams, useRouteError } from 'react-router';
import { bodyOf } from '@red-ember/study';
import { useStudyQuery } from '../data/api.ts';
import { useAppDispatch, useAppSelector } from '../data/store.ts';
import { NotHere } from '../frame/NotHere.tsx';
import { Button } from '../ui/Button.tsx';
import { saveFile } from '../ui/saveFile.ts';
import { discarded, undone, written } from './draftSlice.ts';
import { draftOf } from './drafts.ts';
import { canUndo } from '../ui/steps.ts';

/** A station that failed: with what was typed the way out is to undo it, or to keep it aside and open the study as it was saved. */
export function StudyFailed() {
  const error = useRouteError();
  const { studyId = '' } = useParams();
  const dispatch = useAppDispatch();
  const draft = useAppSelector((state) => draftOf(state, studyId));
  const { data: study } = useStudyQuery(studyId);
  if (isRouteErrorResponse(error) || !draft) return <NotHere />;
  // Rendering starts anew with the page: the address stays.
  const again = () => location.reload();
  const changed = study && JSON.stringify(written(draft)) !== JSON.stringify(bodyOf(study));
  return (
    <main id="sheet" className="p-10">
      <h1>This page failed over something that was typed.</h1>
      <p className="mt-3 max-w-prose">
        {changed ? 'What you typed is not saved yet and is kept in this browser. ' : ''}
        Undo the last of it, or put all of it aside as a file and open the study as it was saved.
      </p>
      <p className="mt-5 flex flex-wrap items-center gap-3">
        {canUndo(draft.steps) ? (
          <Button
            look="strong"
            onClick={() => {
              dispatch(undone(studyId));
              setTimeout(again, 400);
            }}
          >
            Undo the last change
          </Button>
        ) : null}
        <Button
          onClick={() => {
            saveFile(JSON.stringify(written(draft), null, 2), {
              name: `${written(draft).title} not saved`,
              ending: 'json',
              type: 'application/json',
            });
            dispatch(discarded(studyId));
            setTimeout(again, 400);
          }}
        >
          Put it aside and open the study
        </Button>
        <Link to="/" className="underline">
          All studies
        </Link>
      </p>
      <p className="mt-6 max-w-prose text-[0.93rem] text-soft">{error instanceof Error ? error.message : ''}</p>
    </main>
  );
}
