import type { Reach } from '../review/reach.ts';
import type { OutputKey } from '../review/outputs.ts';
import type { Estimate } from '../estimate.ts';
import type { RunReview } from '../review/types.ts';
import type { Comparison } from '../uncertainty/compare.ts';
import type { StoppingRule } from '../uncertainty/looks.ts';
import type { UncertaintyBudget } from '../uncertainty/combineUncertainty.ts';

/** A figure that was not measured as it stands: carried to one power, or read off a sweep at one noise level. */
export type Restatement = { kind: 'power'; targetW: number; exponent: number } | { kind: 'noise'; levelDb: number };

/** Scatter between runs that were meant to be equal, as a standard deviation with its degrees of freedom. */
export interface Scatter {
  sd: number;
  dof: number;
}

/** Scatter that is known beforehand and lent to a comparison. `assumed`: a stated figure stands in, the bench has none. */
export interface KnownScatter extends Scatter {
  assumed: boolean;
}

export type ReportingBasis = 'rise' | 'held-room' | 'as-found';
/**
 * 'hottest' is the settled mean of whichever spot came out hottest, beside those of the spots themselves. 'settled-value' is where the
 * fitted approach ends: the mean of the window with what remained put on top.
 */
export type Figure = 'settled-mean' | 'settled-value' | 'peak' | 'hottest';
export type Disposition = 'undecided' | 'use' | 'caution' | 'reject';
/** 'withholds': the two may be compared, and neither is called until something is done. */
export type Severity = 'blocks' | 'withholds' | 'weakens' | 'note';

/** What would earn a call that is withheld, and how long it takes at the bench. */
export interface EarnBy {
  what: string;
  minutes: number;
}

/** Checks of methods §7 that this product makes. */
export type FairnessCheck =
  | 'settled'
  | 'room'
  | 'heat'
  | 'work'
  | 'throttled'
  | 'length'
  | 'settings'
  | 'sensors'
  | 'mounts'
  | 'order'
  | 'ended-early'
  | 'load-off'
  | 'spikes'
  | 'resolution'
  | 'repeats'
  | 'looks'
  | 'held'
  | 'held-alike'
  | 'shared-runs'
  | 'calibration'
  | 'agreement'
  | 'fan-policy'
  | 'one-change'
  | 'house-rules'
  | 'given';

export interface JudgeRules {
  basis: ReportingBasis;
  figure: Figure;
  /** Smaller differences do not matter, K. */
  practicalK: number;
  /** Share of cases in which an interval shall hold the truth, e.g. 0.95. */
  coverage: number;
  /** Room band that the tester promised to hold, °C; null where none was stated. */
  roomBand: { minC: number; maxC: number } | null;
  /** What the fans were to do; 'not-applicable' where nothing is said. */
  fans?: 'not-applicable' | 'locked' | 'as-shipped' | 'equal-noise';
  /** What the part beside it takes is what the study changes on purpose: then it stands in no doubt. */
  neighbourIsAsked?: boolean;
  /** Unit of the performance channel, for words. */
  throughputUnit?: string;
  /** Half-width of the room probe's accuracy, K; the usual one where nothing is said. */
  roomAccuracyK?: number;
  /** Figures restated for another power, or read at one noise level. */
  restate?: Restatement;
  /** How the plan may be decided before all of its mounts are made, as it was set beforehand; nothing where it is looked at once. */
  stopping?: Stopping;
  /** What the bench is known to drift by; a stated figure where nothing is. */
  drift?: KnownDrift;
  /** Figures that the study names itself; none where nothing is said. */
  own?: readonly OwnFigure[];
  /** Only runs that the tester signed off for use take part. */
  signedOffOnly?: boolean;
  /** What is asked of a call; 'strict' where nothing is said. */
  evidence?: Evidence;
}

/** What is known of a bench's drift. */
export interface KnownDrift {
  /** Standard deviation of its rate from one study to the next, K an hour. */
  kPerH: number;
  /** Studies that told of it. */
  studies: number;
}

/** When a plan may be decided before all of its mounts are made. */
export interface Stopping {
  rule: StoppingRule;
  /** Mounts a side at its last look. */
  mostASide: number;
  /** Mounts a side at its first; `FIRST_LOOK` where nothing is said. */
  fromASide?: number;
}

/**
 * 'strict': a sentence about several spots is paid for by all of them, and what nobody saw is not taken for granted. 'usual': every spot
 * speaks by itself, and a rule that nobody watched is taken at its word. What was seen to go wrong stands against a call under either.
 */
export type Evidence = 'strict' | 'usual';

export interface JudgedSpot {
  id: string;
  name: string;
  limitC: number | null;
  /** Half-width of the sensor's accuracy as stated by its maker, K. */
  accuracyK: number;
  /** Smallest step of the sensor, K. */
  resolutionK: number;
  /** Half-width of what place and contact of the probe may cost, K. */
  placementK: number;
  /** On the part beside the one that is measured: a processor in a study of cards. */
  ofNeighbour?: boolean;
}

export interface JudgedRun {
  id: string;
  /** As shown to the tester, e.g. "run 4". */
  label: string;
  mountNo: number | null;
  /** Which fitting it was made on, the same for all its runs; where nothing is said, the variant and the number. */
  mountId?: string;
  /** Name of the one of its loads at which it is looked at; nothing where the run is looked at as a whole. */
  atLoad?: string;
  /** Milliseconds since the epoch; null where nobody knows when it was made. */
  startedAtMs: number | null;
  disposition: Disposition;
  /** What was written down with it at sign-off. */
  dispositionReason?: string;
  /** Sensor on each spot, by spot id. */
  sensors: Record<string, string>;
  /** What was held, as written down for this run. */
  settings: Record<string, string>;
  /** Names of what is held part by part on purpose: boards need different settings to hold one voltage. */
  heldByPart: string[];
  /** What was to be confirmed by hand and was not. */
  unconfirmed: string[];
  /** Sensors whose calibration had fallen due when the run was made. */
  overdue: { spotId: string | null; sensor: string; dueOn: string }[];
  /** What the channels of `review.besides` are called, their unit, and which is what the part beside it took, by their key. */
  besides?: Readonly<Record<string, { name: string; unit: string; neighbour?: boolean }>>;
  /** What the study's own figures came to; none where nothing is said. */
  own?: readonly OwnValue[];
  review: RunReview;
}

/** A house rule as one study has it, in its own key and in words. */
export interface HouseRule {
  value: string;
  words: string;
}

/** House rules that a comparison of two studies is held against. */
export type HouseRuleKey = 'basis' | 'figure' | 'fans' | 'load' | 'duration' | 'place' | 'sensorOfRecord' | 'stress' | 'paste';

/** Where a side comes from: looked at only where the two sides come from different studies. */
export interface Origin {
  studyId: string;
  title: string;
  /** The part under test, as it is written down. */
  part: string;
  rules: Readonly<Record<HouseRuleKey, HouseRule>>;
}

export interface JudgedSide {
  variantId: string;
  name: string;
  /** At which level each factor stands; nothing where no factors are written down. */
  levels?: Readonly<Record<string, string>>;
  /** The part under test. */
  subject?: string;
  origin?: Origin;
  runs: JudgedRun[];
}

export interface Finding {
  check: FairnessCheck;
  severity: Severity;
  /** One sentence with the numbers. */
  evidence: string;
  /** What to do about it. */
  remedy: string;
  /** The run it is about; null where it concerns the comparison. */
  runId: string | null;
  spotId: string | null;
  /** Of one that withholds: why, in a few words, and what would earn the call. */
  withheld?: { why: string; earnBy: EarnBy };
}

/**
 * What may be said of b against a. 'blocked': measured, but not comparable. 'withheld': measured and comparable, but not earned.
 * 'not-compared': a reading is missing.
 */
export type CallKind = 'cooler' | 'warmer' | 'equivalent' | 'no-call' | 'withheld' | 'blocked' | 'not-compared';

export interface Call {
  kind: CallKind;
  /** Why it is blocked, withheld or not compared, in a sentence; null otherwise. */
  why: string | null;
  /** The cheapest that would earn a call that is withheld; null otherwise. */
  earnBy: EarnBy | null;
  /** How likely b is cooler at all, by more than what matters, and warmer by more than it, 0..1; null without a comparison. */
  likely: { cooler: number; coolerByThreshold: number; warmerByThreshold: number } | null;
  /** A side is named by this spot's own interval alone: over all spots that were looked at it may be chance. */
  byItself: boolean;
}

/** One run's figure as it went into a side: at the load, restated and of the spot that were asked for. */
export interface SideReading {
  runId: string;
  figure: Estimate;
  /** Which spot was read: another than the row's where that is the hottest of several. */
  spotId: string;
  /** Samples of the window, and how many of them count for as much where they are correlated. */
  n: number;
  nEffective: number;
}

/** One side of one spot: what the headroom strip draws. */
export interface SideFigure {
  runs: number;
  /** What it is the mean of, one a run. */
  readings: SideReading[];
  /** The study's figure: rise (K) or temperature (°C). */
  figure: Estimate;
  /** Half-width of the figure's interval with everything in it that does not cancel in a single reading, K. */
  doubtK: number;
  budget: UncertaintyBudget;
  /** Where it settles, restated to the common room of both sides, °C: headroom is held against this. */
  spotC: number;
  idleC: number | null;
  peakC: number;
}

export interface SpotJudgement {
  spotId: string;
  a: SideFigure | null;
  b: SideFigure | null;
  comparison: Comparison | null;
  /** At which its interval is drawn: the study's, or what belongs to this look of the plan. */
  coverage: number;
  /** What may be said of it: every page and file says this and nothing else. */
  call: Call;
  /** Scatter known beforehand that was pooled with both sides'; null where each side stood on its own. */
  repeatability: KnownScatter | null;
  /** W that the difference was brought to, since powers differed a little; null where figures stand as measured. */
  restatedW: number | null;
  /** Where a side was not settled: whether the true difference reaches at least or at most as far as the one that was read; null otherwise. */
  reach: Reach | null;
  /** Why there is no comparison; null where there is one. */
  refusal: string | null;
}

/** What is read beside temperature by a channel of a known kind. */
export type KnownOutcome = Exclude<OutputKey, 'performance'> | 'throughput' | 'time-to-throttle';
/** A figure that the study names itself, by its id. */
export type OwnOutcome = `own:${string}`;
/** What is read beside temperature. */
export type OutcomeKey = KnownOutcome | OwnOutcome;

/** A figure that a study names itself: a score, minutes of a render, a rating. Amounts are in its own unit. */
export interface OwnFigure {
  id: string;
  name: string;
  unit: string;
  better: 'low' | 'high' | 'neither';
  /** Half-width of what one value may be off. */
  doubt: number;
  /** Smaller differences do not matter. */
  practical: number;
}

/** What one of them came to in a run. */
export interface OwnValue {
  figureId: string;
  /** Name of the load that it belongs to; null for the run as a whole. */
  load: string | null;
  value: number;
}

/**
 * How an outcome stood in a comparison: held by the tester, held by the part's own control, free to move, or not recorded.
 * Only what was free can say where the cooling went (methods §4).
 */
export type Freedom = 'held' | 'held-by-part' | 'free' | 'not-recorded';

export interface CoolingRow {
  outcome: 'temperature' | OutcomeKey;
  label: string;
  unit: string;
  freedom: Freedom;
  /** Means of both sides; of a temperature its difference only. */
  a: number | null;
  b: number | null;
  comparison: Comparison | null;
  /** Which side comes out better; null where neither does, or where it was not free. */
  better: 'a' | 'b' | null;
  /** Why it counts or does not. */
  because: string;
}

export interface Cooling {
  rows: CoolingRow[];
  /** One sentence of where it went; empty where nothing was free. */
  sentence: string;
}

export interface LeftOut {
  runId: string;
  label: string;
  reason: string;
}

/** Outcomes other than temperature, b against a; null where they were not recorded on both sides. */
export interface WorkJudgement {
  throughput: Comparison | null;
  noise: Comparison | null;
  clock: Comparison | null;
  /** Minutes from the start of the load. */
  timeToThrottle: Comparison | null;
  /** Figures that the study names itself, by id, with the difference below which it does not matter. */
  own: Record<string, { comparison: Comparison; practical: number } | null>;
  /** Differences below this do not matter, by outcome, in its unit; null where it was not compared. */
  practical: Record<'throughput' | 'noise' | 'clock' | 'timeToThrottle', number | null>;
  /** Runs of each side that throttled, of all that were watched for it, and the shortest watch in minutes. */
  throttled: { a: Throttled; b: Throttled };
  /** A side has one run, so that a stated scatter stands in for its own. */
  assumed: boolean;
  /** In which the work of the part is counted. */
  throughputUnit: string;
}

export interface Throttled {
  runs: number;
  of: number;
  watchedMin: number;
}

/** Two sides to be judged by one set of rules. */
export interface JudgeInput {
  a: JudgedSide;
  b: JudgedSide;
  spots: JudgedSpot[];
  rules: JudgeRules;
  /** The bench's pooled scatter from other studies, by spot id; a spot without history is left out. */
  history: Readonly<Record<string, Scatter>>;
  /** The study's other variants, whose repeats say how well the bench repeats; none where nothing is said. */
  others?: readonly JudgedSide[];
}

export interface PairJudgement {
  a: { variantId: string; name: string; runIds: string[]; mounts: number | null };
  b: { variantId: string; name: string; runIds: string[]; mounts: number | null };
  /** Common room to which both sides' temperatures are restated, °C. */
  roomC: number;
  spots: SpotJudgement[];
  work: WorkJudgement;
  /** Where the cooling went, of what was free to move. */
  cooling: Cooling;
  /** Findings that block the comparison of temperatures as a whole; empty where it stands. */
  blockedBy: Finding[];
  /** Findings for which no temperature is called, though it may be compared; the cheapest to mend first. */
  withheldBy: Finding[];
  findings: Finding[];
  leftOut: LeftOut[];
}
