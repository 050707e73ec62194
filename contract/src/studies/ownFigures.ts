import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsNumber,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import type { OwnValue } from '@red-ember/core';
import type { OwnFigureEntry } from '@red-ember/study';
import { ID_PATTERN } from '../ids.ts';
import { number } from '../validation/words.ts';

/** The largest amount that a figure may hold. */
const MOST = 1e9;

/** A figure that no channel of a known kind carries, named by the study. */
export class OwnFigureBody implements OwnFigureEntry {
  @Matches(ID_PATTERN)
  id!: string;

  @IsString()
  @Length(1, 60, { message: 'Name the figure, such as render time.' })
  name!: string;

  @IsString()
  @MaxLength(20, { message: 'A unit has up to 20 characters.' })
  unit!: string;

  @IsIn(['low', 'high', 'neither'], { message: 'Say whether less or more of it is better, or neither.' })
  better!: 'low' | 'high' | 'neither';

  @IsNumber({}, number('What one value may be off'))
  @Min(0, { message: 'A doubt cannot be negative.' })
  @Max(MOST, { message: 'Such a doubt says nothing.' })
  doubt!: number;

  @IsNumber({}, number('The difference that matters'))
  @Min(1e-6, { message: 'Say from which difference on it matters.' })
  @Max(MOST, { message: 'Such a difference would never matter.' })
  practical!: number;

  @IsString()
  @MaxLength(80, { message: 'Name the instrument in up to 80 characters.' })
  instrument!: string;

  @IsString()
  @MaxLength(60)
  channel!: string;
}

/** What one of them came to in a run, or at one of its loads. */
export class OwnValueBody implements OwnValue {
  @Matches(ID_PATTERN, { message: 'Choose the figure.' })
  figureId!: string;

  @ValidateIf((value: OwnValueBody) => value.load !== null)
  @IsString()
  @Length(1, 60)
  load!: string | null;

  @IsNumber({}, number('The value'))
  @Min(-MOST, { message: 'Such a value is beyond this bench.' })
  @Max(MOST, { message: 'Such a value is beyond this bench.' })
  value!: number;
}

/** Everything that was typed of a run: what is left out is taken back. */
export class OwnValuesBody {
  @IsArray()
  @ArrayMaxSize(500)
  @ValidateNested({ each: true })
  @Type(() => OwnValueBody)
  values!: OwnValueBody[];
}
