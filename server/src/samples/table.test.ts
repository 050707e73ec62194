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

it('says above what the numbers belong to, and in every row in which phase they were read', () => {
  const phases = [
    { name: 'Idle', startS: 0, endS: 2 },
    { name: 'Load, loud', startS: 2, endS: 3 },
  ];
  const channel = { name: 'Chip, °C', series: series([1, 2, 3], [30, 31, 40]) };
  const text = [...samplesTable([channel], { facts: ['Run 4', 'a line\r\nthat breaks'], phases })].join('');
  expect(text).toBe(
    '# Run 4\r\n# a line that breaks\r\n"time, s",phase,"Chip, °C"\r\n1,Idle,30\r\n2,"Load, loud",31\r\n3,"Load, loud",40\r\n',
  );
});

it.each(['=1+1', ' =1', '\u00a0=1', '\n=1', '\u200b=1', '＝1', '+1-2', '@x', '|x', '\t1'])('makes %j safe for a spreadsheet', (text) => {
  expect(csvCell(text).replace(/^"/, '')).toMatch(/^'/);
});
it.each(['-3.5', '12', 'a=b', 'x - y'])('leaves %j as it is', (text) => expect(csvCell(text)).toBe(text));

it('has a header and nothing else where nothing was recorded, and comes in pieces where there is much', () => {
  expect([...samplesTable([])].join('')).toBe('"time, s"\r\n');
  const long = series(Array.from({ length: 5000 }, (_, i) => i), Array.from({ length: 5000 }, (_, i) => i / 8)); // prettier-ignore
  const pieces = [...samplesTable([{ name: 'a', series: long }])].filter((piece) => piece !== '');
  expect(pieces).toHaveLength(4);
  expect(pieces.join('').trim().split('\r\n')).toHaveLength(5001);
});
