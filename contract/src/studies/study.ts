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
import { FAMILIES, ID_PATTERN, type Family } from '../ids.ts';
import { HasDistinctNames, HasOneReference } from '../validation/constraints.ts';
import { GENERAL_FIGURE } from '../limits/limit.ts';
import { ClaimBody, HouseRulesBody, PredictionBody } from './ask.ts';
import { EnclosureBody, LockBody } from './hold.ts';
import { JudgingBody } from './judging.ts';
import { SpotBody, SubjectBody } from './look.ts';
import { FittedPartBody, MountStepBody } from './fitting.ts';
import { blankPlan, FactorBody, ImpossibleBody, PlanBody, RecipePhaseBody, VariantBody } from './plan.ts';

/** Everything a tester writes down about a study. Sent whole; `If-Match` guards against two people editing at once. */
export class StudyBody {
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

  /** Instrument channel that reads the room; null where none is written down. */
  @ValidateIf((study: StudyBody) => study.roomChannelId !== null)
  @Matches(ID_PATTERN, { message: 'Choose an instrument channel, or none.' })
  roomChannelId!: string | null;

  @IsArray()
  @ArrayMaxSize(32, { message: 'A study holds up to 32 spots.' })
  @HasDistinctNames({ message: 'Two spots share a name.' })
  @ValidateNested({ each: true })
  @Type(() => SpotBody)
  spots!: SpotBody[];

  @IsArray()
  @ArrayMaxSize(64, { message: 'A study holds up to 64 variants.' })
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

  /** What is put on, by level or variant. */
  @IsArray()
  @ArrayMaxSize(80, { message: 'A study holds up to 80 parts to fit.' })
  @HasDistinctNames({ message: 'Two parts to fit share a name.' })
  @ValidateNested({ each: true })
  @Type(() => FittedPartBody)
  parts!: FittedPartBody[];

  /** What hands do when it is put on or taken off. */
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

  /** Loads to carry and readers to choose for; the usual where nothing is said. */
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
export interface Study extends StudyBody {
  id: string;
  version: number;
  createdAt: string;
  updatedAt: string;
  /** When the first run started; from then on the prediction is fixed. */
  predictionLockedAt: string | null;
  /** When each prediction was last written, by its id. */
  predictionStamps: Record<string, string>;
  /** Variants that have runs and so cannot be removed. */
  variantsWithRuns: string[];
}

/** What the tester wrote, without what the server added. */
export function bodyOf(study: Study): StudyBody {
  const {
    id: _id,
    version: _v,
    createdAt: _c,
    updatedAt: _u,
    predictionLockedAt: _p,
    predictionStamps: _s,
    variantsWithRuns: _w,
    ...body
  } = study;
  return body;
}

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

/** The part's load is fast to settle on a drive and slow on a board; its fans matter on a card and not on a drive. */
const START: Record<Family, { fans: HouseRulesBody['fans']; load: HouseRulesBody['load']; loadName: string; capS: number }> = {
  drive: { fans: 'not-applicable', load: 'worst-case', loadName: 'Sustained write', capS: 3600 },
  card: { fans: 'locked', load: 'application', loadName: 'Load', capS: 3600 },
  regulator: { fans: 'locked', load: 'application', loadName: 'Load', capS: 5400 },
};

/** A study to start from: sensible defaults, nothing invented about the part. */
export function blankStudy(title: string, family: Family = 'drive'): StudyBody {
  const start = START[family];
  return {
    title,
    family,
    question: '',
    claims: [],
    predictions: [],
    rules: {
      basis: 'rise',
      figure: 'settled-mean',
      fans: start.fans,
      load: start.load,
      duration: 'until-settled',
      place: 'open-bench',
      sensorOfRecord: 'attached',
      stress: 'as-used',
      ladder: 'one-change',
      paste: 'spread',
      practicalK: 1,
      coverage: 0.95,
      roomMinC: 20,
      roomMaxC: 25,
    },
    enclosure: { name: 'warm enclosure', airC: 32, powerTempCo: 0 },
    subjects: [{ id: 'part-1', name: 'Unnamed part', details: '', drive: null, map: null }],
    roomChannelId: null,
    spots: [],
    variants: [],
    factors: [],
    impossible: [],
    plan: blankPlan(),
    parts: [],
    steps: [],
    recipe: [
      { kind: 'idle-soak', name: 'Idle soak', mode: 'fixed', durationS: 480, capS: 480, loadPercent: 0 },
      { kind: 'load', name: start.loadName, mode: 'until-settled', durationS: 600, capS: start.capS, loadPercent: 100 },
      { kind: 'cool-down', name: 'Cool-down', mode: 'fixed', durationS: 600, capS: 600, loadPercent: 0 },
    ],
    locks: [],
  };
}

/** Every field of a spot that a new one starts from; limits come from the library. */
export function blankSpot(id: string, name: string, channel: string): SpotBody {
  return {
    id,
    name,
    place: '',
    componentClass: 'board',
    advisoryC: null,
    advisorySource: '',
    limitC: 105,
    limitSource: GENERAL_FIGURE,
    cutOutC: 110,
    cutOutHoldS: 5,
    throttleC: null,
    throttleSource: '',
    method: 'attached',
    byHand: false,
    channel,
    sensor: channel,
    instrumentChannelId: null,
    accuracyK: 0.5,
    resolutionK: 0.1,
    placementK: 0.5,
    twinOf: null,
    beneath: null,
  };
}
