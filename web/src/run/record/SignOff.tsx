import { Controller, useWatch } from 'react-hook-form';
import type { Disposition } from '@red-ember/core';
import { SignOffBody, type Run } from '@red-ember/contract';
import { sentenceOf, useSignOffMutation } from '../../data/api.ts';
import { Button } from '../../ui/Button.tsx';
import { FormProblems, FormText, useCheckedForm } from '../../ui/form.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { DISPOSITIONS } from '../words.ts';

const CHOICES: { value: Disposition; words: string }[] = [
  { value: 'use', words: 'used' },
  { value: 'caution', words: 'used with caution' },
  { value: 'reject', words: 'rejected' },
  { value: 'undecided', words: 'decided later' },
];

/** Whether a run is used, with the reason where it is not. */
export function SignOff({ run }: { run: Run }) {
  const [sign, signing] = useSignOffMutation();
  const { control, handleSubmit, formState } = useCheckedForm(SignOffBody, {
    disposition: run.disposition,
    reason: run.dispositionReason,
  });
  const { disposition = run.disposition, reason = '' } = useWatch({ control });
  const changed = disposition !== run.disposition || reason !== run.dispositionReason;
  const needsReason = disposition === 'reject' && reason.trim() === '';
  const submit = handleSubmit((body) => sign({ id: run.id, body: { ...body, reason: body.reason.trim() } }));
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
          <Button type="submit" look="strong" disabled={!changed || needsReason || signing.isLoading}>
            Sign off
          </Button>
        </div>
      </FormProblems>
      {needsReason ? <p className="mt-1 text-[0.87rem] text-ember-text">Say why the run is rejected.</p> : null}
      {signing.error ? <Notice tone="error">{sentenceOf(signing.error)}</Notice> : null}
      {!changed && run.disposition !== 'undecided' ? (
        <p role="status" className="mt-2 text-[0.93rem] text-soft">
          Signed off: {DISPOSITIONS[run.disposition]}. Earlier decisions are kept in the history.
        </p>
      ) : null}
    </form>
  );
}
