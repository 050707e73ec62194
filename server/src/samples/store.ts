import type { Database } from 'better-sqlite3';
import { readAs, type ReadAs, type Series } from '@red-ember/core';

/** Samples per stored chunk once a run has ended. */
const CHUNK = 16_384;

interface ChunkRow {
  t: Buffer;
  v: Buffer;
  n: number;
}

export const blob = (array: Int32Array | Float64Array) => Buffer.from(array.buffer, array.byteOffset, array.byteLength);

/** Copies into aligned memory: a blob may start at any byte. */
function unpack(rows: ChunkRow[], known: Float64Array | null): Series {
  const n = rows.reduce((sum, row) => sum + row.n, 0);
  const ms = new Int32Array(known ? 0 : n);
  const y = new Float64Array(n);
  let at = 0;
  for (const row of rows) {
    if (!known) new Uint8Array(ms.buffer, 4 * at, 4 * row.n).set(row.t);
    new Uint8Array(y.buffer, 8 * at, 8 * row.n).set(row.v);
    at += row.n;
  }
  const t = known ?? new Float64Array(n);
  if (!known) for (let i = 0; i < n; i++) t[i] = ms[i]! / 1000;
  return { t, y };
}

/** SQL for raw samples: columnar chunks per run and channel. Times are seconds outside, int32 milliseconds inside. */
export class SampleStore {
  private lastTimes: { blobs: Buffer[]; t: Float64Array } | null = null;

  constructor(private readonly db: Database) {}

  /** Adds samples of one channel; they must come after what is stored. */
  append(runId: string, key: string, tMs: ArrayLike<number>, values: ArrayLike<number>): void {
    if (tMs.length === 0) return;
    // What is a typed array already is stored as it lies in memory.
    const t = tMs instanceof Int32Array ? tMs : Int32Array.from(tMs);
    const y = values instanceof Float64Array ? values : Float64Array.from(values);
    this.db
      .prepare('INSERT INTO sample_chunk (run_id, key, start_ms, end_ms, n, t, v) VALUES (?, ?, ?, ?, ?, ?, ?)')
      .run(runId, key, t[0], t[t.length - 1], t.length, blob(t), blob(y));
  }

  /** Adds a whole channel in chunks of the size in which it is read again. */
  appendAll(runId: string, key: string, tMs: Int32Array, values: Float64Array): void {
    for (let from = 0; from < tMs.length; from += CHUNK)
      this.append(runId, key, tMs.subarray(from, from + CHUNK), values.subarray(from, from + CHUNK));
  }

  /** The channel's samples as what they turned out to be, whole stored pieces that touch [fromS, toS); times in seconds. Cut by `slice`. */
  read(runId: string, key: string, fromS = 0, toS = Infinity): Series {
    const row = this.db.prepare('SELECT read_as AS how FROM run_channel WHERE run_id = ? AND key = ?').get(runId, key);
    return readAs(this.stored(runId, key, fromS, toS), (row as { how: ReadAs } | undefined)?.how ?? 'as-is');
  }

  private stored(runId: string, key: string, fromS = 0, toS = Infinity): Series {
    const rows = this.db
      .prepare('SELECT t, v, n FROM sample_chunk WHERE run_id = ? AND key = ? AND end_ms >= ? AND start_ms < ? ORDER BY start_ms')
      .all(runId, key, Math.floor(fromS * 1000), Number.isFinite(toS) ? Math.ceil(toS * 1000) : 2 ** 31) as ChunkRow[];
    // Channels of one log share their times: what the channel before had is not unpacked again.
    const before = this.lastTimes;
    const same = before !== null && before.blobs.length === rows.length && rows.every((row, i) => row.t.equals(before.blobs[i]!));
    const series = unpack(rows, same ? before.t : null);
    if (!same) this.lastTimes = { blobs: rows.map((row) => row.t), t: series.t };
    return series;
  }

  keys(runId: string): string[] {
    return (this.db.prepare('SELECT DISTINCT key FROM sample_chunk WHERE run_id = ?').all(runId) as { key: string }[]).map(
      (row) => row.key,
    );
  }

  /** Over all channels of a run. */
  countOf(runId: string): number {
    return (this.db.prepare('SELECT coalesce(sum(n), 0) AS n FROM sample_chunk WHERE run_id = ?').get(runId) as { n: number }).n;
  }

  /** Joins the many small chunks of a live run into few large ones. */
  compact(runId: string): void {
    for (const key of this.keys(runId)) {
      this.db.transaction(() => {
        const { t, y } = this.stored(runId, key);
        this.db.prepare('DELETE FROM sample_chunk WHERE run_id = ? AND key = ?').run(runId, key);
        for (let from = 0; from < t.length; from += CHUNK) {
          const part = t.subarray(from, from + CHUNK);
          this.append(
            runId,
            key,
            part.map((seconds) => Math.round(seconds * 1000)),
            y.subarray(from, from + CHUNK),
          );
        }
      })();
    }
  }
}
