import { judgePair, type CallKind, type Comparison, type JudgeInput, type PairJudgement } from '../../src/index.ts';
import { CONFOUNDS, drawStudy, type Confound, type DrawnStudy } from './studies.ts';

/** How studies with one confound ended. */
export interface Ended {
  confound: Confound | 'all';
  studies: number;
  /** A call that is false: the wrong side named, a side named where neither is cooler, equivalent where it is not. */
  wrong: number;
  /** A call where none may be made. */
  unearned: number;
  right: number;
  noCall: number;
  withheld: number;
  decidable: number;
  calledOfDecidable: number;
  /** Intervals of fair studies, and how many hold the truth. */
  intervals: number;
  holding: number;
  /** The same by a bench that knows how far its mounts lie apart, and its false calls. */
  knownHolding: number;
  knownWrong: number;
  /** At the bench. */
  hours: number;
}

/** So many times what is left in doubt to one who knows every spread: then a judge who has to learn them should find out. */
const DECIDABLE = 5;

const none = (confound: Ended['confound']): Ended => ({
  confound,
  studies: 0,
  wrong: 0,
  unearned: 0,
  right: 0,
  noCall: 0,
  withheld: 0,
  decidable: 0,
  calledOfDecidable: 0,
  intervals: 0,
  holding: 0,
  knownHolding: 0,
  knownWrong: 0,
  hours: 0,
});

/** What the intervals of studies with nothing wrong hold: by what the study shows alone, and where the bench knows its mounts. */
export type FairIntervals = Pick<Ended, 'intervals' | 'holding' | 'knownHolding'>;

/** @param studies how many to draw, of the kind with nothing wrong. @param from seed of the first */
export function fairIntervals(studies: number, from = 600_001): FairIntervals {
  const ended = none('none');
  for (let i = 0; i < studies; i++) add(ended, drawStudy('none', from + i));
  return ended;
}

const judgeDrawn = ({ a, b, spots, rules }: DrawnStudy, history: JudgeInput['history']): PairJudgement =>
  judgePair({ a, b, spots, rules, history });

const falseKind = (kind: CallKind, { truthK, rules }: DrawnStudy): boolean =>
  (kind === 'cooler' && truthK >= 0) ||
  (kind === 'warmer' && truthK <= 0) ||
  (kind === 'equivalent' && Math.abs(truthK) > rules.practicalK);

const holds = ({ interval }: Comparison, truthK: number): boolean => interval[0] <= truthK && truthK <= interval[1];

function add(ended: Ended, study: DrawnStudy): void {
  const judged = judgeDrawn(study, {});
  const { truthK, forbidden, bestU, spots, knows } = study;
  ended.studies++;
  ended.hours += study.hours;
  const kinds = judged.spots.map(({ call }) => call.kind);
  const called = kinds.filter((kind) => kind === 'cooler' || kind === 'warmer' || kind === 'equivalent');
  const wrong = kinds.some((kind) => falseKind(kind, study));
  if (forbidden && called.length > 0) ended.unearned++;
  else if (wrong) ended.wrong++;
  else if (called.length > 0) ended.right++;
  else if (kinds.every((kind) => kind === 'no-call')) ended.noCall++;
  else ended.withheld++;
  if (forbidden) return;
  if (Math.abs(truthK) > DECIDABLE * bestU) {
    ended.decidable++;
    if (kinds.includes(truthK < 0 ? 'cooler' : 'warmer')) ended.calledOfDecidable++;
  }
  for (const { comparison } of judged.spots) {
    if (!comparison) continue;
    ended.intervals++;
    if (holds(comparison, truthK)) ended.holding++;
  }
  const known = judgeDrawn(study, Object.fromEntries(spots.map(({ id }) => [id, knows])));
  if (known.spots.some(({ call }) => falseKind(call.kind, study))) ended.knownWrong++;
  for (const { comparison } of known.spots) if (comparison && holds(comparison, truthK)) ended.knownHolding++;
}

/**
 * The campaign: studies of each confound, judged, and how they ended; the sum of all last.
 *
 * @param each studies of each confound
 * @param from seed of the first
 * @param drawn where studies come from
 */
export function campaign(each: number, from = 1, drawn: typeof drawStudy = drawStudy): Ended[] {
  const rows = CONFOUNDS.map((confound, k) => {
    const ended = none(confound);
    for (let i = 0; i < each; i++) add(ended, drawn(confound, from + 1000 * k + i));
    return ended;
  });
  const all = none('all');
  for (const row of rows) for (const key of Object.keys(all) as (keyof Ended)[]) if (key !== 'confound') (all[key] as number) += row[key];
  return [...rows, all];
}
