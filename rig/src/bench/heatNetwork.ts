import { NetworkPropagator, type ThermalLink } from '@red-ember/core';

export type Temperatures = Record<string, number>;

/**
 * A lumped network whose conductances may change from step to step, because a fan turns faster or a vent is shut. Within a step
 * it is exact. Propagators are kept by key, so a fan that hunts between a few speeds costs nothing.
 */
export class HeatNetwork {
  private readonly ids: string[];
  private readonly kept = new Map<string, NetworkPropagator>();
  private state: Float64Array;

  /** @param capacityJPerK per node; the only boundary is `room` */
  constructor(
    private readonly capacityJPerK: Record<string, number>,
    private roomC: number,
  ) {
    this.ids = Object.keys(capacityJPerK);
    this.state = new Float64Array(this.ids.length).fill(roomC);
  }

  get temperatures(): Temperatures {
    return { ...Object.fromEntries(this.ids.map((id, i) => [id, this.state[i]!])), room: this.roomC };
  }

  of(id: string): number {
    return this.state[this.ids.indexOf(id)]!;
  }

  /**
   * @param key names the conductances; the same key must stand for the same links
   * @param powerW heat into nodes; nodes that are not named get none
   * @param roomC air at the end of the step, reached linearly
   */
  advance(dtS: number, key: string, links: () => ThermalLink[], powerW: Record<string, number>, roomC: number): void {
    let propagator = this.kept.get(key);
    if (!propagator) {
      const nodes = this.ids.map((id) => ({ id, capacityJPerK: this.capacityJPerK[id]!, initialC: roomC }));
      propagator = new NetworkPropagator(nodes, ['room'], links());
      this.kept.set(key, propagator);
    }
    const heat = Float64Array.from(this.ids, (id) => powerW[id] ?? 0);
    this.state = propagator.advance(
      this.state,
      dtS,
      { powerW: heat, boundaryC: Float64Array.of(this.roomC) },
      { powerW: heat, boundaryC: Float64Array.of(roomC) },
    );
    this.roomC = roomC;
  }
}
