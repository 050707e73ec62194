import { proveHours } from './campaign/hours.ts';
import { proveCampaign } from './campaign/prove.ts';
import type { Claim } from './claim.ts';
import { proveCarry } from './carried.ts';
import { proveEqualNoise } from './equalNoise.ts';
import { proveLosses } from './losses.ts';
import { proveOnsets } from './onsets.ts';
import { proveResponses } from './responses.ts';
import { proveSettling } from './settling.ts';
import { proveWindows } from './windows.ts';

/** Every claim that is proved, in the order of the table. @param draws of each kind */
export const proveAll = (draws: number, tell?: (words: string) => void): Claim[] => [
  ...proveReadings(draws),
  ...proveCampaign(draws, tell),
  // A share of the few that are decided: with fewer studies it says little.
  ...proveHours(5 * draws),
];

/** Claims about readings, without whole studies. */
export const proveReadings = (draws: number): Claim[] => [
  ...proveSettling(draws),
  ...proveWindows(draws),
  ...proveLosses(2 * draws),
  ...proveCarry(10 * draws),
  ...proveEqualNoise(10 * draws),
  ...proveOnsets(4 * draws),
  ...proveResponses(2 * draws),
];
