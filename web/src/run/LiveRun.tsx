import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { clock, fixed, headroomWords } from '@red-ember/core';
import type { MarkBody, Run, Study } from '@red-ember/contract';
import { sentenceOf, useMarkRunMutation, useStopRunMutation } from '../app/api.ts';
import { useAppSelector } from '../app/store.ts';
import { LowSensorNotes } from '../equip/LowSensorNotes.tsx';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { Button } from '../parts/Button.tsx';
import { Dialogue } from '../parts/Dialogue.tsx';
import { Key } from '../parts/Key.tsx';
import { Notice } from '../parts/Notice.tsx';
import { ArmView } from './ArmView.tsx';
import { bindingSpot, forecastWords, nextThing, roomWords } from './liveWords.ts';
import { PhaseLine } from './PhaseLine.tsx';
import { RunStrips } from './RunStrips.tsx';
import { RunTrace } from './RunTrace.tsx';
import { useLiveFeed } from './useLiveFeed.ts';

type Asking = 'change' | 'stop' | null;

export function LiveRun({ study, run: first }: { study: Study; run: Run }) {
  useLiveFeed(first.id, true);
  const live = useAppSelector((state) => state.live);
  const run = live.run?.id === first.id ? live.run : first;
  const snapshot = live.runId === first.id ? live.snapshot : null;
  const [search, setSearch] = useSearchParams();
  const [asking, setAsking] = useState<Asking>(null);
  const [text, setText] = useState('');
  const [mark, marking] = useMarkRunMutation();
  const [stop, stopping] = useStopRunMutation();
  const arm = search.get('view') === 'arm';
  const send = (kind: MarkBody['kind'], words: string) => void mark({ id: run.id, body: { kind, text: words } });
  const toggleArm = () => setSearch(arm ? {} : { view: 'arm' });

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || asking !== null) return;
      if (event.target instanceof HTMLElement && ['INPUT', 'TEXTAREA', 'SELECT'].includes(event.target.tagName)) return;
      const key = event.key.toLowerCase();
      if (key === 'm') send('mark', 'Mark');
      else if (key === 'c') setAsking('change');
      else if (key === 'a') toggleArm();
      else if (key === 's') setAsking('stop');
      else return;
      event.preventDefault();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  });

  const binding = bindingSpot(study, snapshot);
  const variant = study.variants.find((candidate) => candidate.id === run.variantId)?.name ?? '';
  const dialogs = (
    <>
      <Dialogue open={asking === 'stop'} onClose={() => setAsking(null)} title="Stop the load and end the run?">
        <p>The load is removed at once. What was recorded is kept; a run that ended early counts as a lower bound.</p>
        <p className="mt-5 flex gap-3">
          <Button
            look="strong"
            autoFocus
            disabled={stopping.isLoading}
            onClick={() => void stop({ id: run.id, reason: '' }).then(() => setAsking(null))}
          >
            Stop the load
          </Button>
          <Button onClick={() => setAsking(null)}>Go on</Button>
        </p>
        {stopping.error ? <Notice tone="error">{sentenceOf(stopping.error)}</Notice> : null}
      </Dialogue>
      <Dialogue open={asking === 'change'} onClose={() => setAsking(null)} title="What did you change?">
        <form
          onSubmit={(event) => {
            event.preventDefault();
            if (text.trim() === '') return;
            send('change', text.trim());
            setText('');
            setAsking(null);
          }}
        >
          <label htmlFor="change-text" className="sr-only">
            Change
          </label>
          <input
            id="change-text"
            autoFocus
            className="field-box"
            maxLength={200}
            placeholder="Door opened"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <p className="mt-4 flex gap-3">
            <Button type="submit" look="strong" disabled={text.trim() === ''}>
              Write it down
            </Button>
            <Button onClick={() => setAsking(null)}>Cancel</Button>
          </p>
        </form>
      </Dialogue>
    </>
  );
  if (arm)
    return (
      <>
        {dialogs}
        <ArmView
          study={study}
          run={run}
          snapshot={snapshot}
          connected={live.connected}
          onMark={() => send('mark', 'Mark')}
          onChange={() => setAsking('change')}
          onStop={() => setAsking('stop')}
          onLeave={toggleArm}
        />
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
      heading={
        binding && snapshot ? (
          <span className="flex flex-wrap items-center gap-x-8 gap-y-2">
            <span
              className={`text-[4.6rem] font-light leading-none ${binding.spot.headroomK! < 10 ? 'text-ember-text' : ''}`}
              data-testid="binding"
            >
              {fixed(binding.spot.valueC!, 1)}
              <span className="ml-1 text-[1.9rem]">°C</span>
            </span>
            <span className="text-[1.3rem] font-normal leading-snug">
              {binding.name} binds, <b className="font-semibold">{headroomWords(binding.spot.headroomK!)}</b>
              <span className="block">{forecastWords(run, snapshot)}</span>
              <span className="block text-[0.95rem] text-soft">
                cut-out armed at {binding.cutOutC} °C for {binding.cutOutHoldS} s
              </span>
            </span>
          </span>
        ) : (
          'Waiting for the first samples'
        )
      }
      margin={
        <>
          <LowSensorNotes study={study} />
          <MarginGroup title="Watched while it runs">
            {!live.connected ? (
              <Note tone="heat" lead="The server does not answer.">
                The rig goes on by itself and keeps what it reads; the page follows again when the server is back.
              </Note>
            ) : null}
            {snapshot?.rigLost ? (
              <Note tone="heat" lead="The rig is silent.">
                It removes the load by itself after 5 s.
              </Note>
            ) : null}
            {snapshot ? <Note lead="Next:">{nextThing(run, snapshot)}</Note> : null}
            {snapshot ? (
              <Note
                tone={
                  snapshot.roomC !== null && (snapshot.roomC < study.rules.roomMinC || snapshot.roomC > study.rules.roomMaxC)
                    ? 'caution'
                    : 'plain'
                }
                lead="Room"
              >
                {roomWords(snapshot)}; band {study.rules.roomMinC} to {study.rules.roomMaxC} °C.
              </Note>
            ) : null}
            {snapshot?.throughputMBps != null ? (
              <Note tone={snapshot.throttling ? 'heat' : 'plain'} lead="Throughput">
                {fixed(snapshot.throughputMBps, 0)} MB/s, {snapshot.throttling ? 'throttling' : 'no throttle now'}.
              </Note>
            ) : null}
          </MarginGroup>
          {run.events.length > 0 ? (
            <MarginGroup title="Marks">
              {[...run.events]
                .reverse()
                .slice(0, 8)
                .map((event) => (
                  <Note key={event.id} tone="caution" lead={clock(event.atS)}>
                    {event.text}
                  </Note>
                ))}
            </MarginGroup>
          ) : null}
          <MarginGroup title="Cautions for this run">
            <Note tone="caution">Covers and sinks above 60 °C burn: let them cool before the next mount.</Note>
            {study.family === 'drive' ? <Note tone="caution">Sustained writes wear the drive: scratch drive only.</Note> : null}
          </MarginGroup>
        </>
      }
    >
      {dialogs}
      <PhaseLine recipe={run.recipe} run={run} snapshot={snapshot} />
      <div className="mt-6">
        <RunTrace study={study} run={run} channels={live.channels} snapshot={snapshot} height={330} />
      </div>
      {snapshot ? (
        <div className="mt-4">
          <RunStrips study={study} snapshot={snapshot} bindingId={binding?.spot.spotId ?? null} />
        </div>
      ) : null}
      {marking.error ? <Notice tone="error">{sentenceOf(marking.error)}</Notice> : null}
      <div className="mt-6 flex flex-wrap gap-3">
        <Button onClick={() => send('mark', 'Mark')}>
          <Key>M</Key> Mark
        </Button>
        <Button onClick={() => setAsking('change')}>
          <Key>C</Key> Change made
        </Button>
        <Button onClick={toggleArm}>
          <Key>A</Key> Arm’s length
        </Button>
        <Button look="strong" className="ml-auto" onClick={() => setAsking('stop')}>
          <Key>S</Key> Stop the load
        </Button>
      </div>
    </Sheet>
  );
}
