import { useCallback, useEffect, useRef, useState } from 'react';
import type { Run } from '@red-ember/contract';
import type { AtMarks } from '../../data/settings.ts';
import { useAppSelector } from '../../data/store.ts';
import { useDegrees } from '../../data/useDegrees.ts';
import { notice } from './notices.ts';

/** What calls somebody to the bench: a mark to read, a new phase, a lock that moved, a part that went. */
const CALLS = new Set(['mark-due', 'change', 'lock-moved', 'clock-off', 'vanished', 'returned', 'cut-out', 'load-off']);

/** The newest of what calls, in words. */
function whatCalls(run: Run): string {
  const event = run.events.findLast(({ kind }) => CALLS.has(kind));
  const phase = run.phases.at(-1);
  return event && event.atS >= (phase?.startS ?? 0) ? event.text : (phase?.name ?? '');
}

/** A short tone, made by the browser itself. */
function beep(): void {
  if (typeof AudioContext === 'undefined') return;
  const audio = new AudioContext();
  const tone = audio.createOscillator();
  const volume = audio.createGain();
  volume.gain.setValueAtTime(0.2, audio.currentTime);
  volume.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + 0.6);
  tone.frequency.value = 880;
  tone.connect(volume).connect(audio.destination);
  tone.start();
  tone.stop(audio.currentTime + 0.6);
  tone.onended = () => void audio.close();
}

/** How the tester is called, and a call in the way that was chosen: a tone, or outside the page. */
export function useCall({ id, number }: Pick<Run, 'id' | 'number'>): { how: AtMarks; call: (words: string) => void } {
  const how = useAppSelector((state) => state.settings.atMarks);
  const call = useCallback(
    (words: string) => {
      if (how === 'sound') beep();
      if (how === 'notification') notice(id, `Run ${number}`, words);
    },
    [how, id, number],
  );
  return { how, call };
}

/**
 * Calls the tester where that was chosen; off by default. Sounds, and tells outside the page, by itself.
 *
 * @returns a number that changes with every call the page should flash at; null where it should not
 */
export function useAttention(run: Run): number | null {
  const { text } = useDegrees();
  const { how, call } = useCall(run);
  const count = run.events.filter((event) => CALLS.has(event.kind)).length + run.phases.length;
  const [atFirst] = useState(count);
  const heard = useRef(count);
  useEffect(() => {
    if (count > heard.current) call(text(whatCalls(run)));
    heard.current = count;
  }, [count, call, run, text]);
  return how === 'flash' && count > atFirst ? count : null;
}
