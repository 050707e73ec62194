import { useEffect, useRef } from 'react';
import { goesOn, type Run, type Study } from '@red-ember/contract';
import { useAppSelector } from '../data/store.ts';
import { notice } from './live/notices.ts';
import { STATES } from './words.ts';

/** Tells outside the page that a run has ended which went on while it was looked at, where that was chosen. */
export function useEndNotice(study: Study, run: Run | undefined): void {
  const how = useAppSelector((state) => state.settings.atMarks);
  const going = useRef<string | null>(null);
  useEffect(() => {
    if (!run) return;
    if (goesOn(run)) going.current = run.id;
    else if (going.current === run.id) {
      going.current = null;
      if (how === 'notification')
        notice(run.id, `Run ${run.number} ${STATES[run.state]}`, [study.title, run.endReason].filter(Boolean).join('. '));
    }
  }, [run, how, study.title]);
}
