import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { InsufficientDataError, requireFinite, requireNotNegative, requirePositive } from '../errors.ts';

export interface ThermalNode {
  id: string;
  /** Above zero; a fixed-temperature node is given in `boundaries` instead. */
  capacityJPerK: number;
  initialC: number;
}

export interface ThermalLink {
  from: string;
  /** Node or boundary id. */
  to: string;
  conductanceWPerK: number;
}

/** Power into a node and temperature of a boundary at one instant, in the order of the network's nodes and boundaries. */
interface Forcing {
  powerW: Float64Array;
  boundaryC: Float64Array;
}

/**
 * Advances C dT/dt = ΣG(T_j − T_i) + P exactly over steps in which powers and boundary temperatures change linearly.
 *
 * The conductance matrix is symmetric, so with √C-scaled temperatures it has real modes; each mode is a first-order lag with
 * a closed-form answer. No step size to choose, and stiff networks cost nothing extra.
 */
export class NetworkPropagator {
  readonly nodeIds: string[];
  readonly boundaryIds: string[];
  private readonly rate: Float64Array; // λ of each mode, 1/s
  private readonly toModes: number[][]; // modes × nodes
  private readonly fromModes: number[][]; // nodes × modes
  private readonly capacity: Float64Array;
  private readonly toBoundary: { node: number; boundary: number; conductance: number }[] = [];

  constructor(nodes: readonly ThermalNode[], boundaryIds: readonly string[], links: readonly ThermalLink[]) {
    if (nodes.length === 0) throw new InsufficientDataError('a network needs at least one node');
    this.nodeIds = nodes.map((node) => node.id);
    this.boundaryIds = [...boundaryIds];
    const all = [...this.nodeIds, ...this.boundaryIds];
    const repeated = all.find((id, i) => all.indexOf(id) !== i);
    if (repeated !== undefined) throw new RangeError(`the name "${repeated}" is used twice`);
    for (const node of nodes) {
      requirePositive(node.capacityJPerK, `capacity of "${node.id}"`);
      requireFinite(node.initialC, `initial temperature of "${node.id}"`);
    }
    this.capacity = Float64Array.from(nodes, (node) => node.capacityJPerK);
    const n = nodes.length;
    const g = Matrix.zeros(n, n);
    for (const link of links) this.addLink(link, g);
    const scale = this.capacity.map((c) => 1 / Math.sqrt(c));
    for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) g.set(i, j, g.get(i, j) * scale[i]! * scale[j]!);
    const modes = new EigenvalueDecomposition(g, { assumeSymmetric: true });
    const vectors = modes.eigenvectorMatrix;
    this.rate = Float64Array.from(modes.realEigenvalues, (value) => Math.max(0, value));
    this.toModes = this.nodeIds.map((_, m) => this.nodeIds.map((__, i) => vectors.get(i, m) * Math.sqrt(this.capacity[i]!)));
    this.fromModes = this.nodeIds.map((_, i) => this.nodeIds.map((__, m) => vectors.get(i, m) * scale[i]!));
  }

  private addLink(link: ThermalLink, g: Matrix): void {
    requireNotNegative(link.conductanceWPerK, `conductance from "${link.from}" to "${link.to}"`);
    const ends = [link.from, link.to].map((id) => {
      const node = this.nodeIds.indexOf(id);
      const boundary = this.boundaryIds.indexOf(id);
      if (node < 0 && boundary < 0) throw new RangeError(`a link names "${id}", which is neither a node nor a boundary`);
      return { node, boundary };
    });
    const [p, q] = ends as [(typeof ends)[0], (typeof ends)[0]];
    if (link.from === link.to) return;
    for (const [here, there] of [
      [p, q],
      [q, p],
    ] as const) {
      if (here.node < 0) continue;
      g.set(here.node, here.node, g.get(here.node, here.node) + link.conductanceWPerK);
      if (there.node >= 0) g.set(here.node, there.node, g.get(here.node, there.node) - link.conductanceWPerK);
      else this.toBoundary.push({ node: here.node, boundary: there.boundary, conductance: link.conductanceWPerK });
    }
  }

  /** Heating rate of each node, K/s, from power and boundaries alone. */
  private drive(forcing: Forcing): Float64Array {
    const rate = this.capacity.map((c, i) => forcing.powerW[i]! / c);
    for (const { node, boundary, conductance } of this.toBoundary) {
      rate[node] = rate[node]! + (conductance * forcing.boundaryC[boundary]!) / this.capacity[node]!;
    }
    return rate;
  }

  private transform(matrix: number[][], vector: ArrayLike<number>): Float64Array {
    return Float64Array.from(matrix, (row) => row.reduce((sum, weight, i) => sum + weight * vector[i]!, 0));
  }

  /**
   * @param temperaturesC node temperatures at the start, in the order of `nodeIds`
   * @param stepS length of the step, not negative
   * @param atStart forcing at the start; it changes linearly to `atEnd`
   * @returns node temperatures at the end of the step
   */
  advance(temperaturesC: ArrayLike<number>, stepS: number, atStart: Forcing, atEnd: Forcing = atStart): Float64Array {
    const z = this.transform(this.toModes, temperaturesC);
    const q0 = this.transform(this.toModes, this.drive(atStart));
    const q1 = atEnd === atStart ? q0 : this.transform(this.toModes, this.drive(atEnd));
    for (let m = 0; m < z.length; m++) {
      const lambda = this.rate[m]!;
      const x = lambda * stepS;
      // phi1 = ∫e^{-λs} ds, phi2 = ∫∫; the series avoids 0/0 for slow modes.
      const phi1 = x < 1e-4 ? stepS * (1 - x / 2 + (x * x) / 6) : -Math.expm1(-x) / lambda;
      const phi2 = x < 1e-4 ? stepS * stepS * (0.5 - x / 6 + (x * x) / 24) : (stepS - phi1) / lambda;
      const slope = stepS > 0 ? (q1[m]! - q0[m]!) / stepS : 0;
      z[m] = z[m]! * Math.exp(-x) + q0[m]! * phi1 + slope * phi2;
    }
    return this.transform(this.fromModes, z);
  }
}

interface Profile {
  t: number[];
  v: number[];
}

function readProfile(t: number[], v: number[], name: string): Profile {
  if (t.length === 0) throw new InsufficientDataError(`${name} has no points`);
  for (let i = 0; i < t.length; i++) {
    requireFinite(t[i]!, `time ${i} of ${name}`);
    requireFinite(v[i]!, `value ${i} of ${name}`);
    if (i > 0 && t[i]! < t[i - 1]!) throw new RangeError(`times of ${name} must not go back`);
  }
  return { t, v };
}

/** Value at `time`; at a step, the later value when coming from the right and the earlier one when coming from the left. */
function valueAt({ t, v }: Profile, time: number, side: 'left' | 'right'): number {
  const last = t.length - 1;
  let i = 0; // number of points passed
  while (i <= last && (side === 'right' ? t[i]! <= time : t[i]! < time)) i++;
  if (i === 0) return v[0]!;
  if (i > last) return v[last]!;
  const share = (time - t[i - 1]!) / (t[i]! - t[i - 1]!);
  return v[i - 1]! + share * (v[i]! - v[i - 1]!);
}

export interface NetworkInput {
  nodes: ThermalNode[];
  links: ThermalLink[];
  boundaries: { id: string; temperature: { t: number; c: number }[] }[];
  powers: { node: string; profile: { t: number; w: number }[] }[];
  /** Seconds, not negative, in any order. */
  atS: number[];
}

/**
 * Temperatures of a lumped thermal network at the asked times: C dT/dt = ΣG(T_j − T_i) + P_i(t).
 *
 * Powers (W) and boundary temperatures (°C) are piecewise linear in time: two points at one t are a step, the later holds from
 * t on; the first and last values hold outside. `initialC` is at t = 0. Several powers into one node add up.
 *
 * @returns `t` as asked, and per node its temperatures in °C at those times
 * @throws RangeError an unknown or repeated name, capacity not above zero, negative conductance or time
 * @throws InsufficientDataError no nodes, no times, or a profile without points
 * @see Exact solution by modes of the symmetric system, e.g. Moler & Van Loan 2003, SIAM Review 45(1), method 14
 */
export function simulateNetwork(input: NetworkInput): { t: number[]; temperatures: Record<string, number[]> } {
  const { nodes, links, boundaries, powers, atS } = input;
  if (atS.length === 0) throw new InsufficientDataError('no times were asked for');
  for (const time of atS) requireNotNegative(time, 'atS');
  const propagator = new NetworkPropagator(
    nodes,
    boundaries.map((boundary) => boundary.id),
    links,
  );
  const air = boundaries.map(({ id, temperature }) =>
    readProfile(
      temperature.map((p) => p.t),
      temperature.map((p) => p.c),
      `boundary "${id}"`,
    ),
  );
  const heat = powers.map(({ node, profile }) => {
    const index = propagator.nodeIds.indexOf(node);
    if (index < 0) throw new RangeError(`power goes into "${node}", which is not a node`);
    return {
      index,
      profile: readProfile(
        profile.map((p) => p.t),
        profile.map((p) => p.w),
        `power into "${node}"`,
      ),
    };
  });
  const forcingAt = (time: number, side: 'left' | 'right'): Forcing => {
    const powerW = new Float64Array(nodes.length);
    for (const { index, profile } of heat) powerW[index] = powerW[index]! + valueAt(profile, time, side);
    return { powerW, boundaryC: Float64Array.from(air, (profile) => valueAt(profile, time, side)) };
  };
  const endS = Math.max(...atS);
  const breaks = [...air, ...heat.map((entry) => entry.profile)].flatMap((profile) => profile.t).filter((t) => t > 0 && t < endS);
  const stops = [...new Set([...breaks, ...atS])].sort((p, q) => p - q);
  let now = 0;
  let state: Float64Array = Float64Array.from(nodes, (node) => node.initialC);
  const reached = new Map<number, Float64Array>([[0, state]]);
  for (const stop of stops) {
    if (stop > now) state = propagator.advance(state, stop - now, forcingAt(now, 'right'), forcingAt(stop, 'left'));
    now = stop;
    reached.set(stop, state);
  }
  const temperatures: Record<string, number[]> = {};
  nodes.forEach((node, i) => {
    temperatures[node.id] = atS.map((time) => reached.get(time)![i]!);
  });
  return { t: [...atS], temperatures };
}
