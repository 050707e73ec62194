import 'reflect-metadata';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsNumber, IsString, Length, Matches, Max, Min, ValidateNested } from 'class-validator';
import type { OwnOutcome } from '@red-ember/core';
import {
  type CarriedLoadEntry,
  CRITERIA,
  type CriterionKey,
  type JudgingEntry,
  type ProfileEntry,
  type RetestEntry,
  type WeightEntry,
} from '@red-ember/study';
import { ID_PATTERN, ownOr } from '../ids.ts';
import { HasDistinctNames } from '../validation/constraints.ts';
import { number } from '../validation/words.ts';

/** Something that the part will be asked to carry, such as a processor or a kind of work. */
export class CarriedLoadBody implements CarriedLoadEntry {
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

export class WeightBody implements WeightEntry {
  @Matches(ownOr(CRITERIA), { message: 'Choose a criterion.' })
  criterion!: CriterionKey | OwnOutcome;

  @IsNumber({}, number('The weight'))
  @Min(0, { message: 'A weight cannot be negative.' })
  @Max(100, { message: 'Weights go up to 100.' })
  weight!: number;
}

/** A kind of reader, and what counts for it. */
export class ProfileBody implements ProfileEntry {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the reader, such as fits hundreds.' })
  name!: string;

  @IsArray()
  @ArrayMaxSize(40)
  @ValidateNested({ each: true })
  @Type(() => WeightBody)
  weights!: WeightBody[];
}

/** What the study's verdict is held against beside its claims. */
export class JudgingBody implements JudgingEntry {
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

/** A variant that is another one with one suspect changed, to find out what made it an outlier. */
export class RetestBody implements RetestEntry {
  @Matches(ID_PATTERN, { message: 'Choose the variant that is retested.' })
  variantId!: string;

  @IsString()
  @Length(1, 80, { message: 'Name the one thing that is changed.' })
  suspect!: string;
}
