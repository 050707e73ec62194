import { useForm } from 'react-hook-form';
import { clock } from '@red-ember/core';
import type { Run } from '@red-ember/contract';
import { sentenceOf, useSteerRunMutation } from '../../data/api.ts';
import { stopWished } from '../../data/stops.ts';
import { useAppDispatch } from '../../data/store.ts';
import { Button } from '../../ui/Button.tsx';
import { KeyOf } from '../../ui/Key.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { runWords } from './StopDialogue.tsx';

/** The wait after the load went off by itself: since when, why, and what can be done; null where the run is in no such wait. */
export function loadOffOf(run: Run): { sinceS: number; why: string } | null {
  const [before, now] = run.phases.slice(-2);
  if (now?.kind !== 'pause' || now.endS !== null || before?.endedBy !== 'interrupted') return null;
  const event = run.events.findLast(({ kind }) => kind === 'load-off');
  return { sinceS: now.startS, why: event?.text ?? `The load went off at ${clock(now.startS)}.` };
}

/** The load went off by itself and comes back only by this hand, with the reason kept; or the run ends here. */
export function LoadOff({ title, run, large = false }: { title: string; run: Run; large?: boolean }) {
  const dispatch = useAppDispatch();
  const { register, handleSubmit, getValues } = useForm({ defaultValues: { reason: '' } });
  const [steer, steering] = useSteerRunMutation();
  const off = loadOffOf(run);
  if (!off) return null;
  const again = run.recipe[run.phases.length]?.name.replace(/, again$/, '') ?? 'The phase';
  const goOn = handleSubmit(({ reason }) => steer({ id: run.id, how: 'go-on', reason }));
  return (
    <form
      aria-label="The load is off"
      className={`mt-4 border-l-[3px] border-ember bg-margin px-4 py-3 ${large ? 'text-[1.4rem]' : ''}`}
      onSubmit={(event) => void goOn(event)}
    >
      <p role="alert">
        <b className="font-semibold text-ember-text">{off.why}</b> It stays off until you go on. {again} is then done once more, whole; what
        was recorded of it until now is kept and not read.
      </p>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <label className="min-w-60 flex-1">
          <span className="block text-[0.93rem] text-soft">What was it? Kept with the run.</span>
          <input className="field-box w-full" maxLength={200} {...register('reason')} />
        </label>
        <Button look="strong" type="submit" disabled={steering.isLoading}>
          <KeyOf name="goOn" /> Go on
        </Button>
        <Button
          onClick={() =>
            dispatch(
              stopWished({
                runId: run.id,
                what: runWords(title, run),
                reason: getValues('reason') || 'Ended after the load went off.',
                at: Date.now(),
              }),
            )
          }
        >
          End here
        </Button>
      </div>
      {steering.error ? <Notice tone="error">{sentenceOf(steering.error)}</Notice> : null}
    </form>
  );
}
