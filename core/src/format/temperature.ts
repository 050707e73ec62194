export type TemperatureUnit = 'C' | 'F' | 'K';

/** Exact conversions to °C. */
export function toCelsius(value: number, unit: TemperatureUnit): number {
  return unit === 'C' ? value : unit === 'F' ? (value - 32) / 1.8 : value - 273.15;
}
