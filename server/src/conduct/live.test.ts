import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { heldNow, liveFigures, slice, type LiveInput, type Series } from '@red-ember/core';
import type { LiveSamples, LiveSnapshot, Run } from '@red-ember/contract';
import { settlingOf } from '../rigs/settling/judge.ts';
import { FakeRig, mounted, testBench, type TestBench } from '../tests/testBench.ts';

interface Heard {
  event: string;
  data: unknown;
}

/** Follows a run's events as a page would, until closed. */
async function follow(
  bench: TestBench,
  runId: string,
): Promise<{ heard: Heard[]; until(done: (heard: Heard[]) => boolean): Promise<void>; close(): void }> {
  const abort = new AbortController();
  const response = await fetch(`http://127.0.0.1:${bench.port}/api/v1/runs/${runId}/live`, { signal: abort.signal });
  expect(response.headers.get('content-type')).toBe('text/event-stream');
  const heard: Heard[] = [];
  void (async () => {
    let text = '';
    const decoder = new TextDecoder();
    try {
      for await (const part of response.body as unknown as AsyncIterable<Uint8Array>) {
        text += decoder.decode(part, { stream: true });
        for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
          const event = /^event: (.+)$/m.exec(text.slice(0, end))?.[1];
          const data = /^data: (.+)$/m.exec(text.slice(0, end))?.[1];
          if (event && data) heard.push({ event, data: JSON.parse(data) });
          text = text.slice(end + 2);
        }
      }
    } catch {
      // aborted by close()
    }
  })();
  return {
    heard,
    async until(done) {
      const end = Date.now() + 5000;
      while (!done(heard)) {
        if (Date.now() > end) throw new Error(`heard only ${heard.map((entry) => entry.event).join(', ')}`);
        await new Promise((next) => setTimeout(next, 10));
      }
    },
    close: () => abort.abort(),
  };
}

describe('live events', () => {
  let bench: TestBench;
  let rig: FakeRig;
  beforeEach(async () => {
    bench = await testBench();
    rig = await FakeRig.connect(bench.port);
  });
  afterEach(async () => {
    rig.close();
    await bench.remove();
  });

  it('tell a page the run, its moment and its samples, and the end', async () => {
    const { studyId, mountId } = await mounted(bench);
    const runId = (await bench.call('POST', `/api/v1/studies/${studyId}/runs`, { mountId, timeScale: 1, seed: 1 })).json.id as string;
    const page = await follow(bench, runId);
    await page.until((heard) => heard.some((entry) => entry.event === 'snapshot'));
    expect((page.heard[0]!.data as Run).state).toBe('waiting');
    rig.samples(runId, 1, 1, 30);
    await page.until((heard) => heard.some((entry) => entry.event === 'samples'));
    const { series } = page.heard.find((entry) => entry.event === 'samples')!.data as LiveSamples;
    expect(series.map((channel) => channel.key)).toEqual(['tc1', 'tc2', 'room', 'throughput']);
    expect(series[0]!.t.at(-1)).toBe(30);
    await page.until((heard) => heard.filter((entry) => entry.event === 'snapshot').length >= 2);
    const snapshot = page.heard.findLast((entry) => entry.event === 'snapshot')!.data as LiveSnapshot;
    expect(snapshot).toMatchObject({
      state: 'recording',
      nowS: 30,
      phaseIndex: 0,
      phaseElapsedS: 30,
      phaseMostLeftS: 30,
      roomC: 22,
      rigLost: false,
    });
    expect(snapshot.spots[0]).toMatchObject({ valueC: 50, riseK: 28, headroomK: 35 });
    rig.samples(runId, 2, 31, 180);
    await page.until((heard) => heard.some((entry) => entry.event === 'run' && (entry.data as Run).phases.length === 2));
    rig.samples(runId, 3, 181, 300); // the load began when it was commanded, after second 180
    await page.until((heard) => heard.some((entry) => entry.event === 'run' && (entry.data as Run).state === 'finished'));
    page.close();
  });

  it('are refused for a run that is not there', async () => {
    expect((await bench.call('GET', '/api/v1/runs/nothing/live')).status).toBe(404);
  });
});

describe('liveFigures', () => {
  const n = 900;
  const t = Float64Array.from({ length: n }, (_, i) => i);
  const trace = (f: (s: number) => number) => ({ t, y: t.map(f) });
  const load = { kind: 'load' as const, name: 'Load', mode: 'until-settled' as const, durationS: 600, capS: 3600, loadPercent: 100 };
  const first = { spotId: 'a', limitC: 85, series: trace((s) => 22 + 50 * (1 - Math.exp(-s / 300)) + 0.02 * Math.sin(s * 13)) };
  const input = (change: Partial<LiveInput> = {}): LiveInput => ({
    nowS: 899,
    phaseIndex: 1,
    phaseStartS: 0,
    phase: load,
    idleEnd: null,
    loadStartS: 0,
    room: trace(() => 22),
    throughput: trace(() => 6100),
    spots: [first],
    throughputUnit: 'MB/s',
    power: null,
    heldBy: null,
    locks: [],
    vanished: false,
    shows: [],
    rigLost: false,
    ...change,
    settlingOf: (spotId) => {
      const made = { room: trace(() => 22) as Series | null, phaseStartS: 0, spots: [first], ...change };
      const spot = made.spots.find((candidate) => candidate.spotId === spotId)!;
      if (899 - made.phaseStartS <= 60) return null;
      return settlingOf({ spot: slice(spot.series, { startS: made.phaseStartS, endS: 899.001 }), room: made.room });
    },
  });

  it('forecasts from the fit', () => {
    const snapshot = liveFigures(input());
    const truth = 300 * Math.log((50 * Math.exp(-899 / 300)) / 0.5);
    expect(Math.abs(snapshot.settledInS! - truth)).toBeLessThan(40);
    expect(Math.abs(snapshot.spots[0]!.settlesAtC! - 72)).toBeLessThan(0.5);
    expect(snapshot.phaseMostLeftS).toBe(2701);
    expect(snapshot.throttling).toBe(false);
  });

  it('says how well it is known where it settles, where the phase waits for that', () => {
    expect(liveFigures(input()).knownWithinK).toBeNull();
    const within = liveFigures(input({ phase: { ...load, mode: 'until-read' } })).knownWithinK!;
    expect(within).toBeGreaterThan(0);
    expect(within).toBeLessThan(3);
    expect(liveFigures(input({ phase: { ...load, mode: 'until-read' }, phaseStartS: 880 })).knownWithinK).toBeNull();
  });

  it('does not forecast what it cannot know, nor for a fixed phase', () => {
    expect(liveFigures(input({ phaseStartS: 880 })).settledInS).toBeNull();
    expect(liveFigures(input({ phase: { ...load, mode: 'fixed', durationS: 1000 } })).settledInS).toBeNull();
  });

  const now = { startS: 0, nowS: 899 };
  it('notices what holds it back while it lasts, by the rule by which the run is read afterwards', () => {
    const falling = trace((s) => (s < 700 ? 6100 : 3000));
    expect(heldNow(falling, now, {})).toBe('unknown');
    expect(heldNow(trace((s) => (s > 400 && s < 500 ? 3000 : 6100)), now, {})).toBeNull(); // prettier-ignore
    expect(heldNow(falling, { startS: 885, nowS: 899 }, {})).toBeNull();
    const temperature = trace((s) => Math.min(84.5, 40 + s / 8));
    expect(heldNow(falling, now, { temperature, limitC: 85 })).toBe('thermal');
    // A fast cache that is full is no throttling: the same rule as afterwards.
    const cached = trace((s) => (s < 200 ? 2.4 : 1) * 6100 * (1 + 0.01 * Math.sin(7 * s)));
    expect(heldNow(cached, now, { temperature: trace((s) => 50 - 20 * Math.exp(-s / 300)), limitC: 85 })).toBeNull();
    expect(heldNow({ t: t.slice(0, 3), y: t.slice(0, 3) }, now, {})).toBeNull();
  });

  it('calls it throttling where heat does it or nobody knows what, and nothing of it while there is no load', () => {
    const held = (heldBy: LiveInput['heldBy'], change: Partial<LiveInput> = {}) => liveFigures(input({ heldBy, ...change }));
    expect(held('thermal')).toMatchObject({ throttling: true, limiter: 'thermal' });
    expect(held('unknown').throttling).toBe(true);
    expect(held('power')).toMatchObject({ throttling: false, limiter: 'power' });
    const waiting = { ...load, kind: 'pause' as const, loadPercent: 0 };
    expect(held('thermal', { phase: waiting })).toMatchObject({ throttling: false, limiter: null });
  });

  it('offers the end of a fixed phase that tells nothing more', () => {
    const flat = { spotId: 'a', limitC: 85, series: trace((s) => 60 + 0.02 * Math.sin(s * 13)) };
    const fixed = { ...load, mode: 'fixed' as const, durationS: 3000, capS: 3000 };
    expect(liveFigures(input({ spots: [flat], phase: fixed })).allSettled).toBe(true);
    expect(liveFigures(input({ phase: fixed })).allSettled).toBe(false);
  });

  it('warns of a cap that comes too soon, and counts down to the next mark', () => {
    const soon = liveFigures(input({ phase: { ...load, capS: 930, marksMin: [5, 20] } }));
    expect(soon.capTooSoonS).toBeGreaterThan(60);
    expect(soon.nextMark).toEqual({ minute: 20, inS: 301 });
    expect(liveFigures(input()).capTooSoonS).toBeNull();
  });

  it('takes what was typed for the value of a spot read by hand, and does not wait for it to settle', () => {
    const typed = { t: Float64Array.of(300, 600), y: Float64Array.of(60, 64) };
    const snapshot = liveFigures(input({ spots: [{ spotId: 'h', limitC: 90, series: typed, byHand: true }] }));
    expect(snapshot.spots[0]).toMatchObject({ valueC: 64, readAtS: 600, headroomK: 26, etaS: null });
    expect(snapshot.allSettled).toBe(false);
  });

  it('copes with sensors that are silent', () => {
    const snapshot = liveFigures(input({ room: null, throughput: null, spots: [{ spotId: 'a', limitC: 85, series: trace(() => NaN) }] }));
    expect(snapshot).toMatchObject({ roomC: null, throughput: null, settledInS: null, throttling: false });
    expect(snapshot.spots[0]).toMatchObject({ valueC: null, headroomK: null, etaS: null });
  });
});
