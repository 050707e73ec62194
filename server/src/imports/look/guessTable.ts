import { numberOf } from '../read/cells.ts';
import type { ColumnMapBody } from '@red-ember/contract';
import { plainWords as plain } from '@red-ember/study';
import type { LogSeen } from './columnScan.ts';
import type { LogHead } from './logHead.ts';

/** More different values than this are no levels of a factor. */
const MOST_LEVELS = 24;
const ORDER = /^(run|order|no|nr|number|test|#|index|row|id)$/;
const REPEAT = /\b(repeat|repeats|replicate|rep|trial|repetition)\b/;
const RISE = /\b(rise|delta|over (room|ambient|air)|above (room|ambient))\b|Δ/i;
/** Words of a heading that say what is read, not where. */
const NOT_THE_PLACE = /\b(settled|rise|delta|temperature|temp|mean|max|over room|over ambient|above ambient)\b|Δ/gi;

/** What testers note beside temperature: a score, minutes of a render, a rating, what it cost. */
const OWN =
  /\b(score|rating|points|marks|grade|stars|time|duration|minutes|seconds|price|cost|weight|mass|length|height|effort|ease|frames|fps|loudness|sound|viscosity|conductivity)\b/;

/** A heading without the words that say what is read: “Stages rise” is the stages. */
function placeOf(name: string): string {
  const place = name.replace(NOT_THE_PLACE, ' ').replace(/\s+/g, ' ').replace(/^[\s,]+|[\s,]+$/g, ''); // prettier-ignore
  return place === '' ? name : place;
}

/**
 * What the columns of a table of figures hold: those of a log, and beside them what was changed from row to row, how often, in which order.
 *
 * @param guessed as of a log
 */
export function guessTable(
  { names, samples, decimal }: LogHead,
  seen: LogSeen,
  guessed: readonly ColumnMapBody[],
  sweep: boolean,
): ColumnMapBody[] {
  const found = guessed.flatMap((map): ColumnMapBody[] => {
    // In a table what a fan was set to is one of the things that were changed; in a sweep it is what is swept.
    if (!sweep && map.role === 'duty') return [];
    if (map.role !== 'spot') return [map];
    const heading = names[map.column] ?? '';
    const isRise = map.unit === 'K' || RISE.test(heading);
    return [
      {
        ...map,
        spotName: placeOf(map.spotName ?? heading),
        ...(isRise ? { unit: 'K' as const, ...(map.unit === 'F' ? { factor: 5 / 9 } : {}) } : {}),
      },
    ];
  });
  const values = (column: number) => (samples[column] ?? []).map((cell) => cell.trim()).filter((cell) => cell !== '');
  const loose = names.flatMap((name, column): ColumnMapBody[] => {
    if (found.some((map) => map.column === column)) return [];
    const words = plain(name);
    const as = (role: 'order' | 'repeat' | 'factor' | 'own') => [{ column, role, spotId: null }];
    if (REPEAT.test(words)) return as('repeat');
    // A number that comes again, run 1 and 2 of each paste, says which repeat it is, and no order of all.
    const numbers = values(column).filter((cell) => !Number.isNaN(numberOf(cell, decimal)));
    if (ORDER.test(words.trim())) return as(new Set(numbers).size < numbers.length ? 'repeat' : 'order');
    const levels = new Set(values(column)).size;
    const texts = (seen.columns[column]?.texts ?? 0) > 0 || values(column).some((cell) => Number.isNaN(numberOf(cell, decimal)));
    if (!sweep && !texts && levels > 0 && OWN.test(words)) return as('own');
    const fewNumbers = !sweep && levels < values(column).length && levels <= 6;
    return levels > 0 && levels <= MOST_LEVELS && (texts || fewNumbers) ? as('factor') : [];
  });
  return [...found, ...loose].sort((p, q) => p.column - q.column);
}
