import type { Skipped, TableBody } from '../read/readTable.ts';

/** What was made of voltages, for the run's own record. */
export function voltageWords(body: TableBody, names: string[]): string[] {
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
export function unitWords(body: TableBody, names: string[]): string[] {
  return body.columns.flatMap(({ column, unit }) =>
    unit === 'F' || unit === 'K'
      ? [`${names[column] ?? `Column ${column + 1}`}: written in ${unit === 'K' ? 'K' : '°F'}, stored in °C.`]
      : [],
  );
}

/** Rows that were left out, counted by reason, with the first lines of each. */
export function skippedWords(skipped: readonly Skipped[]): string[] {
  return [...new Set(skipped.map(({ why }) => why))].map((why) => {
    const lines = skipped.filter((row) => row.why === why).map((row) => row.line);
    const named = lines.slice(0, 5).join(', ');
    return lines.length === 1
      ? `Line ${named} ${why} and was left out.`
      : `${lines.length} rows were left out, each of which ${why}: line ${named}${lines.length > 5 ? ' and more' : ''}.`;
  });
}
