import type { Series } from '../series/series.ts';

/** What numbers of a channel turned out to be, where they were taken for something else. */
export const READ_AS_KEYS = ['as-is', 'fahrenheit', 'kelvin', 'celsius', 'thousandth', 'thousandfold', 'hundredfold'] as const;
export type ReadAs = (typeof READ_AS_KEYS)[number];

/** value = scale · number + offset */
const READ_AS: Record<ReadAs, { scale: number; offset: number }> = {
  'as-is': { scale: 1, offset: 0 },
  /** Degrees Fahrenheit that were taken for °C. */
  fahrenheit: { scale: 5 / 9, offset: -160 / 9 },
  /** Kelvin that were taken for °C. */
  kelvin: { scale: 1, offset: -273.15 },
  /** °C that were taken for degrees Fahrenheit, and turned already. */
  celsius: { scale: 9 / 5, offset: 32 },
  /** mW taken for W, Hz for kHz, millidegrees for °C. */
  thousandth: { scale: 1e-3, offset: 0 },
  /** GHz taken for MHz, kW for W. */
  thousandfold: { scale: 1e3, offset: 0 },
  /** Shares from 0 to 1 taken for percent. */
  hundredfold: { scale: 100, offset: 0 },
};

/** Samples as what they are, times untouched; a gap stays a gap. @param series shape [n], in the unit it was taken for */
export function readAs(series: Series, how: ReadAs): Series {
  if (how === 'as-is') return series;
  const { scale, offset } = READ_AS[how];
  return { t: series.t, y: Float64Array.from(series.y, (value) => scale * value + offset) };
}
