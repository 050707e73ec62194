import type { SeededRandom } from './random.ts';

export interface SensorSpec {
  /** First-order lag of the probe, seconds. */
  lagS: number;
  /** Constant error of this sensor where it sits, K. */
  offsetK: number;
  /** Deviation of its noise, K, and the noise's correlation time, seconds. */
  noiseK: number;
  noiseTauS: number;
  /** Smallest step shown, K. */
  resolutionK: number;
  /** Of the surface that it is pointed at; absent for a sensor that touches. */
  emissivity?: number;
}

/** A temperature sensor with lag, offset, correlated noise and resolution. */
export class Sensor {
  private lagged: number | null = null;
  private noise = 0;

  constructor(
    private readonly spec: SensorSpec,
    private readonly random: SeededRandom,
  ) {}

  /** Reading after `dtS` at a true temperature. */
  read(trueC: number, dtS: number): number {
    const { lagS, offsetK, noiseK, noiseTauS, resolutionK } = this.spec;
    this.lagged = this.lagged === null ? trueC : this.lagged + (trueC - this.lagged) * (1 - Math.exp(-dtS / lagS));
    const keep = Math.exp(-dtS / noiseTauS);
    this.noise = keep * this.noise + noiseK * Math.sqrt(1 - keep * keep) * this.random.normal();
    const shown = this.lagged + offsetK + this.noise;
    return resolutionK > 0 ? Math.round(shown / resolutionK) * resolutionK : shown;
  }
}
