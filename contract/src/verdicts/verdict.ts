import type { ClaimJudgement, JudgedSpot, LineUp, PairJudgement, PredictionOutcome, PredictionRecord, Segment } from '@red-ember/core';

/** The pair that a claim or a prediction names, where it is not the pair that is shown: "paste L against paste K". */
interface Subject {
  of: string | null;
}

/** The judgement of one pair of variants, ready to be shown. */
export interface PairVerdict {
  judgement: PairJudgement;
  /** What was judged: the spots of the study, and before them the hottest of several where the house rules ask for it. */
  spots: JudgedSpot[];
  sentence: Segment[];
  /** One for each claim of the study, in its order. */
  claims: (ClaimJudgement & Subject)[];
  /** One for each prediction of the study, in its order. */
  predictions: (PredictionOutcome & Subject)[];
  /** Where a side comes from another study: which, and what its spots are called there, by this study's spot id. */
  elsewhere: { studyId: string; title: string; spots: Record<string, string> } | null;
  /** Why nothing can be judged yet; null where it can. */
  refusal: string | null;
  /** Loads that all runs of both sides went through; empty where they have one only. */
  loads: string[];
  /** Noise levels at which both sides' sweeps can be read; null where they have none in common. */
  commonNoise: { leastDb: number; mostDb: number } | null;
  /** Other studies whose equal runs lend this one their scatter between mounts, those with most runs first. */
  lentBy: ScatterSource[];
}

/** All variants of a study side by side. */
export interface StudyLineUp {
  /** Called so on the wire since its first version. */
  field: LineUp;
  /** Variants whose runs have several loads, which can stand side by side instead. */
  several: { id: string; name: string }[];
  /** Loads that every run of the study went through. */
  loads: string[];
  /** Why nothing can be said of them; null where something can. */
  refusal: string | null;
}

/** A study whose equal runs tell how well the bench repeats. */
export interface ScatterSource {
  studyId: string;
  title: string;
  /** Runs that have an equal on another mount, and variants that they are of. */
  runs: number;
  variants: number;
}

/** Scatter between runs that were meant to be equal, pooled over the bench's studies of one family under the same rules. */
export interface BenchScatter {
  componentClass: string;
  /** Repeats that nobody touched in between; null where there are none. */
  untouched: { sd: number; dof: number } | null;
  /** With refitting among them. */
  remounted: { sd: number; dof: number } | null;
  /** Where `remounted` comes from, this study among the rest. */
  from: ScatterSource[];
}

/** A tester's predictions over all studies, with the record they make. */
export interface TesterRecord {
  record: PredictionRecord;
  predictions: { studyId: string; title: string; outcome: PredictionOutcome }[];
}
