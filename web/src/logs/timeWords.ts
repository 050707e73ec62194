import type { TimeFormat } from '@red-ember/contract';

export const TIMES: Record<TimeFormat, string> = {
  'elapsed-s': 'elapsed seconds',
  'elapsed-ms': 'elapsed milliseconds',
  'elapsed-us': 'elapsed microseconds',
  'elapsed-min': 'elapsed minutes',
  'elapsed-h': 'elapsed hours',
  clock: 'clock, 14:05:00',
  iso: 'date and time',
  'day-month': 'date and time, day first',
  'month-day': 'date and time, month first',
  'epoch-s': 'seconds since 1970',
  'epoch-ms': 'milliseconds since 1970',
};
