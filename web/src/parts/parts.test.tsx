// @vitest-environment happy-dom
import type { ReactElement } from 'react';
import { renderToStaticMarkup as markupOf } from 'react-dom/server';
import { Provider } from 'react-redux';
import { describe, expect, it } from 'vitest';
import { store } from '../app/store.ts';
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
  it('has round ticks', () => {
    expect(timeTicks(0, 2400)).toEqual([0, 300, 600, 900, 1200, 1500, 1800, 2100, 2400]);
    expect(valueTicks(20, 90)).toEqual([20, 40, 60, 80]);
    expect(valueTicks(20, 35)).toEqual([20, 25, 30, 35]);
  });
});
