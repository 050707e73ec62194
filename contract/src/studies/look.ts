import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  IsBoolean,
  IsIn,
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
import {
  type BeneathEntry,
  COMPONENT_CLASSES,
  type ComponentClass,
  type DriveTemperaturesEntry,
  LIMIT_SUSPECT_C,
  type SpotEntry,
  type SubjectEntry,
} from '@red-ember/study';
import { ID_PATTERN } from '../ids.ts';
import { IsAboveField, IsNotAboveField, IsSoundMap } from '../validation/constraints.ts';
import { number } from '../validation/words.ts';
import { BoardMapBody } from './boardMap.ts';

/** Temperatures that a drive publishes about itself, °C; fields as the open NVM Express specification defines them. */
export class DriveTemperaturesBody implements DriveTemperaturesEntry {
  @IsNumber({}, number('The warning temperature'))
  @Min(30, { message: 'A warning temperature under 30 °C: is this °C?' })
  @Max(LIMIT_SUSPECT_C, { message: 'A warning temperature above 150 °C: is this K or °F?' })
  warningC!: number;

  @IsNumber({}, number('The critical temperature'))
  @Max(LIMIT_SUSPECT_C, { message: 'A critical temperature above 150 °C: is this K or °F?' })
  @IsAboveField('warningC', { message: 'The critical temperature lies above the warning.' })
  criticalC!: number;

  @ValidateIf((drive: DriveTemperaturesBody) => drive.managed1C !== null)
  @IsNumber({}, number('The first managed temperature'))
  @Min(0)
  @Max(LIMIT_SUSPECT_C)
  managed1C!: number | null;

  @ValidateIf((drive: DriveTemperaturesBody) => drive.managed2C !== null)
  @IsNumber({}, number('The second managed temperature'))
  @Max(LIMIT_SUSPECT_C)
  @IsAboveField('managed1C', { message: 'The second managed temperature lies above the first.' })
  managed2C!: number | null;
}

/** One part under test. Studies that compare boards have several. */
export class SubjectBody implements SubjectEntry {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 80, { message: 'Name the part under test.' })
  name!: string;

  @IsString()
  @MaxLength(500)
  details!: string;

  @IsOptional()
  @IsString()
  @MaxLength(60)
  serial?: string;

  @IsOptional()
  @ValidateNested()
  @Type(() => DriveTemperaturesBody)
  drive!: DriveTemperaturesBody | null;

  @IsOptional()
  @ValidateNested()
  @Type(() => BoardMapBody)
  @IsSoundMap()
  map!: BoardMapBody | null;
}

/** What lies between a surface that is read and the part that is meant. */
export class BeneathBody implements BeneathEntry {
  @IsNumber({}, number('The heat'))
  @Min(0, { message: 'Heat cannot be negative.' })
  @Max(1000)
  heatW!: number;

  @IsNumber({}, number('The gap'))
  @Min(0, { message: 'A gap cannot be negative.' })
  @Max(20)
  gapMm!: number;

  @IsNumber({}, number('The tolerance'))
  @Min(0, { message: 'A tolerance cannot be negative.' })
  @Max(5)
  gapToleranceMm!: number;

  @IsNumber({}, number('The pad'))
  @Min(0.05, { message: 'A pad is at least 0.05 mm thick.' })
  @Max(20)
  padMm!: number;

  @IsNumber({}, number('The conductivity'))
  @Min(0.1, { message: 'Conductivity is in W/m·K and above 0.1.' })
  @Max(2000)
  conductivityWPerMK!: number;

  @IsNumber({}, number('The area'))
  @Min(1, { message: 'An area is in mm² and above 1.' })
  @Max(100_000)
  areaMm2!: number;

  @IsNumber({}, number('The case resistance'))
  @Min(0)
  @Max(100)
  caseKPerW!: number;
}

const hasValue = (field: 'advisoryC' | 'throttleC') => (spot: SpotBody) => spot[field] !== null;

/** A place on the part whose temperature is read, its limits and its sensor. */
export class SpotBody implements SpotEntry {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the spot, such as flash underside.' })
  name!: string;

  @IsString()
  @MaxLength(200)
  place!: string;

  @IsIn([...COMPONENT_CLASSES], { message: 'Choose the class of component.' })
  componentClass!: ComponentClass;

  @ValidateIf(hasValue('advisoryC'))
  @IsNumber({}, number('The advisory temperature'))
  @Min(30, { message: 'An advisory temperature under 30 °C is below a warm room.' })
  @IsNotAboveField('limitC', { message: 'The advisory temperature lies below the limit.' })
  advisoryC!: number | null;

  @ValidateIf((spot: SpotBody) => spot.advisoryC !== null)
  @IsString()
  @Length(1, 120, { message: 'Say where the advisory temperature comes from.' })
  advisorySource!: string;

  @IsNumber({}, { message: 'Give a limit, so that headroom can be shown.' })
  @Min(30, { message: 'A limit under 30 °C is below a warm room.' })
  @Max(LIMIT_SUSPECT_C, { message: 'A limit above 150 °C: is this °F?' })
  limitC!: number;

  @IsString()
  @Length(1, 120, { message: 'Say where the limit comes from: data sheet, standard or house rule.' })
  limitSource!: string;

  @IsNumber({}, number('The cut-out'))
  @Max(LIMIT_SUSPECT_C + 10, { message: 'A cut-out above 160 °C: is this °F?' })
  @IsAboveField('limitC', { message: 'Set the cut-out above the limit, or it would end every warm run.' })
  cutOutC!: number;

  @IsNumber({}, number('The hold time'))
  @Min(0, { message: 'The hold time cannot be negative.' })
  @Max(600, { message: 'A hold time above ten minutes protects nothing.' })
  cutOutHoldS!: number;

  @ValidateIf(hasValue('throttleC'))
  @IsNotAboveField('limitC', { message: 'The limit, never to be exceeded, lies under the throttling point.' })
  @IsNumber({}, number('The throttling point'))
  @Min(30, { message: 'A throttling point under 30 °C is below a warm room.' })
  @Max(LIMIT_SUSPECT_C, { message: 'A throttling point above 150 °C: is this °F?' })
  throttleC!: number | null;

  @ValidateIf((spot: SpotBody) => spot.throttleC !== null)
  @IsString()
  @Length(1, 120, { message: 'Say where the throttling point comes from.' })
  throttleSource!: string;

  @IsIn(['attached', 'own', 'infrared'], { message: 'Choose attached sensor, the part’s own, or infrared.' })
  method!: 'attached' | 'own' | 'infrared';

  @IsBoolean()
  byHand!: boolean;

  @IsString()
  @Length(1, 60, { message: 'Name the channel that reads this spot.' })
  channel!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the sensor, such as TC 3.' })
  sensor!: string;

  @ValidateIf((spot: SpotBody) => spot.instrumentChannelId !== null)
  @Matches(ID_PATTERN, { message: 'Choose an instrument channel, or none.' })
  instrumentChannelId!: string | null;

  @IsNumber({}, number('The accuracy'))
  @Min(0, { message: 'Accuracy cannot be negative.' })
  @Max(20)
  accuracyK!: number;

  @IsNumber({}, number('The resolution'))
  @Min(0, { message: 'Resolution cannot be negative.' })
  @Max(10)
  resolutionK!: number;

  @IsNumber({}, number('Place and contact'))
  @Min(0, { message: 'Place and contact cannot be negative.' })
  @Max(20)
  placementK!: number;

  @ValidateIf((spot: SpotBody) => spot.twinOf !== null)
  @Matches(ID_PATTERN)
  twinOf!: string | null;

  @IsOptional()
  @ValidateNested()
  @Type(() => BeneathBody)
  beneath!: BeneathBody | null;
}
