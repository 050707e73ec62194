import type { Database } from 'better-sqlite3';
import { drawable } from '@red-ember/core';
import { storageTrouble } from '../../database/storageTrouble.ts';
import { blob, type SampleStore } from '../store.ts';

/** A channel as it is drawn; null where a gap begins. */
export type Drawn = ReturnType<typeof drawable>;

/** Copies into aligned memory: a blob may start at any byte. */
const unpacked = (bytes: Buffer): Float64Array => {
  const values = new Float64Array(bytes.length / 8);
  new Uint8Array(values.buffer).set(bytes);
  return values;
};

/** What is drawn of whole runs, kept: thinning eight hours of a fast log takes longer than anybody should wait for a page. */
export class Overviews {
  constructor(
    private readonly db: Database,
    private readonly samples: SampleStore,
  ) {}

  /** @param runId of a run that has ended */
  of(runId: string, key: string, points: number): Drawn {
    const madeOf = this.madeOf(runId, key, points);
    const kept = this.db.prepare('SELECT t, y FROM overview WHERE run_id = ? AND key = ? AND made_of = ?').get(runId, key, madeOf) as
      { t: Buffer; y: Buffer } | undefined;
    if (kept) return { t: [...unpacked(kept.t)], y: Array.from(unpacked(kept.y), (value) => (Number.isNaN(value) ? null : value)) };
    const drawn = drawable(this.samples.read(runId, key), points);
    this.keep(runId, key, madeOf, drawn);
    return drawn;
  }

  /** Those of the channels whose drawing is not kept, or of other samples, another unit or number of points. */
  missing(runId: string, keys: readonly string[], points: number): string[] {
    const kept = this.db.prepare('SELECT 1 FROM overview WHERE run_id = ? AND key = ? AND made_of = ?');
    return keys.filter((key) => kept.get(runId, key, this.madeOf(runId, key, points)) === undefined);
  }

  /** Keeps what was drawn elsewhere, of the samples that are stored now. */
  put(runId: string, key: string, points: number, drawn: Drawn): void {
    this.keep(runId, key, this.madeOf(runId, key, points), drawn);
  }

  /** What cannot be kept, on a disk that is full, is made again: nobody loses a trace by it. */
  private keep(runId: string, key: string, madeOf: string, drawn: Drawn): void {
    const y = Float64Array.from(drawn.y, (value) => value ?? NaN);
    try {
      this.db
        .prepare(
          'INSERT INTO overview (run_id, key, made_of, t, y) VALUES (?, ?, ?, ?, ?) ON CONFLICT (run_id, key) DO UPDATE SET made_of = excluded.made_of, t = excluded.t, y = excluded.y',
        )
        .run(runId, key, madeOf, blob(Float64Array.from(drawn.t)), blob(y));
    } catch (error) {
      if (storageTrouble(error) === null) throw error;
    }
  }

  /** Changes with whatever the drawing rests on. */
  private madeOf(runId: string, key: string, points: number): string {
    const { n, how } = this.db
      .prepare(
        `SELECT (SELECT coalesce(sum(n), 0) FROM sample_chunk WHERE run_id = @runId AND key = @key) AS n,
                (SELECT read_as FROM run_channel WHERE run_id = @runId AND key = @key) AS how`,
      )
      .get({ runId, key }) as { n: number; how: string | null };
    return `${n} samples, ${how ?? 'as-is'}, ${points} points`;
  }
}
