import type { FaultKey } from './faults.ts';
import type { RoomSpec } from './room.ts';

/** What every simulated bench is begun with. */
export interface BenchOptions {
  setup: string;
  /** Noise and the little that differs from run to run. */
  seed: number;
  /** Fit of pads, paste and probes: the same from run to run within one mount. */
  mountSeed: number;
  room?: Partial<RoomSpec>;
  faults?: readonly FaultKey[];
}
