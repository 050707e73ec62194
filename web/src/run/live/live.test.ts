import type { LiveSpot } from '@red-ember/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { LiveSnapshot, Run, Study } from '@red-ember/contract';
import { bindingSpot, forecastWords, nextThing, roomWords } from './liveWords.ts';
import { LiveTraces } from './liveTraces.ts';

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
  knownWithinK: null,
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
  ({ recipe: [], phases: [{ kind, name: kind, startS: 480, endS: null, endedBy: null }] }) as unknown as Run;

describe('words of a live run', () => {
  it('name the spot with the least headroom', () => {
    expect(bindingSpot(study, snapshot())).toMatchObject({ name: 'B', cutOutC: 90 });
    expect(bindingSpot(study, null)).toBeNull();
  });
  it('promise no more than is known', () => {
    expect(forecastWords(run('load'), snapshot())).toBe('at most 53 min left in this phase');
    const waits = { ...run('load'), recipe: [{ mode: 'until-settled' }] } as unknown as Run;
    for (const known of [snapshot(), snapshot({ spots: [spot('a', 9, { etaS: 400 }), spot('b', 7)] })])
      expect(forecastWords(waits, known)).toBe('too early to say when it settles; at most 53 min');
    expect(forecastWords(run('load'), snapshot({ settledInS: 480, spots: [spot('a', 9, { etaS: 480, etaDoubtS: 120 })] }))).toBe(
      'settles in about 8 min ± 2 min, then up to 5 min to confirm',
    );
    expect(forecastWords(run('load'), snapshot({ settledInS: 0 }))).toContain('steady');
  });
  it('say how well it is known where it settles, where the load waits for that', () => {
    const reads = { ...run('load'), recipe: [{ mode: 'until-read' }] } as unknown as Run;
    expect(forecastWords(reads, snapshot())).toBe('too early to say where it settles; at most 53 min');
    expect(forecastWords(reads, snapshot({ knownWithinK: 1.42 }))).toBe(
      'where it settles is known to ± 1.4 K; it ends at ± 0.6 K, or in 53 min',
    );
  });
  it('say what to do next', () => {
    expect(nextThing(run('load'), snapshot({ rigLost: true }))).toContain('silent');
    expect(nextThing(run('load'), snapshot({ throttling: true, limiter: 'thermal' }))).toContain('throttling, held back by heat');
    expect(nextThing(run('load'), snapshot({ throttling: false, limiter: 'power' }))).toBe('The part is held back by its power limit.');
    expect(nextThing(run('load'), snapshot({ vanished: true }))).toContain('gone');
    expect(nextThing(run('load'), snapshot({ capTooSoonS: 300 }))).toContain('press E');
    expect(nextThing(run('load'), snapshot({ nextMark: { minute: 10, inS: 42 } }))).toBe('Read by hand in 42 s.');
    expect(nextThing(run('load'), snapshot({ nextMark: { minute: 10, inS: 400 } }))).toContain('Nothing to do');
    expect(nextThing(run('cool-down'), snapshot())).toContain('burns');
    expect(roomWords(snapshot())).toBe('22.4 °C, so far 22.1 to 22.6 °C');
  });
});

describe('the live trace', () => {
  const samples = (t: number[], runId = 'r') => ({ runId, series: [{ key: 'tc1', t, y: t.map((value) => value / 10) }] });
  const trace = (t: number[]) => ({
    runId: 'r',
    series: [{ key: 'tc1', role: 'spot' as const, spotId: 'a', unit: '°C', t, y: t.map((value) => value / 10) }],
  });
  const opened = () => {
    const traces = new LiveTraces();
    traces.open('r');
    return traces;
  };
  const drawn = async (traces: LiveTraces) => {
    await vi.advanceTimersByTimeAsync(2000);
    return [...(traces.now().tc1?.t ?? [])];
  };
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  it('takes each sample once, whatever arrives first, and none of another run', async () => {
    const first = opened();
    first.samplesArrived(samples([1, 2, 3]));
    first.samplesArrived(samples([2, 3, 4]));
    expect(await drawn(first)).toEqual([1, 2, 3, 4]);
    const late = opened();
    late.samplesArrived(samples([5, 6, 7]));
    late.traceArrived(trace([1, 3, 5]));
    late.samplesArrived(samples([9], 'other'));
    expect(await drawn(late)).toEqual([1, 3, 5, 6, 7]);
    late.open('other');
    expect(await drawn(late)).toEqual([]);
  });

  it('never grows beyond what can be drawn: the past is thinned with its peaks, the present is whole', async () => {
    const traces = opened();
    for (let from = 0; from < 36_000; from += 10) {
      const t = Array.from({ length: 10 }, (_, i) => from + i);
      traces.samplesArrived({ runId: 'r', series: [{ key: 'tc1', t, y: t.map((time) => (time === 777 ? 95 : 40)) }] });
    }
    await vi.advanceTimersByTimeAsync(2000);
    const { t, y } = traces.now().tc1!;
    expect(t.length).toBeLessThanOrEqual(2048);
    expect(t.slice(-500)).toEqual(Float64Array.from({ length: 500 }, (_, i) => 35_500 + i));
    expect(Math.max(...y)).toBe(95);
    expect(t.every((time, i) => i === 0 || time > t[i - 1]!)).toBe(true);
  });

  it('is drawn at most four times a second, however often samples come, and keeps a missing one missing', async () => {
    const traces = opened();
    let draws = 0;
    traces.subscribe(() => void draws++);
    for (let k = 0; k < 1000; k++) {
      traces.samplesArrived({ runId: 'r', series: [{ key: 'tc1', t: [k], y: [k === 500 ? null : 40] }] });
      await vi.advanceTimersByTimeAsync(2);
    }
    expect(draws).toBeLessThanOrEqual(10);
    expect(draws).toBeGreaterThanOrEqual(6);
    await vi.advanceTimersByTimeAsync(1000);
    expect(traces.now().tc1!.y[500]).toBeNaN();
  });
});
