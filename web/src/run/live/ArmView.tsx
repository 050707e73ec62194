import { capital, fixed, headroomWords } from '@red-ember/core';
import type { LiveSnapshot, Run, Study } from '@red-ember/contract';
import { useDegrees } from '../../data/useDegrees.ts';
import { HeadroomStrip } from '../../ui/HeadroomStrip.tsx';
import { HandReadings, handSpots } from './HandReadings.tsx';
import { bindingSpot, forecastWords, nextThing, phaseWords } from './liveWords.ts';
import { LoadOff, loadOffOf } from './LoadOff.tsx';

interface Props {
  study: Study;
  run: Run;
  snapshot: LiveSnapshot | null;
  connected: boolean;
  acts: { mark: () => void; change: () => void; stop: () => void; arm: () => void; goOn: () => void };
}

function BigButton({
  letter,
  children,
  onClick,
  strong = false,
}: {
  letter: string;
  children: string;
  onClick: () => void;
  strong?: boolean;
}) {
  return (
    <button
      type="button"
      onClick={onClick}
      className={`flex min-h-16 flex-1 items-center justify-center gap-3 border-2 border-ink px-3 text-[clamp(1.15rem,4.4vw,1.7rem)] whitespace-nowrap sm:min-h-20 sm:gap-4 sm:px-4 ${strong ? 'bg-ink text-paper' : ''}`}
    >
      <kbd className="border-2 border-current px-2 font-sans text-[1em] sm:px-3">{letter}</kbd> {children}
    </button>
  );
}

/** Readable from two metres, with targets for a hand in a glove. */
export function ArmView({ study, run, snapshot, connected, acts }: Props) {
  const { temp, tempUnit, text } = useDegrees();
  const binding = bindingSpot(study, snapshot);
  const byHand = handSpots(study).length > 0;
  const paused = run.phases.at(-1)?.kind === 'pause';
  const off = loadOffOf(run) !== null;
  return (
    <main id="sheet" className={`flex min-h-screen flex-col justify-between px-4 sm:px-10 ${byHand ? 'gap-3 py-5' : 'gap-6 py-8'}`}>
      <div className="flex flex-wrap items-baseline justify-between gap-x-6 text-[clamp(1.15rem,4vw,1.7rem)]">
        <h1 className="text-[clamp(1.4rem,4.4vw,1.9rem)] font-normal">{snapshot ? phaseWords(run, snapshot) : 'Waiting for the rig'}</h1>
        <button type="button" onClick={acts.arm} className="underline underline-offset-4">
          Back to the sheet (A)
        </button>
      </div>
      {binding && snapshot ? (
        <>
          <div className="flex flex-wrap items-end justify-between gap-x-12 gap-y-4">
            <p
              className={`${byHand ? 'text-[clamp(3.6rem,16vw,6.4rem)]' : 'text-[clamp(4.8rem,22vw,15rem)]'} font-light leading-[0.85] tracking-tight ${binding.spot.headroomK! < 10 ? 'text-ember-text' : ''}`}
            >
              {fixed(temp(binding.spot.valueC!), 1)}
              <span className="text-[clamp(2rem,8vw,5rem)]"> {tempUnit}</span>
            </p>
            <p
              className={`sm:text-right ${byHand ? 'text-[clamp(1.6rem,6vw,2.6rem)]' : 'text-[clamp(1.9rem,7vw,3.4rem)]'} font-semibold leading-tight`}
            >
              {text(headroomWords(binding.spot.headroomK!))}
              <span className="block text-[clamp(1.2rem,4vw,2rem)] font-normal text-soft">
                {binding.name}, {text(`limit ${binding.limitC} °C`)}
                {binding.byHand ? `, read at ${binding.readAt}` : ''}
              </span>
            </p>
          </div>
          <HeadroomStrip
            label={binding.name}
            roomC={snapshot.roomC ?? 22}
            limitC={binding.limitC}
            spotC={binding.spot.valueC!}
            doubtK={0.5}
            idleC={binding.spot.idleC}
            tone="ember"
            height={byHand ? 26 : 40}
          />
          <p className={`${byHand ? 'text-[clamp(1.15rem,4vw,1.6rem)]' : 'text-[clamp(1.2rem,4.4vw,2rem)]'} leading-snug`}>
            {text(capital(forecastWords(run, snapshot)))}.
            <span className="block font-semibold">
              {connected ? text(nextThing(run, snapshot)) : 'The server does not answer; the rig takes the load off after 5 s.'}
            </span>
          </p>
        </>
      ) : (
        <p className="text-[clamp(1.7rem,7vw,3rem)]">{snapshot && snapshot.nowS > 0 ? 'Nothing read yet' : 'No samples yet'}</p>
      )}
      <LoadOff title={study.title} run={run} large />
      {byHand ? <HandReadings study={study} run={run} snapshot={snapshot} large /> : null}
      {/* Stop never leaves the screen, however small it is. */}
      <div className="sticky bottom-0 flex flex-wrap gap-2 bg-paper py-2 sm:gap-4">
        <BigButton letter="M" onClick={acts.mark}>
          Mark
        </BigButton>
        <BigButton letter="C" onClick={acts.change}>
          Change
        </BigButton>
        {(paused && !off) || snapshot?.allSettled ? (
          <BigButton letter="N" onClick={acts.goOn}>
            {paused ? 'Go on' : 'Next phase'}
          </BigButton>
        ) : null}
        <BigButton letter="S" strong onClick={acts.stop}>
          Stop the load
        </BigButton>
      </div>
    </main>
  );
}
