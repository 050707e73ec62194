import { expect, it } from 'vitest';
import { csvCell } from './csv.ts';
import { samplesTable } from './table.ts';

const series = (t: number[], y: number[]) => ({ t: Float64Array.from(t), y: Float64Array.from(y) });

it('puts channels of several clocks into one table, missing samples empty, nothing left out', () => {
  const text = [
    ...samplesTable([
      { name: 'Controller, °C', series: series([1, 2, 3], [60.5, NaN, 61]) },
      { name: '=room', series: series([1.5, 3], [22, 22.1]) },
    ]),
  ].join('');
  expect(text).toBe(`"time, s","Controller, °C",'=room\r\n1,60.5,\r\n1.5,,22\r\n2,,\r\n3,61,22.1\r\n`);
});

it.each(['=1+1', ' =1', '\u00a0=1', '\n=1', '\u200b=1', '＝1', '+1-2', '@x', '|x', '\t1'])('makes %j safe for a spreadsheet', (text) => {
  expect(csvCell(text).replace(/^"/, '')).toMatch(/^'/);
});
it.each(['-3.5', '12', 'a=b', 'x - y'])('leaves %j as it is', (text) => expect(csvCell(text)).toBe(text));

it('has a header and nothing else where nothing was recorded, and comes in pieces where there is much', () => {
  expect([...samplesTable([])]).toEqual(['"time, s"\r\n']);
  const long = series(Array.from({ length: 5000 }, (_, i) => i), Array.from({ length: 5000 }, (_, i) => i / 8)); // prettier-ignore
  const pieces = [...samplesTable([{ name: 'a', series: long }])];
  expect(pieces).toHaveLength(4);
  expect(pieces.join('').trim().split('\r\n')).toHaveLength(5001);
});
