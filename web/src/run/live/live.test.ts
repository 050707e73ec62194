import type { LiveSpot } from '@red-ember/core';
import { describe, expect, it } from 'vitest';
import type { LiveSnapshot, Run, Study } from '@red-ember/contract';
import { bindingSpot, forecastWords, nextThing, roomWords } from './liveWords.ts';
import { liveOpened, liveSlice, samplesArrived, thin, traceArrived } from './liveSlice.ts';

const spot = (spotId: string, headroomK: number | null, change: Partial<LiveSpot> = {}): LiveSpot => ({
  spotId,
  valueC: 60,
  readAtS: null,
  riseK: 38,
  idleC: 30,
  headroomK,
  etaS: null,
  settlesAtC: null,
  etaDoubtS: null,
  ...change,
});
const snapshot = (change: Partial<LiveSnapshot> = {}): LiveSnapshot => ({
  runId: 'r',
  state: 'recording',
  trouble: null,
  runsAway: false,
  nowS: 900,
  phaseIndex: 1,
  phaseElapsedS: 420,
  phaseMostLeftS: 3180,
  settledInS: null,
  loadPercent: 100,
  roomC: 22.4,
  roomMinC: 22.1,
  roomMaxC: 22.6,
  throughput: { value: 6100, unit: 'MB/s' },
  powerW: null,
  throttling: false,
  limiter: null,
  allSettled: false,
  capTooSoonS: null,
  locks: [],
  nextMark: null,
  vanished: false,
  shows: [],
  rigLost: false,
  spots: [spot('a', 12), spot('b', 7), spot('c', null)],
  ...change,
});
const study = { spots: ['a', 'b', 'c'].map((id) => ({ id, name: id.toUpperCase(), limitC: 85, cutOutC: 90, cutOutHoldS: 5 })) } as Study;
const run = (kind: 'idle-soak' | 'load' | 'cool-down') =>
  ({ phases: [{ kind, name: kind, startS: 480, endS: null, endedBy: null }] }) as unknown as Run;

describe('words of a live run', () => {
  it('name the spot with the least headroom', () => {
    expect(bindingSpot(study, snapshot())).toMatchObject({ name: 'B', cutOutC: 90 });
    expect(bindingSpot(study, null)).toBeNull();
  });
  it('promise no more than is known', () => {
    expect(forecastWords(run('load'), snapshot())).toBe('at most 53 min left in this phase');
    expect(forecastWords(run('load'), snapshot({ spots: [spot('a', 9, { etaS: 400 }), spot('b', 7)] }))).toBe(
      'too early to say when it settles; at most 53 min',
    );
    expect(forecastWords(run('load'), snapshot({ settledInS: 480, spots: [spot('a', 9, { etaS: 480, etaDoubtS: 120 })] }))).toBe(
      'settles in about 8 min ± 2 min, then up to 5 min to confirm',
    );
    expect(forecastWords(run('load'), snapshot({ settledInS: 0 }))).toContain('steady');
  });
  it('say what to do next', () => {
    expect(nextThing(run('load'), snapshot({ rigLost: true }))).toContain('silent');
    expect(nextThing(run('load'), snapshot({ throttling: true, limiter: 'thermal' }))).toContain('by its temperature');
    expect(nextThing(run('load'), snapshot({ vanished: true }))).toContain('gone');
    expect(nextThing(run('load'), snapshot({ capTooSoonS: 300 }))).toContain('press E');
    expect(nextThing(run('load'), snapshot({ nextMark: { minute: 10, inS: 42 } }))).toBe('Read by hand in 42 s.');
    expect(nextThing(run('load'), snapshot({ nextMark: { minute: 10, inS: 400 } }))).toContain('Nothing to do');
    expect(nextThing(run('cool-down'), snapshot())).toContain('burns');
    expect(roomWords(snapshot())).toBe('22.4 °C, so far 22.1 to 22.6 °C');
  });
});

describe('the live trace', () => {
  const samples = (t: number[]) => samplesArrived({ runId: 'r', series: [{ key: 'tc1', t, y: t.map((value) => value / 10) }] });
  const trace = (t: number[]) =>
    traceArrived({
      runId: 'r',
      fromS: 0,
      toS: 10,
      series: [{ key: 'tc1', role: 'spot', spotId: 'a', unit: '°C', t, y: t.map((value) => value / 10) }],
    });
  const play = (...actions: Parameters<typeof liveSlice.reducer>[1][]) =>
    actions.reduce((state, action) => liveSlice.reducer(state, action), liveSlice.reducer(undefined, liveOpened('r')));

  it('takes each sample once, whatever arrives first', () => {
    expect(play(samples([1, 2, 3]), samples([2, 3, 4])).channels.tc1!.t).toEqual([1, 2, 3, 4]);
    expect(play(samples([5, 6, 7]), trace([1, 3, 5])).channels.tc1!.t).toEqual([1, 3, 5, 6, 7]);
    expect(play(trace([1, 2]), { ...samples([3]), payload: { ...samples([3]).payload, runId: 'other' } }).channels.tc1!.t).toEqual([1, 2]);
  });
  it('thins what is old and keeps what is new', () => {
    const t = Array.from({ length: 2000 }, (_, i) => i);
    const thinned = thin({ t, y: t });
    expect(thinned.t.length).toBe(1250);
    expect(thinned.t.slice(-500)).toEqual(t.slice(-500));
    expect(thin({ t: [1], y: [2] })).toEqual({ t: [1], y: [2] });
  });
});
