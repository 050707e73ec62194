import { describe, expect, it } from 'vitest';
import { InsufficientDataError, NetworkPropagator, projectAmbient, simulateNetwork, type NetworkInput } from '../index.ts';

const room = (c: number) => [{ id: 'room', temperature: [{ t: 0, c }] }];
const chain: NetworkInput = {
  nodes: [
    { id: 'die', capacityJPerK: 2, initialC: 25 },
    { id: 'sink', capacityJPerK: 180, initialC: 25 },
    { id: 'board', capacityJPerK: 60, initialC: 30 },
  ],
  links: [
    { from: 'die', to: 'sink', conductanceWPerK: 4 },
    { from: 'sink', to: 'room', conductanceWPerK: 0.8 },
    { from: 'die', to: 'board', conductanceWPerK: 0.5 },
    { from: 'board', to: 'room', conductanceWPerK: 0.1 },
  ],
  boundaries: [
    {
      id: 'room',
      temperature: [
        { t: 0, c: 22 },
        { t: 600, c: 24 },
        { t: 600, c: 26 },
        { t: 1200, c: 26 },
      ],
    },
  ],
  powers: [
    {
      node: 'die',
      profile: [
        { t: 0, w: 5 },
        { t: 100, w: 5 },
        { t: 100, w: 40 },
        { t: 900, w: 60 },
      ],
    },
  ],
  atS: [0, 50, 100, 150, 599, 601, 1200, 3000],
};

/** Naive oracle: many small explicit steps with the profiles read directly. */
function byTinySteps(input: NetworkInput, stepS: number): Record<string, number[]> {
  const read = (points: { t: number; v: number }[], time: number) => {
    let i = 0;
    while (i < points.length && points[i]!.t <= time) i++;
    if (i === 0) return points[0]!.v;
    if (i === points.length) return points[i - 1]!.v;
    const [p, q] = [points[i - 1]!, points[i]!];
    return p.v + ((time - p.t) / (q.t - p.t)) * (q.v - p.v);
  };
  const temperature = new Map(input.nodes.map((node) => [node.id, node.initialC]));
  const out: Record<string, number[]> = Object.fromEntries(input.nodes.map((node) => [node.id, []]));
  const steps = Math.round(Math.max(...input.atS) / stepS);
  const wanted = new Map(input.atS.map((t, i) => [Math.round(t / stepS), i]));
  for (let k = 0; k <= steps; k++) {
    const at = wanted.get(k);
    if (at !== undefined) for (const node of input.nodes) out[node.id]![at] = temperature.get(node.id)!;
    const time = (k + 0.5) * stepS;
    for (const boundary of input.boundaries)
      temperature.set(
        boundary.id,
        read(
          boundary.temperature.map((p) => ({ t: p.t, v: p.c })),
          time,
        ),
      );
    const heat = new Map<string, number>();
    const add = (id: string, w: number) => heat.set(id, (heat.get(id) ?? 0) + w);
    for (const { node, profile } of input.powers)
      add(
        node,
        read(
          profile.map((p) => ({ t: p.t, v: p.w })),
          time,
        ),
      );
    for (const { from, to, conductanceWPerK } of input.links) {
      const flow = conductanceWPerK * (temperature.get(from)! - temperature.get(to)!);
      add(from, -flow);
      add(to, flow);
    }
    for (const node of input.nodes)
      temperature.set(node.id, temperature.get(node.id)! + ((heat.get(node.id) ?? 0) * stepS) / node.capacityJPerK);
  }
  return out;
}

describe('simulateNetwork', () => {
  it('agrees with an explicit integration in tiny steps, through steps and ramps of power and room', () => {
    const exact = simulateNetwork(chain).temperatures;
    const naive = byTinySteps(chain, 0.005);
    for (const id of ['die', 'sink', 'board'])
      exact[id]!.forEach((value, i) => expect(Math.abs(value - naive[id]![i]!)).toBeLessThan(0.02));
  });

  it('ends where heat balance says: 40 W through 0.5 W/K is 80 K', () => {
    const { temperatures } = simulateNetwork({
      nodes: [{ id: 'a', capacityJPerK: 10, initialC: 20 }],
      links: [{ from: 'a', to: 'room', conductanceWPerK: 0.5 }],
      boundaries: room(20),
      powers: [
        { node: 'a', profile: [{ t: 0, w: 30 }] },
        { node: 'a', profile: [{ t: 0, w: 10 }] },
      ],
      atS: [1e5],
    });
    expect(temperatures.a![0]).toBeCloseTo(100, 9);
  });

  it('keeps energy where nothing leaves, and lets zero conductance be', () => {
    const { temperatures } = simulateNetwork({
      nodes: [
        { id: 'a', capacityJPerK: 10, initialC: 50 },
        { id: 'b', capacityJPerK: 30, initialC: 10 },
        { id: 'alone', capacityJPerK: 5, initialC: 33 },
      ],
      links: [
        { from: 'a', to: 'b', conductanceWPerK: 1 },
        { from: 'alone', to: 'a', conductanceWPerK: 0 },
      ],
      boundaries: [],
      powers: [],
      atS: [500, 0],
    });
    expect(temperatures.a![0]).toBeCloseTo(20, 6);
    expect(temperatures.b![0]).toBeCloseTo(20, 6);
    expect(temperatures.alone).toEqual([expect.closeTo(33, 9), expect.closeTo(33, 9)]);
    expect(temperatures.a![1]).toBeCloseTo(50, 9);
  });

  it('is superposable: twice the power is twice the rise', () => {
    const rises = [1, 2].map((factor) =>
      simulateNetwork({
        ...chain,
        nodes: chain.nodes.map((n) => ({ ...n, initialC: 22 })),
        boundaries: room(22),
        powers: [{ node: 'die', profile: [{ t: 0, w: 10 * factor }] }],
      }).temperatures.die!.map((c) => c - 22),
    );
    rises[0]!.forEach((rise, i) => expect(rises[1]![i]).toBeCloseTo(2 * rise, 8));
  });

  it('refuses names and numbers that make no sense', () => {
    const bad: [Partial<NetworkInput>, typeof RangeError | typeof InsufficientDataError][] = [
      [{ links: [{ from: 'die', to: 'nowhere', conductanceWPerK: 1 }] }, RangeError],
      [{ links: [{ from: 'die', to: 'sink', conductanceWPerK: -1 }] }, RangeError],
      [{ nodes: [...chain.nodes, { id: 'die', capacityJPerK: 1, initialC: 2 }] }, RangeError],
      [{ nodes: [{ id: 'room', capacityJPerK: 1, initialC: 2 }] }, RangeError],
      [{ nodes: chain.nodes.map((n) => ({ ...n, capacityJPerK: 0 })) }, RangeError],
      [{ powers: [{ node: 'room', profile: [{ t: 0, w: 1 }] }] }, RangeError],
      [
        {
          powers: [
            {
              node: 'die',
              profile: [
                { t: 5, w: 1 },
                { t: 0, w: 1 },
              ],
            },
          ],
        },
        RangeError,
      ],
      [{ powers: [{ node: 'die', profile: [] }] }, InsufficientDataError],
      [{ atS: [-1] }, RangeError],
      [{ atS: [] }, InsufficientDataError],
      [{ nodes: [] }, InsufficientDataError],
    ];
    for (const [change, error] of bad) expect(() => simulateNetwork({ ...chain, ...change })).toThrow(error);
  });

  it('gives the same answer stepped or asked at once', () => {
    const propagator = new NetworkPropagator(chain.nodes, ['room'], chain.links);
    const forcing = { powerW: Float64Array.of(20, 0, 0), boundaryC: Float64Array.of(22) };
    let state: Float64Array = Float64Array.of(25, 25, 30);
    for (let i = 0; i < 300; i++) state = propagator.advance(state, 1, forcing);
    const once = simulateNetwork({ ...chain, boundaries: room(22), powers: [{ node: 'die', profile: [{ t: 0, w: 20 }] }], atS: [300] });
    expect(state[0]).toBeCloseTo(once.temperatures.die![0]!, 8);
  });
});

describe('projectAmbient', () => {
  it('is the fixed point of heat that grows with temperature', () => {
    const projected = projectAmbient({ value: 70, u: 0.4, dof: 8 }, 22, 33, { powerTempCo: 0.004 });
    const rise = (spot: number) => 48 * (1 + 0.004 * (spot - 70));
    expect(projected.value).toBeCloseTo(33 + rise(projected.value), 10);
    const nudged = projectAmbient({ value: 70.001, u: 0, dof: 8 }, 22, 33, { powerTempCo: 0.004 });
    expect(projected.u / 0.4).toBeCloseTo((nudged.value - projected.value) / 0.001, 3);
  });
  it('is one for one by default and refuses runaway', () => {
    expect(projectAmbient({ value: 70, u: 0.4, dof: 8 }, 22, 33)).toEqual({ value: 81, u: 0.4, dof: 8 });
    expect(() => projectAmbient({ value: 122, u: 0.4, dof: 8 }, 22, 33, { powerTempCo: 0.01 })).toThrow(RangeError);
  });
});
