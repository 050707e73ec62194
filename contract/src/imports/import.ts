import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsISO8601,
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
import { THERMOCOUPLE_TYPES, type ClockOffset, type TemperatureUnit, type ThermocoupleType } from '@red-ember/core';
import { ID_PATTERN } from '../ids.ts';
import { RECORDED_ROLES, type RecordedRole } from '../channels.ts';
import { COMPONENT_CLASSES, FAMILIES, LONGEST_NAME, type ComponentClass, type Family } from '@red-ember/study';
import { LogPhaseBody } from '../runs/logPhase.ts';
import type { Run } from '../runs/run.ts';
import type { Study } from '../studies/study.ts';
import type { PairVerdict } from '../verdicts/verdict.ts';

/** A column of thermocouple voltages, and where its cold junction was. */
export class VoltageBody {
  @IsIn([...THERMOCOUPLE_TYPES], { message: 'Choose type K, T, J or N.' })
  type!: ThermocoupleType;

  /** Column that holds the cold junction's temperature, °C; null where it was steady. */
  @ValidateIf((voltage: VoltageBody) => voltage.coldJunctionColumn !== null)
  @IsInt()
  @Min(0)
  @Max(300)
  coldJunctionColumn!: number | null;

  /** Where no column holds it, °C. */
  @IsNumber({}, { message: 'Say how warm the cold junction was.' })
  @Min(-20, { message: 'A cold junction below −20 °C: is this °C?' })
  @Max(60, { message: 'A cold junction above 60 °C: is this °F?' })
  coldJunctionC!: number;
}

/** How times are written. */
export const TIME_FORMATS = [
  'elapsed-s',
  'elapsed-ms',
  'elapsed-us',
  'elapsed-min',
  'elapsed-h',
  'clock',
  'iso',
  'day-month',
  'month-day',
  'epoch-s',
  'epoch-ms',
] as const;
export type TimeFormat = (typeof TIME_FORMATS)[number];
/** Times that say on which day a log was made. */
export const DATED_FORMATS: readonly TimeFormat[] = ['iso', 'day-month', 'month-day', 'epoch-s', 'epoch-ms'];
/** Dates that do not say in which zone of the earth they were written. */
export const WRITTEN_FORMATS: readonly TimeFormat[] = ['iso', 'day-month', 'month-day'];

/** What a recorded file holds: readings over time, readings over a fan's duty, or figures that somebody has worked out. */
export const LOG_KINDS = ['trace', 'sweep', 'results'] as const;
export type LogKind = (typeof LOG_KINDS)[number];

/**
 * What a column of a table of figures can hold beside readings: what was changed, which repeat it was, in which order rows were made, a
 * figure of the study's own.
 */
export const TABLE_ROLES = ['factor', 'repeat', 'order', 'own'] as const;
export type TableRole = (typeof TABLE_ROLES)[number];

/** Whether a column holds readings of a channel: neither what was done, nor what a table was made of. */
export const holdsReadings = (role: ColumnMapBody['role']): role is 'spot' | 'beside' | RecordedRole =>
  role !== 'mark' && !(TABLE_ROLES as readonly string[]).includes(role);

/** What one column of a recorded log is. */
export class ColumnMapBody {
  /** From 0. */
  @IsInt()
  @Min(0)
  @Max(300)
  column!: number;

  /** `mark`: texts, each of which says what was done when it first stands. */
  @IsIn(['spot', 'beside', 'mark', ...TABLE_ROLES, ...RECORDED_ROLES], { message: 'Choose what the column holds.' })
  role!: 'spot' | 'beside' | 'mark' | TableRole | RecordedRole;

  /** null where the study has no such spot yet: `spotName` says then what it is called. */
  @ValidateIf((map: ColumnMapBody) => map.role === 'spot' && !map.spotName)
  @Matches(ID_PATTERN, { message: 'Choose the spot that the column was read from.' })
  spotId!: string | null;

  @IsOptional()
  @IsString()
  @Length(1, 60, { message: 'A spot has a name of up to 60 signs.' })
  spotName?: string;

  @IsOptional()
  @IsIn([...COMPONENT_CLASSES], { message: 'Choose what kind of part the spot is on.' })
  componentClass?: ComponentClass;

  /** Lock that the column watches, for role beside; null where it is kept with the run, and nothing rests on it yet. */
  @ValidateIf((map: ColumnMapBody) => map.role === 'beside' && map.lockName != null)
  @IsString()
  @Length(1, 60, { message: 'Choose the lock that the column watches.' })
  lockName?: string | null;

  /** Set where the column holds millivolts of a thermocouple instead of °C. */
  @IsOptional()
  @ValidateNested()
  @Type(() => VoltageBody)
  voltage?: VoltageBody | null;

  /** In which a temperature is written; °C where nothing is said. In a table of figures small numbers in K are rises over the room. */
  @IsOptional()
  @IsIn(['C', 'F', 'K'], { message: 'Choose °C, °F or K.' })
  unit?: TemperatureUnit;

  /** By which a reading is multiplied to be in the unit that it is kept in: 1000 where a clock is written in GHz. */
  @IsOptional()
  @IsNumber({}, { message: 'A factor is a number.' })
  @Min(1e-6)
  @Max(1e6)
  factor?: number;
}

/** Whether a column is only kept with the run: what it holds may be said afterwards. */
export const isKept = ({ role, lockName }: ColumnMapBody): boolean => role === 'beside' && lockName == null;

/** Where a log's times stand and how they are written. */
class LogTimeBody {
  @IsInt({ message: 'Choose the column that holds the time.' })
  @Min(0)
  @Max(300)
  timeColumn!: number;

  /** Column of the date, where date and time of day stand apart. */
  @IsOptional()
  @IsInt()
  @Min(0)
  @Max(300)
  dateColumn?: number | null;

  @IsIn([...TIME_FORMATS], { message: 'Choose how the time is written.' })
  timeFormat!: TimeFormat;

  /** Zone of the earth in which dates without one were written, as Europe/Berlin; UTC where nothing is said. */
  @IsOptional()
  @IsString()
  @Length(1, 60)
  zone?: string | null;
}

/** How a staged log becomes a run. */
export class ImportRunBody extends LogTimeBody {
  @Matches(ID_PATTERN, { message: 'Choose the variant that was on the bench.' })
  variantId!: string;

  @IsArray()
  @ArrayMaxSize(64)
  @ValidateNested({ each: true })
  @Type(() => ColumnMapBody)
  columns!: ColumnMapBody[];

  /** When the load began and ended, seconds from the first sample: what is before is idle, what is after cools down. Where no `phases` are given. */
  @ValidateIf((body: ImportRunBody) => !body.phases)
  @IsNumber({}, { message: 'Say when the load began.' })
  @Min(0, { message: 'The load cannot begin before the log.' })
  loadStartS!: number;

  @ValidateIf((body: ImportRunBody) => !body.phases)
  @IsNumber({}, { message: 'Say when the load ended.' })
  loadEndS!: number;

  /** Everything that the run went through, in order. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(200)
  @ValidateNested({ each: true })
  @Type(() => LogPhaseBody)
  phases?: LogPhaseBody[];

  /** Which mount of its variant it was recorded on, from 1; null where nobody knows. */
  @ValidateIf((body: ImportRunBody) => body.mount != null)
  @IsInt({ message: 'A mount has a number, from 1.' })
  @Min(1, { message: 'Mounts are counted from 1.' })
  @Max(999)
  mount?: number | null;

  /** When it began, where the log's own times do not say it. */
  @ValidateIf((body: ImportRunBody) => body.startedAt != null)
  @IsISO8601({ strict: true }, { message: 'Say date and time of the beginning.' })
  startedAt?: string | null;

  /** The tester has said that readings which look like Fahrenheit are right as they are. */
  @IsIn([true, false])
  acceptOddTemperatures!: boolean;

  @IsString()
  @MaxLength(200)
  note!: string;
}

/** A log of a study that is made of logs; what is left out stands as it was understood. */
export class LogOfStudyBody {
  /** Of the staged log. */
  @Matches(ID_PATTERN, { message: 'Choose a log that was put down.' })
  id!: string;

  /** False where it is left aside: a copy is, where nothing is said. */
  @IsOptional()
  @IsBoolean()
  use?: boolean;

  @ValidateIf((log: LogOfStudyBody) => log.variant != null)
  @IsString()
  @Length(1, LONGEST_NAME, { message: `A variant has a name of up to ${LONGEST_NAME} signs.` })
  variant?: string | null;

  @ValidateIf((log: LogOfStudyBody) => log.mount != null)
  @IsInt({ message: 'A mount has a number, from 1.' })
  @Min(1, { message: 'Mounts are counted from 1.' })
  @Max(999)
  mount?: number | null;

  @ValidateIf((log: LogOfStudyBody) => log.startedAt != null)
  @IsISO8601({ strict: true }, { message: 'Say date and time of the beginning.' })
  startedAt?: string | null;

  @IsOptional()
  @IsInt({ message: 'Choose the column that holds the time.' })
  @Min(0)
  @Max(300)
  timeColumn?: number;

  @IsOptional()
  @IsInt()
  @Min(0)
  @Max(300)
  dateColumn?: number | null;

  @IsOptional()
  @IsIn([...TIME_FORMATS], { message: 'Choose how the time is written.' })
  timeFormat?: TimeFormat;

  @IsOptional()
  @IsArray()
  @ArrayMaxSize(64)
  @ValidateNested({ each: true })
  @Type(() => ColumnMapBody)
  columns?: ColumnMapBody[];

  @IsOptional()
  @IsArray()
  @ArrayMaxSize(200)
  @ValidateNested({ each: true })
  @Type(() => LogPhaseBody)
  phases?: LogPhaseBody[];

  /** Level of the room with nothing running, dB(A), under the levels of a sweep or a table; null where none was measured. */
  @IsOptional()
  @IsNumber({}, { message: 'A level is a number, in dB(A).' })
  @Min(-20, { message: 'No room is as quiet as this.' })
  @Max(120, { message: 'No bench is as loud as this.' })
  noiseFloorDb?: number | null;

  @IsOptional()
  @IsString()
  @MaxLength(200)
  note?: string;
}

/** A study that is made of logs, or to which they are added: all of them or none. */
export class LogsStudyBody {
  /** The study to which they are added, with spots and variants that it does not have yet; a new one where nothing is said. */
  @IsOptional()
  @Matches(ID_PATTERN, { message: 'Choose a study.' })
  addTo?: string;

  @IsOptional()
  @IsString()
  @MaxLength(120, { message: 'Give the study a title of up to 120 characters.' })
  title?: string;

  @IsOptional()
  @IsIn([...FAMILIES], { message: 'Choose what kind of part it is.' })
  family?: Family;

  /** Zone of the earth of dates that say none. */
  @IsOptional()
  @IsString()
  @Length(1, 60)
  zone?: string | null;

  /** Temperatures that look like another unit are right as they are. */
  @IsOptional()
  @IsBoolean()
  acceptOddTemperatures?: boolean;

  @IsArray()
  @ArrayMinSize(1, { message: 'Put at least one log down.' })
  @ArrayMaxSize(300, { message: 'Up to 300 logs make a study at once.' })
  @ValidateNested({ each: true })
  @Type(() => LogOfStudyBody)
  logs!: LogOfStudyBody[];
}

/** A staged log for drawing, its columns thinned: seconds from the first sample. */
export interface LogTrace {
  lengthS: number;
  series: { column: number; t: number[]; y: (number | null)[] }[];
}

/** What became of logs that a study was made of. */
export interface LogStudy {
  study: Study;
  runs: Run[];
  leftOut: { fileName: string; reason: string }[];
}

/** What logs that were put down would say together, before anything is made of them. */
export interface LogGlance {
  title: string;
  runs: number;
  /** Logs that are not used, and of those that are, runs that the verdict leaves out; by the name of the file. */
  leftOut: LogStudy['leftOut'];
  /** Of the first variant and the reference; null where there are not two of them. */
  verdict: PairVerdict | null;
  /** Why no study can be made of them as they are; null where one can. */
  refused: string | null;
}

/** Two records of one run, by different clocks: which of the log's columns shows the same as which of the run's channels. */
export class AlignLogBody extends LogTimeBody {
  @Matches(ID_PATTERN, { message: 'Choose the run that the log belongs to.' })
  runId!: string;

  /** Column in which the load step shows. */
  @IsInt({ message: 'Choose the column in which the load shows.' })
  @Min(0)
  @Max(300)
  column!: number;

  /** Channel of the run in which the same step shows. */
  @IsString()
  @Length(1, 200, { message: 'Choose the channel in which the load shows.' })
  channel!: string;
}

/** How far the log's clock is off the run's, and both sides for drawing, each on its own clock from its first sample. */
export interface LogAlignment extends ClockOffset {
  run: { t: number[]; y: (number | null)[] };
  log: { t: number[]; y: (number | null)[] };
}

/** How a staged log is added to a run that is there already. */
export class JoinLogBody extends LogTimeBody {
  @Matches(ID_PATTERN, { message: 'Choose the run that the log belongs to.' })
  runId!: string;

  @IsArray()
  @ArrayMaxSize(64)
  @ValidateNested({ each: true })
  @Type(() => ColumnMapBody)
  columns!: ColumnMapBody[];

  /** Added to the log's times, counted from its first sample, seconds. */
  @IsNumber({}, { message: 'Say by how much the clock is off.' })
  @Min(-2_000_000)
  @Max(2_000_000)
  offsetS!: number;

  @IsIn([true, false])
  acceptOddTemperatures!: boolean;
}

/** What a log's columns look like; the tester decides. */
export interface LogGuess {
  /** null where no column looks like a time: it is asked for. */
  timeColumn: number | null;
  dateColumn: number | null;
  timeFormat: TimeFormat;
  columns: ColumnMapBody[];
  loadStartS: number;
  loadEndS: number;
  lengthS: number;
  /** In order, without gaps. */
  phases: (LogPhaseBody & { why: string })[];
  /** When it began; `zone` says whether the log says where on earth its times hold. */
  startedAt: { iso: string | null; zone: 'said' | 'assumed' | null };
  family: Family;
  /** By the name of the file. */
  variant: string | null;
  mount: number | null;
}

export interface StagedLog {
  id: string;
  fileName: string;
  kind: LogKind;
  columns: { index: number; name: string; sample: string[] }[];
  rows: number;
  /** The file is long, and its readings were not counted one by one. */
  rowsAbout: boolean;
  /** How the file is written, as it was understood. */
  written: {
    encoding: string;
    delimiter: string;
    decimal: '.' | ',';
    /** null where it has no such row. */
    headerLine: number | null;
    unitsLine: number | null;
  };
  /** Columns of the same names were mapped before, and are guessed as they were then. */
  known: boolean;
  guess: LogGuess;
  /** Over its loads, in the middle; null where it was not recorded. */
  figures: { powerW: number | null; roomC: number | null; dutyPercent: number | null };
  /** The same for the same readings, however they are written and called. */
  content: string;
  /** Another file or run that holds the same readings, by name; null where there is none. */
  duplicateOf: string | null;
  /** What is not sure, or odd, in sentences. */
  doubts: string[];
}
