import { MARK_KINDS, type Run, type RunEvent, type RunState } from './run.ts';

/** Whether a run goes on: it waits for its rig, or is being recorded. */
export const goesOn = ({ state }: { state: RunState }): boolean => state === 'waiting' || state === 'recording';

/** Whether a run ended otherwise than as planned and without anybody wanting it: somebody has to look. */
export const wentWrong = ({ state }: { state: RunState }): boolean => state === 'cut-out' || state === 'interrupted' || state === 'failed';

/** Whether somebody typed an event after the run had ended. */
export const notedAfterwards = ({ endedAt }: Pick<Run, 'endedAt'>, { at, kind }: Pick<RunEvent, 'at' | 'kind'>): boolean =>
  endedAt !== null && at > endedAt && MARK_KINDS.some((noted) => noted === kind);
