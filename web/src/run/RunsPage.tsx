import { Play, Upload } from 'lucide-react';
import { useState } from 'react';
import { format } from 'date-fns';
import { Link, useNavigate } from 'react-router';
import { duration, recipeLengthS } from '@red-ember/core';
import { lockValue, type Mount, type RigStatus, type Run, type Study } from '@red-ember/contract';
import { sentenceOf, useMountsQuery, useRigsQuery, useRunsQuery, useStartRunMutation } from '../app/api.ts';
import { timeScaleChosen } from '../app/settings.ts';
import { useAppDispatch, useAppSelector } from '../app/store.ts';
import { LowSensorNotes } from '../equip/LowSensorNotes.tsx';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { Button, ButtonLink } from '../parts/Button.tsx';
import { Notice } from '../parts/Notice.tsx';
import { Section } from '../parts/Section.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { DISPOSITIONS, STATES } from './words.ts';

const SCALES = [1, 10, 60, 600];

function StartRun({ study, mounts, rig }: { study: Study; mounts: Mount[]; rig: RigStatus | undefined }) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const timeScale = useAppSelector((state) => state.settings.timeScale);
  const [chosen, setChosen] = useState<string | null>(null);
  const [start, starting] = useStartRunMutation();
  const byHand = study.locks.filter((lock) => lock.channel === '');
  const [confirmed, setConfirmed] = useState<string[]>([]);
  const mount = mounts.find((candidate) => candidate.id === chosen) ?? mounts.at(-1);
  const nameOf = (entry: Mount) => `${study.variants.find((variant) => variant.id === entry.variantId)?.name ?? ''}, mount ${entry.number}`;
  const { leastS, mostS } = recipeLengthS(study.recipe);
  if (!mount)
    return (
      <Notice
        tone="hint"
        action={
          <ButtonLink to={`/studies/${study.id}/mount`} look="strong">
            To Mount
          </ButtonLink>
        }
      >
        Nothing is mounted yet. Mount a variant first, or import a recorded log.
      </Notice>
    );
  if (!rig)
    return (
      <Notice tone="hint">
        No rig is connected. <code className="bg-margin px-1">npm run demo</code> starts the simulated bench beside the server; a recorded
        log can be imported without one.
      </Notice>
    );
  if (rig.busyRunId)
    return (
      <Notice
        tone="hint"
        action={
          <ButtonLink to={`/studies/${study.id}/run/${rig.busyRunId}`} look="strong">
            Watch it
          </ButtonLink>
        }
      >
        {rig.name} is busy with a run.
      </Notice>
    );
  return (
    <div className="flex flex-wrap items-end gap-x-5 gap-y-3">
      <div>
        <label htmlFor="start-mount" className="mb-1 block text-[0.87rem] text-soft">
          On the bench
        </label>
        <select id="start-mount" className="field-box min-w-56" value={mount.id} onChange={(event) => setChosen(event.target.value)}>
          {[...mounts].reverse().map((entry) => (
            <option key={entry.id} value={entry.id}>
              {nameOf(entry)}
            </option>
          ))}
        </select>
      </div>
      {rig.simulated ? (
        <fieldset>
          <legend className="mb-1 text-[0.87rem] text-soft">The simulated bench runs</legend>
          <div className="flex">
            {SCALES.map((scale) => (
              <label
                key={scale}
                className={`cursor-pointer border px-3 py-1.5 -ml-px first:ml-0 has-[:focus-visible]:outline-2 has-[:focus-visible]:outline-quench ${timeScale === scale ? 'border-ink bg-ink text-paper' : 'border-stone'}`}
              >
                <input
                  type="radio"
                  name="scale"
                  className="sr-only"
                  checked={timeScale === scale}
                  onChange={() => dispatch(timeScaleChosen(scale))}
                />
                {scale}×
              </label>
            ))}
          </div>
        </fieldset>
      ) : null}
      <Button
        look="strong"
        disabled={starting.isLoading}
        onClick={() =>
          void start({
            studyId: study.id,
            body: { mountId: mount.id, timeScale: rig.simulated ? timeScale : 1, seed: null, confirmedLocks: confirmed },
          }).then((result) => {
            if ('data' in result && result.data) void navigate(`/studies/${study.id}/run/${result.data.id}`);
          })
        }
      >
        <Play size={16} aria-hidden /> Start the run
      </Button>
      <span className="pb-2 text-[0.93rem] text-soft">
        {duration(leastS / (rig.simulated ? timeScale : 1))} to {duration(mostS / (rig.simulated ? timeScale : 1))} by the clock
      </span>
      {byHand.length > 0 ? (
        <fieldset className="w-full border-t border-rule pt-3">
          <legend className="float-left mb-1 w-full text-[0.87rem] text-soft">
            Held as written? No channel watches these.{' '}
            <button
              type="button"
              className="underline hover:text-ink"
              onClick={() => setConfirmed(confirmed.length === byHand.length ? [] : byHand.map((lock) => lock.name))}
            >
              {confirmed.length === byHand.length ? 'None' : 'All of them'}
            </button>
          </legend>
          <div className="clear-both flex flex-wrap gap-x-6 gap-y-1">
            {byHand.map((lock) => (
              <label key={lock.name} className="flex items-center gap-2 text-[0.93rem]">
                <input
                  type="checkbox"
                  checked={confirmed.includes(lock.name)}
                  onChange={(event) =>
                    setConfirmed(event.target.checked ? [...confirmed, lock.name] : confirmed.filter((name) => name !== lock.name))
                  }
                />
                {lock.name}: {lockValue(lock, study.variants.find((variant) => variant.id === mount.variantId)?.subjectId ?? '')}
              </label>
            ))}
          </div>
        </fieldset>
      ) : null}
      {starting.error ? <Notice tone="error">{sentenceOf(starting.error)}</Notice> : null}
    </div>
  );
}

function RunRow({ run, study }: { run: Run; study: Study }) {
  const live = run.state === 'recording' || run.state === 'waiting';
  return (
    <tr>
      <td>
        <Link to={`/studies/${study.id}/run/${run.id}`} className="font-semibold">
          run {run.number}
        </Link>
      </td>
      <td>{study.variants.find((variant) => variant.id === run.variantId)?.name}</td>
      <td>{run.mountNumber === null ? <span className="text-soft">from {run.sourceName}</span> : `mount ${run.mountNumber}`}</td>
      <td>{format(new Date(run.startedAt), 'd MMM yyyy HH:mm')}</td>
      <td className="num">{duration(run.lengthS)}</td>
      <td className={run.state === 'cut-out' || run.state === 'failed' ? 'text-ember-text' : live ? 'font-semibold' : ''}>
        {STATES[run.state]}
      </td>
      <td>{live ? '' : run.purpose === 'seat-check' ? <span className="text-soft">seat check</span> : DISPOSITIONS[run.disposition]}</td>
    </tr>
  );
}

export function RunsPage() {
  const study = useStudy();
  const { data: runs = [] } = useRunsQuery(study.id, { pollingInterval: 5000 });
  const { data: mounts = [] } = useMountsQuery(study.id);
  const { data: rigs = [] } = useRigsQuery(undefined, { pollingInterval: 3000 });
  const rig = rigs.find((candidate) => candidate.connected);
  const live = runs.find((run) => run.state === 'recording' || run.state === 'waiting');
  return (
    <Sheet
      crumb={`${study.title} / Run`}
      windowTitle={`Runs, ${study.title}`}
      heading={
        live
          ? `Run ${live.number} goes on.`
          : runs.length === 0
            ? 'No run yet.'
            : `${runs.length === 1 ? 'One run' : `${runs.length} runs`} so far.`
      }
      actions={
        <ButtonLink to={`/studies/${study.id}/run/import`}>
          <Upload size={16} aria-hidden /> Import a recorded log
        </ButtonLink>
      }
      margin={
        <>
          <MarginGroup title="Armed for the next run">
            {study.spots.length === 0 ? (
              <Note tone="caution">No spots, so nothing is armed: place them at Look.</Note>
            ) : (
              study.spots.map((spot) => (
                <Note key={spot.id} lead={spot.name}>
                  cut-out at {spot.cutOutC} °C for {spot.cutOutHoldS} s
                </Note>
              ))
            )}
            <Note>The load is also removed when the room probe is silent for 60 s or the rig is lost.</Note>
          </MarginGroup>
          <LowSensorNotes study={study} />
          <MarginGroup title="Cautions">
            <Note tone="caution">Fans start without warning. Metal above 60 °C burns. Stay within reach of the stop.</Note>
          </MarginGroup>
        </>
      }
    >
      <Section title="Start">
        <StartRun study={study} mounts={mounts} rig={rig} />
      </Section>
      {runs.length > 0 ? (
        <Section title="Runs" hint="Rejected runs stay visible and out of results.">
          <table className="plain-table">
            <thead>
              <tr>
                <th>No.</th>
                <th>Variant</th>
                <th>Mount</th>
                <th>Started</th>
                <th className="num">Length</th>
                <th>Ended</th>
                <th>Signed off</th>
              </tr>
            </thead>
            <tbody>
              {[...runs].reverse().map((run) => (
                <RunRow key={run.id} run={run} study={study} />
              ))}
            </tbody>
          </table>
        </Section>
      ) : null}
    </Sheet>
  );
}
