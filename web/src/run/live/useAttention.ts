import { useEffect, useRef, useState } from 'react';
import type { Run } from '@red-ember/contract';
import { useAppSelector } from '../../data/store.ts';

/** What calls somebody to the bench: a mark to read, a new phase, a lock that moved, a part that went. */
const CALLS = new Set(['mark-due', 'change', 'lock-moved', 'vanished', 'returned', 'cut-out', 'load-off']);

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
 * Calls the tester where that was chosen; off by default. Sounds by itself.
 *
 * @returns a number that changes with every call the page should flash at; null where it should not
 */
export function useAttention(run: Run): number | null {
  const how = useAppSelector((state) => state.settings.atMarks);
  const count = run.events.filter((event) => CALLS.has(event.kind)).length + run.phases.length;
  const [atFirst] = useState(count);
  const heard = useRef(count);
  useEffect(() => {
    if (count > heard.current && how === 'sound') beep();
    heard.current = count;
  }, [count, how]);
  return how === 'flash' && count > atFirst ? count : null;
}
