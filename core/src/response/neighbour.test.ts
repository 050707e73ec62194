import { describe, expect, it } from 'vitest';
import { seededNormal } from '@red-ember/testing/signals';
import { simulateNetwork } from '../network/index.ts';
import { AS_IT_RAN, fitResponse, foretell, foretoldTrace, foretoldUnseen, type ResponseRecord } from './index.ts';

type Stretch = [minutes: number, ownW: number, neighbourW: number];

interface Asked {
  seed: number;
  load: Stretch[];
  /** Between the two parts, W/K. */
  joined?: number;
  /** This run's resistance inside, against the usual: another mount. */
  mount?: number;
  noiseK?: number;
}

const LEAD_MIN = 240;

/** A chip on its sink, and another part on a mass of its own that is joined to that sink; both at rest for hours before. */
function record({ seed, load, joined = 0.8, mount = 1, noiseK = 0.1 }: Asked): ResponseRecord {
  const stretches: Stretch[] = [[LEAD_MIN, load[0]![1], load[0]![2]], ...load];
  let at = 0;
  const points = stretches.flatMap(([minutes, ownW, neighbourW]) => {
    const from = at;
    at += 60 * minutes;
    return [
      { t: from, ownW, neighbourW },
      { t: at, ownW, neighbourW },
    ];
  });
  const seconds = Array.from({ length: at - 60 * LEAD_MIN }, (_, s) => s + 60 * LEAD_MIN);
  const airC = 23;
  const { temperatures } = simulateNetwork({
    nodes: [
      { id: 'chip', capacityJPerK: 90, initialC: airC },
      { id: 'sink', capacityJPerK: 900, initialC: airC },
      { id: 'other', capacityJPerK: 600, initialC: airC },
    ],
    boundaries: [{ id: 'air', temperature: [{ t: 0, c: airC }] }],
    links: [
      { from: 'chip', to: 'sink', conductanceWPerK: 8 / mount },
      { from: 'sink', to: 'air', conductanceWPerK: 5 },
      { from: 'sink', to: 'other', conductanceWPerK: joined },
      { from: 'other', to: 'air', conductanceWPerK: 2 },
    ],
    powers: [
      { node: 'chip', profile: points.map(({ t, ownW }) => ({ t, w: ownW })) },
      { node: 'other', profile: points.map(({ t, neighbourW }) => ({ t, w: neighbourW })) },
    ],
    atS: seconds,
  });
  const normal = seededNormal(seed);
  let noise = 0;
  const t = Float64Array.from(seconds, (s) => s - 60 * LEAD_MIN);
  const stretchAt = (s: number) => points.findLast((point) => point.t <= s + 60 * LEAD_MIN)!;
  return {
    id: String(seed),
    spot: { t, y: t.map((_, k) => temperatures.chip![k]! + (noise = 0.9 * noise + 0.44 * noiseK * normal())) },
    air: { t, y: t.map(() => airC + 0.03 * normal()) },
    power: { t, y: t.map((s) => stretchAt(s).ownW) },
    fan: null,
    neighbour: { t, y: t.map((s) => stretchAt(s).neighbourW) },
  };
}

/** K at the chip for a watt of the part beside it: the sink's share of what flows through the middle of the three conductances in a star. */
function closedGain(joined: number): number {
  // Sink: 5·s = joined·(o − s) + P; other: 2·o = joined·(s − o) + Q. Solved for s with P = 0, Q = 1.
  return joined / ((5 + joined) * (2 + joined) - joined ** 2);
}

const run = (seed: number, neighbourW: number, more: Partial<Asked> = {}): ResponseRecord =>
  record({ seed, load: [[10, 20, neighbourW], [60, 180, neighbourW]], ...more }); // prettier-ignore

const known = { scatter: { sd: 0.15, dof: 40 } };

describe('what a part beside it brings', () => {
  it('is found from runs in which that part took more and less, and foretells a power that none had', () => {
    const fit = fitResponse([run(1, 15), run(2, 70), run(3, 40)], known)!;
    const { gain, leastW, mostW, usualW } = fit.neighbour!;
    expect(Math.abs(gain.value - closedGain(0.8))).toBeLessThan(2.2 * gain.u);
    expect(gain.u).toBeLessThan(0.2 * closedGain(0.8));
    expect([leastW, mostW].map(Math.round)).toEqual([15, 70]);
    expect(usualW).toBeCloseTo(125 / 3, 0);
    const truthC = run(9, 110, { noiseK: 0, load: [[240, 180, 110]] }).spot.y.at(-1)!;
    const told = foretell(fit, { ...AS_IT_RAN, neighbourW: 110 });
    expect(Math.abs(told.settledC.value - truthC)).toBeLessThan(told.plusMinusK);
    expect(told.plusMinusK).toBeLessThan(2.5);
    expect(told.changes).toMatchObject([{ of: 'neighbourW', footing: 'calculated', beyond: null }]);
  });

  it('is found from one run in which it came on in the middle of the load, with how late that reaches the spot', () => {
    const load: Stretch[] = [[10, 20, 10], [40, 180, 10], [60, 180, 90]]; // prettier-ignore
    const { neighbour } = fitResponse([record({ seed: 4, load })], known)!;
    expect(Math.abs(neighbour!.gain.value - closedGain(0.8))).toBeLessThan(3 * neighbour!.gain.u);
    // The other part by itself: 600 J/K over 2.8 W/K.
    expect(neighbour!.tauS).toBeGreaterThan(100);
    expect(neighbour!.tauS).toBeLessThan(600);
  });

  it('foretells a run that it has not seen by what that run’s neighbour took', () => {
    const unseen = foretoldUnseen([run(11, 10), run(12, 50), run(13, 90), run(14, 30)], known);
    expect(unseen).toHaveLength(4);
    for (const { offK, bandK } of unseen) {
      expect(Math.abs(offK)).toBeLessThan(bandK);
      expect(bandK).toBeLessThan(3);
    }
  });

  it('holds nothing within its doubt where the two do not touch', () => {
    const fit = fitResponse([run(21, 15, { joined: 1e-6 }), run(22, 70, { joined: 1e-6 }), run(23, 40, { joined: 1e-6 })], known)!;
    expect(Math.abs(fit.neighbour!.gain.value)).toBeLessThan(2.5 * fit.neighbour!.gain.u);
    expect(Math.abs(fit.gain.value - (1 / 8 + 1 / 5))).toBeLessThan(0.006);
  });

  it('doubts it by how far mounts lie apart, since every run is a mount of its own', () => {
    const normal = seededNormal(77);
    let held = 0;
    for (let i = 0; i < 30; i++) {
      // 0.12 K/W inside at 180 W: three hundredths of it are 0.7 K.
      const mounts = [0, 1, 2].map((k) => run(100 + 10 * i + k, [15, 70, 40][k]!, { mount: 1 + 0.03 * normal() }));
      const fit = fitResponse(mounts, { scatter: { sd: (0.03 * 180) / 8, dof: 40 } })!;
      if (Math.abs(fit.neighbour!.gain.value - closedGain(0.8)) <= 2 * fit.neighbour!.gain.u) held++;
    }
    expect(held).toBeGreaterThanOrEqual(26);
  }, 60_000);

  it('warms the spot at rest as well, and what is asked of it stands over the whole trace', () => {
    const fit = fitResponse([run(31, 15), run(32, 70)], known)!;
    const [cold, warm] = [0, 100].map((neighbourW) => foretoldTrace(fit, { ...AS_IT_RAN, neighbourW }, [0, 3000]));
    const byK = 100 * fit.neighbour!.gain.value;
    expect(warm![0]! - cold![0]!).toBeCloseTo(byK, 6);
    expect(warm![1]! - cold![1]!).toBeCloseTo(byK, 6);
  });
});

describe('what tells nothing of a part beside it', () => {
  const without = (one: ResponseRecord): ResponseRecord => ({ ...one, neighbour: null });

  it.each([
    ['nobody recorded its power in one of the runs', [run(41, 15), without(run(42, 70))]],
    ['it took the same in all of them', [run(43, 40), run(44, 41)]],
    [
      'it went with the part’s own',
      [1, 2].map((seed) => record({ seed, load: [[10, 20, 8], [50, 180, 72]] })), // prettier-ignore
    ],
  ])('is not fitted: %s', (_, records) => {
    const fit = fitResponse(records, known)!;
    expect(fit.neighbour).toBeNull();
    const told = foretell(fit, { ...AS_IT_RAN, neighbourW: 50 });
    expect(told).toMatchObject({ beyond: true });
    expect(told.changes).toMatchObject([{ byK: 0, beyond: 'no run tells what the part beside it does' }]);
  });

  it('says where its power leaves what was measured, and refuses what is none', () => {
    const fit = fitResponse([run(51, 30), run(52, 70)], known)!;
    expect(foretell(fit, { ...AS_IT_RAN, neighbourW: 100 }).beyond).toBe(false);
    expect(foretell(fit, { ...AS_IT_RAN, neighbourW: 150 }).changes[0]!.beyond).toContain('far from any power');
    expect(() => foretell(fit, { ...AS_IT_RAN, neighbourW: -1 })).toThrow(RangeError);
  });
});
