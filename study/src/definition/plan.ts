import { FIRST_LOOK, FIRST_LOOKS, MOST_LOOKS, PHASE_END_MODES, type PhaseEndMode } from '@red-ember/core';
import type { RetestEntry } from './judging.ts';

/** At which level a factor stands. */
export interface LevelChoiceEntry {
  factor: string;
  level: string;
}

/** Something that is changed from variant to variant, with what it may be changed to. */
export interface FactorEntry {
  name: string;
  levels: string[];

  /** Minutes it takes to change it. */
  changeMin: number;

  /** The factor that has to come off to reach this one; empty where it can be reached at once. */
  under?: string;

  /** Spoilt when what covers it comes off: paste, pads. */
  renew?: boolean;
}

/** Levels that cannot be had together. */
export interface ImpossibleEntry {
  levels: LevelChoiceEntry[];
  reason: string;
}

/** When a plan is decided: after its runs, or as soon as one of its looks says so, by a bound that stays the same or one that relaxes. */
/** From one sample to the next, ms. */
export const SAMPLE_INTERVALS_MS = [1000, 500, 200, 100, 50] as const;
export const USUAL_SAMPLE_INTERVAL_MS = 1000;

/** What a rig samples at where so much is asked: no faster than it can. @param fastestMs of the rig */
export const sampleIntervalOn = (plan: Pick<PlanEntry, 'sampleIntervalMs'>, fastestMs: number): number =>
  Math.max(plan.sampleIntervalMs ?? USUAL_SAMPLE_INTERVAL_MS, fastestMs);

export const STOP_RULES = ['none', 'pocock', 'obrien-fleming'] as const;
export type StopRule = (typeof STOP_RULES)[number];
/** A plan that may be decided early looks first at two mounts a side, and ten times at most. */
export const FEWEST_A_SIDE = FIRST_LOOK;
export { FIRST_LOOKS, PHASE_END_MODES };
export const MOST_A_SIDE = FIRST_LOOK + MOST_LOOKS - 1;
/** Where nothing is said. */
export const USUAL_MOST_A_SIDE = 6;

/** When somebody is at the bench, and in which order it is worked. */
export interface PlanEntry {
  school: 'least-teardown' | 'balanced' | 'own';

  /** Variants in order of running, by id; empty until an order is taken over. */
  order: string[];

  /** Variant that is run before or after all others; null for none. */
  firstVariantId: string | null;
  lastVariantId: string | null;
  mountMin: number;
  remountMin: number;

  /** Cure or bed-in after every change of variant. */
  cureMin: number;

  /** Runs need nobody, because a cut-out is armed. */
  unattended: boolean;

  /** First day, YYYY-MM-DD; empty: today. */
  startOn: string;
  fromMin: number;
  toMin: number;
  lunchFromMin: number;
  lunchMin: number;
  weekdays: number[];

  /** Mounts that go wrong and that consumables are kept for. */
  spareMounts?: number;

  /** Set before the runs; nothing: looked at once. */
  stopRule?: StopRule;
  mostASide?: number;

  /** Mounts a side at the first look: one where the bench knows how far mounts lie apart, two where nothing is said. */
  fromASide?: number;

  /** From one sample to the next, ms, where the rig can; a second where nothing is said. */
  sampleIntervalMs?: number;

  /** Three letters of the currency that parts are priced in. */
  currency?: string;
}

/** One way of cooling the part. */
export interface VariantEntry {
  id: string;
  name: string;

  /** The part it is put on. */
  subjectId: string;
  isReference: boolean;

  /** Which set-up of the simulated bench stands for it; empty where it is only recorded from files. */
  setup: string;
  notes: string;

  /** Where it stands on each factor; none where it was written down by name alone. */
  levels?: LevelChoiceEntry[];

  /** Runs that are planned of it; 2 where nothing is said. */
  repeats?: number;

  /** No more runs are made of it; those that were stand, in every result. */
  retired?: boolean;

  /** It is another variant with one suspect changed; null where it is its own. */
  retest?: RetestEntry | null;
}

/** A control of the rig and what it is set to. */
export interface ControlSettingEntry {
  control: string;
  value: number | string;
}

export interface RecipePhaseEntry {
  kind: 'idle-soak' | 'load' | 'change' | 'sweep' | 'cool-down';
  name: string;
  mode: PhaseEndMode;
  durationS: number;
  capS: number;
  loadPercent: number;

  /** Load of a sweep's last step. */
  toPercent?: number;

  /** Steps of a sweep, both ends counted. */
  steps?: number;

  /** Control of the rig that is swept; the load where nothing is said. */
  sweepOf?: string;

  /** First and last value of a control that is swept, in its unit. */
  from?: number;
  to?: number;

  /** What the rig sets when the phase starts. */
  set?: ControlSettingEntry[];

  /** What is done when a change starts, in words. */
  opensWith?: string;

  /** Minutes of the phase at which something is read by hand. */
  marksMin?: number[];
}

/** What is kept in reserve, and in which currency, where nothing is said. */
export const USUAL_SPARE_MOUNTS = 1;
export const USUAL_CURRENCY = 'EUR';

/** A plan to start from: two people's ordinary week. */
export function blankPlan(): PlanEntry {
  return {
    school: 'balanced',
    order: [],
    firstVariantId: null,
    lastVariantId: null,
    mountMin: 15,
    remountMin: 15,
    cureMin: 0,
    unattended: false,
    startOn: '',
    fromMin: 540,
    toMin: 1020,
    lunchFromMin: 720,
    lunchMin: 45,
    weekdays: [1, 2, 3, 4, 5],
  };
}

/** Levels of a variant as a record, for the core. */
export function levelsOf(variant: VariantEntry): Record<string, string> {
  return Object.fromEntries((variant.levels ?? []).map(({ factor, level }) => [factor, level]));
}

/** Runs that are planned of a variant where nothing is said. */
export const USUAL_REPEATS = 2;
