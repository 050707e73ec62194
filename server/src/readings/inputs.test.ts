import { describe, expect, it } from 'vitest';
import { reviewRun, type Series } from '@red-ember/core';
import { hashOf, recordOf, type ReviewInputs } from './inputs.ts';

const inputs: ReviewInputs = {
  method: 'readings-test',
  rules: { windowS: 300, settled: { windowS: 300, toleranceK: 0.5 } as ReviewInputs['rules']['settled'] },
  channels: [
    { key: 'tc1', role: 'spot', spotId: 'a', readAs: 'as-is', resolutionK: null, calibration: { id: 'cal', points: [{ indicatedC: 0.4, referenceC: 0, reference: 'ice' }, { indicatedC: 99.1, referenceC: 100, reference: 'boiling' }] } }, // prettier-ignore
    { key: 'gun', role: 'hand', spotId: 'b', readAs: 'as-is', resolutionK: 5, calibration: null },
    { key: 'room', role: 'room', spotId: null, readAs: 'as-is', resolutionK: null, calibration: null },
    { key: 'power', role: 'power', spotId: null, readAs: 'as-is', resolutionK: null, calibration: null },
  ],
  handReadings: [
    { spotId: 'b', atS: 500, valueC: 65 },
    { spotId: 'b', atS: 800, valueC: 65 },
    { spotId: 'b', atS: 890, valueC: 65 },
  ],
  phases: [{ kind: 'load', name: 'Load', startS: 0, endS: 900, endedBy: 'time' }],
  windows: [{ phase: 0, startS: 500, endS: 900 }],
  throttle: { spotId: 'a', limitC: 88 },
  powerCapW: 200,
  locks: [{ name: 'Power cap', unit: 'W', value: 200, tolerance: 5, key: 'power' }],
  figures: null,
};

/** Every way to a leaf of a value: ['channels', 0, 'key'] and so on. */
function leaves(value: unknown, at: (string | number)[] = []): (string | number)[][] {
  if (value === null || typeof value !== 'object') return [at];
  return Object.entries(value).flatMap(([key, inner]) => leaves(inner, [...at, Array.isArray(value) ? Number(key) : key]));
}
function altered(value: unknown, [first, ...rest]: (string | number)[]): unknown {
  if (first === undefined) return typeof value === 'number' ? value + 1 : typeof value === 'string' ? `${value}x` : 'something';
  const copy = structuredClone(value) as Record<string, unknown>;
  copy[first] = altered(copy[first], rest);
  return copy;
}

describe('the hash of a stored review', () => {
  it.each(leaves(inputs).map((path) => [path.join('.'), path] as const))('changes with %s', (_, path) => {
    expect(hashOf(altered(inputs, path) as ReviewInputs)).not.toBe(hashOf(inputs));
  });
  it('changes with whatever is added, taken away or turned round', () => {
    const base = hashOf(inputs);
    for (const list of ['channels', 'handReadings', 'phases', 'windows', 'locks'] as const) {
      expect(hashOf({ ...inputs, [list]: [] })).not.toBe(base);
      expect(hashOf({ ...inputs, [list]: [...inputs[list], inputs[list][0]] })).not.toBe(base);
    }
    expect(hashOf(structuredClone(inputs))).toBe(base);
  });
});

describe('the record that is reviewed', () => {
  const n = 900;
  const t = Float64Array.from({ length: n }, (_, i) => i);
  const samples: Record<string, Series> = {
    tc1: { t, y: t.map((s) => 60 + 5 * (1 - Math.exp(-s / 100))) },
    room: { t, y: t.map(() => 22) },
    power: { t, y: t.map(() => 200) },
  };
  const record = (of: ReviewInputs) => recordOf(of, (key) => samples[key] ?? { t: new Float64Array(), y: new Float64Array() });
  it('is made of the inputs: spots, what is read by hand, what feeds the review, locks', () => {
    const made = record(inputs);
    expect(made.spots.map((spot) => [spot.id, spot.byHand?.resolutionK])).toEqual([
      ['a', undefined],
      ['b', 5],
    ]);
    expect(made).toMatchObject({ intake: null, performance: null, powerCapW: 200, locks: [{ name: 'Power cap' }] });
    expect(made.power!.y[0]).toBe(200);
    // Calibrated: 99.1 shown is 100.
    expect(made.spots[0]!.series.y[800]).toBeGreaterThan(65);
  });
  it('has what feeds no figure beside, corrected like the rest, and of a log with hundreds the first ones', () => {
    const calibration = inputs.channels[0]!.calibration;
    const beside = (key: string, role: 'coolant' | 'voltage' | 'beside') => ({ key, role, spotId: null, readAs: 'as-is' as const, resolutionK: null, calibration: key === 'tc1' ? calibration : null }); // prettier-ignore
    const made = record({ ...inputs, channels: [...inputs.channels.slice(2), beside('tc1', 'coolant'), beside('power', 'voltage')] });
    expect(made.besides!.map(({ key }) => key)).toEqual(['tc1', 'power']);
    expect(made.besides![0]!.series.y[800]).toBeGreaterThan(65);
    const many = Array.from({ length: 300 }, (_, i) => beside(`column-${i}`, 'beside'));
    expect(record({ ...inputs, channels: many }).besides).toHaveLength(32);
    const read = reviewRun(made);
    expect(read.besides!.map(({ key, mean }) => [key, Math.round(mean.value)])).toEqual([
      ['tc1', 65],
      ['power', 200],
    ]);
  });
  it('gives a hand reading the doubt of its instrument’s step', () => {
    const u = (resolutionK: number) => {
      const channels = inputs.channels.map((channel) => (channel.role === 'hand' ? { ...channel, resolutionK } : channel));
      return reviewRun(record({ ...inputs, channels, windows: [] })).spots.find((spot) => spot.spotId === 'b')!.load!.absolute.mean.u;
    };
    expect(u(5)).toBeGreaterThan(10 * u(0.1));
  });
});
