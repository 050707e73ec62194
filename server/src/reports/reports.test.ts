import { describe, expect, it } from 'vitest';
import { csvCell, csvTable } from '../samples/csv.ts';
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
