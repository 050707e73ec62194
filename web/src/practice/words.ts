import { capital } from '@red-ember/core';
import type { PracticeCall, PracticeMarks } from '@red-ember/contract';

export const LEVELS: Record<1 | 2 | 3, string> = { 1: 'To begin with', 2: 'For a second week', 3: 'Where good hands slip' };

export const CALL_MARKS: Record<PracticeMarks['call'], string> = {
  right: 'right',
  'held-back': 'held back',
  wrong: 'wrong',
};

/** What can be said of b against a. */
export const callSentence = (call: PracticeCall, a: string, b: string): string =>
  capital(
    {
      cooler: `${b} is cooler than ${a}`,
      warmer: `${b} is warmer than ${a}`,
      alike: `${b} and ${a} are alike, within what matters`,
      cannot: 'It cannot be said from what this bench gave',
    }[call],
  );

export const FIGURE_MARKS: Record<NonNullable<PracticeMarks['figure']>, string> = {
  holds: 'The truth lies within the doubt that you gave.',
  'too-wide': 'The truth lies within your doubt, which is so wide that it says little.',
  misses: 'The truth lies outside the doubt that you gave.',
};
