import type { PlantedFaults } from './faults.ts';
import type { SeededRandom } from './random.ts';
import { Sensor, type SensorSpec } from './sensor.ts';

/** A thermocouple glued on by hand; the offset is where it sits, drawn once a mount. */
export const thermocouple = (placementK: number, fit: SeededRandom): SensorSpec => ({
  lagS: 3,
  offsetK: placementK * fit.normal(),
  noiseK: 0.07,
  noiseTauS: 4,
  resolutionK: 0.1,
});

/** A sensor inside the part, in whole degrees. */
export const ownSensor = (offsetK: number, lagS = 2): SensorSpec => ({ lagS, offsetK, noiseK: 0.3, noiseTauS: 8, resolutionK: 1 });

export const ROOM_PROBE: SensorSpec = { lagS: 20, offsetK: 0, noiseK: 0.03, noiseTauS: 30, resolutionK: 0.1 };

/** An infrared thermometer in somebody's hand: quick, noisy, wrong by how it is held, and low by what the surface radiates too little. */
export const infrared = (offsetK: number, emissivity: number): SensorSpec => ({
  lagS: 1,
  offsetK,
  noiseK: 0.5,
  noiseTauS: 6,
  resolutionK: 0.1,
  emissivity,
});

/** To what infrared thermometers are set on this bench. */
const EMISSIVITY_SET = 0.95;

/**
 * What an infrared thermometer shows of a surface, °C: the surface's own radiation and that of the room which it mirrors, read as if
 * the surface radiated as the thermometer is set to. Total radiation after Stefan and Boltzmann.
 */
export function indicatedC(surfaceC: number, emissivity: number, roomC: number): number {
  const [surface, room] = [surfaceC, roomC].map((c) => (c + 273.15) ** 4) as [number, number];
  return (room + (emissivity / EMISSIVITY_SET) * (surface - room)) ** 0.25 - 273.15;
}

/** Where a sensor sits: the node it is meant for, and the node beside it. */
export interface Placed {
  spec: SensorSpec;
  node: string;
  neighbour: string;
}

/** All temperature sensors of a bench, with what was planted in them. */
export class SensorBank {
  private readonly sensors: Map<string, Sensor>;

  constructor(
    private readonly placed: Readonly<Record<string, Placed>>,
    private readonly faults: PlantedFaults,
    private readonly random: SeededRandom,
    private readonly spikesPerHour: number,
  ) {
    this.sensors = new Map(Object.entries(placed).map(([key, { spec }]) => [key, new Sensor(faults.sensorSpec(key, spec), random)]));
  }

  read(trueC: Readonly<Record<string, number>>, dtS: number): Record<string, number | null> {
    const out: Record<string, number | null> = {};
    for (const [key, { node, neighbour }] of Object.entries(this.placed)) {
      const { emissivity } = this.placed[key]!.spec;
      const shines = (c: number) => (emissivity === undefined ? c : indicatedC(c, emissivity, trueC.room!));
      const felt = this.faults.felt(key, shines(trueC[node]!), shines(trueC[neighbour]!));
      const spike =
        this.random.uniform() < (this.faults.spikesPerHour(this.spikesPerHour) * dtS) / 3600 ? 4 + 4 * this.random.uniform() : 0;
      out[key] = this.faults.through(key, this.sensors.get(key)!.read(felt, dtS) + spike, dtS);
    }
    return out;
  }
}
