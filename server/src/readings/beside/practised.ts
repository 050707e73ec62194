import { DEFAULT_READING_RULES, drawable, reviewRun, type RunRecord, type Series } from '@red-ember/core';
import { fedSeries } from '@red-ember/contract';

/** An hour of a made-up part, once a second. */
const LENGTH_S = 3600;
const LOAD_S = { from: 600, to: 3000 };

/** A part that warms in two terms and cools again, with a little that looks like noise. */
function warming(byK: number, offset: number): Series {
  const t = Float64Array.from({ length: LENGTH_S }, (_, i) => i);
  const way = (s: number) => 1 - 0.7 * Math.exp(-s / 60) - 0.3 * Math.exp(-s / 500);
  const y = t.map((s, i) => {
    const on = s < LOAD_S.from ? 0 : s < LOAD_S.to ? way(s - LOAD_S.from) : 1 - way(s - LOAD_S.to);
    return 25 + byK * on + 0.1 * Math.sin(12.9898 * (i + offset) ** 1.3);
  });
  return { t, y };
}

/**
 * Reads a made-up run and throws away what comes of it. A thread that has never read one takes twice as long for its first: what it runs is
 * compiled while it does. It may as well do that while somebody looks at the columns of a log.
 */
export function practised(): null {
  const spots = [warming(40, 0), warming(30, 7)];
  const record: RunRecord = {
    spots: spots.map((series, i) => ({ id: `s${i}`, series })),
    phases: [
      { kind: 'idle-soak', name: 'idle', startS: 0, endS: LOAD_S.from, endedBy: 'time' },
      { kind: 'load', name: 'load', startS: LOAD_S.from, endS: LOAD_S.to, endedBy: 'time' },
      { kind: 'cool-down', name: 'cooling', startS: LOAD_S.to, endS: LENGTH_S, endedBy: 'time' },
    ],
    throttle: null,
    locks: [],
    ...fedSeries((role) => (role === 'room' ? warming(0, 3) : null)),
  };
  reviewRun(record, DEFAULT_READING_RULES);
  for (const series of spots) drawable(series, 600);
  return null;
}
