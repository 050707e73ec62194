import type { Series } from '@red-ember/core';
import { csvCell } from './csv.ts';

export interface NamedSeries {
  name: string;
  series: Series;
}

/** Rows written at a time: large enough to be quick, small enough never to hold a long log as text. */
const ROWS = 2000;

/** What the numbers of a table belong to. */
export interface TableOf {
  /** Said above the table, a line each. */
  facts: readonly string[];
  /** Whose name stands in every row. */
  phases: readonly { name: string; startS: number; endS: number | null }[];
}

/** A line that a reader of tables passes over. */
const remark = (text: string): string => `# ${text.replace(/[\r\n\u2028\u2029]+/g, ' ')}\r\n`;

/**
 * Channels as one CSV table, a row for every time at which any of them has a sample; as they were read, nothing corrected, nothing
 * left out. A channel without a sample at a time, and a missing sample, are empty.
 *
 * @returns pieces of text, remarks and header first
 */
export function* samplesTable(channels: readonly NamedSeries[], { facts, phases }: TableOf = { facts: [], phases: [] }): Generator<string> {
  yield facts.map(remark).join('');
  const inPhases = phases.length > 0;
  yield `${['time, s', ...(inPhases ? ['phase'] : []), ...channels.map((channel) => channel.name)].map(csvCell).join(',')}\r\n`;
  const names = phases.map(({ name }) => csvCell(name));
  let phase = 0;
  const phaseAt = (timeS: number): string => {
    while (phase < phases.length && timeS >= (phases[phase]!.endS ?? Infinity)) {
      // The very last sample of a run stands at the end of its last phase, and belongs to it.
      if (phase === phases.length - 1 && timeS === phases[phase]!.endS) break;
      phase++;
    }
    return phase < phases.length && timeS >= phases[phase]!.startS ? names[phase]! : '';
  };
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
    rows.push(`${now},${inPhases ? `${phaseAt(now)},` : ''}${cells.join(',')}\r\n`);
    if (rows.length < ROWS) continue;
    yield rows.join('');
    rows = [];
  }
  if (rows.length > 0) yield rows.join('');
}
