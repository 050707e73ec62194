import 'reflect-metadata';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsIn, IsNumber, IsString, Length, Matches, Max, Min, ValidateNested } from 'class-validator';
import { ID_PATTERN } from '../ids.ts';
import { HasDistinctNames } from '../validation/constraints.ts';
import { number } from '../validation/words.ts';

/** Something that the part will be asked to carry, such as a processor or a kind of work. */
export class CarriedLoadBody {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the load, such as show player.' })
  name!: string;

  @IsNumber({}, number('The power'))
  @Min(0.1, { message: 'A load takes at least 0.1 W.' })
  @Max(5000, { message: 'Above 5000 W is beyond this bench.' })
  powerW!: number;
}

/** What choices are held against each other by. */
export const CRITERIA = ['temperature', 'noise', 'cost', 'minutes', 'weight', 'throughput'] as const;
export type CriterionKey = (typeof CRITERIA)[number];

export class WeightBody {
  @IsIn([...CRITERIA], { message: 'Choose a criterion.' })
  criterion!: CriterionKey;

  @IsNumber({}, number('The weight'))
  @Min(0, { message: 'A weight cannot be negative.' })
  @Max(100, { message: 'Weights go up to 100.' })
  weight!: number;
}

/** A kind of reader, and what counts for it. */
export class ProfileBody {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the reader, such as fits hundreds.' })
  name!: string;

  @IsArray()
  @ArrayMaxSize(CRITERIA.length)
  @ValidateNested({ each: true })
  @Type(() => WeightBody)
  weights!: WeightBody[];
}

/** What the study's verdict is held against beside its claims. */
export class JudgingBody {
  /** Kept free below every limit, K. */
  @IsNumber({}, number('The margin'))
  @Min(0, { message: 'A margin cannot be negative.' })
  @Max(60, { message: 'A margin above 60 K leaves nothing to carry.' })
  marginK!: number;

  @IsArray()
  @ArrayMaxSize(24, { message: 'A study holds up to 24 loads.' })
  @HasDistinctNames({ message: 'Two loads share a name.' })
  @ValidateNested({ each: true })
  @Type(() => CarriedLoadBody)
  loads!: CarriedLoadBody[];

  @IsArray()
  @ArrayMaxSize(12, { message: 'A study holds up to 12 readers.' })
  @HasDistinctNames({ message: 'Two readers share a name.' })
  @ValidateNested({ each: true })
  @Type(() => ProfileBody)
  profiles!: ProfileBody[];
}

/** Nothing to carry yet, and two kinds of reader to start from. */
export function blankJudging(): JudgingBody {
  return {
    marginK: 5,
    loads: [],
    profiles: [
      { id: 'coolest', name: 'Wants it coolest', weights: [{ criterion: 'temperature', weight: 1 }] },
      {
        id: 'many',
        name: 'Fits hundreds',
        weights: [
          { criterion: 'temperature', weight: 1 },
          { criterion: 'cost', weight: 2 },
          { criterion: 'minutes', weight: 3 },
        ],
      },
    ],
  };
}

/** A variant that is another one with one suspect changed, to find out what made it an outlier. */
export class RetestBody {
  @Matches(ID_PATTERN, { message: 'Choose the variant that is retested.' })
  variantId!: string;

  @IsString()
  @Length(1, 80, { message: 'Name the one thing that is changed.' })
  suspect!: string;
}
