import 'reflect-metadata';
import { Type } from 'class-transformer';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsIn, IsNumber, IsString, Length, Matches, Min, ValidateNested } from 'class-validator';
import { ID_PATTERN } from '../ids.ts';

/** One spot as it was read, just as it was typed: `61.4`, `61,4`, `142F`. */
export class TypedReadingBody {
  @Matches(ID_PATTERN, { message: 'Choose the spot that was read.' })
  spotId!: string;

  @IsString()
  @Length(1, 20, { message: 'Type a temperature.' })
  typed!: string;
}

/** What was read by hand at one moment of a run; the server stamps the time. */
export class HandReadingsBody {
  @IsArray()
  @ArrayMinSize(1, { message: 'Type at least one reading.' })
  @ArrayMaxSize(32)
  @ValidateNested({ each: true })
  @Type(() => TypedReadingBody)
  readings!: TypedReadingBody[];

  /** Unit of a number that is typed without one. */
  @IsIn(['C', 'F'], { message: 'Choose °C or °F.' })
  usual!: 'C' | 'F';
}

/** Readings that stand on paper, of a run that has ended. */
export class NotedReadingsBody extends HandReadingsBody {
  /** On the run's clock, s. */
  @IsNumber({}, { message: 'Say at which minute it was read.' })
  @Min(0, { message: 'It cannot have been read before the run began.' })
  atS!: number;
}

export interface HandReading {
  id: string;
  spotId: string;
  /** On the run's clock. */
  atS: number;
  at: string;
  valueC: number;
  typed: string;
}
