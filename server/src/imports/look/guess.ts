import { isTemperature, roleByName, type SpotBody, type StagedLog, type TimeFormat } from '@red-ember/contract';
import type { CellRow, Decimal } from '../read/cellRow.ts';
import { LogProblem, numberIn, timeFormatOf, timeOf } from '../read/cells.ts';
import { bracketed, temperatureUnit } from '../read/shape.ts';
import type { SavedMapping } from '../store.ts';

type SpotName = Pick<SpotBody, 'id' | 'name' | 'channel'>;

const plain = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();

/** What the columns look like by their names; the tester decides. */
export function guessColumns(
  names: string[],
  units: string[],
  samples: string[][],
  spots: SpotName[],
  decimal: Decimal,
): Pick<StagedLog['guess'], 'timeColumn' | 'timeFormat' | 'columns'> {
  // By name, else by a unit of time that stands alone: the s of MB/s is none.
  const named = names.findIndex((name) => /\b(time|elapsed|timestamp|date|zeit|seconds)\b/.test(plain(name)));
  const timed = names.findIndex((name, i) => /^(s|sec|seconds|ms|min|minutes|h)$/i.test(units[i] || bracketed(name) || name.trim()));
  const timeColumn = named >= 0 ? named : Math.max(0, timed);
  const timeFormat = timeFormatOf(samples[timeColumn] ?? [], `${names[timeColumn] ?? ''} ${units[timeColumn] ?? ''}`, decimal);
  const taken = new Set<string>();
  const columns = names.flatMap((name, column): StagedLog['guess']['columns'] => {
    if (column === timeColumn) return [];
    const words = plain(name);
    const spot = spots.find(
      (candidate) =>
        !taken.has(candidate.id) && (words.includes(plain(candidate.name)) || words.split(' ').includes(plain(candidate.channel))),
    );
    if (spot) {
      taken.add(spot.id);
      return [{ column, role: 'spot', spotId: spot.id, unit: temperatureUnit(units[column] ?? '', name) }];
    }
    const role = roleByName(words, taken);
    if (!role) return [];
    taken.add(role);
    return [{ column, role, spotId: null, ...(isTemperature(role) ? { unit: temperatureUnit(units[column] ?? '', name) } : {}) }];
  });
  return { timeColumn, timeFormat, columns };
}

/** A mapping that was kept, on the spots of this study; what it does not have is left out, and what the cells show goes before. */
export function asBefore(saved: SavedMapping, seen: TimeFormat, spots: SpotName[]): ReturnType<typeof guessColumns> {
  const columns = saved.columns.flatMap(({ spotName, ...map }): StagedLog['guess']['columns'] => {
    if (map.role !== 'spot') return [{ ...map, spotId: null }];
    const spot = spots.find((candidate) => plain(candidate.name) === plain(spotName ?? ''));
    return spot ? [{ ...map, spotId: spot.id }] : [];
  });
  // Seconds and minutes look alike; anything else is plain to see.
  const timeFormat = seen.startsWith('elapsed') && saved.timeFormat.startsWith('elapsed') ? saved.timeFormat : seen;
  return { timeColumn: saved.timeColumn, timeFormat, columns };
}

/** When the work was on: from the first to the last sample above half of the largest. */
export function guessLoad(t: number[], work: number[]): { loadStartS: number; loadEndS: number } | null {
  const largest = work.reduce((most, value) => (value > most ? value : most), 0);
  const first = work.findIndex((value) => value > largest / 2);
  if (largest <= 0 || first < 0) return null;
  let last = first;
  work.forEach((value, i) => {
    // Throttling halves the work: a tenth still counts as being asked to.
    if (value > largest / 10) last = i;
  });
  return { loadStartS: t[first]!, loadEndS: t[Math.min(t.length - 1, last + 1)]! };
}

/** Follows time and work through a log, row by row, and keeps only these two numbers of each. */
export class TimeGuess {
  private readonly t: number[] = [];
  private readonly work: number[] = [];
  readonly workColumn: number | null;
  private readable = true;

  constructor(
    readonly columns: ReturnType<typeof guessColumns>,
    private readonly decimal: Decimal,
  ) {
    const roles = ['utilisation', 'throughput', 'power'] as const;
    this.workColumn =
      roles.map((role) => columns.columns.find((map) => map.role === role)?.column).find((column) => column !== undefined) ?? null;
  }

  /** A row that cannot be read ends the guessing; the import itself will say what is wrong with it. */
  take(row: CellRow): void {
    if (!this.readable) return;
    try {
      const timeS = timeOf(row, this.columns.timeColumn, this.columns.timeFormat, this.decimal);
      this.t.push(timeS);
      this.work.push(this.workColumn === null ? 0 : numberIn(row, this.workColumn, '', this.decimal) || 0);
    } catch (error) {
      if (!(error instanceof LogProblem)) throw error;
      this.readable = false;
    }
  }

  /** When the load began and ended, seconds from the first sample; the whole log where nothing tells. */
  load(): { loadStartS: number; loadEndS: number; lengthS: number } {
    if (!this.readable || this.t.length === 0) return { loadStartS: 0, loadEndS: 0, lengthS: 0 };
    const elapsed = this.t.map((time) => time - this.t[0]!);
    const lengthS = elapsed.at(-1)!;
    return { ...(guessLoad(elapsed, this.work) ?? { loadStartS: 0, loadEndS: lengthS }), lengthS };
  }
}
