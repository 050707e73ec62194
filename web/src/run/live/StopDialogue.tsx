import type { Run } from '@red-ember/contract';
import { stopWished } from '../../data/stops.ts';
import { useAppDispatch } from '../../data/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialogue } from '../../ui/Dialogue.tsx';

/** What a run is called where it is spoken of apart from its page. */
export const runWords = (title: string, run: Run): string => `run ${run.number} of ${title}`;

/** Asks once, then wishes: from there on the Stop is kept, whatever becomes of the server or the page. */
export function StopDialogue({ title, run, open, onClose }: { title: string; run: Run; open: boolean; onClose: () => void }) {
  const dispatch = useAppDispatch();
  const stop = () => {
    dispatch(stopWished({ runId: run.id, what: runWords(title, run), reason: '', at: Date.now() }));
    onClose();
  };
  return (
    <Dialogue open={open} onClose={onClose} title="Stop the load and end the run?">
      <p>The load is removed at once. What was recorded is kept; a run that ended early counts as a lower bound.</p>
      <p className="mt-5 flex gap-3">
        <Button look="strong" autoFocus onClick={stop}>
          Stop the load
        </Button>
        <Button onClick={onClose}>Go on</Button>
      </p>
    </Dialogue>
  );
}
