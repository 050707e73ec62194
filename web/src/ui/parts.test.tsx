// @vitest-environment happy-dom
import type { ReactElement } from 'react';
import { renderToStaticMarkup as markupOf } from 'react-dom/server';
import { Provider } from 'react-redux';
import { describe, expect, it } from 'vitest';
import { store } from '../data/store.ts';
import { HeadroomStrip } from './HeadroomStrip.tsx';
import { Measured } from './Measured.tsx';
import { mergeTraces, timeTicks, valueTicks } from './mergeTraces.ts';

const renderToStaticMarkup = (part: ReactElement) => markupOf(<Provider store={store}>{part}</Provider>);

describe('HeadroomStrip', () => {
  it('says in words what it draws', () => {
    const shown = renderToStaticMarkup(
      <HeadroomStrip label="Flash" roomC={20} limitC={80} spotC={65} doubtK={1} idleC={30} projectedC={75} />,
    );
    expect(shown).toContain('aria-label="Flash: 65.0 °C, 15.0 K left, limit 80 °C"');
    expect(shown).toContain('width:73.33%'); // solid to 64 °C
    expect(shown).toContain('border-dashed');
  });
  it('says when the limit is passed, and does not draw nonsense', () => {
    expect(renderToStaticMarkup(<HeadroomStrip label="Flash" roomC={20} limitC={80} spotC={83} doubtK={1} />)).toContain(
      '3.0 K over, limit 80 °C',
    );
    expect(renderToStaticMarkup(<HeadroomStrip label="Flash" roomC={90} limitC={80} spotC={83} doubtK={1} />)).toContain('no strip');
  });
});

describe('Measured', () => {
  it('is one piece of text with unit and doubt', () => {
    const text = renderToStaticMarkup(<Measured value={-3.27} doubt={0.6} unit="K" sign />).replace(/<[^>]+>/g, '');
    expect(text).toBe('−3.3 ± 0.6 K');
  });
});

describe('mergeTraces', () => {
  it('draws each trace straight between its own points, and keeps gaps', () => {
    const rows = mergeTraces([
      { key: 'a', t: [0, 10, 20, 30], y: [0, 10, null, 30] },
      { key: 'b', t: [5, 25], y: [1, 3] },
    ]);
    expect(rows.map((row) => row.t)).toEqual([0, 5, 10, 20, 25, 30]);
    expect(rows.map((row) => row.a)).toEqual([0, 5, 10, null, null, 30]);
    expect(rows.map((row) => row.b)).toEqual([null, 1, 1.5, 2.5, 3, null]);
  });
  it('brings more times than a chart can show onto common columns, peaks and gaps kept, moved by less than a pixel', () => {
    // Sixteen channels of 600 points, each with times of its own, one with a peak of a single point and one with a gap.
    const made = Array.from({ length: 16 }, (_, k) => {
      const t = Array.from({ length: 600 }, (_, i) => 48 * i + 0.37 * k + (i % 2));
      return {
        key: `c${k}`,
        t,
        y: t.map((_, i): number | null => (k === 3 && i === 333 ? 90 : k === 5 && i > 200 && i < 260 ? null : 40 + k)),
      };
    });
    const rows = mergeTraces(made);
    expect(rows.length).toBeLessThanOrEqual(1001);
    expect(rows.every((row, i) => i === 0 || row.t > rows[i - 1]!.t)).toBe(true);
    const peak = rows.find((row) => row.c3 === 90)!;
    expect(Math.abs(peak.t - made[3]!.t[333]!)).toBeLessThan((600 * 48) / 1000);
    const gap = rows.filter((row) => row.t > made[5]!.t[202]! && row.t < made[5]!.t[258]!);
    expect(gap.length).toBeGreaterThan(50);
    expect(gap.every((row) => row.c5 === null)).toBe(true);
    expect(rows.filter((row) => row.t > 100 && row.t < 28_700).every((row) => row.c9 === 49)).toBe(true);
    // What is read now and then keeps its own times.
    expect(mergeTraces([...made, { key: 'hand', t: [1234.5], y: [55], dots: true }]).find((row) => row.t === 1234.5)!.hand).toBe(55);
  });
  it('has round ticks', () => {
    expect(timeTicks(0, 2400)).toEqual([0, 300, 600, 900, 1200, 1500, 1800, 2100, 2400]);
    expect(valueTicks(20, 90)).toEqual([20, 40, 60, 80]);
    expect(valueTicks(20, 35)).toEqual([20, 25, 30, 35]);
  });
});
