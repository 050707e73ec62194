import type { TimeFormat } from '@red-ember/contract';

export const TIMES: Record<TimeFormat, string> = {
  'elapsed-s': 'elapsed seconds',
  'elapsed-min': 'elapsed minutes',
  clock: 'clock, 14:05:00',
  iso: 'date and time',
  'epoch-s': 'seconds since 1970',
  'epoch-ms': 'milliseconds since 1970',
};
