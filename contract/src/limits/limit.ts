import 'reflect-metadata';
import { IsIn, IsNumber, IsString, Length, Max, Min, ValidateIf } from 'class-validator';
import { COMPONENT_CLASSES, type ComponentClass, LIMIT_SUSPECT_C, type LimitEntry } from '@red-ember/study';
import { IsNotAboveField } from '../validation/constraints.ts';
import { number } from '../validation/words.ts';

const stated = (field: 'advisoryC' | 'throttleC') => (limit: LimitBody) => limit[field] !== null;

/** What a class of component stands, °C, each value with its source. */
export class LimitBody implements LimitEntry {
  @ValidateIf(stated('advisoryC'))
  @IsNumber({}, number('The advisory temperature'))
  @Min(30, { message: 'An advisory temperature under 30 °C is below a warm room.' })
  @IsNotAboveField('neverExceedC', { message: 'The advisory temperature lies above the one never to be exceeded.' })
  advisoryC!: number | null;

  @ValidateIf(stated('advisoryC'))
  @IsString()
  @Length(1, 120, { message: 'Say where the advisory temperature comes from.' })
  advisorySource!: string;

  @ValidateIf(stated('throttleC'))
  @IsNumber({}, number('The throttling point'))
  @Min(30, { message: 'A throttling point under 30 °C is below a warm room.' })
  @IsNotAboveField('neverExceedC', { message: 'The temperature never to be exceeded lies under the throttling point.' })
  throttleC!: number | null;

  @ValidateIf(stated('throttleC'))
  @IsString()
  @Length(1, 120, { message: 'Say where the throttling point comes from.' })
  throttleSource!: string;

  @IsNumber({}, number('The temperature never to be exceeded'))
  @Min(30, { message: 'A limit under 30 °C is below a warm room.' })
  @Max(LIMIT_SUSPECT_C, { message: 'A limit above 150 °C: is this °F?' })
  neverExceedC!: number;

  @IsString()
  @Length(1, 120, { message: 'Say where the limit comes from: data sheet, standard or house rule.' })
  neverExceedSource!: string;
}

export interface Limit extends LimitBody {
  componentClass: ComponentClass;
  version: number;
  updatedAt: string | null;
}

/** Body of a change to one class. */
export class PutLimitBody extends LimitBody {
  @IsIn([...COMPONENT_CLASSES], { message: 'Choose the class of component.' })
  componentClass!: ComponentClass;
}
