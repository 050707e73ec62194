import 'reflect-metadata';
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
import { ID_PATTERN } from '../ids.ts';
import { RetestBody } from './judging.ts';
import { HasDistinctStrings, IsAboveField, IsCapAboveLength } from '../validation/constraints.ts';
import { number } from '../validation/words.ts';

/** At which level a factor stands. */
export class LevelChoiceBody {
  @IsString()
  @Length(1, 60, { message: 'Name the factor.' })
  factor!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the level.' })
  level!: string;
}

/** Something that is changed from variant to variant, with what it may be changed to. */
export class FactorBody {
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

  /** Minutes it takes to change it. */
  @IsNumber({}, number('The change-over time'))
  @Min(0, { message: 'A change-over cannot take less than no time.' })
  @Max(1440, { message: 'A change-over above a day is more likely a slip.' })
  changeMin!: number;

  /** The factor that has to come off to reach this one; empty where it can be reached at once. */
  @IsOptional()
  @IsString()
  @MaxLength(60)
  under?: string;

  /** Spoilt when what covers it comes off: paste, pads. */
  @IsOptional()
  @IsBoolean()
  renew?: boolean;
}

/** Levels that cannot be had together. */
export class ImpossibleBody {
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
export class PlanBody {
  @IsIn(['least-teardown', 'balanced', 'own'], { message: 'Choose least teardown, drift-balanced, or your own order.' })
  school!: 'least-teardown' | 'balanced' | 'own';

  /** Variants in order of running, by id; empty until an order is taken over. */
  @IsArray()
  @ArrayMaxSize(400, { message: 'A plan holds up to 400 runs.' })
  @Matches(ID_PATTERN, { each: true })
  order!: string[];

  /** Variant that is run before or after all others; null for none. */
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

  /** Cure or bed-in after every change of variant. */
  @IsNumber({}, number('The time to cure'))
  @Min(0, { message: 'Cure cannot take less than no time.' })
  @Max(20_160, { message: 'Cure above two weeks is more likely a slip.' })
  cureMin!: number;

  /** Runs need nobody, because a cut-out is armed. */
  @IsBoolean()
  unattended!: boolean;

  /** First day, YYYY-MM-DD; empty: today. */
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

  /** Mounts that go wrong and that consumables are kept for. */
  @IsOptional()
  @IsInt({ message: 'Spare mounts are a whole number.' })
  @Min(0, { message: 'Spare mounts cannot be negative.' })
  @Max(100)
  spareMounts?: number;

  /** Three letters of the currency that parts are priced in. */
  @IsOptional()
  @Matches(/^[A-Z]{3}$/, { message: 'Give the currency as three letters, such as EUR.' })
  currency?: string;
}

/** What is kept in reserve, and in which currency, where nothing is said. */
export const USUAL_SPARE_MOUNTS = 1;
export const USUAL_CURRENCY = 'EUR';

/** A plan to start from: two people's ordinary week. */
export function blankPlan(): PlanBody {
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
export function levelsOf(variant: VariantBody): Record<string, string> {
  return Object.fromEntries((variant.levels ?? []).map(({ factor, level }) => [factor, level]));
}

/** One way of cooling the part. */
export class VariantBody {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the variant, such as bare or slot lid.' })
  name!: string;

  /** The part it is put on. */
  @Matches(ID_PATTERN, { message: 'Choose the part that this variant is put on.' })
  subjectId!: string;

  @IsBoolean()
  isReference!: boolean;

  /** Which set-up of the simulated bench stands for it; empty where it is only recorded from files. */
  @IsString()
  @MaxLength(60)
  setup!: string;

  @IsString()
  @MaxLength(500)
  notes!: string;

  /** Where it stands on each factor; none where it was written down by name alone. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(12)
  @ArrayUnique((choice: LevelChoiceBody) => choice.factor, { message: 'A variant stands at one level of each factor.' })
  @ValidateNested({ each: true })
  @Type(() => LevelChoiceBody)
  levels?: LevelChoiceBody[];

  /** Runs that are planned of it; 2 where nothing is said. */
  @IsOptional()
  @IsInt({ message: 'Repeats are a whole number.' })
  @Min(0, { message: 'Repeats cannot be negative.' })
  @Max(40, { message: 'More than 40 repeats of one variant are more likely a slip.' })
  repeats?: number;

  /** It is another variant with one suspect changed; null where it is its own. */
  @IsOptional()
  @ValidateNested()
  @Type(() => RetestBody)
  retest?: RetestBody | null;
}

/** Runs that are planned of a variant where nothing is said. */
export const USUAL_REPEATS = 2;

/** A control of the rig and what it is set to. */
export class ControlSettingBody {
  @IsString()
  @Length(1, 60, { message: 'Choose what is set.' })
  control!: string;

  @ValidateIf((setting: ControlSettingBody) => typeof setting.value !== 'number')
  @IsString({ message: 'Say to what it is set.' })
  @Length(1, 60, { message: 'Say to what it is set.' })
  value!: number | string;
}

export class RecipePhaseBody {
  @IsIn(['idle-soak', 'load', 'change', 'sweep', 'cool-down'], { message: 'Choose idle soak, load, change, sweep or cool-down.' })
  kind!: 'idle-soak' | 'load' | 'change' | 'sweep' | 'cool-down';

  @IsString()
  @Length(1, 60, { message: 'Name the phase.' })
  name!: string;

  @IsIn(['fixed', 'until-settled'], { message: 'Choose a fixed length or until settled.' })
  mode!: 'fixed' | 'until-settled';

  @IsNumber({}, number('The length'))
  @Min(60, { message: 'A phase shorter than a minute cannot be read.' })
  @Max(28_800, { message: 'A phase longer than eight hours is more likely a slip.' })
  durationS!: number;

  @IsNumber({}, number('The cap'))
  @Max(28_800, { message: 'A phase longer than eight hours is more likely a slip.' })
  @IsCapAboveLength({ message: 'The cap must be longer than the least length.' })
  capS!: number;

  @IsNumber({}, number('The load'))
  @Min(0, { message: 'Load lies between 0 and 100 %.' })
  @Max(100, { message: 'Load lies between 0 and 100 %.' })
  loadPercent!: number;

  /** Load of a sweep's last step. */
  @ValidateIf((phase: RecipePhaseBody) => phase.kind === 'sweep' && !phase.sweepOf)
  @IsNumber({}, number('The last load'))
  @Min(0, { message: 'Load lies between 0 and 100 %.' })
  @Max(100, { message: 'Load lies between 0 and 100 %.' })
  toPercent?: number;

  /** Steps of a sweep, both ends counted. */
  @ValidateIf((phase: RecipePhaseBody) => phase.kind === 'sweep')
  @IsInt({ message: 'Steps are a whole number.' })
  @Min(2, { message: 'A sweep has two steps or more.' })
  @Max(20, { message: 'A sweep has up to 20 steps.' })
  steps?: number;

  /** Control of the rig that is swept; the load where nothing is said. */
  @IsOptional()
  @IsString()
  @MaxLength(60)
  sweepOf?: string;

  /** First and last value of a control that is swept, in its unit. */
  @ValidateIf((phase: RecipePhaseBody) => phase.kind === 'sweep' && Boolean(phase.sweepOf))
  @IsNumber({}, number('The first step'))
  from?: number;

  @ValidateIf((phase: RecipePhaseBody) => phase.kind === 'sweep' && Boolean(phase.sweepOf))
  @IsNumber({}, number('The last step'))
  to?: number;

  /** What the rig sets when the phase starts. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(12)
  @ValidateNested({ each: true })
  @Type(() => ControlSettingBody)
  set?: ControlSettingBody[];

  /** What is done when a change starts, in words. */
  @ValidateIf((phase: RecipePhaseBody) => phase.kind === 'change')
  @IsString()
  @Length(1, 120, { message: 'Say what is changed, such as vent blocked.' })
  opensWith?: string;

  /** Minutes of the phase at which something is read by hand. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(60, { message: 'A phase holds up to 60 marks.' })
  @IsNumber({}, { each: true, message: 'Marks are minutes, separated by commas.' })
  @Min(0, { each: true, message: 'A mark cannot lie before its phase.' })
  @Max(480, { each: true, message: 'A mark later than eight hours is more likely a slip.' })
  marksMin?: number[];
}
