import type { Disposition } from '@red-ember/core';
import type { RunState } from '@red-ember/contract';

export const STATES: Record<RunState, string> = {
  waiting: 'waiting for the rig',
  recording: 'recording',
  finished: 'finished',
  stopped: 'stopped by hand',
  'cut-out': 'cut out',
  interrupted: 'interrupted',
  failed: 'failed',
};

const DISPOSITIONS: Record<Disposition, string> = {
  undecided: 'not yet',
  use: 'use',
  caution: 'use with caution',
  reject: 'rejected',
};

/** Whether a run is used, and who said so. */
export const signedWords = ({ disposition, dispositionBy }: { disposition: Disposition; dispositionBy: string }): string =>
  `${DISPOSITIONS[disposition]}${dispositionBy === '' || disposition === 'undecided' ? '' : `, ${dispositionBy}`}`;

/** Colours of spots within one run: heat for the first, then by order; dashes tell them apart in grey print. */
const SPOT_LINES = [
  { colour: 'var(--ember-text)', dash: undefined },
  { colour: 'var(--quench-text)', dash: undefined },
  { colour: 'var(--ochre-text)', dash: '7 3' },
  { colour: 'var(--soft)', dash: '2 3' },
] as const;

export function spotLine(index: number) {
  return SPOT_LINES[index % SPOT_LINES.length]!;
}
