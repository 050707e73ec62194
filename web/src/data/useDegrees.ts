import { inDegrees, keepUnits, shownStep, shownTemperature, type Degrees } from '@red-ember/core';
import { useAppSelector } from './store.ts';
import { typedNames } from './typedNames.ts';

const NONE: string[] = [];

export interface ShownDegrees {
  degrees: Degrees;
  /** A sentence or quantity with its temperatures in the degrees that were chosen, numbers and units on one line. */
  text: (text: string) => string;
  /** °C as shown, and its unit. */
  temp: (celsius: number) => number;
  tempUnit: string;
  /** K as shown, and its unit. */
  step: (kelvin: number) => number;
  stepUnit: string;
}

/** In which degrees this browser shows temperatures. */
export function useDegrees(): ShownDegrees {
  const degrees = useAppSelector((state) => state.settings.degrees);
  // In the degrees that everything is stored in nothing is looked for.
  const names = useAppSelector((state) => (state.settings.degrees === 'C' ? NONE : typedNames(state)));
  return {
    degrees,
    text: (text) => keepUnits(inDegrees(text, degrees, names)),
    temp: (celsius) => shownTemperature(celsius, degrees),
    tempUnit: degrees === 'C' ? '°C' : '°F',
    step: (kelvin) => shownStep(kelvin, degrees),
    stepUnit: degrees === 'C' ? 'K' : '°F',
  };
}
