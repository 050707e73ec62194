import { SeededRandom } from './random.ts';
import type { RoomSpec } from './room.ts';
import type { SensorSpec } from './sensor.ts';

/**
 * What can be planted in the simulated bench, to learn what it looks like. Where, when and how badly is drawn from the run's seed;
 * the same seed plants the same fault.
 */
export const FAULTS = {
  'pad-off': 'a pad does not touch',
  'film-left-on': 'the film was left on a pad',
  'fan-wrong-header': 'the fan is plugged to the wrong header: its duty is not obeyed',
  'fan-wires-swapped': 'the wires of a fan are swapped: it turns fully and shows no speed',
  'fan-free': 'one fan is free: it follows the temperature whatever is locked',
  'room-drift': 'the room warms while the run goes on',
  'wrong-place': 'a sensor sits on its neighbour',
  'lagging-sensor': 'a sensor answers slowly',
  spikes: 'background work makes spikes',
  'drop-outs': 'a sensor drops out now and then',
  'clock-skew': "the rig's clock runs fast",
} as const;

export type FaultKey = keyof typeof FAULTS;
export const isFault = (key: string): key is FaultKey => key in FAULTS;

/** What a film and the air beside it leave of a pad's conductance: 0.05 mm of polymer at 0.2 W/m·K, wrinkled. */
const FILM_SHARE = 0.12;
/** A pad that does not touch leaves an air gap of some tenths of a millimetre. */
const PAD_OFF_SHARE = 0.06;

export class PlantedFaults {
  /** Share of the pad's conductance that is left, 1 where nothing is planted. */
  readonly padShare: number;
  /** The channel whose sensor is slow, sits wrong or drops out. */
  readonly sensor: string;
  /** How fast the rig's clock runs, 1 where it is right. */
  readonly clockRate: number;
  private readonly keys: ReadonlySet<FaultKey>;
  private readonly random: SeededRandom;
  private outForS = 0;

  /** @param sensors channels of which one is drawn for faults of a sensor */
  constructor(keys: readonly FaultKey[], seed: number, sensors: readonly string[]) {
    this.keys = new Set(keys);
    this.random = new SeededRandom(seed ^ 0x5eed);
    this.padShare = this.has('film-left-on') ? FILM_SHARE : this.has('pad-off') ? PAD_OFF_SHARE : 1;
    this.sensor = sensors[Math.floor(this.random.uniform() * sensors.length)] ?? '';
    this.clockRate = this.has('clock-skew') ? 1.004 + 0.012 * this.random.uniform() : 1;
  }

  has(key: FaultKey): boolean {
    return this.keys.has(key);
  }

  /** The room with what somebody does to it during the load. */
  room(spec: RoomSpec): RoomSpec {
    if (!this.has('room-drift')) return spec;
    return { ...spec, heater: { atS: 700 + 500 * this.random.uniform(), riseK: 5 + 3 * this.random.uniform(), tauS: 500 } };
  }

  sensorSpec(channel: string, spec: SensorSpec): SensorSpec {
    if (channel !== this.sensor || !this.has('lagging-sensor')) return spec;
    return { ...spec, lagS: spec.lagS + 60 + 90 * this.random.uniform() };
  }

  /** True temperature that a sensor feels: its own, or its neighbour's where it sits wrong. */
  felt(channel: string, own: number, neighbour: number): number {
    return channel === this.sensor && this.has('wrong-place') ? 0.35 * own + 0.65 * neighbour : own;
  }

  /** Spikes an hour of every sensor. */
  spikesPerHour(usual: number): number {
    return this.has('spikes') ? Math.max(usual, 60) : usual;
  }

  /** What comes through of a sensor's reading; null while it is out. Call once a step for the sensor that is drawn. */
  through(channel: string, value: number, dtS: number): number | null {
    if (channel !== this.sensor || !this.has('drop-outs')) return value;
    if (this.outForS > 0) {
      this.outForS -= dtS;
      return null;
    }
    if (this.random.uniform() < dtS / 240) this.outForS = 5 + 40 * this.random.uniform();
    return value;
  }
}
