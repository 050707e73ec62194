import type { LiveSpot } from '@red-ember/core';
import type { BenchRig, LiveSnapshot } from '@red-ember/contract';

/** What a page is told while a run goes on. */
export function liveSpot(spotId: string, valueC: number | null, change: Partial<LiveSpot> = {}): LiveSpot {
  return {
    spotId,
    valueC,
    readAtS: null,
    riseK: valueC === null ? null : valueC - 22,
    idleC: 30,
    headroomK: valueC === null ? null : 85 - valueC,
    etaS: 300,
    settlesAtC: valueC === null ? null : valueC + 1,
    etaDoubtS: 20,
    ...change,
  };
}

export function snapshot(change: Partial<LiveSnapshot> = {}): LiveSnapshot {
  return {
    runId: 'r1',
    state: 'recording',
    trouble: null,
    runsAway: false,
    nowS: 900,
    phaseIndex: 1,
    phaseElapsedS: 420,
    phaseMostLeftS: 3180,
    knownWithinK: null,
    settledInS: 300,
    loadPercent: 100,
    roomC: 22.2,
    roomMinC: 22,
    roomMaxC: 26,
    throughput: { value: 6100, unit: 'MB/s' },
    powerW: 7.4,
    throttling: false,
    limiter: null,
    allSettled: false,
    capTooSoonS: null,
    locks: [],
    nextMark: null,
    vanished: false,
    shows: [],
    rigLost: false,
    spots: [liveSpot('top', 64.2), liveSpot('under', 76.4)],
    ...change,
  };
}

export const rig: BenchRig = {
  rehearsal: null,
  id: 'bench-1',
  name: 'Simulated bench',
  simulated: true,
  family: null,
  fastestMs: 50,
  connected: true,
  busyRunId: null,
  channels: ['top', 'under', 'room', 'tc1'].map((key) => ({ key, label: `Probe ${key}`, quantity: 'temperature', unit: '°C' })),
  setups: [
    { key: 'bare', label: 'Bare drive' },
    { key: 'slot-lid', label: 'Slot lid' },
  ],
  controls: [],
  faults: [{ key: 'film-left-on', label: 'the film was left on a pad' }],
};
