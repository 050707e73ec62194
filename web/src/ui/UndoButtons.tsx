import { Redo2, Undo2 } from 'lucide-react';
import { Button } from './Button.tsx';
import type { Undoable } from './steps.ts';

/** Undo, which stands there greyed once there is anything to edit, and redo where there is something to do again. */
export const UndoButtons = ({ undo, redo }: Pick<Undoable<unknown>, 'undo' | 'redo'>) => (
  <>
    <Button look="quiet" disabled={!undo} onClick={() => undo?.()}>
      <Undo2 size={15} aria-hidden /> Undo
    </Button>
    {redo ? (
      <Button look="quiet" onClick={redo}>
        <Redo2 size={15} aria-hidden /> Redo
      </Button>
    ) : null}
  </>
);
