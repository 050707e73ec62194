import { Play } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { duration, recipeLengthS } from '@red-ember/core';
import { TIME_SCALES, type BenchRig, type Mount, type Study, type VanishChoice } from '@red-ember/contract';
import { familyOf, lockValue } from '@red-ember/study';
import { sentenceOf, useLookBeforeMutation, useStartRunMutation } from '../../data/api.ts';
import { timeScaleChosen } from '../../data/settings.ts';
import { useAppDispatch, useAppSelector } from '../../data/store.ts';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { PlantFaults } from './PlantFaults.tsx';
import { PreflightList } from './PreflightList.tsx';

/** The rig that is meant for a variant: the simulated one that has its set-up, or the first real one. */
function rigsFor(rigs: BenchRig[], setup: string): BenchRig[] {
  const fits = rigs.filter((rig) => rig.connected && (!rig.simulated || rig.setups.some((entry) => entry.key === setup)));
  return fits.length > 0 ? fits : rigs.filter((rig) => rig.connected);
}

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

/** What is run, on which rig and how fast; then a look at the bench; then the load. */
export function StartRun({ study, mounts: all, rigs }: { study: Study; mounts: Mount[]; rigs: BenchRig[] }) {
  const retired = new Set(study.variants.filter((entry) => entry.retired).map(({ id }) => id));
  const mounts = all.filter((entry) => !retired.has(entry.variantId));
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const timeScale = useAppSelector((state) => state.settings.timeScale);
  const [mountId, setMountId] = useState<string | null>(null);
  const [rigId, setRigId] = useState<string | null>(null);
  const [confirmed, setConfirmed] = useState<string[]>([]);
  const [faults, setFaults] = useState<string[]>([]);
  const [onVanish, setOnVanish] = useState<VanishChoice>('cut-out');
  const [reason, setReason] = useState('');
  const [start, starting] = useStartRunMutation();
  const [look, looking] = useLookBeforeMutation();
  const mount = mounts.find((candidate) => candidate.id === mountId) ?? mounts.at(-1);
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
        {all.length > 0
          ? 'Every variant that was mounted is retired. Take one up again at Plan, or mount another.'
          : 'Nothing is mounted yet. Mount a variant first, or import a recorded log.'}
      </Notice>
    );
  const variant = study.variants.find((candidate) => candidate.id === mount.variantId);
  const fitting = rigsFor(rigs, variant?.setup ?? '');
  const rig = fitting.find((candidate) => candidate.id === rigId) ?? fitting.find((candidate) => !candidate.busyRunId) ?? fitting[0];
  if (!rig)
    return (
      <Notice tone="hint">
        No rig is connected. <code className="bg-margin px-1">npm run demo</code> starts the simulated benches beside the server; a recorded
        log can be imported without one.
      </Notice>
    );
  if (rig.rehearsal?.trying)
    return (
      <Notice
        tone="hint"
        action={
          <ButtonLink to="/bench" look="strong">
            To the bench
          </ButtonLink>
        }
      >
        {rig.name} is rehearsing how its load goes off.
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
  const scale = rig.simulated ? timeScale : 1;
  const byHand = study.locks.filter((lock) => lock.channel === '');
  const { leastS, mostS } = recipeLengthS(study.recipe);
  const report = looking.data && looking.originalArgs?.body.mountId === mount.id ? looking.data : null;
  const forget = () => looking.reset();
  const lookNow = () =>
    void look({
      studyId: study.id,
      body: { mountId: mount.id, rigId: rig.id, confirmedLocks: confirmed, faults: rig.simulated ? faults : [] },
    });
  const startNow = () =>
    void start({
      studyId: study.id,
      body: {
        mountId: mount.id,
        timeScale: scale,
        seed: null,
        confirmedLocks: confirmed,
        onVanish,
        preflightId: report!.id,
        overrideReason: reason.trim(),
      },
    }).then((result) => {
      if ('data' in result && result.data) void navigate(`/studies/${study.id}/run/${result.data.id}`);
    });
  return (
    <div className="grid gap-4">
      <div className="flex flex-wrap items-end gap-x-5 gap-y-3">
        <Choice
          id="start-mount"
          label="On the bench"
          value={mount.id}
          onChange={(event) => {
            setMountId(event.target.value);
            forget();
          }}
        >
          {[...mounts].reverse().map((entry) => (
            <option key={entry.id} value={entry.id}>
              {study.variants.find((candidate) => candidate.id === entry.variantId)?.name ?? ''}, mount {entry.number}
            </option>
          ))}
        </Choice>
        {fitting.length > 1 ? (
          <Choice
            id="start-rig"
            label="Rig"
            value={rig.id}
            onChange={(event) => {
              setRigId(event.target.value);
              forget();
            }}
          >
            {fitting.map((entry) => (
              <option key={entry.id} value={entry.id}>
                {entry.name}
                {entry.busyRunId ? ', busy' : ''}
              </option>
            ))}
          </Choice>
        ) : (
          <p className="pb-2 text-soft">on {rig.name}</p>
        )}
        {rig.simulated ? (
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
        ) : null}
        <span className="pb-2 text-[0.93rem] text-soft">
          {duration(leastS / scale)} to {duration(mostS / scale)} by the clock
        </span>
      </div>
      {byHand.length > 0 ? (
        <fieldset className="border-t border-rule pt-3">
          <legend className="float-left mb-1 w-full text-[0.87rem] text-soft">
            Held as written? No channel watches these.{' '}
            <button
              type="button"
              className="underline hover:text-ink"
              onClick={() => {
                setConfirmed(confirmed.length === byHand.length ? [] : byHand.map((lock) => lock.name));
                forget();
              }}
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
                  onChange={(event) => {
                    setConfirmed(event.target.checked ? [...confirmed, lock.name] : confirmed.filter((name) => name !== lock.name));
                    forget();
                  }}
                />
                {lock.name}: {lockValue(lock, variant?.subjectId ?? '')}
              </label>
            ))}
          </div>
        </fieldset>
      ) : null}
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2 border-t border-rule pt-3">
        {familyOf(study.family).wearsOut ? (
          <label className="flex items-center gap-2 text-[0.93rem]">
            <input
              type="checkbox"
              checked={onVanish === 'record'}
              onChange={(event) => setOnVanish(event.target.checked ? 'record' : 'cut-out')}
            />
            Go on recording when the drive vanishes: it is expected to
          </label>
        ) : null}
        {rig.simulated && rig.faults.length > 0 ? (
          <PlantFaults
            faults={rig.faults}
            chosen={faults}
            onChange={(next) => {
              setFaults(next);
              forget();
            }}
          />
        ) : null}
      </div>
      {report ? <PreflightList report={report} reason={reason} onReason={setReason} /> : null}
      <div className="flex flex-wrap gap-3">
        <Button look={report ? 'plain' : 'strong'} disabled={looking.isLoading} onClick={lookNow}>
          {looking.isLoading ? 'Looking at the bench…' : report ? 'Look again' : 'Look at the bench'}
        </Button>
        {report ? (
          <Button look="strong" disabled={starting.isLoading || (!report.clear && reason.trim() === '')} onClick={startNow}>
            <Play size={16} aria-hidden /> Start the run
          </Button>
        ) : null}
      </div>
      {looking.error ? <Notice tone="error">{sentenceOf(looking.error)}</Notice> : null}
      {starting.error ? <Notice tone="error">{sentenceOf(starting.error)}</Notice> : null}
    </div>
  );
}
