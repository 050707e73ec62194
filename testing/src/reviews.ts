import { eachOutput, type PhaseReading, type RunReview } from '@red-ember/core';

export function reading(riseK: number, change: Partial<PhaseReading> = {}): PhaseReading {
  const window = (value: number) => ({
    mean: { value, u: 0.05, dof: 60 },
    n: 300,
    nEffective: 61,
    min: value - 0.3,
    max: value + 0.3,
    p95: value + 0.2,
  });
  return {
    phase: 'load',
    window: { startS: 1800, endS: 2100 },
    chosen: false,
    overIntake: null,
    absolute: window(22 + riseK),
    rise: window(riseK),
    bound: 'settled',
    spikes: 0,
    spikeShare: 0,
    steps: { stepK: 0, scatterK: 0 },
    peakC: 22.5 + riseK,
    settling: {
      settled: true,
      atS: 1705,
      slopeKPerMin: { value: 0, u: 0.01, dof: 298 },
      remainingK: null,
      etaS: 0,
      confirmedInS: 0,
      slowTauS: 240,
      remains: null,
    },
    toGo: null,
    ...change,
  };
}

export function review(top: number, under: number, change: Partial<RunReview> = {}): RunReview {
  return {
    methodVersion: 'test',
    loads: [],
    uncounted: [],
    atRest: null,
    spots: [
      { spotId: 'top', idle: reading(8), load: reading(top), heatPath: null },
      { spotId: 'under', idle: reading(8.4), load: reading(under), heatPath: null },
    ],
    room: { meanC: 22.4, minC: 22.1, maxC: 22.7, driftK: 0.1 },
    throttle: {
      reference: 6100,
      episodes: [],
      heldBack: [],
      timeToFirstS: null,
      fractionOfTime: 0,
      performanceLost: 0,
      limitC: 88,
      of: 'performance',
    },
    ...eachOutput(() => null),
    performance: { value: 6100, u: 1, dof: 50 },
    power: { value: 7.5, u: 0.01, dof: 50 },
    air: null,
    goneShare: 0,
    fanMovedShare: null,
    utilisationPercent: 99,
    loadS: 1620,
    loadEndedBy: 'settled',
    locks: [],
    ...change,
  };
}
