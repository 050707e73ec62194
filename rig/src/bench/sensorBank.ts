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

/** An infrared thermometer in somebody's hand: quick, noisy, and wrong by what it is held and set like. */
export const infrared = (offsetK: number): SensorSpec => ({ lagS: 1, offsetK, noiseK: 0.5, noiseTauS: 6, resolutionK: 0.1 });

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
      const felt = this.faults.felt(key, trueC[node]!, trueC[neighbour]!);
      const spike =
        this.random.uniform() < (this.faults.spikesPerHour(this.spikesPerHour) * dtS) / 3600 ? 4 + 4 * this.random.uniform() : 0;
      out[key] = this.faults.through(key, this.sensors.get(key)!.read(felt, dtS) + spike, dtS);
    }
    return out;
  }
}
