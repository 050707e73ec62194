import type { SeededRandom } from './random.ts';

export interface RoomSpec {
  /** °C at the start. */
  startC: number;
  /** Steady drift, K per hour. */
  driftKPerH: number;
  /** Slow wandering: deviation in K, correlation time in seconds. */
  wanderK: number;
  wanderTauS: number;
  /** A heater that somebody switches on: when (s), how far the air ends up warmer (K), how slowly (s). */
  heater: { atS: number; riseK: number; tauS: number } | null;
}

/** Air around the bench, °C over time. Call in time order. */
export class Room {
  private wander = 0;

  constructor(
    private readonly spec: RoomSpec,
    private readonly random: SeededRandom,
  ) {}

  at(tS: number, dtS: number): number {
    const { startC, driftKPerH, wanderK, wanderTauS, heater } = this.spec;
    const keep = Math.exp(-dtS / wanderTauS);
    this.wander = keep * this.wander + wanderK * Math.sqrt(1 - keep * keep) * this.random.normal();
    const heated = heater && tS > heater.atS ? heater.riseK * (1 - Math.exp(-(tS - heater.atS) / heater.tauS)) : 0;
    return startC + (driftKPerH * tS) / 3600 + this.wander + heated;
  }
}

/** An ordinary day in the bench room, a little different from run to run. */
export function usualRoom(random: SeededRandom, change: Partial<RoomSpec> = {}): RoomSpec {
  return {
    startC: 22.2 + 0.4 * random.normal(),
    driftKPerH: 0.3 + 0.2 * random.normal(),
    wanderK: 0.06,
    wanderTauS: 300,
    heater: null,
    ...change,
  };
}
