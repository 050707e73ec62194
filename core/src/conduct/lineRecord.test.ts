import { describe, expect, it } from 'vitest';
import { sampleGaps, whereLoadsDiffer, type LineEntry } from '../index.ts';

const at = (s: number) => new Date(Date.UTC(2026, 0, 1) + 1000 * s).toISOString();
const load = (kind: 'commanded' | 'reported', wallS: number, percent: number, atS = wallS): LineEntry => ({
  atS,
  at: at(wallS),
  kind,
  percent,
  fromSeq: null,
  toSeq: null,
});
const end = (wallS: number, atS = wallS) => ({ atS, at: at(wallS) });

describe('where loads differ', () => {
  it('finds nothing in a rig that obeys within two seconds', () => {
    const entries = [
      load('commanded', 0, 0),
      load('reported', 0.1, 0),
      load('commanded', 60, 100),
      load('reported', 61.5, 100),
      load('commanded', 120, 0),
      load('reported', 120.2, 0),
    ];
    expect(whereLoadsDiffer(entries, end(200))).toEqual([]);
    expect(whereLoadsDiffer([], end(200))).toEqual([]);
    // What was never reported differs from nothing.
    expect(whereLoadsDiffer([load('commanded', 0, 50)], end(200))).toEqual([]);
  });

  it('names a load that was removed under a command, with how long by the wall, on a clock sixty times faster', () => {
    const entries = [
      load('commanded', 0, 100, 0),
      load('reported', 0.1, 100, 6),
      load('reported', 10, 0, 600),
      load('commanded', 15, 0, 900),
    ];
    expect(whereLoadsDiffer(entries, end(60, 3600))).toEqual([{ fromS: 600, toS: 900, lastedS: 5, commanded: 100, reported: 0 }]);
  });

  it('goes on to the end, and splits where the command changes meanwhile; other entries do not part it', () => {
    const back: LineEntry = { atS: 20, at: at(20), kind: 'back', percent: null, fromSeq: null, toSeq: null };
    const entries = [load('commanded', 0, 0), load('reported', 0, 40), back, load('commanded', 30, 20)];
    expect(whereLoadsDiffer(entries, end(50))).toEqual([
      { fromS: 0, toS: 30, lastedS: 30, commanded: 0, reported: 40 },
      { fromS: 30, toS: 50, lastedS: 20, commanded: 20, reported: 40 },
    ]);
  });
});

describe('gaps of samples', () => {
  it('are steps of more than three times the usual one', () => {
    expect(sampleGaps([0, 1, 2, 3, 10, 11, 14, 15, 16])).toEqual({ stepS: 1, gaps: [{ fromS: 3, toS: 10 }] });
    expect(sampleGaps([0, 0.1, 0.2, 0.3, 0.4, 1])).toEqual({ stepS: expect.closeTo(0.1), gaps: [{ fromS: 0.4, toS: 1 }] });
    expect(sampleGaps([0, 5])).toEqual({ stepS: null, gaps: [] });
  });
});
