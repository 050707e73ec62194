import { Play } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { recipeLengthS } from '@red-ember/core';
import type { BenchRig, Mount, Study, VanishChoice } from '@red-ember/contract';
import { familyOf } from '@red-ember/study';
import { sentenceOf, useLookBeforeMutation, useStartRunMutation } from '../../data/api.ts';
import { useAppSelector } from '../../data/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { HeldByHand } from './HeldByHand.tsx';
import { NothingMounted, RigNotFree } from './NotNow.tsx';
import { PlantFaults } from './PlantFaults.tsx';
import { PreflightList } from './PreflightList.tsx';
import { WhatRuns } from './WhatRuns.tsx';

/** The rig that is meant for a variant: the simulated one that has its set-up, or the first real one. */
function rigsFor(rigs: BenchRig[], setup: string): BenchRig[] {
  const fits = rigs.filter((rig) => rig.connected && (!rig.simulated || rig.setups.some((entry) => entry.key === setup)));
  return fits.length > 0 ? fits : rigs.filter((rig) => rig.connected);
}

/** What is run, on which rig and how fast; then a look at the bench; then the load. */
export function StartRun({ study, mounts: all, rigs }: { study: Study; mounts: Mount[]; rigs: BenchRig[] }) {
  const [mountId, setMountId] = useState<string | null>(null);
  const [rigId, setRigId] = useState<string | null>(null);
  const retired = new Set(study.variants.filter((entry) => entry.retired).map(({ id }) => id));
  const mounts = all.filter((entry) => !retired.has(entry.variantId));
  const mount = mounts.find((candidate) => candidate.id === mountId) ?? mounts.at(-1);
  if (!mount) return <NothingMounted study={study} allRetired={all.length > 0} />;
  const fitting = rigsFor(rigs, study.variants.find((candidate) => candidate.id === mount.variantId)?.setup ?? '');
  const rig = fitting.find((candidate) => candidate.id === rigId) ?? fitting.find((candidate) => !candidate.busyRunId) ?? fitting[0];
  if (!rig || rig.rehearsal?.trying || rig.busyRunId) return <RigNotFree study={study} rig={rig} />;
  return <LookAndStart study={study} mounts={mounts} mount={mount} rigs={fitting} rig={rig} onMount={setMountId} onRig={setRigId} />;
}

/** The choices of one run on a free rig. What a look at the bench found is forgotten with every choice that changes what it looked at. */
function LookAndStart({
  study,
  mounts,
  mount,
  rigs,
  rig,
  onMount,
  onRig,
}: {
  study: Study;
  mounts: Mount[];
  mount: Mount;
  rigs: BenchRig[];
  rig: BenchRig;
  onMount: (id: string) => void;
  onRig: (id: string) => void;
}) {
  const navigate = useNavigate();
  const timeScale = useAppSelector((state) => state.settings.timeScale);
  const [confirmedLocks, setConfirmed] = useState<string[]>([]);
  const [faults, setFaults] = useState<string[]>([]);
  const [onVanish, setOnVanish] = useState<VanishChoice>('cut-out');
  const [reason, setReason] = useState('');
  const [start, starting] = useStartRunMutation();
  const [look, looking] = useLookBeforeMutation();
  const scale = rig.simulated ? timeScale : 1;
  const byHand = study.locks.filter((lock) => lock.channel === '');
  const { leastS, mostS } = recipeLengthS(study.recipe);
  const report = looking.data && looking.originalArgs?.body.mountId === mount.id ? looking.data : null;
  const anew =
    <T,>(choose: (value: T) => void) =>
    (value: T) => {
      choose(value);
      looking.reset();
    };
  const lookNow = () =>
    void look({ studyId: study.id, body: { mountId: mount.id, rigId: rig.id, confirmedLocks, faults: rig.simulated ? faults : [] } });
  const startNow = async (preflightId: string) => {
    const body = { mountId: mount.id, timeScale: scale, seed: null, confirmedLocks, onVanish, preflightId, overrideReason: reason.trim() };
    const result = await start({ studyId: study.id, body });
    if ('data' in result && result.data) void navigate(`/studies/${study.id}/run/${result.data.id}`);
  };
  return (
    <div className="grid gap-4">
      <WhatRuns
        study={study}
        mounts={mounts}
        mount={mount}
        rigs={rigs}
        rig={rig}
        takesS={[leastS / scale, mostS / scale]}
        onMount={anew(onMount)}
        onRig={anew(onRig)}
      />
      {byHand.length > 0 ? (
        <HeldByHand
          locks={byHand}
          subjectId={study.variants.find((candidate) => candidate.id === mount.variantId)?.subjectId ?? ''}
          confirmed={confirmedLocks}
          onChange={anew(setConfirmed)}
        />
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
        {rig.simulated && rig.faults.length > 0 ? <PlantFaults faults={rig.faults} chosen={faults} onChange={anew(setFaults)} /> : null}
      </div>
      {report ? <PreflightList report={report} reason={reason} onReason={setReason} /> : null}
      <div className="flex flex-wrap gap-3">
        <Button look={report ? 'plain' : 'strong'} disabled={looking.isLoading} onClick={lookNow}>
          {looking.isLoading ? 'Looking at the bench…' : report ? 'Look again' : 'Look at the bench'}
        </Button>
        {report ? (
          <Button
            look="strong"
            disabled={starting.isLoading || (!report.clear && reason.trim() === '')}
            onClick={() => void startNow(report.id)}
          >
            <Play size={16} aria-hidden /> Start the run
          </Button>
        ) : null}
      </div>
      {looking.error ? <Notice tone="error">{sentenceOf(looking.error)}</Notice> : null}
      {starting.error ? <Notice tone="error">{sentenceOf(starting.error)}</Notice> : null}
    </div>
  );
}
