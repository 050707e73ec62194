import { parquetWriteBuffer } from 'hyparquet-writer';
import type { NamedSeries } from '../samples/table.ts';

/**
 * Channels as one Parquet table, a row for every time at which any of them has a sample; the same numbers as the table of text, nothing
 * corrected. A channel without a sample at a time, and a missing sample, are null.
 */
export function samplesParquet(channels: readonly NamedSeries[]): Uint8Array {
  const times = Float64Array.from(new Set(channels.flatMap(({ series }) => [...series.t]))).sort();
  const columns = channels.map(({ name, series }) => {
    let at = 0;
    const data = Array.from(times, (time) => {
      if (series.t[at] !== time) return null;
      const value = series.y[at++]!;
      return Number.isNaN(value) ? null : value;
    });
    return { name, data, type: 'DOUBLE' as const };
  });
  return new Uint8Array(
    parquetWriteBuffer({ columnData: [{ name: 'time, s', data: times, type: 'DOUBLE', nullable: false }, ...columns] }),
  );
}
