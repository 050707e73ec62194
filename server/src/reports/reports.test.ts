import { describe, expect, it } from 'vitest';
import { csvCell, csvTable } from '../samples/csv.ts';
import { timeMark, timeMarks } from './figures.ts';
import { html } from './html.ts';

describe('csv', () => {
  it('makes formulas safe and leaves numbers alone', () => {
    expect(['=1+1', '+cmd', '-2+3', '@sum', '\tx'].map(csvCell)).toEqual(["'=1+1", "'+cmd", "'-2+3", "'@sum", "'\tx"]);
    expect([csvCell(-2.5), csvCell('-2.5'), csvCell(null), csvCell(NaN)]).toEqual(['-2.5', '-2.5', '', '']);
  });
  it('quotes what needs it', () => {
    expect(csvTable(['a', 'b'], [['x, "y"', 'line\nbreak']])).toBe('a,b\r\n"x, ""y""","line\nbreak"\r\n');
  });
});

describe('html', () => {
  it('escapes everything that is not HTML already', () => {
    expect(html`<p title="${'"'}">${'<script>'}${html`<b>${1}</b>`}${[html`<i />`, null, false]}</p>`.text).toBe(
      '<p title="&quot;">&lt;script&gt;<b>1</b><i /></p>',
    );
  });
});

describe('time labels of a trace', () => {
  it.each([0.5, 12, 45, 90, 480, 3000, 30_000])('of %d minutes are few, even and never twice the same', (minutes) => {
    const marks = timeMarks(minutes);
    expect(marks.length).toBeLessThanOrEqual(10);
    const labels = marks.map(timeMark);
    expect(new Set(labels).size).toBe(labels.length);
    const steps = new Set(marks.slice(1).map((mark, i) => mark - marks[i]!));
    expect(steps.size).toBeLessThanOrEqual(1);
    // A label is at most about 45 wide on an axis of 546.
    expect(marks.length * 45).toBeLessThan(546);
  });
});
