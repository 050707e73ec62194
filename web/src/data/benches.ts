import type { BenchRig } from '@red-ember/contract';
import type { Family } from '@red-ember/study';
import { useRigsQuery } from './api.ts';

/** A channel or a set-up as a list offers it. */
export interface Offered {
  key: string;
  label: string;
  unit?: string;
}

export interface Benches {
  /** Every rig that was seen and is for this family, or for any. */
  rigs: BenchRig[];
  /** Channels of those that are connected, each key once. */
  channels: Offered[];
  setups: Offered[];
}

const once = <T extends { key: string }>(all: readonly T[]): T[] => [...new Map(all.map((entry) => [entry.key, entry])).values()];

/** The benches that a study's part can be on: a rig may say which family it is made for. Channels of several say whose they are. */
export function benchesFor(all: readonly BenchRig[], family: Family): Benches {
  const rigs = all.filter((rig) => rig.family === null || rig.family === family);
  const there = rigs.filter((rig) => rig.connected);
  const named = (rig: BenchRig, label: string) => (there.length > 1 ? `${label}, ${rig.name}` : label);
  return {
    rigs,
    channels: once(there.flatMap((rig) => rig.channels.map(({ key, label, unit }) => ({ key, label: named(rig, label), unit })))),
    setups: once(rigs.flatMap((rig) => rig.setups)),
  };
}

/** Asked for anew every few seconds: rigs come and go. */
export function useBenches(family: Family): Benches {
  const { data = [] } = useRigsQuery(undefined, { pollingInterval: 4000 });
  return benchesFor(data, family);
}
