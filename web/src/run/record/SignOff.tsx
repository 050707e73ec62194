import { Controller, useWatch } from 'react-hook-form';
import type { Disposition } from '@red-ember/core';
import { SignOffBody, type Run } from '@red-ember/contract';
import { sentenceOf, useSignOffMutation } from '../../data/api.ts';
import { initialsTyped } from '../../data/settings.ts';
import { useAppDispatch, useAppSelector } from '../../data/store.ts';
import { Button } from '../../ui/Button.tsx';
import { FormProblems, FormText, useCheckedForm } from '../../ui/form.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { timeOf } from '../../ui/dates.ts';
import { signedWords } from '../words.ts';

const CHOICES: { value: Disposition; words: string }[] = [
  { value: 'use', words: 'used' },
  { value: 'caution', words: 'used with caution' },
  { value: 'reject', words: 'rejected' },
  { value: 'undecided', words: 'decided later' },
];

/** Whether a run is used, with the reason where it is not. */
export function SignOff({ run }: { run: Run }) {
  const dispatch = useAppDispatch();
  const initials = useAppSelector((state) => state.settings.initials);
  const [sign, signing] = useSignOffMutation();
  const { control, handleSubmit, formState } = useCheckedForm(SignOffBody, {
    disposition: run.disposition,
    reason: run.dispositionReason,
    by: initials,
  });
  const { disposition = run.disposition, reason = '', by = '' } = useWatch({ control });
  const decided = disposition !== run.disposition || reason !== run.dispositionReason;
  // Somebody else may put their name to what stands.
  const changed = decided || (disposition !== 'undecided' && by !== '' && by.trim().toUpperCase() !== run.dispositionBy);
  const needsReason = disposition === 'reject' && reason.trim() === '';
  const submit = handleSubmit(({ by = '', ...body }) => {
    const own = by.trim().toUpperCase();
    dispatch(initialsTyped(own));
    return sign({ id: run.id, body: { ...body, reason: body.reason.trim(), by: own } });
  });
  return (
    <form onSubmit={(event) => void submit(event)}>
      <FormProblems errors={formState.errors}>
        <div className="flex flex-wrap items-end gap-4">
          <fieldset>
            <legend className="mb-1 text-[0.87rem] text-soft">This run is to be</legend>
            <div className="flex flex-wrap gap-x-5">
              <Controller
                control={control}
                name="disposition"
                render={({ field }) => (
                  <>
                    {CHOICES.map(({ value, words }) => (
                      <label key={value} className="flex cursor-pointer items-center gap-2 py-1.5">
                        <input
                          type="radio"
                          name={field.name}
                          checked={field.value === value}
                          onBlur={field.onBlur}
                          onChange={() => field.onChange(value)}
                        />
                        {words}
                      </label>
                    ))}
                  </>
                )}
              />
            </div>
          </fieldset>
          <FormText
            control={control}
            name="reason"
            className="min-w-56 flex-1"
            label={`Reason${disposition === 'reject' ? '' : ' (may stay empty)'}`}
          />
          <FormText control={control} name="by" className="w-24" label="Your initials" />
          <Button type="submit" look="strong" disabled={!changed || needsReason || signing.isLoading}>
            Sign off
          </Button>
        </div>
      </FormProblems>
      {needsReason ? <p className="mt-1 text-[0.87rem] text-ember-text">Say why the run is rejected.</p> : null}
      {signing.error ? <Notice tone="error">{sentenceOf(signing.error)}</Notice> : null}
      {!decided && run.disposition !== 'undecided' ? (
        <p role="status" className="mt-2 text-[0.93rem] text-soft">
          Signed off: {signedWords(run)}.
        </p>
      ) : null}
      {run.earlier.length > 0 ? (
        <ul aria-label="Decided before" className="mt-1 text-[0.87rem] text-soft">
          {run.earlier.map(({ until, disposition: before, reason: why, by: hand }, i) => (
            <li key={i}>
              Until {timeOf(until)}: {signedWords({ disposition: before, dispositionBy: hand })}
              {why === '' ? '' : `, “${why}”`}
            </li>
          ))}
        </ul>
      ) : null}
    </form>
  );
}
