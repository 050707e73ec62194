import { describe, expect, it } from 'vitest';
import { TextRow } from '../read/cellRow.ts';
import { ColumnScan } from './columnScan.ts';

/** Times and columns that read their own number, a step up half-way. */
function looked(width: number, rows: number) {
  const scan = new ColumnScan(width, { timeColumn: 0, dateColumn: null, timeFormat: 'elapsed-s' }, '.');
  for (let k = 0; k < rows; k++)
    scan.take(new TextRow(k + 2, [String(k), ...Array.from({ length: width - 1 }, (_, i) => String(i + 1 + (k < rows / 2 ? 0 : 40)))]));
  return scan.end();
}

describe('a log that is looked through', () => {
  it.each([3, 120, 400])('is looked at column by column: %i of them', (width) => {
    const seen = looked(width, 600);
    expect(seen.columns).toHaveLength(width);
    expect(seen.columns[width - 1]).toMatchObject({ numbers: 600, least: width - 1, most: width + 39 });
    const { t, y } = seen.signal(width - 1);
    expect([t[0], t.at(-1), y[0], y.at(-1)]).toEqual([0, 599, width - 1, width + 39]);
  });

  it('keeps where a step was, however many columns share the room for it', () => {
    const { t, y } = looked(300, 9000).signal(299);
    const at = t[y.findIndex((value) => value > 319)]!;
    expect(Math.abs(at - 4500)).toBeLessThan(10);
    expect(t.length).toBeLessThanOrEqual(5243);
    expect(t.length).toBeGreaterThan(2000);
  });
});
