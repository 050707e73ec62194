import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsISO8601,
  IsNumber,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { THERMOCOUPLE_TYPES, type ThermocoupleType } from '@red-ember/core';
import { QUANTITIES, type Quantity } from '../channels.ts';
import { ID_PATTERN } from '../ids.ts';
import { HasDistinctIndicated, HasDistinctNames, IsLaterThan } from '../validation/constraints.ts';
import { number } from '../validation/words.ts';

export const INSTRUMENT_KINDS = [
  'thermocouple logger',
  'part’s own sensor',
  'infrared',
  'room probe',
  'power meter',
  'sound meter',
  'software reading',
] as const;
export type InstrumentKind = (typeof INSTRUMENT_KINDS)[number];

export class ThermocoupleBody {
  @IsIn([...THERMOCOUPLE_TYPES], { message: 'Choose type K, T, J or N.' })
  type!: ThermocoupleType;

  @IsIn([1, 2], { message: 'Choose tolerance class 1 or 2.' })
  toleranceClass!: 1 | 2;
}

/** One thing an instrument reads. */
export class InstrumentChannelBody {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the channel, such as TC 3.' })
  name!: string;

  @IsIn(Object.keys(QUANTITIES), { message: 'Choose what is read.' })
  quantity!: Quantity;

  /** Accuracy as its maker states it: ±(percent of reading + fixed part). */
  @IsNumber({}, number('The percent of reading'))
  @Min(0, { message: 'Accuracy cannot be negative.' })
  @Max(50)
  percentOfReading!: number;

  @IsNumber({}, number('The fixed part'))
  @Min(0, { message: 'Accuracy cannot be negative.' })
  @Max(1000)
  fixed!: number;

  /** Wire of a thermocouple, whose tolerance class comes on top; null for anything else. */
  @IsOptional()
  @ValidateNested()
  @Type(() => ThermocoupleBody)
  thermocouple!: ThermocoupleBody | null;

  @IsNumber({}, number('The resolution'))
  @Min(0, { message: 'Resolution cannot be negative.' })
  @Max(1000)
  resolution!: number;

  /** Time constant of the sensor, s. */
  @IsNumber({}, number('The lag'))
  @Min(0, { message: 'A lag cannot be negative.' })
  @Max(3600)
  lagS!: number;

  /** Half-width of drift from one calibration to the next. */
  @IsNumber({}, number('The drift'))
  @Min(0, { message: 'Drift cannot be negative.' })
  @Max(100)
  drift!: number;

  @IsString()
  @MaxLength(120)
  place!: string;
}

export class InstrumentBody {
  @IsString()
  @Length(1, 80, { message: 'Name the instrument.' })
  name!: string;

  @IsIn([...INSTRUMENT_KINDS], { message: 'Choose the kind of instrument.' })
  kind!: InstrumentKind;

  @IsString()
  @MaxLength(60)
  serial!: string;

  @IsString()
  @MaxLength(500)
  notes!: string;

  @IsArray()
  @ArrayMinSize(1, { message: 'An instrument reads at least one thing.' })
  @ArrayMaxSize(64, { message: 'An instrument holds up to 64 channels.' })
  @HasDistinctNames({ message: 'Two channels share a name.' })
  @ValidateNested({ each: true })
  @Type(() => InstrumentChannelBody)
  channels!: InstrumentChannelBody[];
}

export interface Instrument extends InstrumentBody {
  id: string;
  version: number;
  updatedAt: string;
  deletedAt: string | null;
  calibrations: Calibration[];
}

export class CalibrationPointBody {
  @IsNumber({}, number('The indicated temperature'))
  @Min(-200, { message: 'Indicated temperatures lie above −200 °C.' })
  @Max(1500)
  indicatedC!: number;

  @IsNumber({}, number('The reference'))
  @Min(-200, { message: 'Reference temperatures lie above −200 °C.' })
  @Max(1500)
  referenceC!: number;

  /** What gave the reference: ice point, boiling point, reference thermometer. */
  @IsString()
  @Length(1, 80, { message: 'Say what gave the reference: ice point, boiling point or a thermometer.' })
  reference!: string;
}

/** A calibration of one channel. Never changed afterwards: a new one replaces it from its date on. */
export class CalibrationBody {
  @Matches(ID_PATTERN, { message: 'Choose the channel that was calibrated.' })
  channelId!: string;

  @IsISO8601({ strict: true }, { message: 'Give the day as YYYY-MM-DD.' })
  madeOn!: string;

  @IsISO8601({ strict: true }, { message: 'Give the day as YYYY-MM-DD.' })
  @IsLaterThan('madeOn', { message: 'It falls due after it was made.' })
  dueOn!: string;

  /** Half-width of the references' own accuracy, K. */
  @IsNumber({}, number('The accuracy of the reference'))
  @Min(0, { message: 'Accuracy cannot be negative.' })
  @Max(10)
  referenceAccuracyK!: number;

  @IsArray()
  @ArrayMinSize(1, { message: 'A calibration needs at least one point.' })
  @ArrayMaxSize(40, { message: 'A calibration holds up to 40 points.' })
  @HasDistinctIndicated({ message: 'All points stand at one indicated temperature: no line can be drawn through them.' })
  @ValidateNested({ each: true })
  @Type(() => CalibrationPointBody)
  points!: CalibrationPointBody[];

  @IsString()
  @MaxLength(300)
  note!: string;

  /** Runs that the correction is applied to, besides those to come. */
  @IsArray()
  @ArrayMaxSize(500)
  @Matches(ID_PATTERN, { each: true })
  applyToRuns!: string[];
}

export interface Calibration {
  id: string;
  instrumentId: string;
  channelId: string;
  madeOn: string;
  dueOn: string;
  referenceAccuracyK: number;
  points: CalibrationPointBody[];
  note: string;
  createdAt: string;
  /** Runs it is applied to. */
  runIds: string[];
}

/** A run that was read by a channel, and whether a calibration of it could be applied. */
export interface RunOfChannel {
  runId: string;
  studyId: string;
  studyTitle: string;
  number: number;
  startedAt: string;
  calibrationId: string | null;
}
