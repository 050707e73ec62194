import type { Series } from '@red-ember/core';
import { csvCell } from './csv.ts';

export interface NamedSeries {
  name: string;
  series: Series;
}

/** Rows written at a time: large enough to be quick, small enough never to hold a long log as text. */
const ROWS = 2000;

/**
 * Channels as one CSV table, a row for every time at which any of them has a sample; as they were read, nothing corrected, nothing
 * left out. A channel without a sample at a time, and a missing sample, are empty.
 *
 * @returns pieces of text, header first
 */
export function* samplesTable(channels: readonly NamedSeries[]): Generator<string> {
  yield `${['time, s', ...channels.map((channel) => channel.name)].map(csvCell).join(',')}\r\n`;
  const at = channels.map(() => 0);
  let rows: string[] = [];
  for (;;) {
    let now = Infinity;
    channels.forEach(({ series }, k) => {
      const time = series.t[at[k]!];
      if (time !== undefined && time < now) now = time;
    });
    if (now === Infinity) break;
    const cells = channels.map(({ series }, k) => {
      if (series.t[at[k]!] !== now) return '';
      const value = series.y[at[k]!++]!;
      return Number.isNaN(value) ? '' : String(value);
    });
    rows.push(`${now},${cells.join(',')}\r\n`);
    if (rows.length < ROWS) continue;
    yield rows.join('');
    rows = [];
  }
  if (rows.length > 0) yield rows.join('');
}
