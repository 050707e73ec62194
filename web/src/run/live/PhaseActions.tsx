import { duration } from '@red-ember/core';
import type { LiveSnapshot, Run } from '@red-ember/contract';
import { OnAPhone } from '../../study/OnAPhone.tsx';
import { Button } from '../../ui/Button.tsx';
import { KeyOf } from '../../ui/Key.tsx';
import { loadOffOf } from './LoadOff.tsx';

export const MORE_MINUTES = 10;

/** What can be done with the present phase: pause, go on, more time; and the offer to end it where nothing more comes of it. */
export function PhaseActions({
  run,
  snapshot,
  onPause,
  onGoOn,
  onMore,
}: {
  run: Run;
  snapshot: LiveSnapshot | null;
  onPause: () => void;
  onGoOn: () => void;
  onMore: () => void;
}) {
  const phase = run.phases.at(-1);
  const planned = run.recipe[run.phases.length - 1];
  // After the load went off by itself there is more to say than a pause.
  if (!phase || !snapshot || loadOffOf(run)) return null;
  if (phase.kind === 'pause')
    return (
      <div className="mt-4 flex flex-wrap items-center gap-4 border-l-[3px] border-ochre bg-margin px-4 py-3">
        <span>Paused: the load is off. The phase before it will be done once more, whole.</span>
        <Button look="strong" onClick={onGoOn}>
          <KeyOf name="goOn" /> Go on
        </Button>
      </div>
    );
  const early = snapshot.allSettled && planned?.mode === 'fixed' && snapshot.phaseMostLeftS > 60;
  return (
    <div className="mt-4 flex flex-wrap items-center gap-3">
      {early ? (
        <span className="border-l-[3px] border-quench bg-margin px-4 py-2">
          Every spot is settled; {duration(snapshot.phaseMostLeftS)} of this phase are left that will tell nothing more.
        </span>
      ) : null}
      <Button onClick={onGoOn} look={early ? 'strong' : 'quiet'}>
        <KeyOf name="goOn" /> End this phase
      </Button>
      <Button onClick={onMore} look={snapshot.capTooSoonS ? 'strong' : 'quiet'}>
        <KeyOf name="more" /> {MORE_MINUTES} min more
      </Button>
      {phase.kind === 'load' ? (
        <Button onClick={onPause} look="quiet">
          <KeyOf name="pause" /> Pause
        </Button>
      ) : null}
      <OnAPhone />
    </div>
  );
}
