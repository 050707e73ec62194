import { handValue } from '../conduct/handValue.ts';
import { plainNumber } from '../format/plainNumber.ts';
import type { TemperatureUnit } from '../format/temperature.ts';
import type { Noted } from './scratchNote.ts';

export type NotedText = { kind: 'value'; noted: Noted } | { kind: 'empty' } | { kind: 'unclear'; why: string };

/** "83.5 ± 0.5 C": the number, what it may be off by, and whatever letters stand behind. */
const PARTS = /^(.*?)(?:(?:±|\+\s*\/?\s*-)\s*([\d.,]+))?\s*(°?\s*[a-z%]*(?:\(a\))?)$/is;
const unclear = (why: string): NotedText => ({ kind: 'unclear', why });

function parted(typed: string): { number: string; doubt: number; letters: string } | null {
  const match = PARTS.exec(typed.trim());
  if (!match) return null;
  const [, number = '', doubt, letters = ''] = match;
  return { number: number.trim(), doubt: doubt === undefined ? 0 : plainNumber(doubt), letters: letters.trim() };
}

/**
 * A temperature as it stands on a note: `83`, `83,5 ± 0.5`, `181F`, `181 ± 2 °F`.
 *
 * @param usual unit of a bare number
 * @returns °C with its doubt in K
 */
export function notedTemperature(typed: string, usual: TemperatureUnit = 'C'): NotedText {
  if (typed.trim() === '') return { kind: 'empty' };
  const parts = parted(typed);
  const read = parts && handValue(`${parts.number}${parts.letters}`, usual);
  if (!parts || !read || read.kind === 'unclear')
    return unclear(read?.kind === 'unclear' ? read.why : `“${typed.trim()}” is not a temperature.`);
  if (!Number.isFinite(parts.doubt)) return unclear('What stands behind ± is not a number.');
  return { kind: 'value', noted: { value: read.valueC, plusMinus: read.unit === 'F' ? parts.doubt / 1.8 : parts.doubt } };
}

/** Any other number as it stands on a note; letters behind it are its unit and left out. */
export function notedNumber(typed: string): NotedText {
  if (typed.trim() === '') return { kind: 'empty' };
  const parts = parted(typed);
  const value = parts ? plainNumber(parts.number) : NaN;
  if (!parts || !Number.isFinite(value) || !Number.isFinite(parts.doubt)) return unclear(`“${typed.trim()}” is not a number.`);
  return { kind: 'value', noted: { value, plusMinus: parts.doubt } };
}
