import { counted, listWords } from '@red-ember/core';
import type { ColumnMapBody } from '@red-ember/contract';
import type { Skipped, Table, TableBody, Unread } from '../read/readTable.ts';
import type { ColumnsGuessed } from './guessColumns.ts';
import { someNamed } from './someNamed.ts';

/** What was made of voltages, for the run's own record. */
function voltageWords(body: TableBody, names: string[]): string[] {
  return body.columns.flatMap(({ column, voltage }) => {
    if (!voltage) return [];
    const cold =
      voltage.coldJunctionColumn === null
        ? `at ${voltage.coldJunctionC} °C`
        : `read from ${names[voltage.coldJunctionColumn] ?? 'its column'}`;
    return [`${names[column] ?? `Column ${column + 1}`}: type ${voltage.type} voltage in mV, cold junction ${cold}, ITS-90.`];
  });
}

/** Temperatures that were written in another unit. */
function unitWords(body: TableBody, names: string[]): string[] {
  return body.columns.flatMap(({ column, unit }) =>
    unit === 'F' || unit === 'K'
      ? [`${names[column] ?? `Column ${column + 1}`}: written in ${unit === 'K' ? 'K' : '°F'}, stored in °C.`]
      : [],
  );
}

/** Rows that were left out, counted by reason, with the first lines of each. */
function skippedWords(skipped: readonly Skipped[]): string[] {
  return [...new Set(skipped.map(({ why }) => why))].map((why) => {
    const lines = skipped.filter((row) => row.why === why).map((row) => row.line);
    const named = lines.slice(0, 5).join(', ');
    return lines.length === 1
      ? `Line ${named} ${why} and was left out.`
      : `${lines.length} rows were left out, each of which ${why}: line ${named}${lines.length > 5 ? ' and more' : ''}.`;
  });
}

/** Cells in which a device wrote that it had no reading. */
export const unreadWords = ({ codes, rows }: Pick<Unread, 'codes' | 'rows'>, name: string): string =>
  `${name}: ${listWords([...codes].sort((p, q) => p - q).map(String))} in ${counted(rows, 'row')} ${codes.length === 1 ? 'is' : 'are'} taken as no reading.`;

/** All that was done to the readings of a log as it was read, for the run's own record. */
export function tableWords(body: TableBody, { names, skipped, setBackAt, unread }: Table): string[] {
  return [
    ...voltageWords(body, names),
    ...unitWords(body, names),
    ...unread.map((found) => unreadWords(found, names[found.column] ?? `Column ${found.column + 1}`)),
    ...setBackAt.map((line) => `Line ${line}: the clock falls back by an hour; the times are counted on from there.`),
    ...skippedWords(skipped),
  ];
}

/** What nothing is made of, in a sentence for each reason; less what a table has taken all the same. */
export function unusedWords(unused: ColumnsGuessed['unused'], taken: readonly ColumnMapBody[], names: readonly string[]): string[] {
  const left = unused.filter(({ column }) => !taken.some((map) => map.column === column));
  const sentence = (of: typeof left, one: string, several: string): string[] => {
    if (of.length === 0) return [];
    const said = someNamed(
      of.map(({ column }) => names[column]!),
      (count) => `${count} more columns`,
    );
    return [`${said} ${of.length === 1 ? one : several}`];
  };
  return [
    ...sentence(
      left.filter(({ another }) => another),
      'is not used: it speaks of another part of the machine.',
      'are not used: they speak of other parts of the machine.',
    ),
    ...sentence(
      left.filter(({ another }) => !another),
      'is not used: nothing says what it holds, or another column holds it already.',
      'are not used: nothing says what they hold, or another column holds it already.',
    ),
  ];
}
