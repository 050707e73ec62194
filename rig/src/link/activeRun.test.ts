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
    run.loadPercent = 100;
    run.loadPercent = 100;
    run.end();
    expect(loads).toEqual([100, 0]);
    const armed = new ActiveRun(start({ armed: [{ channel: 'tc1', name: 'One', limitC: 3, holdS: 1 }] }), source);
    armed.loadPercent = 50;
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
    run.loadPercent = 100;
    let told = false;
    for (let i = 0; i < 400 && !told; i++) {
      told = run.pass(25).some((message) => message.type === 'event' && message.kind === 'cut-out');
      run.acknowledge(run.lastSeq);
    }
    expect(told).toBe(true);
    expect(run.loadPercent).toBe(0);
  });

  it('makes nothing more once it has ended', () => {
    const run = new ActiveRun(start(), DRIVE_SOURCE);
    run.ended = true;
    expect(run.pass(5000)).toEqual([]);
  });
});
