import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsISO8601,
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
import { READ_AS_KEYS, type ReadAs } from '@red-ember/core';
import { RECORDED_ROLES, type RecordedRole } from '../channels.ts';
import { ID_PATTERN } from '../ids.ts';
import { LogPhaseBody } from './logPhase.ts';

const ROLES = ['spot', 'beside', ...RECORDED_ROLES] as const;

/** What a channel's numbers are, in words. */
export const READ_AS_WORDS: Record<ReadAs, string> = {
  'as-is': 'as they are',
  fahrenheit: '°F, taken for °C',
  celsius: '°C, taken for °F',
  kelvin: 'K, taken for °C',
  thousandth: 'thousandths: mW, taken for W',
  thousandfold: 'thousands: GHz, taken for MHz',
  hundredfold: 'shares of 1, taken for %',
};

/** What one channel of a run was read from, and in which unit. */
export class ChannelFactBody {
  @IsString()
  @Length(1, 200, { message: 'Name the channel.' })
  key!: string;

  @IsIn([...ROLES], { message: 'Choose what the channel was read from.' })
  role!: 'spot' | 'beside' | RecordedRole;

  @ValidateIf((fact: ChannelFactBody) => fact.role === 'spot')
  @Matches(ID_PATTERN, { message: 'Choose the spot that the channel was read from.' })
  spotId!: string | null;

  @IsIn([...READ_AS_KEYS], { message: 'Choose the unit of what was read.' })
  readAs!: ReadAs;
}

/** What was held in a run, by the name it has at Hold. */
export class SettingBody {
  @IsString()
  @Length(1, 60, { message: 'Name what was held.' })
  name!: string;

  @IsString()
  @MaxLength(120, { message: 'Up to 120 signs.' })
  value!: string;
}

/** What is put right about a run that has ended; what is left out stays as it is. */
export class RunFactsBody {
  @IsOptional()
  @Matches(ID_PATTERN, { message: 'Choose the variant that was on the bench.' })
  variantId?: string;

  /** Which mount of its variant, from 1; null where nobody knows. */
  @ValidateIf((body: RunFactsBody) => body.mount != null)
  @IsInt({ message: 'A mount has a number, from 1.' })
  @Min(1, { message: 'Mounts are counted from 1.' })
  @Max(999)
  mount?: number | null;

  @IsOptional()
  @IsISO8601({ strict: true }, { message: 'Say date and time of the beginning.' })
  startedAt?: string;

  /** Of a run that was made of a file. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(200)
  @ValidateNested({ each: true })
  @Type(() => LogPhaseBody)
  phases?: LogPhaseBody[];

  /** What channels were read from and in which unit; those that are left out stay as they are. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(64)
  @ValidateNested({ each: true })
  @Type(() => ChannelFactBody)
  channels?: ChannelFactBody[];

  /** What was held, firmware among it; what is left out stays as it is. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(40)
  @ValidateNested({ each: true })
  @Type(() => SettingBody)
  settings?: SettingBody[];
}
