import { nodeOf, SIMULATED } from '@red-ember/rig';
import type { PracticeCall } from '@red-ember/contract';
import type { Drawn } from './draw.ts';
import type { Thing } from './exercises.ts';

/** Whether the simulator knows what a channel should read. */
export const isKnown = (family: 'drive' | 'card', channel: string): boolean => nodeOf(family, channel) !== null;

/** Long enough for every part of either bench, s. */
const LOAD_S = { drive: 4 * 3600, card: 3 * 1800 };
const STEP_S = 10;
const MOUNTS = 4;
/** A part counts as settled when so little is left of its rise, K. */
const LEFT_K = 0.3;

/** What a side comes to with nothing wrong: rise over room at a place, and how long it takes to get there, s. Sensors and the day's room are left out. */
function side(family: 'drive' | 'card', thing: Thing, { spot, set, loadPercent = 100 }: Drawn): { riseK: number; settledS: number } {
  const node = nodeOf(family, spot)!;
  let riseK = 0;
  let settledS = 0;
  for (let mount = 1; mount <= MOUNTS; mount++) {
    const room = { startC: 22.4, driftKPerH: 0, wanderK: 0, heater: null };
    const bench = SIMULATED[family].begin({ setup: thing.trueSetup ?? thing.setup, seed: 77 * mount, mountSeed: 9000 + mount, room });
    for (const [control, value] of Object.entries(set)) bench.set(control, value);
    const rises: number[] = [];
    for (let t = 0; t < LOAD_S[family]; t += STEP_S) {
      bench.step(STEP_S, loadPercent);
      const { truth } = bench;
      rises.push(truth[node]! - truth.room!);
    }
    const last = rises.at(-1)!;
    riseK += last / MOUNTS;
    settledS += (STEP_S * (rises.findLastIndex((value) => Math.abs(value - last) > LEFT_K) + 1)) / MOUNTS;
  }
  return { riseK, settledS };
}

export interface True {
  /** b less a, K. */
  differenceK: number;
  /** What may be said of it: two where it lies at the edge of what matters. */
  calls: PracticeCall[];
  /** A load that lets both settle, s. */
  loadS: number;
}

/** So near to what matters that either may be said, K. */
const EDGE_K = 0.25;

/** What is true of an exercise with nothing wrong. @throws RangeError a channel or a set-up that the simulator does not know */
export function truthOf(family: 'drive' | 'card', drawn: Drawn): True {
  if (!isKnown(family, drawn.spot)) throw new RangeError(`the simulator does not know what ${drawn.spot} should read`);
  const [a, b] = [side(family, drawn.a, drawn), side(family, drawn.b, drawn)];
  const differenceK = b.riseK - a.riseK;
  const size = Math.abs(differenceK);
  const way: PracticeCall = differenceK < 0 ? 'cooler' : 'warmer';
  const calls: PracticeCall[] = size >= drawn.practicalK + EDGE_K ? [way] : size <= drawn.practicalK - EDGE_K ? ['alike'] : [way, 'alike'];
  return { differenceK, calls, loadS: Math.max(a.settledS, b.settledS) };
}
