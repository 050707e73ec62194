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
import { THERMOCOUPLE_TYPES, type TemperatureUnit, type ThermocoupleType } from '@red-ember/core';
import { ID_PATTERN } from '../ids.ts';
import { RECORDED_ROLES, type RecordedRole } from '../channels.ts';

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
export const TIME_FORMATS = ['elapsed-s', 'elapsed-min', 'clock', 'iso', 'epoch-s', 'epoch-ms'] as const;
export type TimeFormat = (typeof TIME_FORMATS)[number];

/** What one column of a recorded log is. */
export class ColumnMapBody {
  /** From 0. */
  @IsInt()
  @Min(0)
  @Max(300)
  column!: number;

  @IsIn(['spot', 'beside', ...RECORDED_ROLES], { message: 'Choose what the column holds.' })
  role!: 'spot' | 'beside' | RecordedRole;

  @ValidateIf((map: ColumnMapBody) => map.role === 'spot')
  @Matches(ID_PATTERN, { message: 'Choose the spot that the column was read from.' })
  spotId!: string | null;

  /** Lock that the column watches, for role beside. */
  @ValidateIf((map: ColumnMapBody) => map.role === 'beside')
  @IsString()
  @Length(1, 60, { message: 'Choose the lock that the column watches.' })
  lockName?: string | null;

  /** Set where the column holds millivolts of a thermocouple instead of °C. */
  @IsOptional()
  @ValidateNested()
  @Type(() => VoltageBody)
  voltage?: VoltageBody | null;

  /** In which a temperature is written; °C where nothing is said. */
  @IsOptional()
  @IsIn(['C', 'F', 'K'], { message: 'Choose °C, °F or K.' })
  unit?: TemperatureUnit;
}

/** How a staged log becomes a run. */
export class ImportRunBody {
  @Matches(ID_PATTERN, { message: 'Choose the variant that was on the bench.' })
  variantId!: string;

  @IsInt({ message: 'Choose the column that holds the time.' })
  @Min(0)
  timeColumn!: number;

  @IsIn([...TIME_FORMATS], { message: 'Choose how the time is written.' })
  timeFormat!: TimeFormat;

  @IsArray()
  @ArrayMaxSize(64)
  @ValidateNested({ each: true })
  @Type(() => ColumnMapBody)
  columns!: ColumnMapBody[];

  /** When the load began and ended, seconds from the first sample. */
  @IsNumber({}, { message: 'Say when the load began.' })
  @Min(0, { message: 'The load cannot begin before the log.' })
  loadStartS!: number;

  @IsNumber({}, { message: 'Say when the load ended.' })
  loadEndS!: number;

  /** The tester has said that readings which look like Fahrenheit are right as they are. */
  @IsIn([true, false])
  acceptOddTemperatures!: boolean;

  @IsString()
  @MaxLength(200)
  note!: string;
}

/** Two records of one run, by different clocks: which of the log's columns shows the same as which of the run's channels. */
export class AlignLogBody {
  @Matches(ID_PATTERN, { message: 'Choose the run that the log belongs to.' })
  runId!: string;

  @IsInt({ message: 'Choose the column that holds the time.' })
  @Min(0)
  timeColumn!: number;

  @IsIn([...TIME_FORMATS], { message: 'Choose how the time is written.' })
  timeFormat!: TimeFormat;

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

/** How far the log's clock is off, and both sides for drawing, each on its own clock from its first sample. */
export interface LogAlignment {
  /** Add it to the log's times. */
  offsetS: number;
  confidence: number;
  run: { t: number[]; y: (number | null)[] };
  log: { t: number[]; y: (number | null)[] };
}

/** How a staged log is added to a run that is there already. */
export class JoinLogBody {
  @Matches(ID_PATTERN, { message: 'Choose the run that the log belongs to.' })
  runId!: string;

  @IsInt({ message: 'Choose the column that holds the time.' })
  @Min(0)
  timeColumn!: number;

  @IsIn([...TIME_FORMATS], { message: 'Choose how the time is written.' })
  timeFormat!: TimeFormat;

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

export interface StagedLog {
  id: string;
  fileName: string;
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
  /** What the columns look like; the tester decides. */
  guess: {
    timeColumn: number;
    timeFormat: TimeFormat;
    columns: ColumnMapBody[];
    loadStartS: number;
    loadEndS: number;
    lengthS: number;
  };
}
