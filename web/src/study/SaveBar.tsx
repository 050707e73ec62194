import type { Study } from '@red-ember/contract';
import { useAppDispatch, useAppSelector } from '../data/store.ts';
import { Button } from '../ui/Button.tsx';
import { putBack, redone, undone } from './draftSlice.ts';
import { draftOf } from './drafts.ts';
import { UndoButtons } from '../ui/UndoButtons.tsx';
import { canRedo, canUndo } from '../ui/steps.ts';

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
  const [undo, redo] = [stored !== undefined && canUndo(stored.steps), stored !== undefined && canRedo(stored.steps)];
  if (!dirty && !undo && !redo) return null;
  return (
    <>
      <span className="text-[0.93rem] text-ochre-text" role="status">
        {!dirty ? 'As saved' : wrong > 0 ? `${wrong === 1 ? 'One field needs' : `${wrong} fields need`} attention` : 'Not saved yet'}
      </span>
      <UndoButtons undo={undo ? () => dispatch(undone(study.id)) : null} redo={redo ? () => dispatch(redone(study.id)) : null} />
      {dirty ? (
        <Button look="quiet" onClick={() => dispatch(putBack(study))}>
          Discard
        </Button>
      ) : null}
      <Button look="strong" onClick={() => onSave()} disabled={saving || !dirty}>
        {saving ? 'Saving…' : 'Save'}
      </Button>
    </>
  );
}
