import { describe, expect, it } from 'vitest';
import { DEFAULT_READING_RULES, type Series } from '@red-ember/core';
import { seededNormal } from '@red-ember/testing/signals';
import { reviewOf, type ReviewInputs } from '../inputs.ts';
import { halves, joined } from './halves.ts';

const phase = (kind: 'idle-soak' | 'load', name: string, startS: number, endS: number) => ({ kind, name, startS, endS, endedBy: 'time' });
type Channel = ReviewInputs['channels'][number];
const channel = (key: string, role: Channel['role'], spotId: string | null = null): Channel => ({ key, role, spotId, readAs: 'as-is', resolutionK: null, calibration: null }); // prettier-ignore
const inputs = (spots: number, throttling: string | null): ReviewInputs => ({
  method: 'readings-test',
  rules: DEFAULT_READING_RULES,
  channels: [
    channel('room', 'room'),
    ...Array.from({ length: spots }, (_, i) => channel(`tc${i}`, 'spot', `s${i}`)),
    { ...channel('gun', 'hand', 'by hand'), resolutionK: 1 },
    channel('power', 'power'),
    channel('throughput', 'throughput'),
  ],
  handReadings: [500, 1700, 2900].map((atS) => ({ spotId: 'by hand', atS, valueC: 50 })),
  phases: [phase('idle-soak', 'rest', 0, 600), phase('load', 'half', 600, 1800), phase('load', 'whole', 1800, 3000)],
  windows: [],
  throttle: throttling === null ? null : { spotId: throttling, limitC: 45 },
  powerCapW: null,
  locks: [],
  figures: null,
});

const t = Float64Array.from({ length: 3000 }, (_, i) => i);
const on = (s: number) => (s < 600 ? 0 : s < 1800 ? 0.5 : 1);
const normal = seededNormal(5);
const SAMPLES: Record<string, Series> = Object.fromEntries(
  Object.entries({
    room: () => 22,
    power: (s: number) => 5 + 100 * on(s),
    throughput: (s: number) => (s > 2400 ? 2500 : 3000 * on(s)),
    ...Object.fromEntries(Array.from({ length: 6 }, (_, i) => [`tc${i}`, (s: number) => 25 + (20 + i) * on(s)])),
  }).map(([key, f]) => [key, { t, y: t.map((s) => f(s) + 0.05 * normal()) }]),
);
const samplesOf = (key: string) => SAMPLES[key]!;

describe('a run that is read by two', () => {
  it.each(['s0', 's1', 'by hand', null])('comes to what one reads, the part being throttled by %s', (throttling) => {
    const whole = inputs(5, throttling);
    const parts = halves(whole);
    expect(parts).toHaveLength(2);
    expect(joined(whole, parts.map((part) => reviewOf(part, samplesOf)))).toEqual(reviewOf(whole, samplesOf)); // prettier-ignore
  });
  it('is left to one where there is little to share, or only figures', () => {
    for (const one of [inputs(2, null), { ...inputs(6, null), figures: { spots: [] } as never }]) {
      expect(halves(one)).toEqual([one]);
    }
    const small = inputs(2, 's0');
    expect(joined(small, halves(small).map((part) => reviewOf(part, samplesOf)))).toEqual(reviewOf(small, samplesOf)); // prettier-ignore
  });
});
