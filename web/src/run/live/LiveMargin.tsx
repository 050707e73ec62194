import { useState } from 'react';
import { clock, duration, fixed, LIMITER_WORDS, signed } from '@red-ember/core';
import type { LiveSnapshot, Run, Study } from '@red-ember/contract';
import { familyOf } from '@red-ember/study';
import { atMarksChosen, type AtMarks } from '../../data/settings.ts';
import { useAppDispatch, useAppSelector } from '../../data/store.ts';
import { LowSensorNotes } from '../../equip/LowSensorNotes.tsx';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { AgainstNormal } from '../../study/AgainstNormal.tsx';
import { askForNotices, noticesAllowed } from './notices.ts';
import { useCall } from './useAttention.ts';
import { nextThing, roomWords } from './liveWords.ts';

const CALLS: Record<AtMarks, string> = {
  nothing: 'nothing',
  flash: 'a flash of the page',
  sound: 'a tone',
  notification: 'a notification outside the page',
};

function Watched({ study, run, snapshot, connected }: { study: Study; run: Run; snapshot: LiveSnapshot | null; connected: boolean }) {
  const outside = snapshot?.roomC != null && (snapshot.roomC < study.rules.roomMinC || snapshot.roomC > study.rules.roomMaxC);
  return (
    <MarginGroup title="Watched while it runs">
      {!connected ? (
        <Note tone="heat" lead="The server does not answer.">
          Unless it answers within 5 s the rig takes the load off by itself. It keeps what it reads; the page follows again when the server
          is back.
        </Note>
      ) : null}
      {snapshot?.rigLost ? (
        <Note tone="heat" lead="The rig is silent.">
          It removes the load by itself after 5 s.
        </Note>
      ) : null}
      {snapshot?.trouble ? (
        <Note tone="heat" lead={`${snapshot.trouble}.`}>
          The load is off. The rig keeps what it reads; it is tried again by itself.
        </Note>
      ) : null}
      {snapshot?.runsAway ? (
        <Note tone="heat" lead="The rig reports a load that nobody asks for.">
          Switch the machine off by hand.
        </Note>
      ) : null}
      {snapshot?.vanished ? (
        <Note tone="heat" lead="The part no longer answers.">
          {run.onVanish === 'record' ? 'The recording goes on, as was chosen.' : 'The load is removed.'}
        </Note>
      ) : null}
      {snapshot ? <Note lead="Next:">{nextThing(run, snapshot)}</Note> : null}
      {snapshot?.capTooSoonS ? (
        <Note tone="caution" lead="The cap comes too soon.">
          It will end this phase about {duration(snapshot.capTooSoonS)} before the last spot is settled.
        </Note>
      ) : null}
      {snapshot ? (
        <Note tone={outside ? 'caution' : 'plain'} lead="Room">
          {roomWords(snapshot)}; band {study.rules.roomMinC} to {study.rules.roomMaxC} °C.
        </Note>
      ) : null}
      {snapshot?.throughput ? (
        <Note tone={snapshot.throttling ? 'heat' : 'plain'} lead="Work done">
          {fixed(snapshot.throughput.value, snapshot.throughput.value < 200 ? 1 : 0)} {snapshot.throughput.unit},{' '}
          {snapshot.limiter ? `held back by ${LIMITER_WORDS[snapshot.limiter]}` : 'nothing holds it back'}.
        </Note>
      ) : null}
      {snapshot?.powerW != null ? <Note lead="Power">{fixed(snapshot.powerW, 1)} W</Note> : null}
      {snapshot?.locks.map((lock) => (
        <Note key={lock.name} tone={lock.leftAtS === null ? 'plain' : 'heat'} lead={lock.name}>
          {lock.now === null ? 'no reading' : `${fixed(lock.now, 1)} ${lock.unit}`}, held at {lock.value} ± {lock.tolerance} {lock.unit}
          {lock.leftAtS === null ? '' : `: moved ${signed(lock.largestOff, 1)} ${lock.unit} at ${clock(lock.leftAtS)}`}
        </Note>
      ))}
    </MarginGroup>
  );
}

/** What calls somebody who is not looking: at marks, at new phases, and when the run has ended. */
function CallChoice() {
  const dispatch = useAppDispatch();
  const atMarks = useAppSelector((state) => state.settings.atMarks);
  const [allowed, setAllowed] = useState(noticesAllowed);
  const choose = (how: AtMarks) => {
    dispatch(atMarksChosen(how));
    if (how === 'notification') void askForNotices().then(setAllowed);
  };
  return (
    <MarginGroup title="At marks and new phases">
      <label className="flex items-center gap-2 text-[0.93rem]">
        <span className="sr-only">What calls you</span>
        <select
          aria-label="What calls you at marks and new phases"
          className="field-box"
          value={atMarks}
          onChange={(event) => choose(event.target.value as AtMarks)}
        >
          {(Object.keys(CALLS) as AtMarks[]).map((how) => (
            <option key={how} value={how}>
              {CALLS[how]}
            </option>
          ))}
        </select>
      </label>
      {atMarks === 'notification' && allowed !== 'granted' ? (
        <Note tone="caution" lead="This browser shows none of this address.">
          {allowed === null
            ? 'It knows no notifications here: another machine’s address over plain http is not trusted.'
            : 'Allow them in its settings for this address.'}
        </Note>
      ) : null}
    </MarginGroup>
  );
}

/** Everything that qualifies a run while it goes on. */
export function LiveMargin({
  study,
  run,
  snapshot,
  connected,
}: {
  study: Study;
  run: Run;
  snapshot: LiveSnapshot | null;
  connected: boolean;
}) {
  const { call } = useCall(run);
  return (
    <>
      <LowSensorNotes study={study} />
      <Watched study={study} run={run} snapshot={snapshot} connected={connected} />
      {run.purpose === 'measure' ? <AgainstNormal run={run} onSuspect={call} /> : null}
      {run.preflight?.overrideReason ? (
        <MarginGroup title="Started all the same">
          <Note tone="caution">{run.preflight.overrideReason}</Note>
        </MarginGroup>
      ) : null}
      {run.events.length > 0 ? (
        <MarginGroup title="Marks">
          {[...run.events]
            .reverse()
            .slice(0, 8)
            .map((event) => (
              <Note
                key={event.id}
                tone={['lock-moved', 'vanished', 'load-off'].includes(event.kind) ? 'heat' : 'caution'}
                lead={clock(event.atS)}
              >
                {event.text}
              </Note>
            ))}
        </MarginGroup>
      ) : null}
      <MarginGroup title="Cautions for this run">
        <Note tone="caution">Covers and sinks above 60 °C burn: let them cool before the next mount.</Note>
        {familyOf(study.family).wearsOut ? <Note tone="caution">Sustained writes wear the drive: scratch drive only.</Note> : null}
      </MarginGroup>
      <CallChoice />
    </>
  );
}
