import type { LinkChannel, LinkControl } from '@red-ember/contract';
import { CARD_CHANNELS, CARD_CONTROLS } from './card/channels.ts';
import { CardBench } from './card/cardBench.ts';
import { CARD_SETUPS } from './card/parameters.ts';
import { DRIVE_CHANNELS, DRIVE_CONTROLS, DriveBench } from './drive/driveBench.ts';
import { DRIVE_SETUPS } from './drive/setups.ts';
import { REGULATOR_CHANNELS, REGULATOR_CONTROLS } from './regulator/channels.ts';
import { REGULATOR_SETUPS } from './regulator/parameters.ts';
import { RegulatorBench } from './regulator/regulatorBench.ts';
import type { RigSource } from './source.ts';
import type { ControlValue } from './bench/controls.ts';
import { FAULTS, isFault, type PlantedFaults } from './bench/faults.ts';
import type { BenchOptions } from './bench/options.ts';

/** What every simulated part can do; it knows nothing of clocks or sockets. */
export interface SimulatedBench {
  readonly faults: PlantedFaults;
  readonly truth: Record<string, number>;
  /** What it did by itself; whoever reads them takes them out. */
  readonly happened?: string[];
  step(dtS: number, loadPercent: number): Record<string, number | null>;
  set(control: string, value: ControlValue): void;
}

interface Family {
  channels: LinkChannel[];
  controls: LinkControl[];
  setups: readonly { key: string; label: string }[];
  begin(options: BenchOptions): SimulatedBench;
}

export const SIMULATED: Record<'drive' | 'card' | 'regulator', Family> = {
  drive: { channels: DRIVE_CHANNELS, controls: DRIVE_CONTROLS, setups: DRIVE_SETUPS, begin: (options) => new DriveBench(options) },
  card: { channels: CARD_CHANNELS, controls: CARD_CONTROLS, setups: CARD_SETUPS, begin: (options) => new CardBench(options) },
  regulator: {
    channels: REGULATOR_CHANNELS,
    controls: REGULATOR_CONTROLS,
    setups: REGULATOR_SETUPS,
    begin: (options) => new RegulatorBench(options),
  },
};

/** A simulated part as a source of the rig link. */
function simulatedSource(family: keyof typeof SIMULATED): RigSource {
  const { channels, controls, setups, begin }: Family = SIMULATED[family];
  return {
    simulated: true,
    family,
    fastestMs: 50,
    channels,
    setups: setups.map(({ key, label }) => ({ key, label })),
    controls,
    faults: Object.entries(FAULTS).map(([key, label]) => ({ key, label })),
    begin({ setup, seed, mountSeed, faults = [] }) {
      const bench = begin({ setup, seed, mountSeed, faults: faults.filter(isFault) });
      return {
        read: (dtS, loadPercent) => bench.step(dtS, loadPercent),
        set: (control, value) => bench.set(control, value),
        happened: () => bench.happened?.splice(0) ?? [],
        clockRate: bench.faults.clockRate,
      };
    },
  };
}

export const DRIVE_SOURCE = simulatedSource('drive');
export const CARD_SOURCE = simulatedSource('card');
export const REGULATOR_SOURCE = simulatedSource('regulator');
