import type { StudySummary } from '@red-ember/contract';
import type { Station } from '../frame/stations.ts';

/** What each station is for, as one walks through a study for the first time. */
export const TOUR: Record<Station, string> = {
  ask: 'What is to be found out, what somebody claims, and what you expect: written down before the first run, since afterwards everybody has known it.',
  look: 'The spots whose temperature counts: where each lies, its limit, and from whom the limit is.',
  equip: 'Which instrument reads which spot, and the doubt that it brings along.',
  hold: 'What has to be alike on both sides: fans, power, room. What a channel can watch is watched in every run.',
  plan: 'The variants, what one run does, how many of them, and in which order, so that a bench that drifts does not decide.',
  mount: 'A card for the hands: what differs from what is on the bench, step by step, each caution confirmed.',
  run: 'The run itself, with Stop always in sight. A log that was recorded elsewhere is read in here too.',
  read: 'What each run says: where it settled, how well that is known, and what speaks against it.',
  judge: 'Two sides against each other: a call where it is earned, and what would earn it where it is not.',
  report: 'The same in a file for others: the whole of it, or a page for each kind of reader.',
};

/** The study that is walked through: one that was measured on both sides, the demo's first where it is there. */
export const tourOf = (studies: readonly StudySummary[]): StudySummary | undefined =>
  studies.find(({ id, runs }) => id === 'demo-slot-lid' && runs > 1) ?? studies.find(({ runs }) => runs > 1);
