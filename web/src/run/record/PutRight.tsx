import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { RunFactsBody, type LogPhaseBody, type Run, type Study } from '@red-ember/contract';
import { sentenceOf, usePutRightMutation } from '../../data/api.ts';
import { localOf, isoOf } from '../../logs/localTime.ts';
import { PhaseTable } from '../../logs/PhaseEditor.tsx';
import { Button } from '../../ui/Button.tsx';
import { Dialogue } from '../../ui/Dialogue.tsx';
import { ChoiceField } from '../../ui/Field.tsx';
import { FormProblems, useCheckedForm } from '../../ui/form.tsx';
import { Notice } from '../../ui/Notice.tsx';

/** Of phases as they are kept: whoever recorded the run may have changed something under load, which then is a load of its own. */
const phasesOf = (run: Run): LogPhaseBody[] =>
  run.phases.map(({ kind, name, startS, endS }) => ({
    kind: kind === 'pause' ? 'cool-down' : kind,
    name,
    startS,
    endS: endS ?? run.lengthS,
  }));

function Facts({ study, run, onDone }: { study: Study; run: Run; onDone: () => void }) {
  const [put, putting] = usePutRightMutation();
  const file = run.source === 'file' && run.figures === null;
  const { control, handleSubmit, setValue, formState } = useCheckedForm(RunFactsBody, {
    variantId: run.variantId,
    mount: run.mountNumber,
    startedAt: run.startedAt,
    ...(file ? { phases: phasesOf(run) } : {}),
  });
  const { variantId = run.variantId, mount = null, startedAt = run.startedAt, phases = [] } = useWatch({ control });
  const submit = handleSubmit(async ({ phases: asked, ...facts }) => {
    // Phases that were not touched keep the windows that were chosen within them.
    const changed = file && JSON.stringify(asked) !== JSON.stringify(phasesOf(run));
    const result = await put({ id: run.id, body: { ...facts, ...(changed && asked ? { phases: asked } : {}) } });
    if ('data' in result && result.data) onDone();
  });
  return (
    <form onSubmit={(event) => void submit(event)}>
      <FormProblems errors={formState.errors}>
        <div className="grid gap-4 md:grid-cols-3">
          <ChoiceField
            label="Variant on the bench"
            pointer="/variantId"
            value={variantId}
            onChange={(next) => setValue('variantId', next)}
            options={study.variants.map(({ id, name }) => ({ value: id, label: name }))}
          />
          <ChoiceField
            label="Mount"
            pointer="/mount"
            value={mount === null ? '' : String(mount)}
            onChange={(next) => setValue('mount', next === '' ? null : Number(next))}
            options={[
              { value: '', label: 'unknown' },
              ...Array.from({ length: Math.max(9, mount ?? 0) }, (_, i) => ({ value: String(i + 1), label: String(i + 1) })),
            ]}
          />
          <label className="block text-[0.87rem] text-soft">
            Began at
            <input
              type="datetime-local"
              className="field-box mt-1 text-[1rem] text-ink"
              value={localOf(startedAt)}
              onChange={(event) => setValue('startedAt', isoOf(event.target.value) ?? run.startedAt)}
            />
          </label>
        </div>
        {file ? (
          <div className="mt-4 overflow-x-auto">
            <PhaseTable phases={phases as LogPhaseBody[]} onChange={(next) => setValue('phases', next)} />
          </div>
        ) : null}
      </FormProblems>
      {putting.error ? <Notice tone="error">{sentenceOf(putting.error)}</Notice> : null}
      <p className="my-3 text-[0.93rem] text-soft">
        What stood before is kept in the history of the study, with the results that it moves.
        {file ? ' Windows of your own are chosen anew where phases change.' : ''}
      </p>
      <Button type="submit" look="strong" disabled={putting.isLoading}>
        {putting.isLoading ? 'Putting right…' : 'Put it right'}
      </Button>
    </form>
  );
}

/** What was written down wrongly of a run: its variant, its mount, when it began, and of a file what it went through. */
export function PutRight({ study, run }: { study: Study; run: Run }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button look="quiet" onClick={() => setOpen(true)}>
        Put right
      </Button>
      <Dialogue wide open={open} onClose={() => setOpen(false)} title={`Run ${run.number}: what is written down`}>
        <Facts study={study} run={run} onDone={() => setOpen(false)} />
      </Dialogue>
    </>
  );
}
