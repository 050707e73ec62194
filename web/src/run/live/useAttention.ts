import { useEffect, useRef, useState } from 'react';
import type { Run } from '@red-ember/contract';
import { useAppSelector } from '../../data/store.ts';
import { useDegrees } from '../../data/useDegrees.ts';
import { notice } from './notices.ts';

/** What calls somebody to the bench: a mark to read, a new phase, a lock that moved, a part that went. */
const CALLS = new Set(['mark-due', 'change', 'lock-moved', 'vanished', 'returned', 'cut-out', 'load-off']);

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

/**
 * Calls the tester where that was chosen; off by default. Sounds, and tells outside the page, by itself.
 *
 * @returns a number that changes with every call the page should flash at; null where it should not
 */
export function useAttention(run: Run): number | null {
  const { text } = useDegrees();
  const how = useAppSelector((state) => state.settings.atMarks);
  const count = run.events.filter((event) => CALLS.has(event.kind)).length + run.phases.length;
  const [atFirst] = useState(count);
  const heard = useRef(count);
  useEffect(() => {
    if (count > heard.current && how === 'sound') beep();
    if (count > heard.current && how === 'notification') notice(run.id, `Run ${run.number}`, text(whatCalls(run)));
    heard.current = count;
  }, [count, how, run, text]);
  return how === 'flash' && count > atFirst ? count : null;
}
