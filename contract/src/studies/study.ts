import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsOptional,
  IsString,
  Length,
  Matches,
  MaxLength,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { FAMILIES, type Family, type StudyDefinition, type StudyRecord } from '@red-ember/study';
import { ID_PATTERN } from '../ids.ts';
import { HasDistinctNames, HasOneReference } from '../validation/constraints.ts';
import { ClaimBody, HouseRulesBody, PredictionBody } from './ask.ts';
import { EnclosureBody, LockBody } from './hold.ts';
import { JudgingBody } from './judging.ts';
import { OwnFigureBody } from './ownFigures.ts';
import { SpotBody, SubjectBody } from './look.ts';
import { FittedPartBody, MountStepBody } from './fitting.ts';
import { FactorBody, ImpossibleBody, PlanBody, RecipePhaseBody, VariantBody } from './plan.ts';

/** A study reads so many places. */
export const MOST_SPOTS = 32;

/** Variants that a study can hold. */
export const MOST_VARIANTS = 256;

/** Everything a tester writes down about a study. Sent whole; `If-Match` guards against two people editing at once. */
export class StudyBody implements StudyDefinition {
  @IsString()
  @Length(1, 120, { message: 'Give the study a title of up to 120 characters.' })
  title!: string;

  @IsIn([...FAMILIES], { message: 'Choose the family of part.' })
  family!: Family;

  @IsString()
  @MaxLength(1000, { message: 'Keep the question under 1000 characters.' })
  question!: string;

  @IsArray()
  @ArrayMaxSize(12, { message: 'A study holds up to 12 claims.' })
  @ValidateNested({ each: true })
  @Type(() => ClaimBody)
  claims!: ClaimBody[];

  @IsArray()
  @ArrayMaxSize(12, { message: 'A study holds up to 12 predictions.' })
  @ValidateNested({ each: true })
  @Type(() => PredictionBody)
  predictions!: PredictionBody[];

  @ValidateNested()
  @Type(() => HouseRulesBody)
  rules!: HouseRulesBody;

  @ValidateNested()
  @Type(() => EnclosureBody)
  enclosure!: EnclosureBody;

  @IsArray()
  @ArrayMinSize(1, { message: 'A study is about at least one part.' })
  @ArrayMaxSize(24, { message: 'A study holds up to 24 parts.' })
  @HasDistinctNames({ message: 'Two parts share a name.' })
  @ValidateNested({ each: true })
  @Type(() => SubjectBody)
  subjects!: SubjectBody[];

  @ValidateIf((study: StudyBody) => study.roomChannelId !== null)
  @Matches(ID_PATTERN, { message: 'Choose an instrument channel, or none.' })
  roomChannelId!: string | null;

  @IsArray()
  @ArrayMaxSize(MOST_SPOTS, { message: `A study holds up to ${MOST_SPOTS} spots.` })
  @HasDistinctNames({ message: 'Two spots share a name.' })
  @ValidateNested({ each: true })
  @Type(() => SpotBody)
  spots!: SpotBody[];

  @IsArray()
  @ArrayMaxSize(MOST_VARIANTS, { message: `A study holds up to ${MOST_VARIANTS} variants.` })
  @HasDistinctNames({ message: 'Two variants share a name.' })
  @HasOneReference({ message: 'Mark one variant as the reference.' })
  @ValidateNested({ each: true })
  @Type(() => VariantBody)
  variants!: VariantBody[];

  @IsArray()
  @ArrayMaxSize(12, { message: 'A study holds up to 12 factors.' })
  @HasDistinctNames({ message: 'Two factors share a name.' })
  @ValidateNested({ each: true })
  @Type(() => FactorBody)
  factors!: FactorBody[];

  @IsArray()
  @ArrayMaxSize(40)
  @ValidateNested({ each: true })
  @Type(() => ImpossibleBody)
  impossible!: ImpossibleBody[];

  @ValidateNested()
  @Type(() => PlanBody)
  plan!: PlanBody;

  @IsArray()
  @ArrayMaxSize(80, { message: 'A study holds up to 80 parts to fit.' })
  @HasDistinctNames({ message: 'Two parts to fit share a name.' })
  @ValidateNested({ each: true })
  @Type(() => FittedPartBody)
  parts!: FittedPartBody[];

  @IsArray()
  @ArrayMaxSize(200, { message: 'A study holds up to 200 steps.' })
  @ValidateNested({ each: true })
  @Type(() => MountStepBody)
  steps!: MountStepBody[];

  @IsArray()
  @ArrayMinSize(1, { message: 'A recipe needs at least one phase.' })
  @ArrayMaxSize(20, { message: 'A recipe holds up to 20 phases.' })
  @ValidateNested({ each: true })
  @Type(() => RecipePhaseBody)
  recipe!: RecipePhaseBody[];

  @IsArray()
  @ArrayMaxSize(40)
  @HasDistinctNames({ message: 'Two entries share a name.' })
  @ValidateNested({ each: true })
  @Type(() => LockBody)
  locks!: LockBody[];

  @IsOptional()
  @IsArray()
  @ArrayMaxSize(16, { message: 'A study names up to 16 figures of its own.' })
  @HasDistinctNames({ message: 'Two figures share a name.' })
  @ValidateNested({ each: true })
  @Type(() => OwnFigureBody)
  figures?: OwnFigureBody[];

  @IsOptional()
  @ValidateNested()
  @Type(() => JudgingBody)
  judging?: JudgingBody;
}

/** A new study made after another one: everything that was written down, no runs. */
export class CopyStudyBody {
  @IsString()
  @Length(1, 120, { message: 'Give the study a title of up to 120 characters.' })
  title!: string;
}

/** What the server adds to a study. `version` is also the ETag. */
export interface Study extends StudyBody, Omit<StudyRecord, keyof StudyDefinition> {}

export interface StudySummary {
  id: string;
  title: string;
  family: Family;
  subject: string;
  question: string;
  updatedAt: string;
  runs: number;
  live: boolean;
  /** When it was put in the trash; null on the shelf. */
  deletedAt: string | null;
}
