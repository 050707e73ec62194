import type { LinkChannel, LinkControl, StartCommand } from '@red-ember/contract';
import type { Family } from '@red-ember/study';

/** What a rig reads from and can load; the link does the talking. */
export interface RigSource {
  /** Made up, so that it can run faster than the clock and needs a set-up. */
  readonly simulated: boolean;
  /** The family of parts it is made for; any where nothing is said. */
  readonly family?: Family;
  /** From one sample to the next at its fastest, ms; a second where nothing is said. */
  readonly fastestMs?: number;
  readonly channels: LinkChannel[];
  readonly setups: { key: string; label: string }[];
  /** What it can set while it runs. */
  readonly controls?: LinkControl[];
  /** Faults that can be planted in it. */
  readonly faults?: { key: string; label: string }[];
  begin(command: Pick<StartCommand, 'setup' | 'seed' | 'mountSeed' | 'faults'>): Readings;
}

/** Readings of one run. */
export interface Readings {
  /** What every channel shows now, null where it was not read; a simulated source goes on by `dtS` seconds at the load. */
  read(dtS: number, loadPercent: number): Record<string, number | null>;
  /** Told whenever the load that is wanted changes. */
  load?(percent: number): void;
  /** @throws RangeError a control that it does not have, or a value that it cannot take */
  set?(control: string, value: number | string): void;
  /** What happened by itself since it was last asked, in sentences. */
  happened?(): string[];
  /** How fast its clock runs, 1 where it is right. */
  readonly clockRate?: number;
}
