import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { fixed, headroomWords } from '@red-ember/core';
import type { LiveSnapshot, Run, Study } from '@red-ember/contract';
import { sentenceOf, useMarkRunMutation, useMoreTimeMutation, useRigsQuery, useSteerRunMutation } from '../../data/api.ts';
import { liveIn } from './liveState.ts';
import { useAppSelector } from '../../data/store.ts';
import { useDegrees } from '../../data/useDegrees.ts';
import { Sheet } from '../../frame/Sheet.tsx';
import { Button } from '../../ui/Button.tsx';
import { KeyOf } from '../../ui/Key.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';
import { useKeys } from '../../ui/useKeys.ts';
import { ArmView } from './ArmView.tsx';
import { ChangeDialogue } from './ChangeDialogue.tsx';
import { HandReadings, handSpots } from './HandReadings.tsx';
import { LiveMargin } from './LiveMargin.tsx';
import { bindingSpot, forecastWords } from './liveWords.ts';
import { LoadOff, loadOffOf } from './LoadOff.tsx';
import { MORE_MINUTES, PhaseActions } from './PhaseActions.tsx';
import { PhaseLine } from './PhaseLine.tsx';
import { RunStrips } from './RunStrips.tsx';
import { LiveTrace } from './RunTrace.tsx';
import { StopDialogue } from './StopDialogue.tsx';
import { useAttention } from './useAttention.ts';
import { TakeBack, useTakeBack } from './useTakeBack.tsx';
import { useLiveFeed } from './useLiveFeed.ts';

const focusField = (form: string) => document.querySelector<HTMLInputElement>(`form[aria-label="${form}"] input`)?.focus();

type Asking = 'change' | 'stop' | null;

/** The spot with the least room, large enough to be read from where one stands, and what is to come. */
function BindingNow({ study, run, snapshot }: { study: Study; run: Run; snapshot: LiveSnapshot | null }) {
  const { temp, tempUnit, text } = useDegrees();
  const binding = bindingSpot(study, snapshot);
  if (!binding || !snapshot) return snapshot && snapshot.nowS > 0 ? 'Nothing read yet' : 'Waiting for the first samples';
  return (
    <span className="flex flex-wrap items-center gap-x-8 gap-y-2">
      <span
        className={`text-[4.6rem] font-light leading-none ${binding.spot.headroomK! < 10 ? 'text-ember-text' : ''}`}
        data-testid="binding"
      >
        {fixed(temp(binding.spot.valueC!), 1)}
        <span className="ml-1 text-[1.9rem]">{tempUnit}</span>
      </span>
      <span className="text-[1.3rem] font-normal leading-snug">
        {binding.name} binds, <b className="font-semibold">{text(headroomWords(binding.spot.headroomK!))}</b>
        <span className="block">{text(forecastWords(run, snapshot))}</span>
        <span className="block text-[0.95rem] text-soft">
          {binding.byHand
            ? `read by hand at ${binding.readAt}: nothing stops the load for it`
            : text(`cut-out armed at ${binding.cutOutC} °C for ${binding.cutOutHoldS} s`)}
        </span>
      </span>
    </span>
  );
}

type Act = 'mark' | 'change' | 'arm' | 'stop';

/** What can be done, Stop last. In sight wherever the page stands: fixed where the margin lies below, held at its foot where it stands beside. */
function ActBar({ acts }: { acts: Record<Act, () => void> }) {
  return (
    <div className="z-20 mt-6 flex flex-wrap gap-3 border-t border-rule bg-paper py-3 max-xl:fixed max-xl:inset-x-0 max-xl:bottom-0 max-xl:px-5 max-sm:gap-2 max-sm:[&_kbd]:hidden lg:max-xl:left-[7.6rem] xl:sticky xl:bottom-0">
      <Button onClick={acts.mark}>
        <KeyOf name="mark" /> Mark
      </Button>
      <Button onClick={acts.change}>
        <KeyOf name="change" /> Change
      </Button>
      <Button onClick={acts.arm}>
        <KeyOf name="arm" /> Arm’s length
      </Button>
      <Button look="strong" className="ml-auto max-sm:order-first max-sm:w-full max-sm:justify-center" onClick={acts.stop}>
        <KeyOf name="stop" /> Stop the load
      </Button>
    </div>
  );
}

/** A run that goes on: where it is, what it shows, and everything that a tester may do to it. */
export function LiveRun({ study, run: first }: { study: Study; run: Run }) {
  useLiveFeed(first.id, true);
  const live = useAppSelector(liveIn);
  const run = live.run?.id === first.id ? live.run : first;
  const snapshot = live.runId === first.id ? live.snapshot : null;
  const [search, setSearch] = useSearchParams();
  const [asking, setAsking] = useState<Asking>(null);
  const [mark, marking] = useMarkRunMutation();
  const [steer, steering] = useSteerRunMutation();
  const [moreTime, extending] = useMoreTimeMutation();
  const { data: rigs = [] } = useRigsQuery();
  const flash = useAttention(run);
  const later = useTakeBack(run.timeScale > 1, run.phases.length);
  const arm = search.get('view') === 'arm';
  const byHand = handSpots(study).length > 0;
  const controls = rigs.find((rig) => rig.id === run.sourceName)?.controls ?? [];
  const paused = run.phases.at(-1)?.kind === 'pause';
  const acts = {
    mark: () => void mark({ id: run.id, body: { kind: 'mark', text: 'Mark' } }),
    change: () => setAsking('change'),
    stop: () => setAsking('stop'),
    arm: () => setSearch(arm ? {} : { view: 'arm' }),
    // After the load went off by itself a key alone does not bring it back.
    goOn: () => {
      if (loadOffOf(run)) focusField('The load is off');
      else if (paused) void steer({ id: run.id, how: 'go-on' });
      else later.soon('This phase ends', () => void steer({ id: run.id, how: 'go-on' }));
    },
    pause: () => (paused ? acts.goOn() : void steer({ id: run.id, how: 'pause' })),
    more: () => later.soon(`This phase gets ${MORE_MINUTES} min more`, () => void moreTime({ id: run.id, minutes: MORE_MINUTES })),
    hand: () => focusField('Hand readings'),
  };
  const { hand, ...always } = acts;
  useKeys(byHand ? { ...always, hand } : always, { on: asking === null });

  const binding = bindingSpot(study, snapshot);
  const variant = study.variants.find((candidate) => candidate.id === run.variantId)?.name ?? '';
  const failed = marking.error ?? steering.error ?? extending.error;
  const shared = (
    <>
      {flash === null ? null : <div key={flash} aria-hidden data-testid="flash" className="flash-once" />}
      <TakeBack pending={later.pending} onTakeBack={later.takeBack} />
      <StopDialogue title={study.title} run={run} open={asking === 'stop'} onClose={() => setAsking(null)} />
      <ChangeDialogue
        runId={run.id}
        controls={controls}
        loaded={run.phases.at(-1)?.kind === 'load'}
        open={asking === 'change'}
        onClose={() => setAsking(null)}
      />
    </>
  );
  if (arm)
    return (
      <>
        {shared}
        <ArmView study={study} run={run} snapshot={snapshot} connected={live.connected} acts={acts} />
      </>
    );
  return (
    <Sheet
      crumb={
        <>
          {study.title} / run {run.number}, {variant}, {run.mountNumber === null ? '' : `mount ${run.mountNumber}`}
          {run.timeScale > 1 ? ` · ${run.timeScale}× time-lapse` : ''}
        </>
      }
      windowTitle={`Run ${run.number}, ${study.title}`}
      heading={<BindingNow study={study} run={run} snapshot={snapshot} />}
      margin={
        <>
          <LiveMargin study={study} run={run} snapshot={snapshot} connected={live.connected} />
          {/* As much as the bar with Stop covers. */}
          <div className="h-28 xl:hidden" />
        </>
      }
    >
      {shared}
      <PhaseLine recipe={run.recipe} run={run} snapshot={snapshot} />
      <LoadOff title={study.title} run={run} />
      <PhaseActions run={run} snapshot={snapshot} onPause={acts.pause} onGoOn={acts.goOn} onMore={acts.more} />
      {byHand ? (
        <Section title="Read by hand" hint={markWords(snapshot)}>
          <HandReadings study={study} run={run} snapshot={snapshot} />
        </Section>
      ) : null}
      <div className="mt-4">
        <LiveTrace study={study} run={run} snapshot={snapshot} height={byHand ? 250 : 310} />
      </div>
      {snapshot ? (
        <div className="mt-4">
          <RunStrips study={study} snapshot={snapshot} bindingId={binding?.spot.spotId ?? null} />
        </div>
      ) : null}
      {failed ? <Notice tone="error">{sentenceOf(failed)}</Notice> : null}
      <ActBar acts={acts} />
    </Sheet>
  );
}

function markWords(snapshot: { nextMark: { minute: number; inS: number } | null } | null): string {
  const mark = snapshot?.nextMark;
  if (!mark) return 'No mark is left in this phase; a reading may be typed at any time.';
  return mark.inS < 60
    ? `Minute ${mark.minute} comes in less than a minute.`
    : `Next at minute ${mark.minute} of this phase, in ${Math.round(mark.inS / 60)} min.`;
}
