// @vitest-environment happy-dom
import { strFromU8, unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { figuresOf, packed, paintable } from './figures.ts';

const PAGE = `<section><h3>Flash, top <small>limit 70 °C</small></h3><table><tr><td>bare</td><td><svg viewBox="0 0 420 20" aria-label="61.3 °C, 9 K left"><rect /></svg></td></tr>
  <tr><td>lid</td><td><svg viewBox="0 0 420 20"><rect /></svg></td></tr></table></section>
  <figure><svg viewBox="0 0 680 220" aria-label="Flash, rise"><text>bare &amp; lid</text></svg><figcaption>Flash, rise over room, K</figcaption></figure><svg></svg><svg></svg>`;
const page = () => new DOMParser().parseFromString(`<!doctype html><body>${PAGE}</body>`, 'text/html');

describe('the figures of a report', () => {
  it('are files of their own, named by what they show', () => {
    const figures = figuresOf(page());
    expect(figures.map(({ name }) => name)).toEqual([
      'Flash, top, bare',
      'Flash, top, lid',
      'Flash, rise over room, K',
      'Figure',
      'Figure 2',
    ]);
    expect(figures[0]!.svg).toContain('xmlns="http://www.w3.org/2000/svg"');
    expect(figures[0]!.svg).toContain('>61.3 °C, 9 K left</title>');
    expect(figures[2]!.svg).toContain('bare &amp; lid');
  });
  it('leave the page as it is, and go into one file', () => {
    const shown = page();
    const before = shown.body.innerHTML;
    const files = unzipSync(packed(figuresOf(shown)));
    expect(shown.body.innerHTML).toBe(before);
    expect(Object.keys(files)).toHaveLength(5);
    expect(strFromU8(Object.values(files)[0]!)).toMatch(/^<svg/);
  });
  it('can be painted with their face in them, at the size that they are drawn in', () => {
    const [strip, , trace, none] = figuresOf(page());
    const drawn = paintable(trace!.svg, '@font-face{font-family:Commissioner}')!;
    expect([drawn.width, drawn.height]).toEqual([680, 220]);
    expect(drawn.svg).toContain('@font-face{font-family:Commissioner}');
    expect(drawn.svg).toMatch(/^<svg[^>]* width="680"/);
    expect(paintable(strip!.svg, '')).toMatchObject({ width: 420, height: 20 });
    expect(paintable(none!.svg, '')).toBeNull();
  });
});
