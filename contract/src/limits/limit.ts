import 'reflect-metadata';
import { IsIn, IsNumber, IsString, Length, Max, Min, ValidateIf } from 'class-validator';
import { COMPONENT_CLASSES, LIMIT_SUSPECT_C, type ComponentClass } from '../ids.ts';
import { IsNotAboveField } from '../validation/constraints.ts';
import { number } from '../validation/words.ts';

/** Where a start value comes from until somebody replaces it. */
export const GENERAL_FIGURE = 'general figure';

const stated = (field: 'advisoryC' | 'throttleC') => (limit: LimitBody) => limit[field] !== null;

/** What a class of component stands, °C, each value with its source. */
export class LimitBody {
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

/** General engineering figures, °C: advisory, throttle, never to be exceeded. Every one is marked as such. */
const START: Record<ComponentClass, [number | null, number | null, number]> = {
  'graphics core': [80, 84, 95],
  'hot spot': [95, 105, 110],
  memory: [90, 100, 105],
  'power stage': [100, 115, 125],
  inductor: [105, null, 125],
  capacitor: [85, null, 105],
  'hub chip': [80, null, 100],
  'drive controller': [80, 88, 95],
  flash: [70, null, 85],
  'drive sensor': [70, 78, 82],
  board: [90, null, 105],
  processor: [85, 95, 100],
  coolant: [45, null, 60],
  'touchable metal': [48, null, 60],
};

/** The library as it ships. */
export function startLimits(): Record<ComponentClass, LimitBody> {
  return Object.fromEntries(
    COMPONENT_CLASSES.map((name) => {
      const [advisoryC, throttleC, neverExceedC] = START[name];
      const source = name === 'touchable metal' ? 'burns on touch from 60 °C' : GENERAL_FIGURE;
      return [
        name,
        {
          advisoryC,
          advisorySource: advisoryC === null ? '' : source,
          throttleC,
          throttleSource: throttleC === null ? '' : source,
          neverExceedC,
          neverExceedSource: source,
        },
      ];
    }),
  ) as Record<ComponentClass, LimitBody>;
}

/** Body of a change to one class. */
export class PutLimitBody extends LimitBody {
  @IsIn([...COMPONENT_CLASSES], { message: 'Choose the class of component.' })
  componentClass!: ComponentClass;
}
