import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
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
import type { EnclosureEntry, LockEntry, LockOverrideEntry } from '@red-ember/study';
import { ID_PATTERN } from '../ids.ts';
import { IsNumericWhere } from '../validation/constraints.ts';
import { number } from '../validation/words.ts';

/** Air in which the part will work later, for restating bench readings. */
export class EnclosureBody implements EnclosureEntry {
  @IsString()
  @Length(1, 60, { message: 'Name the place, such as gallery.' })
  name!: string;

  @IsNumber({}, number('The air temperature'))
  @Min(-20)
  @Max(80, { message: 'Air above 80 °C: is this °F?' })
  airC!: number;

  @IsNumber({}, number('The growth of heat with temperature'))
  @Min(0, { message: 'Heat does not shrink when a part warms.' })
  @Max(0.02, { message: 'Above 0.02 per kelvin every part would run away.' })
  powerTempCo!: number;
}

/** One subject is held at another value: boards need different load-line levels to hold one voltage. */
export class LockOverrideBody implements LockOverrideEntry {
  @Matches(ID_PATTERN, { message: 'Choose the part that is held differently.' })
  subjectId!: string;

  @IsString()
  @Length(1, 120, { message: 'Say at what it is held.' })
  value!: string;
}

/** Something held the same from run to run. */
export class LockBody implements LockEntry {
  @IsString()
  @Length(1, 60, { message: 'Name what is held.' })
  name!: string;

  @IsString()
  @Length(1, 120, { message: 'Say at what it is held.' })
  @IsNumericWhere('channel', { message: 'A channel can only watch a number: write the value without its unit.' })
  value!: string;

  @IsString()
  @MaxLength(20)
  unit!: string;

  @ValidateIf((lock: LockBody) => lock.tolerance !== null || lock.channel !== '')
  @IsNumber({}, number('The tolerance'))
  @Min(0, { message: 'A tolerance cannot be negative.' })
  tolerance!: number | null;

  @IsString()
  @MaxLength(60)
  channel!: string;

  @IsArray()
  @ArrayMaxSize(40)
  @ValidateNested({ each: true })
  @Type(() => LockOverrideBody)
  overrides!: LockOverrideBody[];
}
