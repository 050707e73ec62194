import { DRIVE_SOURCE } from '../simulated.ts';
import { describe, expect, it } from 'vitest';
import type { SamplesMessage, StartCommand } from '@red-ember/contract';
import type { RigSource } from '../source.ts';
import { ActiveRun } from './activeRun.ts';

const start = (change: Partial<StartCommand> = {}): StartCommand => ({
  type: 'command',
  command: 'start',
  runId: 'r',
  setup: 'bare',
  seed: 1,
  mountSeed: 1,
  timeScale: 1,
  sampleIntervalMs: 1000,
  armed: [],
  ...change,
});
const samplesOf = (run: ActiveRun) => run.unacknowledged.filter((message): message is SamplesMessage => message.type === 'samples');

describe('a run on a real rig', () => {
  /** Counts up with every reading; remembers the loads it was told. */
  const counting = () => {
    const loads: number[] = [];
    let n = 0;
    const source: RigSource = {
      simulated: false,
      channels: [
        { key: 'tc1', label: 'One', quantity: 'temperature', unit: '°C' },
        { key: 'gone', label: 'Gone', quantity: 'temperature', unit: '°C' },
      ],
      setups: [],
      begin: () => ({ read: () => ({ tc1: ++n, gone: null }), load: (percent) => void loads.push(percent) }),
    };
    return { source, loads, reads: () => n };
  };

  it('takes one sample after a pause, at the time it has become: nothing is made up', () => {
    const { source, reads } = counting();
    const run = new ActiveRun(start(), source);
    run.pass(1000);
    run.pass(7000);
    expect(samplesOf(run).map(({ tMs, values }) => [tMs, values])).toEqual([
      [[1000], { tc1: [1], gone: [null] }],
      [[8000], { tc1: [2], gone: [null] }],
    ]);
    expect(reads()).toBe(2);
  });

  it('passes every change of load on, once, and takes it off at the end and at an armed limit', () => {
    const { source, loads } = counting();
    const run = new ActiveRun(start(), source);
    run.lease(100, 0);
    run.lease(100, 900);
    run.end();
    expect(loads).toEqual([100, 0]);
    const armed = new ActiveRun(start({ armed: [{ channel: 'tc1', name: 'One', limitC: 3, holdS: 1 }] }), source);
    armed.lease(50, 0);
    for (let i = 0; i < 8; i++) armed.pass(1000);
    expect(loads).toEqual([100, 0, 50, 0]);
  });
});

describe('a run on the rig', () => {
  it('makes one sample a second of its clock, numbered without holes', () => {
    const run = new ActiveRun(start(), DRIVE_SOURCE);
    for (let i = 0; i < 400; i++) run.pass(25);
    const sent = samplesOf(run);
    expect(sent.map((message) => message.seq)).toEqual(Array.from({ length: sent.length }, (_, i) => i + 1));
    expect(sent.flatMap((message) => message.tMs)).toEqual(Array.from({ length: 10 }, (_, i) => (i + 1) * 1000));
  });

  it("keeps everything until it is acknowledged, at the clock's own speed", () => {
    const run = new ActiveRun(start(), DRIVE_SOURCE);
    for (let i = 0; i < 60; i++) run.pass(1000);
    expect(samplesOf(run)).toHaveLength(60);
    run.acknowledge(58);
    expect(samplesOf(run).map((message) => message.seq)).toEqual([59, 60]);
  });

  it('samples twenty times a second where it is asked to, and in time-lapse sends the same stretch of time at once', () => {
    const run = new ActiveRun(start({ sampleIntervalMs: 50 }), DRIVE_SOURCE);
    for (let i = 0; i < 40; i++) run.pass(25);
    const times = samplesOf(run).flatMap(({ tMs }) => tMs);
    expect(times).toEqual(Array.from({ length: 20 }, (_, i) => 50 * (i + 1)));
    const lapse = new ActiveRun(start({ sampleIntervalMs: 50, timeScale: 600 }), DRIVE_SOURCE);
    lapse.pass(100);
    expect(samplesOf(lapse)[0]!.tMs.at(-1)).toBe(15_000);
  });
  it('waits for the server in time-lapse, so that no phase change comes late', () => {
    const run = new ActiveRun(start({ timeScale: 600 }), DRIVE_SOURCE);
    for (let i = 0; i < 100; i++) run.pass(25);
    expect(samplesOf(run)).toHaveLength(1);
    expect(samplesOf(run)[0]!.tMs.length).toBeLessThanOrEqual(15);
    run.acknowledge(1);
    run.pass(25);
    expect(samplesOf(run).map(({ seq }) => seq)).toEqual([2]);
  });

  it('removes the load by itself at an armed limit', () => {
    const run = new ActiveRun(
      start({ timeScale: 60, armed: [{ channel: 'tc1', name: 'Controller', limitC: 40, holdS: 3 }] }),
      DRIVE_SOURCE,
    );
    run.lease(100, 0);
    let told = false;
    for (let i = 0; i < 400 && !told; i++) {
      told = run.pass(25).some((message) => message.type === 'event' && message.kind === 'cut-out');
      run.acknowledge(run.lastSeq);
    }
    expect(told).toBe(true);
    expect(run.loadPercent).toBe(0);
    // It latches: what was hot once is not loaded again by a server that did not hear of it.
    run.lease(100, 1);
    run.rearm();
    run.lease(100, 2);
    expect(run.loadPercent).toBe(0);
    expect(run.latched).toMatchObject({ kind: 'cut-out', text: expect.stringContaining('Controller was above') });
  });

  it('lets the load fall when nobody says it again for five seconds, whatever else is heard, and keeps it off', () => {
    const run = new ActiveRun(start(), DRIVE_SOURCE);
    run.lease(100, 0);
    expect(run.expire(4900)).toBeNull();
    run.lease(100, 4900);
    run.acknowledge(3);
    expect(run.expire(9800)).toBeNull();
    expect(run.expire(9901)).toMatchObject({ kind: 'load-removed', text: expect.stringContaining('5 s') });
    expect(run.loadPercent).toBe(0);
    run.lease(100, 9950);
    expect(run.loadPercent).toBe(0);
    run.rearm();
    run.lease(100, 10_000);
    expect(run.loadPercent).toBe(100);
    expect(run.latched).toBeNull();
  });

  it('never holds a lease for longer than five seconds, whatever it is told', () => {
    const run = new ActiveRun(start(), DRIVE_SOURCE);
    run.lease(100, 0, 3600);
    expect(run.expire(5001)).not.toBeNull();
  });

  it('takes the load off when an armed channel has shown nothing for its hold time and ten seconds', () => {
    let gone = false;
    const source: RigSource = {
      simulated: false,
      channels: [{ key: 'tc1', label: 'One', quantity: 'temperature', unit: '°C' }],
      setups: [],
      begin: () => ({ read: () => ({ tc1: gone ? null : 50 }) }),
    };
    const run = new ActiveRun(start({ armed: [{ channel: 'tc1', name: 'One', limitC: 90, holdS: 5 }] }), source);
    run.lease(100, 0);
    for (let i = 0; i < 20; i++) run.pass(1000);
    gone = true;
    for (let i = 0; i < 14; i++) run.pass(1000);
    expect(run.loadPercent).toBe(100);
    run.pass(1000);
    expect(run.loadPercent).toBe(0);
    expect(run.latched).toMatchObject({ kind: 'load-removed', text: expect.stringContaining('One has shown nothing plausible for 15 s') });
  });

  it('keeps an event until it is acknowledged by its own id', () => {
    const run = new ActiveRun(start(), DRIVE_SOURCE);
    run.lease(100, 0);
    const event = run.expire(6000)!;
    run.pass(1000);
    run.acknowledge(run.lastSeq);
    expect(run.unacknowledged).toEqual([event]);
    run.acknowledge(run.lastSeq, [event.id!]);
    expect(run.unacknowledged).toEqual([]);
  });

  it('makes nothing more once it has ended', () => {
    const run = new ActiveRun(start(), DRIVE_SOURCE);
    run.ended = true;
    expect(run.pass(5000)).toEqual([]);
  });
});
