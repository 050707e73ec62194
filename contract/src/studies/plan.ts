import 'reflect-metadata';
import type { PhaseEndMode } from '@red-ember/core';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  ArrayUnique,
  IsArray,
  IsBoolean,
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
import type {
  ControlSettingEntry,
  FactorEntry,
  ImpossibleEntry,
  LevelChoiceEntry,
  PlanEntry,
  RecipePhaseEntry,
  StopRule,
  VariantEntry,
} from '@red-ember/study';
import { FEWEST_A_SIDE, FIRST_LOOKS, LONGEST_NAME, MOST_A_SIDE, PHASE_END_MODES, SAMPLE_INTERVALS_MS, STOP_RULES } from '@red-ember/study';
import { ID_PATTERN } from '../ids.ts';
import { RetestBody } from './judging.ts';
import { HasDistinctStrings, IsAboveField, IsCapAboveLength } from '../validation/constraints.ts';
import { number } from '../validation/words.ts';

/** No phase is planned for longer, s. */
export const LONGEST_PHASE_S = 28_800;

/** At which level a factor stands. */
export class LevelChoiceBody implements LevelChoiceEntry {
  @IsString()
  @Length(1, 60, { message: 'Name the factor.' })
  factor!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the level.' })
  level!: string;
}

/** Something that is changed from variant to variant, with what it may be changed to. */
export class FactorBody implements FactorEntry {
  @IsString()
  @Length(1, 60, { message: 'Name the factor, such as cooler or pad.' })
  name!: string;

  @IsArray()
  @ArrayMinSize(2, { message: 'With fewer than two levels nothing changes.' })
  @ArrayMaxSize(24, { message: 'A factor holds up to 24 levels.' })
  @IsString({ each: true })
  @Length(1, 60, { each: true, message: 'Name every level.' })
  @HasDistinctStrings({ message: 'A level stands there twice.' })
  levels!: string[];

  @IsNumber({}, number('The change-over time'))
  @Min(0, { message: 'A change-over cannot take less than no time.' })
  @Max(1440, { message: 'A change-over above a day is more likely a slip.' })
  changeMin!: number;

  @IsOptional()
  @IsString()
  @MaxLength(60)
  under?: string;

  @IsOptional()
  @IsBoolean()
  renew?: boolean;
}

/** Levels that cannot be had together. */
export class ImpossibleBody implements ImpossibleEntry {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(12)
  @ArrayUnique((choice: LevelChoiceBody) => choice.factor, { message: 'A factor stands at one level at a time: name two factors.' })
  @ValidateNested({ each: true })
  @Type(() => LevelChoiceBody)
  levels!: LevelChoiceBody[];

  @IsString()
  @Length(1, 120, { message: 'Say why they cannot be had together.' })
  reason!: string;
}

/** When somebody is at the bench, and in which order it is worked. */
export class PlanBody implements PlanEntry {
  @IsIn(['least-teardown', 'balanced', 'own'], { message: 'Choose least teardown, drift-balanced, or your own order.' })
  school!: 'least-teardown' | 'balanced' | 'own';

  @IsArray()
  @ArrayMaxSize(400, { message: 'A plan holds up to 400 runs.' })
  @Matches(ID_PATTERN, { each: true })
  order!: string[];

  @ValidateIf((plan: PlanBody) => plan.firstVariantId !== null)
  @Matches(ID_PATTERN)
  firstVariantId!: string | null;

  @ValidateIf((plan: PlanBody) => plan.lastVariantId !== null)
  @Matches(ID_PATTERN)
  lastVariantId!: string | null;

  @IsNumber({}, number('The time to mount'))
  @Min(0)
  @Max(1440)
  mountMin!: number;

  @IsNumber({}, number('The time to refit'))
  @Min(0)
  @Max(1440)
  remountMin!: number;

  @IsNumber({}, number('The time to cure'))
  @Min(0, { message: 'Cure cannot take less than no time.' })
  @Max(20_160, { message: 'Cure above two weeks is more likely a slip.' })
  cureMin!: number;

  @IsBoolean()
  unattended!: boolean;

  @Matches(/^(\d{4}-\d\d-\d\d)?$/, { message: 'Give the day as YYYY-MM-DD.' })
  startOn!: string;

  @IsInt({ message: 'Give the start of the day as a time.' })
  @Min(0)
  @Max(1439)
  fromMin!: number;

  @IsInt({ message: 'Give the end of the day as a time.' })
  @Max(1440)
  @IsAboveField('fromMin', { message: 'The day ends after it begins.' })
  toMin!: number;

  @IsInt({ message: 'Give lunch as a time.' })
  @Min(0)
  @Max(1440)
  lunchFromMin!: number;

  @IsInt({ message: 'Lunch is in whole minutes.' })
  @Min(0)
  @Max(300)
  lunchMin!: number;

  @IsArray()
  @ArrayMinSize(1, { message: 'Choose at least one day of the week.' })
  @IsInt({ each: true })
  @Min(0, { each: true })
  @Max(6, { each: true })
  weekdays!: number[];

  @IsOptional()
  @IsInt({ message: 'Spare mounts are a whole number.' })
  @Min(0, { message: 'Spare mounts cannot be negative.' })
  @Max(100)
  spareMounts?: number;

  @IsOptional()
  @IsIn(STOP_RULES, { message: 'Choose when the plan may be decided.' })
  stopRule?: StopRule;

  @IsOptional()
  @IsInt({ message: 'Mounts a side are a whole number.' })
  @Min(FEWEST_A_SIDE, { message: 'A plan that may be decided early looks at up to two mounts a side, or more.' })
  @Max(MOST_A_SIDE, { message: 'A plan looks at up to 11 mounts a side.' })
  mostASide?: number;

  @IsOptional()
  @IsIn([...FIRST_LOOKS], { message: 'A plan looks first at one mount a side or at two.' })
  fromASide?: number;

  @IsOptional()
  @IsIn([...SAMPLE_INTERVALS_MS], { message: 'Choose 1, 2, 5, 10 or 20 samples a second.' })
  sampleIntervalMs?: number;

  @IsOptional()
  @Matches(/^[A-Z]{3}$/, { message: 'Give the currency as three letters, such as EUR.' })
  currency?: string;
}

/** One way of cooling the part. */
export class VariantBody implements VariantEntry {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, LONGEST_NAME, { message: `Name the variant, such as bare or slot lid, in up to ${LONGEST_NAME} signs.` })
  name!: string;

  @Matches(ID_PATTERN, { message: 'Choose the part that this variant is put on.' })
  subjectId!: string;

  @IsBoolean()
  isReference!: boolean;

  @IsString()
  @MaxLength(60)
  setup!: string;

  @IsString()
  @MaxLength(500)
  notes!: string;

  @IsOptional()
  @IsArray()
  @ArrayMaxSize(12)
  @ArrayUnique((choice: LevelChoiceBody) => choice.factor, { message: 'A variant stands at one level of each factor.' })
  @ValidateNested({ each: true })
  @Type(() => LevelChoiceBody)
  levels?: LevelChoiceBody[];

  @IsOptional()
  @IsInt({ message: 'Repeats are a whole number.' })
  @Min(0, { message: 'Repeats cannot be negative.' })
  @Max(40, { message: 'More than 40 repeats of one variant are more likely a slip.' })
  repeats?: number;

  @IsOptional()
  @IsBoolean()
  retired?: boolean;

  @IsOptional()
  @ValidateNested()
  @Type(() => RetestBody)
  retest?: RetestBody | null;
}

/** A control of the rig and what it is set to. */
export class ControlSettingBody implements ControlSettingEntry {
  @IsString()
  @Length(1, 60, { message: 'Choose what is set.' })
  control!: string;

  @ValidateIf((setting: ControlSettingBody) => typeof setting.value !== 'number')
  @IsString({ message: 'Say to what it is set.' })
  @Length(1, 60, { message: 'Say to what it is set.' })
  value!: number | string;
}

export class RecipePhaseBody implements RecipePhaseEntry {
  @IsIn(['idle-soak', 'load', 'change', 'sweep', 'cool-down'], { message: 'Choose idle soak, load, change, sweep or cool-down.' })
  kind!: 'idle-soak' | 'load' | 'change' | 'sweep' | 'cool-down';

  @IsString()
  @Length(1, 60, { message: 'Name the phase.' })
  name!: string;

  @IsIn([...PHASE_END_MODES], { message: 'Choose a fixed length, until settled or until it can be read.' })
  mode!: PhaseEndMode;

  @IsNumber({}, number('The length'))
  @Min(60, { message: 'A phase shorter than a minute cannot be read.' })
  @Max(LONGEST_PHASE_S, { message: 'A phase longer than eight hours is more likely a slip.' })
  durationS!: number;

  @IsNumber({}, number('The cap'))
  @Max(LONGEST_PHASE_S, { message: 'A phase longer than eight hours is more likely a slip.' })
  @IsCapAboveLength({ message: 'The cap must be longer than the least length.' })
  capS!: number;

  @IsNumber({}, number('The load'))
  @Min(0, { message: 'Load lies between 0 and 100 %.' })
  @Max(100, { message: 'Load lies between 0 and 100 %.' })
  loadPercent!: number;

  @ValidateIf((phase: RecipePhaseBody) => phase.kind === 'sweep' && !phase.sweepOf)
  @IsNumber({}, number('The last load'))
  @Min(0, { message: 'Load lies between 0 and 100 %.' })
  @Max(100, { message: 'Load lies between 0 and 100 %.' })
  toPercent?: number;

  @ValidateIf((phase: RecipePhaseBody) => phase.kind === 'sweep')
  @IsInt({ message: 'Steps are a whole number.' })
  @Min(2, { message: 'A sweep has two steps or more.' })
  @Max(20, { message: 'A sweep has up to 20 steps.' })
  steps?: number;

  @IsOptional()
  @IsString()
  @MaxLength(60)
  sweepOf?: string;

  @ValidateIf((phase: RecipePhaseBody) => phase.kind === 'sweep' && Boolean(phase.sweepOf))
  @IsNumber({}, number('The first step'))
  from?: number;

  @ValidateIf((phase: RecipePhaseBody) => phase.kind === 'sweep' && Boolean(phase.sweepOf))
  @IsNumber({}, number('The last step'))
  to?: number;

  @IsOptional()
  @IsArray()
  @ArrayMaxSize(12)
  @ValidateNested({ each: true })
  @Type(() => ControlSettingBody)
  set?: ControlSettingBody[];

  @ValidateIf((phase: RecipePhaseBody) => phase.kind === 'change')
  @IsString()
  @Length(1, 120, { message: 'Say what is changed, such as vent blocked.' })
  opensWith?: string;

  @IsOptional()
  @IsArray()
  @ArrayMaxSize(60, { message: 'A phase holds up to 60 marks.' })
  @IsNumber({}, { each: true, message: 'Marks are minutes, separated by commas.' })
  @Min(0, { each: true, message: 'A mark cannot lie before its phase.' })
  @Max(480, { each: true, message: 'A mark later than eight hours is more likely a slip.' })
  marksMin?: number[];
}
