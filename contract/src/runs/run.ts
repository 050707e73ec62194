import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import type { Family, MadeAs } from '@red-ember/study';
import type {
  ChosenWindow,
  Disposition,
  GivenFigures,
  LineEntry,
  LoadDifference,
  OwnValue,
  PhaseKind,
  ReadAs,
  RecipePhase,
} from '@red-ember/core';
import type { ChannelRole } from '../channels.ts';
import type { HandReading } from '../hand/hand.ts';
import { ID_PATTERN } from '../ids.ts';
import { INITIALS, INITIALS_SENTENCE } from '../initials.ts';
import type { PreflightRecord } from '../preflight/preflight.ts';
import { IsAboveField } from '../validation/constraints.ts';
import { ControlSettingBody } from '../studies/plan.ts';

export const TIME_SCALES = [1, 10, 60, 600] as const;

export type RunPurpose = 'measure' | 'seat-check';

export class StartRunBody {
  @Matches(ID_PATTERN, { message: 'Choose the mount to run.' })
  mountId!: string;

  /** How much faster than the clock the simulated bench runs; real benches run at 1. */
  @IsIn([...TIME_SCALES], { message: 'Choose 1, 10, 60 or 600 times.' })
  timeScale!: number;

  /** Replays the same noise on the simulated bench; null draws one. */
  @ValidateIf((body: StartRunBody) => body.seed !== null)
  @IsInt({ message: 'A seed is a whole number.' })
  @Min(0)
  @Max(2_147_483_647)
  seed!: number | null;

  /** Names of the locks that no channel watches and that the tester has checked. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(40)
  @IsString({ each: true })
  confirmedLocks?: string[];

  /** Some minutes of idle and load that say whether the mount sits well; it never enters a result. */
  @IsOptional()
  @IsIn(['measure', 'seat-check'], { message: 'Choose a run, or a check of the seat.' })
  purpose?: RunPurpose;

  /** Rig to run on; the first free one that has the variant's set-up where nothing is said. */
  @IsOptional()
  @IsString()
  @MaxLength(200)
  rigId?: string;

  /** The pre-flight list that was looked at; its seed and faults hold. */
  @IsOptional()
  @IsString()
  @MaxLength(60)
  preflightId?: string;

  /** Why it is started although the list is not clear. */
  @IsOptional()
  @IsString()
  @MaxLength(300)
  overrideReason?: string;

  /** Faults to plant in a simulated bench for a check of the seat; those of a run are said where the bench is looked at before it. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(20)
  @IsString({ each: true })
  faults?: string[];

  /** What happens when the part no longer answers: the load is removed, or it is only written down. */
  @IsOptional()
  @IsIn(['cut-out', 'record'], { message: 'Choose to cut out, or to go on recording.' })
  onVanish?: VanishChoice;
}

export type VanishChoice = 'cut-out' | 'record';

/** Something that is changed while a run goes on; it opens a phase of its own. */
export class InterventionBody {
  @IsString()
  @Length(1, 120, { message: 'Say in a few words what is changed.' })
  text!: string;

  /** What the rig sets itself. */
  @IsArray()
  @ArrayMaxSize(12)
  @ValidateNested({ each: true })
  @Type(() => ControlSettingBody)
  set!: ControlSettingBody[];
}

export class MoreTimeBody {
  @IsNumber({}, { message: 'Give the minutes as a number.' })
  @Min(1, { message: 'Give a minute or more.' })
  @Max(480, { message: 'More than eight hours are more likely a slip.' })
  minutes!: number;
}

/** What somebody can note of a run. */
export const MARK_KINDS = ['mark', 'change', 'note'] as const;

export class MarkBody {
  @IsIn([...MARK_KINDS], { message: 'Choose mark, change or note.' })
  kind!: (typeof MARK_KINDS)[number];

  @IsString()
  @Length(1, 200, { message: 'Say in a few words what happened.' })
  text!: string;
}

/** Something that happened in a run that has ended, noted afterwards. */
export class NotedBody extends MarkBody {
  /** On the run's clock, s. */
  @IsNumber({}, { message: 'Say at which minute it happened.' })
  @Min(0, { message: 'It cannot have happened before the run began.' })
  atS!: number;
}

export class StopRunBody {
  @IsString()
  @MaxLength(200)
  reason!: string;
}

export class GoOnBody {
  /** Why it goes on after the load had gone off by itself; kept with the run. */
  @IsOptional()
  @IsString()
  @MaxLength(200)
  reason?: string;
}

export class SignOffBody {
  @IsIn(['undecided', 'use', 'caution', 'reject'], { message: 'Choose use, use with caution or reject.' })
  disposition!: Disposition;

  /** Needed to reject. */
  @ValidateIf((body: SignOffBody) => body.disposition === 'reject' || body.reason !== '')
  @IsString()
  @Length(1, 300, { message: 'Say why the run is rejected.' })
  reason!: string;

  /** Initials of whoever decided it. */
  @IsOptional()
  @Matches(INITIALS, { message: INITIALS_SENTENCE })
  by?: string;
}

/** Words that a run is found by, commas between them. */
export class TagsBody {
  @IsString()
  @MaxLength(120, { message: 'Keep the tags under 120 characters.' })
  tags!: string;
}

/** `interrupted`: the rig no longer knew the run; what was measured before is kept. */
export type RunState = 'waiting' | 'recording' | 'finished' | 'stopped' | 'cut-out' | 'interrupted' | 'failed';

/** What is known of the load behind a run, for whoever has pressed Stop. */
export interface RunLoad {
  runId: string;
  /** The run has ended in the record. */
  ended: boolean;
  /** The rig has confirmed that its load is off. */
  off: boolean;
  /** The rig is connected. */
  connected: boolean;
  /** What the rig last reported, percent, and how long ago; null where it has reported nothing. */
  reportedPercent: number | null;
  heardAgoS: number | null;
}

/** What went over the line of a run on a rig: how whole the record is, and whether the rig did what it was told. */
export interface RunLine {
  runId: string;
  /** Messages of samples are numbered from 1 to this. */
  lastSeq: number;
  /** Numbers that never came, and those that came more than once. */
  missing: number;
  again: number;
  /** Usual step between samples, s, and stretches without any. */
  stepS: number | null;
  gaps: { fromS: number; toS: number }[];
  /** In the order in which it happened; none for a run from before this was kept. */
  entries: LineEntry[];
  differs: LoadDifference[];
}

/** A stretch of one phase that is read in place of its last minutes. */
export class ChosenWindowBody {
  /** Index of the phase. */
  @IsInt({ message: 'Choose a phase.' })
  @Min(0)
  @Max(200)
  phase!: number;

  @IsNumber({}, { message: 'Give the start of the window in seconds.' })
  @Min(0)
  startS!: number;

  @IsNumber({}, { message: 'Give the end of the window in seconds.' })
  @IsAboveField('startS', { message: 'A window ends after it begins.' })
  endS!: number;
}

export interface RunChannel {
  key: string;
  role: ChannelRole;
  /** Set for the roles spot and hand. */
  spotId: string | null;
  unit: string;
  /** What its numbers turned out to be, where they were taken for something else. */
  readAs: ReadAs;
  /** What it was called in the log that brought it; empty where it came over a rig's line. */
  head: string;
}

export interface RunPhaseRecord {
  kind: PhaseKind;
  name: string;
  startS: number;
  /** null while it lasts. */
  endS: number | null;
  endedBy: string | null;
}

/** Kind of the event that says that a rig's clock goes otherwise than the server's. */
export const CLOCK_OFF = 'clock-off';

export interface RunEvent {
  id: string;
  atS: number;
  at: string;
  kind: string;
  text: string;
}

/** A run among all of the bench: what it is looked for by. */
export interface RunOfBench extends Pick<
  Run,
  | 'id'
  | 'number'
  | 'studyId'
  | 'mountNumber'
  | 'source'
  | 'sourceName'
  | 'purpose'
  | 'state'
  | 'startedAt'
  | 'startKnown'
  | 'lengthS'
  | 'disposition'
  | 'dispositionBy'
  | 'tags'
> {
  studyTitle: string;
  family: Family;
  /** Name of the part; '' where it has none. */
  part: string;
  variant: string;
}

/** A decision about a run that another has taken the place of. */
export interface EarlierDecision {
  until: string;
  disposition: Disposition;
  reason: string;
  by: string;
}

export interface Run {
  id: string;
  studyId: string;
  variantId: string;
  mountId: string | null;
  mountNumber: number | null;
  /** Counts within the study, from 1. */
  number: number;
  source: 'rig' | 'file';
  sourceName: string;
  purpose: RunPurpose;
  state: RunState;
  startedAt: string;
  /** Else nobody said when it was made, and `startedAt` is when it was put down. */
  startKnown: boolean;
  endedAt: string | null;
  /** Seconds recorded so far. */
  lengthS: number;
  timeScale: number;
  disposition: Disposition;
  dispositionReason: string;
  /** Initials of whoever decided it; '' where nobody said. */
  dispositionBy: string;
  /** Words that it is found by, commas between them. */
  tags: string;
  /** What was decided before, the newest first. */
  earlier: EarlierDecision[];
  endReason: string;
  settings: Record<string, string>;
  /** Null for a run from before this was kept. */
  madeAs: MadeAs | null;
  /** Locks that the tester confirmed by hand when it started. */
  confirmedLocks: string[];
  channels: RunChannel[];
  /** Phases as they were when it started. */
  recipe: RecipePhase[];
  phases: RunPhaseRecord[];
  events: RunEvent[];
  handReadings: HandReading[];
  /** Planted in the simulated bench, by key. */
  faults: string[];
  onVanish: VanishChoice;
  preflight: PreflightRecord | null;
  /** What the study's own figures came to, as it was typed, and when. */
  own: (OwnValue & { at: string })[];
  /** Windows that the tester chose in place of the proposed ones. */
  windows: ChosenWindow[];
  /** Of a run of which there is no trace: what a table says of it, and nothing more; null for one that was recorded. */
  figures: GivenFigures | null;
}

/** A decimated trace for drawing. Times in seconds, null where a stretch without samples begins. */
export interface TraceSeries {
  key: string;
  role: ChannelRole;
  spotId: string | null;
  unit: string;
  t: number[];
  y: (number | null)[];
}

export interface Trace {
  runId: string;
  fromS: number;
  toS: number;
  series: TraceSeries[];
}
