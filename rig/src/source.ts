import type { LinkChannel, StartCommand } from '@red-ember/contract';

/** What a rig reads from and can load; the link does the talking. */
export interface RigSource {
  /** Made up, so that it can run faster than the clock and needs a set-up. */
  readonly simulated: boolean;
  readonly channels: LinkChannel[];
  readonly setups: { key: string; label: string }[];
  begin(command: Pick<StartCommand, 'setup' | 'seed' | 'mountSeed'>): Readings;
}

/** Readings of one run. */
export interface Readings {
  /** What every channel shows now, null where it was not read; a simulated source goes on by `dtS` seconds at the load. */
  read(dtS: number, loadPercent: number): Record<string, number | null>;
  /** Told whenever the load that is wanted changes. */
  load?(percent: number): void;
}
