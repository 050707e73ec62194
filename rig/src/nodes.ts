import { REGULATOR_SENSORS } from './regulator/channels.ts';
import type { SIMULATED } from './simulated.ts';

const NODES: Readonly<Record<string, string>> = {
  die: 'core',
  mem: 'memory',
  stages: 'stages',
  processor: 'processor',
  tc1: 'controller',
  tc2: 'flashTop',
  tc3: 'flashUnder',
};

/** Node of a simulated bench's heat network that a channel is meant to read; null for a channel that reads none. */
export function nodeOf(family: keyof typeof SIMULATED, channel: string): string | null {
  if (family === 'regulator') return REGULATOR_SENSORS[channel as keyof typeof REGULATOR_SENSORS]?.node ?? null;
  return NODES[channel] ?? null;
}
