import { useEffect, useState } from 'react';
import { clock, duration } from '@red-ember/core';
import type { BoardMapBody } from '@red-ember/contract';
import type { CardStep, Caution, MountCard } from '@red-ember/study';
import { Button } from '../ui/Button.tsx';
import type { CardProgress } from './cardSlice.ts';
import { ScrewMap } from './ScrewMap.tsx';
import { Shown } from '../ui/Shown.tsx';

interface Props {
  card: MountCard;
  map: BoardMapBody | null;
  progress: CardProgress;
  onWork: (part: Partial<CardProgress>) => void;
}

/** Seconds of the clock, while something waits. */
function useSeconds(running: boolean): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [running]);
  return now;
}

/** Cure, bed-in or drying after a step, counted down from its tick. */
function Wait({ minutes, since }: { minutes: number; since: string | undefined }) {
  const leftAt = (now: number) => (since ? minutes * 60 - (now - Date.parse(since)) / 1000 : minutes * 60);
  const now = useSeconds(since !== undefined);
  const left = leftAt(now);
  if (!since) return <p className="text-[0.93rem] text-soft">Then wait {duration(minutes * 60)}; the clock starts with the tick.</p>;
  if (left <= 0) return <p className="text-[0.93rem] text-quench-text">{duration(minutes * 60)} are over.</p>;
  return (
    <p className="text-[0.93rem] font-semibold" role="timer">
      {clock(left)} to wait
    </p>
  );
}

export function Cautions({ cautions, progress, onWork }: { cautions: Caution[] } & Pick<Props, 'progress' | 'onWork'>) {
  const { confirmed } = progress;
  return (
    <ul className="grid gap-1">
      {cautions.map(({ key, text }) => (
        <li key={key}>
          <label className="flex cursor-pointer items-start gap-3 border-l-[3px] border-ochre bg-margin/60 px-3 py-2">
            <input
              type="checkbox"
              className="mt-1.5"
              checked={confirmed.includes(key)}
              onChange={(event) =>
                onWork({ confirmed: event.target.checked ? [...confirmed, key] : confirmed.filter((entry) => entry !== key) })
              }
            />
            <span>
              <Shown>{text}</Shown>
            </span>
          </label>
        </li>
      ))}
    </ul>
  );
}

function Step({ entry, number, map, progress, onWork }: { entry: CardStep; number: number } & Omit<Props, 'card'>) {
  const { step, cautions } = entry;
  const doneAt = progress.done[step.id];
  const left = progress.skipped.includes(step.id);
  const blocked = cautions.some((caution) => !progress.confirmed.includes(caution.key));
  const tick = (on: boolean) => {
    const { [step.id]: _was, ...others } = progress.done;
    onWork({
      done: on ? { ...others, [step.id]: new Date().toISOString() } : others,
      skipped: progress.skipped.filter((id) => id !== step.id),
    });
  };
  const leaveOut = () => {
    const { [step.id]: _was, ...others } = progress.done;
    onWork({ done: others, skipped: left ? progress.skipped.filter((id) => id !== step.id) : [...progress.skipped, step.id] });
  };
  return (
    <li className="grid grid-cols-[2rem_minmax(0,1fr)_auto] items-start gap-x-3 border-b border-rule py-2.5">
      <span className={`pt-0.5 text-right text-[1.1rem] ${doneAt || left ? 'text-soft' : 'font-semibold'}`}>{number}</span>
      <div className="grid gap-1.5">
        {cautions.length > 0 ? <Cautions cautions={cautions} progress={progress} onWork={onWork} /> : null}
        <label className={`flex items-start gap-3 ${blocked ? 'cursor-not-allowed' : 'cursor-pointer'}`}>
          <input
            type="checkbox"
            className="mt-1 size-5 shrink-0"
            checked={doneAt !== undefined}
            disabled={blocked || left}
            title={blocked ? 'Confirm the caution first' : undefined}
            onChange={(event) => tick(event.target.checked)}
          />
          <span className={doneAt || left ? `text-soft ${left ? 'line-through' : ''}` : ''}>{step.text}</span>
        </label>
        {step.header ? (
          <p className="text-[0.93rem]">
            <span className="text-soft">Plug to</span> <b className="font-semibold">{step.header}</b>
            {step.follows ? (
              <>
                <span className="text-soft">, which follows</span> {step.follows}
              </>
            ) : null}
          </p>
        ) : null}
        {step.screwsOf && map && !left && !doneAt ? <ScrewMap map={map} coverId={step.screwsOf} loosen={step.when === 'off'} /> : null}
        {step.waitMin > 0 && !left ? <Wait minutes={step.waitMin} since={doneAt} /> : null}
      </div>
      <Button
        look="quiet"
        className="!px-1 !py-0 text-[0.87rem]"
        onClick={leaveOut}
        aria-label={`${left ? 'Take up again' : 'Leave out'}: ${step.text}`}
      >
        {left ? 'take up' : 'leave out'}
      </Button>
    </li>
  );
}

/** The steps of a change-over, in order of the hands. A caution stands at its step and is confirmed before it is ticked. */
export function CardSteps({ card, ...rest }: Props) {
  return (
    <ol className="border-t border-rule" aria-label="Steps">
      {card.steps.map((entry, i) => (
        <Step key={entry.step.id} entry={entry} number={i + 1} {...rest} />
      ))}
    </ol>
  );
}
