import { duration, fixed } from '@red-ember/core';
import { TIME_SCALES, type BenchRig, type Mount, type Study } from '@red-ember/contract';
import { sampleIntervalOn, USUAL_SAMPLE_INTERVAL_MS } from '@red-ember/study';
import { timeScaleChosen } from '../../data/settings.ts';
import { useAppDispatch, useAppSelector } from '../../data/store.ts';

function Choice({ id, label, children, ...select }: { id: string; label: string } & React.SelectHTMLAttributes<HTMLSelectElement>) {
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-[0.87rem] text-soft">
        {label}
      </label>
      <select id={id} className="field-box min-w-48" {...select}>
        {children}
      </select>
    </div>
  );
}

/** How fast a simulated bench lets its time go by. */
function TimeScales() {
  const dispatch = useAppDispatch();
  const timeScale = useAppSelector((state) => state.settings.timeScale);
  return (
    <fieldset>
      <legend className="mb-1 text-[0.87rem] text-soft">The simulated bench runs</legend>
      <div className="flex">
        {TIME_SCALES.map((value) => (
          <label
            key={value}
            className={`cursor-pointer border px-3 py-1.5 -ml-px first:ml-0 has-[:focus-visible]:outline-2 has-[:focus-visible]:outline-quench ${timeScale === value ? 'border-ink bg-ink text-paper' : 'border-stone'}`}
          >
            <input
              type="radio"
              name="scale"
              className="sr-only"
              checked={timeScale === value}
              onChange={() => dispatch(timeScaleChosen(value))}
            />
            {value}×
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** How often the rig samples, where that is not once a second as usual or slower than the plan asks. */
function samplesWords(study: Study, { fastestMs }: BenchRig): string {
  const intervalMs = sampleIntervalOn(study.plan, fastestMs);
  const asked = study.plan.sampleIntervalMs ?? USUAL_SAMPLE_INTERVAL_MS;
  const rate = (ms: number) =>
    ms > 1000
      ? `one sample every ${fixed(ms / 1000, 1)} s`
      : ms === 1000
        ? 'one sample a second'
        : `${Math.round(1000 / ms)} samples a second`;
  if (intervalMs > asked) return ` · ${rate(intervalMs)}: this rig does no more`;
  return intervalMs === USUAL_SAMPLE_INTERVAL_MS ? '' : ` · ${rate(intervalMs)}`;
}

/** Which mount is run, on which rig, how fast, and how long that takes. */
export function WhatRuns({
  study,
  mounts,
  mount,
  rigs,
  rig,
  takesS,
  onMount,
  onRig,
}: {
  study: Study;
  mounts: Mount[];
  mount: Mount;
  rigs: BenchRig[];
  rig: BenchRig;
  /** By the clock on the wall, least and most, s. */
  takesS: [number, number];
  onMount: (id: string) => void;
  onRig: (id: string) => void;
}) {
  return (
    <div className="flex flex-wrap items-end gap-x-5 gap-y-3">
      <Choice id="start-mount" label="On the bench" value={mount.id} onChange={(event) => onMount(event.target.value)}>
        {[...mounts].reverse().map((entry) => (
          <option key={entry.id} value={entry.id}>
            {study.variants.find((candidate) => candidate.id === entry.variantId)?.name ?? ''}, mount {entry.number}
          </option>
        ))}
      </Choice>
      {rigs.length > 1 ? (
        <Choice id="start-rig" label="Rig" value={rig.id} onChange={(event) => onRig(event.target.value)}>
          {rigs.map((entry) => (
            <option key={entry.id} value={entry.id}>
              {entry.name}
              {entry.busyRunId ? ', busy' : ''}
            </option>
          ))}
        </Choice>
      ) : (
        <p className="pb-2 text-soft">on {rig.name}</p>
      )}
      {rig.simulated ? <TimeScales /> : null}
      <span className="pb-2 text-[0.93rem] text-soft">
        {duration(takesS[0])} to {duration(takesS[1])} by the clock{samplesWords(study, rig)}
      </span>
    </div>
  );
}
