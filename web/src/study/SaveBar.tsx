import type { Study } from '@red-ember/contract';
import { bodyOf } from '@red-ember/study';
import { useAppDispatch, useAppSelector } from '../data/store.ts';
import { Button } from '../ui/Button.tsx';
import { edited, redone, undone } from './draftSlice.ts';
import { draftOf } from './drafts.ts';

/** Save, discard, undo and redo of what is written at a station, and how it stands. */
export function SaveBar({
  study,
  dirty,
  wrong,
  saving,
  onSave,
}: {
  study: Study;
  dirty: boolean;
  wrong: number;
  saving: boolean;
  onSave: () => void;
}) {
  const dispatch = useAppDispatch();
  const stored = useAppSelector((state) => draftOf(state, study.id));
  // After undoing everything there is nothing to save, but still something to redo.
  if (!dirty && !stored?.future.length && !stored?.past.length) return null;
  return (
    <>
      <span className="text-[0.93rem] text-ochre-text" role="status">
        {!dirty ? 'As saved' : wrong > 0 ? `${wrong === 1 ? 'One field needs' : `${wrong} fields need`} attention` : 'Not saved yet'}
      </span>
      <Button look="quiet" onClick={() => dispatch(undone(study.id))} disabled={!stored?.past.length}>
        Undo
      </Button>
      {stored?.future.length ? (
        <Button look="quiet" onClick={() => dispatch(redone(study.id))}>
          Redo
        </Button>
      ) : null}
      {dirty ? (
        <Button look="quiet" onClick={() => dispatch(edited({ study, body: bodyOf(study) }))}>
          Discard
        </Button>
      ) : null}
      <Button look="strong" onClick={() => onSave()} disabled={saving || !dirty}>
        {saving ? 'Saving…' : 'Save'}
      </Button>
    </>
  );
}
