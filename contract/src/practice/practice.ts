import 'reflect-metadata';
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
} from 'class-validator';
import { ID_PATTERN } from '../ids.ts';
import { number } from '../validation/words.ts';

/** What can spoil a comparison on the practice bench; several exercises have none. */
export const TRAPS = [
  'fans-free',
  'film-left',
  'wrong-plug',
  'short-load',
  'falling',
  'starved',
  'one-fan-free',
  'room-warmed',
  'probe-moved',
  'pad-off',
  'wires-swapped',
  'slow-probe',
  'dirty-samples',
] as const;
export type TrapKey = (typeof TRAPS)[number];

/** How b stands to a, as the learner says it. */
export const PRACTICE_CALLS = ['cooler', 'warmer', 'alike', 'cannot'] as const;
export type PracticeCall = (typeof PRACTICE_CALLS)[number];

export class BeginPracticeBody {
  /** One of the exercises; or a study of the bench's own, whose bench is spoilt. */
  @IsOptional()
  @IsString()
  @Length(1, 60)
  exercise?: string;

  @IsOptional()
  @Matches(ID_PATTERN, { message: 'Choose a study.' })
  studyId?: string;

  /** The same seed draws the same exercise; one is drawn where nothing is said. */
  @IsOptional()
  @IsInt({ message: 'A seed is a whole number.' })
  @Min(1)
  @Max(999_999)
  seed?: number;
}

export class HandInBody {
  @IsIn([...PRACTICE_CALLS], { message: 'Say how it came out, or that it cannot be said.' })
  call!: PracticeCall;

  /** b less a, K; null where the learner gives none. */
  @ValidateIf((body: HandInBody) => body.differenceK !== null)
  @IsNumber({}, number('The difference'))
  @Min(-200)
  @Max(200)
  differenceK!: number | null;

  @ValidateIf((body: HandInBody) => body.plusMinusK !== null)
  @IsNumber({}, number('The doubt'))
  @Min(0, { message: 'A doubt is 0 or more.' })
  @Max(200)
  plusMinusK!: number | null;

  /** What the learner thinks was wrong with the bench. */
  @IsArray()
  @ArrayMaxSize(TRAPS.length)
  @IsIn([...TRAPS], { each: true })
  found!: TrapKey[];

  /** The sentence for the report. */
  @IsString()
  @MaxLength(600)
  sentence!: string;
}

export interface PracticeExercise {
  key: string;
  title: string;
  /** 1 easy to 3 hard. */
  level: 1 | 2 | 3;
  family: 'drive' | 'card';
  brief: string;
}

/** One try at an exercise, as the list shows it. */
export interface PracticeAttempt {
  studyId: string;
  exercise: string;
  title: string;
  level: 1 | 2 | 3;
  seed: number;
  begunAt: string;
  runs: number;
  hints: number;
  handedInAt: string | null;
  /** Null until it is handed in. */
  marks: PracticeMarks | null;
}

export interface PracticeShelf {
  exercises: PracticeExercise[];
  /** The newest first. */
  attempts: PracticeAttempt[];
}

/** What came of an answer. */
export interface PracticeMarks {
  /** Held back: nothing wrong was said, and more could have been. */
  call: 'right' | 'held-back' | 'wrong';
  /** Whether the difference lies within the doubt that was given; null where none was given. */
  figure: 'holds' | 'too-wide' | 'misses' | null;
  found: TrapKey[];
  missed: TrapKey[];
  /** Named, and not there. */
  imagined: TrapKey[];
  /** Steps of mount cards that were left out. */
  skippedSteps: number;
  hints: number;
  hours: number;
  /** What a good hand takes, h. */
  goodHours: number;
}

/** What was true all along. */
export interface PracticeTruth {
  /** b less a with nothing wrong, K. */
  differenceK: number;
  calls: PracticeCall[];
  /** What was planted, and where it could have been seen; several sentences, or that nothing was. */
  planted: string[];
  seen: string[];
  lesson: string;
  /** What the bench itself says of the learner's runs. */
  verdict: string;
}

export interface PracticeSheet {
  studyId: string;
  exercise: string;
  title: string;
  level: 1 | 2 | 3;
  seed: number;
  brief: string;
  /** What is asked: b against a, at this place. */
  question: { a: string; b: string; spot: string; practicalK: number };
  traps: { key: TrapKey; label: string }[];
  hints: string[];
  hintsLeft: number;
  runs: number;
  answer: HandInBody | null;
  marks: PracticeMarks | null;
  truth: PracticeTruth | null;
}
