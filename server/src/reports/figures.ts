import { fixed, headroomStrip, projectAmbient, type SideFigure, headroomWords } from '@red-ember/core';
import { html, type Html } from './html.ts';

export const INK = '#26211e';
export const STONE = '#6f675c';
export const EMBER = '#b3361d';
export const QUENCH = '#2a605f';

export type Tone = 'stone' | 'ember' | 'quench';
const FILL: Record<Tone, string> = { stone: '#8b8174', ember: EMBER, quench: QUENCH };

/** Headroom strip as SVG: room at the left, limit at the right; reads in grey. */
export function stripFigure(side: SideFigure, roomC: number, limitC: number, projectedC: number | null, tone: Tone, id: string): Html {
  const width = 420;
  const strip = headroomStrip({ roomC, limitC, spotC: side.spotC, doubtK: side.doubtK, idleC: side.idleC, projectedC });
  const x = (share: number) => (2 + share * (width - 6)).toFixed(1);
  const length = (from: number, to: number) => Math.max(0, (to - from) * (width - 6)).toFixed(1);
  return html`<svg
    viewBox="0 0 ${width} 20"
    width="${width}"
    height="20"
    role="img"
    aria-label="${fixed(side.spotC, 1)} °C, ${headroomWords(strip.headroomK)}, limit ${limitC} °C"
  >
    <defs>
      <linearGradient id="${id}">
        <stop offset="0" stop-color="${FILL[tone]}" />
        <stop offset="1" stop-color="${FILL[tone]}" stop-opacity="0.12" />
      </linearGradient>
    </defs>
    <line x1="2" y1="15" x2="${width - 4}" y2="15" stroke="#cfc6b6" />
    <rect x="2" y="6" width="${length(0, strip.solid)}" height="8" fill="${FILL[tone]}" />
    <rect x="${x(strip.solid)}" y="6" width="${length(strip.solid, strip.soft)}" height="8" fill="url(#${id})" />
    ${strip.idle !== null && html`<rect x="${x(strip.idle)}" y="5" width="1.6" height="10" fill="#fff" />`}
    ${strip.projected !== null && html`<rect x="${x(strip.spot)}" y="6.5" width="${length(strip.spot, strip.projected)}" height="7" fill="none" stroke="${FILL[tone]}" stroke-dasharray="2 2" />`}
    <rect x="${width - 4}" y="2" width="2" height="16" fill="${INK}" />
  </svg>`;
}

export function projected(side: SideFigure, roomC: number, toC: number, powerTempCo: number): number | null {
  try {
    return projectAmbient({ value: side.spotC, u: 0, dof: Infinity }, roomC, toC, { powerTempCo }).value;
  } catch (error) {
    if (error instanceof RangeError) return null; // runaway: there is no settled temperature to draw
    throw error;
  }
}

export interface FigureTrace {
  name: string;
  tone: Tone;
  dash: boolean;
  t: number[];
  y: (number | null)[];
}

/** Minutes at which a time axis is labelled: evenly, and never so many that labels touch. */
export function timeMarks(minutes: number): number[] {
  const step = [1, 2, 5, 10, 15, 30, 60, 120, 240, 480, 1440].find((size) => minutes / size <= 8) ?? Math.ceil(minutes / 8);
  return Array.from({ length: Math.floor(minutes / step) + 1 }, (_, i) => i * step);
}

/** A minute of an axis as it is read: minutes up to an hour and a half, hours beyond. */
export const timeMark = (minute: number): string =>
  minute < 90 ? `${minute} min` : minute % 60 === 0 ? `${minute / 60} h` : `${Math.floor(minute / 60)} h ${minute % 60}`;

/** Rise of one spot over time, one line a variant. */
export function traceFigure(title: string, traces: FigureTrace[], unit: string): Html {
  const [width, height, left, bottom] = [680, 220, 44, 24];
  const values = traces.flatMap((trace) => trace.y.filter((v): v is number => v !== null));
  const times = traces.flatMap((trace) => trace.t);
  if (values.length === 0) return html``;
  const endS = times.reduce((p, q) => Math.max(p, q), 1);
  const top = Math.ceil(values.reduce((p, q) => Math.max(p, q), 0) / 10) * 10 || 10;
  const x = (s: number) => (left + (s / endS) * (width - left - 90)).toFixed(1);
  const y = (v: number) => (height - bottom - (v / top) * (height - bottom - 12)).toFixed(1);
  const path = (trace: FigureTrace) => {
    let pen = 'M';
    return trace.t
      .map((s, i) => {
        const v = trace.y[i];
        if (v == null) {
          pen = 'M';
          return '';
        }
        const step = `${pen}${x(s)} ${y(v)}`;
        pen = 'L';
        return step;
      })
      .join('');
  };
  const ticks = Array.from({ length: top / 10 + 1 }, (_, i) => i * 10);
  const minutes = timeMarks(endS / 60);
  return html`<figure>
    <svg viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" role="img" aria-label="${title}">
      ${ticks.map((v) => html`<line x1="${left}" x2="${width - 90}" y1="${y(v)}" y2="${y(v)}" stroke="#e2dbcf" /><text x="${left - 6}" y="${y(v)}" dy="4" text-anchor="end" font-size="11" fill="${STONE}">${v === top ? `${v} ${unit}` : v}</text>`)}
      ${minutes.map((m) => html`<text x="${x(m * 60)}" y="${height - 6}" text-anchor="middle" font-size="11" fill="${STONE}">${timeMark(m)}</text>`)}
      ${traces.map((trace) => html`<path d="${path(trace)}" fill="none" stroke="${FILL[trace.tone]}" stroke-width="1.6" ${trace.dash && html` stroke-dasharray="5 3"`} />`)}
      ${traces.map((trace) => {
        const last = trace.y.findLastIndex((v) => v !== null);
        return last < 0
          ? null
          : html`<text x="${Number(x(trace.t[last]!)) + 6}" y="${y(trace.y[last]!)}" dy="4" font-size="12" fill="${FILL[trace.tone]}"
              >${trace.name}</text
            >`;
      })}
    </svg>
    <figcaption>${title}, ${unit}</figcaption>
  </figure>`;
}
