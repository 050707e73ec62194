// @vitest-environment happy-dom
import type { ReactElement } from 'react';
import { renderToStaticMarkup as markupOf } from 'react-dom/server';
import { Provider } from 'react-redux';
import { describe, expect, it } from 'vitest';
import { store } from '../data/store.ts';
import { HeadroomStrip } from './HeadroomStrip.tsx';
import { Measured } from './Measured.tsx';
import { extent, timeTicks, tracePath, valueTicks } from './tracePath.ts';

/** As it is read: a blank at which no line ends is a blank. */
const renderToStaticMarkup = (part: ReactElement) => markupOf(<Provider store={store}>{part}</Provider>).replaceAll('\u00a0', ' ');

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

describe('tracePath', () => {
  const plot = { width: 700, height: 100, fromS: 0, toS: 28_800, low: 0, high: 100 };
  const points = (path: string) =>
    [...path.matchAll(/([ML])([-\d.]+) ([-\d.]+)/g)].map(([, pen, x, y]) => ({ pen, x: Number(x), y: Number(y) }));

  it('draws straight between points, and leaves a gap where one is', () => {
    const small = { ...plot, width: 30, toS: 30, high: 30 };
    const path = tracePath({ key: 'a', t: [0, 10, 20, 22, 30], y: [0, 10, null, NaN, 30] }, small);
    expect(path).toBe('M0.0 100.0L10.0 66.7M30.0 0.0');
    expect(tracePath({ key: 'a', t: [], y: [] }, small)).toBe('');
  });

  it('draws no more than the plot can show, with every peak and every gap', () => {
    const n = 288_000;
    const t = Float64Array.from({ length: n }, (_, i) => i / 10);
    const y = t.map((time, i) => (i === 123_456 ? 95 : i > 200_000 && i < 210_000 ? NaN : 40 + Math.sin(time)));
    const drawn = points(tracePath({ key: 'a', t, y }, plot));
    expect(drawn.length).toBeLessThanOrEqual(4 * 701);
    expect(Math.min(...drawn.map((point) => point.y))).toBeCloseTo(5, 1);
    expect(drawn.filter((point) => point.pen === 'M')).toHaveLength(2);
    const inGap = drawn.filter(({ x }) => x > 487 && x < 510);
    expect(inGap).toEqual([]);
    expect(drawn.every((point, i) => i === 0 || point.x >= drawn[i - 1]!.x)).toBe(true);
  });

  it('lets lines come in from outside a plot that shows a part', () => {
    const t = Array.from({ length: 100 }, (_, i) => 10 * i);
    const drawn = points(tracePath({ key: 'a', t, y: t.map(() => 50) }, { ...plot, width: 100, fromS: 205, toS: 305 }));
    expect(drawn.at(0)!.x).toBeLessThan(0);
    expect(drawn.at(-1)!.x).toBeGreaterThan(100);
    expect(drawn).toHaveLength(12);
  });

  it('knows how far traces reach', () => {
    expect(
      extent([
        { key: 'a', t: [0, 1, 2], y: [3, null, NaN] },
        { key: 'b', t: [0], y: [-2] },
      ]),
    ).toEqual([-2, 3]);
    expect(extent([{ key: 'a', t: [0], y: [null] }])).toBeNull();
  });

  it('has round ticks', () => {
    expect(timeTicks(0, 2400)).toEqual([0, 300, 600, 900, 1200, 1500, 1800, 2100, 2400]);
    expect(valueTicks(20, 90)).toEqual([20, 40, 60, 80]);
    expect(valueTicks(20, 35)).toEqual([20, 25, 30, 35]);
  });
});
