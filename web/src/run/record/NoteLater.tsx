import { useState } from 'react';
import { MarkBody, type Run, type Study } from '@red-ember/contract';
import { sentenceOf, useNoteLaterMutation } from '../../data/api.ts';
import { Button } from '../../ui/Button.tsx';
import { ChoiceField, NumberField } from '../../ui/Field.tsx';
import { FormProblems, FormText, useCheckedForm } from '../../ui/form.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { HandReadings, handSpots } from '../live/HandReadings.tsx';

const KINDS: { value: MarkBody['kind']; label: string }[] = [
  { value: 'mark', label: 'mark' },
  { value: 'change', label: 'something was changed' },
  { value: 'note', label: 'note' },
];

/** What was missed during a run or stands on paper, with its minute: a mark, a change, a note, and readings of spots that are read by hand. */
export function NoteLater({ study, run }: { study: Study; run: Run }) {
  const [atS, setAtS] = useState(0);
  const [note, noting] = useNoteLaterMutation();
  const { control, handleSubmit, setValue, watch, reset, formState } = useCheckedForm<MarkBody>(MarkBody, { kind: 'mark', text: '' });
  const submit = handleSubmit(async ({ kind, text }) => {
    const answer = await note({ id: run.id, body: { kind, text, atS } });
    if (!('error' in answer && answer.error)) reset({ kind, text: '' });
  });
  return (
    <details className="mt-3 max-w-3xl">
      <summary className="cursor-pointer">Add what was missed, or stands on paper</summary>
      {run.disposition === 'undecided' ? (
        <div className="mt-3">
          <NumberField
            className="mb-3 w-40"
            label="At, from the start"
            pointer="/atS"
            unit="min"
            value={Math.round((atS / 60) * 1000) / 1000}
            onChange={(minutes) => setAtS(60 * minutes)}
          />
          <form aria-label="What was missed" onSubmit={(event) => void submit(event)}>
            <FormProblems errors={formState.errors}>
              <div className="flex flex-wrap items-end gap-4">
                <ChoiceField
                  className="w-52"
                  label="It was a"
                  pointer="/kind"
                  value={watch('kind')}
                  options={KINDS}
                  onChange={(kind) => setValue('kind', kind)}
                />
                <FormText className="min-w-64 flex-1" control={control} name="text" label="What happened" />
                <Button type="submit" disabled={noting.isLoading || !Number.isFinite(atS)}>
                  Add it
                </Button>
              </div>
            </FormProblems>
            {noting.error ? <Notice tone="error">{sentenceOf(noting.error)}</Notice> : null}
          </form>
          {handSpots(study).length > 0 && !run.figures ? (
            <div className="mt-5">
              <HandReadings study={study} run={run} snapshot={null} atS={atS} />
            </div>
          ) : null}
        </div>
      ) : (
        <p className="mt-2 text-[0.93rem] text-soft">This run is signed off as it stands; set the sign-off to “decided later” first.</p>
      )}
    </details>
  );
}
