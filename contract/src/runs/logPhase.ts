import 'reflect-metadata';
import { IsIn, IsNumber, IsOptional, IsString, Length, MaxLength, Min } from 'class-validator';

/** A phase of a log, as it is proposed or was put right. */
export class LogPhaseBody {
  @IsIn(['idle-soak', 'load', 'change', 'cool-down'], { message: 'Choose idle, load, change or cool-down.' })
  kind!: 'idle-soak' | 'load' | 'change' | 'cool-down';

  @IsString()
  @Length(1, 60, { message: 'A phase has a name of up to 60 signs.' })
  name!: string;

  /** Seconds from the first sample. */
  @IsNumber({}, { message: 'Say when the phase begins.' })
  @Min(0, { message: 'A phase cannot begin before the log.' })
  startS!: number;

  @IsNumber({}, { message: 'Say when the phase ends.' })
  @Min(0)
  endS!: number;

  /** By what its beginning was found. */
  @IsOptional()
  @IsString()
  @MaxLength(400)
  why?: string;
}
