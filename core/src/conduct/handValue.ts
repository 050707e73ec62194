import { toCelsius, type TemperatureUnit } from '../format/temperature.ts';

export type HandValue = { kind: 'value'; valueC: number; unit: TemperatureUnit } | { kind: 'unclear'; why: string };

/**
 * A temperature as it is typed in a hurry: `61.4`, `61,4`, `142F`, `142 °f`, `334 K`. A bare number is in the unit that is usual.
 *
 * @param usual unit of a bare number
 * @returns °C, or in plain words why it is none
 */
export function handValue(typed: string, usual: TemperatureUnit = 'C'): HandValue {
  const match = /^\s*([+-]?\d+(?:[.,]\d+)?)\s*(°?\s*[cfk]?)\s*$/i.exec(typed);
  if (!match) return { kind: 'unclear', why: typed.trim() === '' ? 'Nothing was typed.' : `“${typed.trim()}” is not a temperature.` };
  const number = Number(match[1]!.replace(',', '.'));
  const letter = match[2]!.replace(/[°\s]/g, '').toUpperCase();
  const unit = letter === '' ? usual : (letter as TemperatureUnit);
  if (unit === 'K' && number < 0) return { kind: 'unclear', why: 'Kelvin are never negative.' };
  const valueC = toCelsius(number, unit);
  if (valueC < -60 || valueC > 500)
    return { kind: 'unclear', why: `${typed.trim()} would be ${Math.round(valueC)} °C: is it another unit?` };
  return { kind: 'value', valueC: Math.round(100 * valueC) / 100, unit };
}
