import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { correctMatrix, findHotSpots, InsufficientDataError, MatrixProblem, parseMatrix, registerPicture } from '../index.ts';
import { seededNormal } from '@red-ember/testing/signals';

/** Gaussian spots on a level background. */
function picture(rows: number, columns: number, spots: { row: number; column: number; riseK: number; width: number }[]): number[][] {
  return Array.from({ length: rows }, (_, r) =>
    Array.from({ length: columns }, (_, c) =>
      spots.reduce((sum, s) => sum + s.riseK * Math.exp(-((r - s.row) ** 2 + (c - s.column) ** 2) / (2 * s.width ** 2)), 30),
    ),
  );
}

/** Prominence by its definition: the highest pass to a higher cell, found by trying every threshold. Slow, and independent. */
function prominenceByDefinition(matrix: number[][], row: number, column: number): number {
  const peak = matrix[row]![column]!;
  const levels = [...new Set(matrix.flat())].sort((p, q) => q - p).filter((level) => level <= peak);
  for (const level of levels) {
    const seen = new Set([`${row},${column}`]);
    const queue: [number, number][] = [[row, column]];
    for (let k = 0; k < queue.length; k++) {
      const [r, c] = queue[k]!;
      if (matrix[r]![c]! > peak) return peak - level;
      for (let i = r - 1; i <= r + 1; i++)
        for (let j = c - 1; j <= c + 1; j++)
          if ((matrix[i]?.[j] ?? -Infinity) >= level && !seen.has(`${i},${j}`)) {
            seen.add(`${i},${j}`);
            queue.push([i, j]);
          }
    }
  }
  return peak - levels.at(-1)!;
}

describe('findHotSpots', () => {
  it('finds planted spots, hottest first, and not the noise', () => {
    const normal = seededNormal(5);
    const clean = picture(40, 60, [
      { row: 10, column: 15, riseK: 40, width: 4 },
      { row: 28, column: 42, riseK: 25, width: 3 },
      { row: 30, column: 10, riseK: 12, width: 5 },
    ]);
    const spots = findHotSpots(
      clean.map((row) => row.map((value) => value + 0.1 * normal())),
      { minProminenceK: 2 },
    );
    expect(spots).toHaveLength(3);
    expect(spots.map((spot) => [Math.round(spot.row / 3), Math.round(spot.column / 3)])).toEqual([
      [3, 5],
      [9, 14],
      [10, 3],
    ]);
    expect(spots[0]!.temperatureC).toBeGreaterThan(spots[1]!.temperatureC);
  });
  it('agrees with the definition of prominence on pictures without equal cells', () => {
    fc.assert(
      fc.property(
        fc.shuffledSubarray(
          Array.from({ length: 30 }, (_, i) => i),
          { minLength: 30 },
        ),
        (cells) => {
          const matrix = Array.from({ length: 5 }, (_, r) => cells.slice(6 * r, 6 * r + 6));
          for (const spot of findHotSpots(matrix, { minProminenceK: 0 }))
            expect(spot.prominenceK).toBe(prominenceByDefinition(matrix, spot.row, spot.column));
        },
      ),
      { numRuns: 50 },
    );
  });
  it('takes a plateau for one spot at its first cell, also one in the shape of a U', () => {
    const u = [
      [20, 20, 20, 20, 20],
      [20, 50, 20, 50, 20],
      [20, 50, 50, 50, 20],
      [20, 20, 20, 20, 20],
    ];
    expect(findHotSpots(u)).toEqual([{ row: 1, column: 1, temperatureC: 50, prominenceK: 30 }]);
  });
  it('leaves missing cells out', () => {
    const matrix = picture(9, 9, [{ row: 4, column: 4, riseK: 30, width: 2 }]);
    matrix[4]![4] = NaN;
    const [spot] = findHotSpots(matrix);
    expect(Math.hypot(spot!.row - 4, spot!.column - 4)).toBeCloseTo(1, 6);
    expect(() => findHotSpots([[NaN, NaN]])).toThrow(InsufficientDataError);
  });
  it('refuses ragged pictures and senseless options', () => {
    expect(() => findHotSpots([[1, 2], [3]])).toThrow(RangeError);
    expect(() => findHotSpots([])).toThrow(InsufficientDataError);
    expect(() => findHotSpots([[1, Infinity]])).toThrow(RangeError);
    expect(() => findHotSpots([[1, 2]], { minProminenceK: -1 })).toThrow(RangeError);
    expect(() => findHotSpots([[1, 2]], { maxSpots: 1.5 })).toThrow(RangeError);
  });
});

describe('parseMatrix', () => {
  it('reads commas, semicolons with decimal commas, tabs and blanks alike', () => {
    const expected = [
      [30, 31.5],
      [32, 33],
    ];
    for (const text of ['30,31.5\n32,33', '30;31,5\n32;33', '30\t31,5\r\n32\t33\r\n', '30 31.5\n32 33', '\uFEFF30,31.5,\n32,33,'])
      expect(parseMatrix(text, 'C'), JSON.stringify(text)).toEqual(expected);
  });
  it('converts Fahrenheit and kelvin', () => {
    expect(parseMatrix('212,32\n68,50', 'F')).toEqual([
      [100, 0],
      [20, 10],
    ]);
    expect(parseMatrix('300.15,310.15\n273.15,293.15', 'K')[0]![0]).toBeCloseTo(27, 9);
  });
  it('leaves out a header line, a column of names and comments', () => {
    expect(parseMatrix('# camera 3\nrow,a,b\nr1,30,31\nr2,32,33', 'C')).toEqual([
      [30, 31],
      [32, 33],
    ]);
  });
  it('keeps missing cells missing', () => {
    expect(parseMatrix('30,NaN\n,33', 'C')).toEqual([
      [30, NaN],
      [NaN, 33],
    ]);
  });
  it.each([
    ['', 'empty'],
    ['30,31\n32', 'Line 2 has 1 values'],
    ['30,31\n32,warm\n33,34', 'Line 2, column 2: “warm”'],
    ['30,31\n-400,20', 'absolute zero'],
    ['30,31\n4000,20', 'Which unit'],
    ['30\n31', 'two rows and two columns'],
    ['nan,nan\nnan,nan', 'no temperatures'],
  ])('refuses %j with its sentence', (text, sentence) => {
    expect(() => parseMatrix(text, 'C')).toThrow(MatrixProblem);
    expect(() => parseMatrix(text, 'C')).toThrow(sentence);
  });
});

describe('correctMatrix', () => {
  const base = { emissivitySet: 0.95, emissivity: 0.95, reflectedC: 23 };
  it('changes only the region, and the last region counts', () => {
    const region = { fromRow: 0, toRow: 0, fromColumn: 1, toColumn: 1, emissivity: 0.7, reflectedC: null };
    const { valuesC } = correctMatrix(
      [
        [50, 50],
        [50, 50],
      ],
      base,
      [region],
    );
    expect(valuesC[0]![0]).toBeCloseTo(50, 9);
    expect(valuesC[0]![1]).toBeGreaterThan(57);
    expect(
      correctMatrix(
        [
          [50, 50],
          [50, 50],
        ],
        base,
        [region, { ...region, emissivity: 0.95 }],
      ).valuesC[0]![1],
    ).toBeCloseTo(50, 9);
  });
  it('marks shiny cells as unreadable instead of guessing them', () => {
    const { valuesC, unreadable } = correctMatrix([[90, 40]], base, [
      { fromRow: 0, toRow: 0, fromColumn: 0, toColumn: 0, emissivity: 0.2, reflectedC: null },
    ]);
    expect(valuesC[0]![0]).toBeNaN();
    expect(unreadable).toEqual([[true, false]]);
  });
});

describe('registerPicture', () => {
  it('maps there and back under any shift, turn, scale and mirroring', () => {
    const point = fc.record({
      row: fc.integer({ min: 0, max: 200 }),
      column: fc.integer({ min: 0, max: 200 }),
      xMm: fc.integer({ min: 0, max: 100 }),
      yMm: fc.integer({ min: 0, max: 100 }),
    });
    fc.assert(
      fc.property(point, point, fc.boolean(), (a, b, mirrored) => {
        fc.pre((a.row !== b.row || a.column !== b.column) && (a.xMm !== b.xMm || a.yMm !== b.yMm));
        const registration = registerPicture(a, b, mirrored);
        for (const p of [a, b]) {
          const there = registration.toMap(p.row, p.column);
          expect(there.xMm).toBeCloseTo(p.xMm, 6);
          expect(there.yMm).toBeCloseTo(p.yMm, 6);
        }
        const { xMm, yMm } = registration.toMap(17, 31);
        const back = registration.toPicture(xMm, yMm);
        expect(back.row).toBeCloseTo(17, 4);
        expect(back.column).toBeCloseTo(31, 4);
      }),
    );
  });
  it('turns and scales as told', () => {
    const quarter = registerPicture({ row: 0, column: 0, xMm: 0, yMm: 0 }, { row: 0, column: 10, xMm: 0, yMm: 5 });
    expect(quarter.turnedDeg).toBeCloseTo(90, 9);
    expect(quarter.mmPerCell).toBeCloseTo(0.5, 12);
    expect(() => registerPicture({ row: 1, column: 1, xMm: 0, yMm: 0 }, { row: 1, column: 1, xMm: 4, yMm: 0 })).toThrow(RangeError);
  });
});
