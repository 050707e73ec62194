import { useState, type ReactNode } from 'react';
import { useWatch } from 'react-hook-form';
import { RunFactsBody, type ChannelFactBody, type LogPhaseBody, type Run, type Study } from '@red-ember/contract';
import { sentenceOf, usePutRightMutation } from '../../data/api.ts';
import { localOf, isoOf } from '../../logs/localTime.ts';
import { PhaseTable } from '../../logs/PhaseEditor.tsx';
import { Button } from '../../ui/Button.tsx';
import { Dialogue } from '../../ui/Dialogue.tsx';
import { ChoiceField } from '../../ui/Field.tsx';
import { FormProblems, FormText, useCheckedForm } from '../../ui/form.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { ChannelFacts, factsOf } from './ChannelFacts.tsx';

/** Of phases as they are kept: whoever recorded the run may have changed something under load, which then is a load of its own. */
const phasesOf = (run: Run): LogPhaseBody[] =>
  run.phases.map(({ kind, name, startS, endS }) => ({
    kind: kind === 'pause' ? 'cool-down' : kind,
    name,
    startS,
    endS: endS ?? run.lengthS,
  }));

function BeganAt({ value, onChange }: { value: string | null; onChange: (value: string | null) => void }) {
  return (
    <label className="block text-[0.87rem] text-soft">
      Began at
      <input
        type="datetime-local"
        className="field-box mt-1 text-[1rem] text-ink"
        value={localOf(value)}
        onChange={(event) => onChange(isoOf(event.target.value))}
      />
    </label>
  );
}

function Folded({ title, children }: { title: string; children: ReactNode }) {
  return (
    <details className="mt-4">
      <summary className="cursor-pointer">{title}</summary>
      <div className="mt-2 overflow-x-auto">{children}</div>
    </details>
  );
}

function Facts({ study, run, onDone }: { study: Study; run: Run; onDone: () => void }) {
  const [put, putting] = usePutRightMutation();
  const file = run.source === 'file' && run.figures === null;
  const names = [...new Set([...Object.keys(run.settings), ...study.locks.map(({ name }) => name)])];
  const held = names.map((name) => ({ name, value: run.settings[name] ?? '' }));
  const { control, handleSubmit, setValue, formState } = useCheckedForm(RunFactsBody, {
    variantId: run.variantId,
    mount: run.mountNumber,
    ...(run.startKnown ? { startedAt: run.startedAt } : {}),
    ...(file ? { phases: phasesOf(run) } : {}),
    channels: factsOf(run),
    settings: held,
  });
  const { variantId = run.variantId, mount = null, startedAt, phases = [], channels = [], settings = [] } = useWatch({ control });
  const submit = handleSubmit(async ({ phases: asked, channels: read, settings: kept, ...facts }) => {
    // What was not touched is not sent: phases keep the windows that were chosen within them.
    const changed = <T,>(name: string, now: T | undefined, was: T) =>
      now && JSON.stringify(now) !== JSON.stringify(was) ? { [name]: now } : {};
    const result = await put({
      id: run.id,
      body: {
        ...facts,
        ...(file ? changed('phases', asked, phasesOf(run)) : {}),
        ...changed('channels', read, factsOf(run)),
        ...changed('settings', kept, held),
      },
    });
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
          <BeganAt
            value={startedAt ?? null}
            onChange={(next) => setValue('startedAt', next ?? (run.startKnown ? run.startedAt : undefined))}
          />
        </div>
        {file ? (
          <div className="mt-4 overflow-x-auto">
            <PhaseTable phases={phases as LogPhaseBody[]} onChange={(next) => setValue('phases', next)} />
          </div>
        ) : null}
        {channels.length > 0 ? (
          <Folded title="What its channels read: roles and units">
            <ChannelFacts
              study={study}
              channels={run.channels}
              facts={channels as ChannelFactBody[]}
              onChange={(next) => setValue('channels', next)}
            />
          </Folded>
        ) : null}
        {settings.length > 0 ? (
          <Folded title="What was held: settings and firmware">
            <div className="grid gap-4 md:grid-cols-3">
              {settings.map(({ name = '' }, i) => (
                <FormText key={name} control={control} name={`settings.${i}.value`} label={name} />
              ))}
            </div>
          </Folded>
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

/** What was written down wrongly of a run: variant, mount, beginning, what its channels read, what was held, and of a file what it went through. */
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
