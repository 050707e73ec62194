import { WATTS_STEPS } from './carry.ts';
import { AT_THE_WALL, PAD_FREE, PAD_LOCKED, SALVAGED, TIGHT_CASE } from './coolers.ts';
import { AIR_OR_LOOP, SHARED_LOOP } from './loops.ts';
import { ODD_BOARD } from './outlier.ts';
import { RETROFIT } from './retrofit.ts';
import { ARMOUR, FIVE_BOARDS, FIXES, HEAT_PATH, HOLDING_BACK, HOT_DRIVE, LAYOUT, LONG_SESSION, PASTE_ROUND } from './index.ts';
import type { StudyBody } from '@red-ember/contract';
import type { DemoRun } from './runs.ts';

/** A study with the runs that were made for it. */
export interface MeasuredStudy {
  body: StudyBody;
  runs: DemoRun[];
}

/**
 * Runs in turn, forwards and backwards, every one a mount of its own: A B B A.
 *
 * @param seed of the first run; the studies stand a hundred apart, so that no two share noise
 * @param on first day, and hours between two runs
 */
function inTurn(seed: number, body: StudyBody, repeats: number, on: string, hours: number, only?: (id: string) => boolean): DemoRun[] {
  const ids = body.variants.map((variant) => variant.id).filter((id) => only?.(id) ?? true);
  const rounds = Array.from({ length: repeats }, (_, i) => (i % 2 === 0 ? ids : [...ids].reverse()).map((id) => ({ id, mount: i + 1 })));
  return rounds.flat().map(({ id, mount }, i) => ({
    variantId: id,
    mount,
    startedAt: new Date(Date.parse(on) + i * hours * 3_600_000).toISOString(),
    seed: seed + i,
  }));
}

/** Runs of the five boards: all of them held, and on the next day all of them as they set themselves. */
const fiveBoards = ['-held', '-auto'].flatMap((pass, i) =>
  inTurn(1200 + 1600 * i, FIVE_BOARDS, 1, `2026-02-1${7 + i}T${i === 0 ? '08' : '20'}:00:00Z`, 3, (id) => id.endsWith(pass)),
);

/** The guide's runs; at its first mount of the tower the strip on the stages does not touch. */
const retrofit = inTurn(3000, RETROFIT, 2, '2026-03-01T06:00:00Z', 2).map((run, i, all): DemoRun => {
  const first = i === all.findIndex((other) => other.variantId === 'ret-10');
  return first ? { ...run, faults: ['pad-off'], leftOut: 'One strip over both rows rested on the inductors: the stages had no sink' } : run;
});

/** The first try with the pump on the wrong header comes before all others. */
const sharedLoop = [
  ...inTurn(2950, SHARED_LOOP, 1, '2026-02-28T20:00:00Z', 2, (id) => id === 'hyb-slow'),
  ...inTurn(2900, SHARED_LOOP, 2, '2026-03-01T22:00:00Z', 2, (id) => id !== 'hyb-slow'),
];

/** Everything that was measured before the crew asks for a verdict. Problems are planted where the comment says so. */
export const MEASURED: Record<string, MeasuredStudy> = {
  'demo-pastes': { body: PASTE_ROUND, runs: inTurn(1100, PASTE_ROUND, 2, '2026-02-16T08:00:00Z', 2) },
  'demo-five-boards': { body: FIVE_BOARDS, runs: fiveBoards },
  'demo-fixes': { body: FIXES, runs: inTurn(1300, FIXES, 1, '2026-02-18T08:00:00Z', 3) },
  'demo-heat-path': { body: HEAT_PATH, runs: inTurn(1400, HEAT_PATH, 2, '2026-02-19T08:00:00Z', 2) },
  'demo-holding-back': { body: HOLDING_BACK, runs: inTurn(1500, HOLDING_BACK, 2, '2026-02-19T18:00:00Z', 2) },
  'demo-hot-drive': { body: HOT_DRIVE, runs: inTurn(1600, HOT_DRIVE, 2, '2026-02-20T08:00:00Z', 2) },
  'demo-armour': { body: ARMOUR, runs: inTurn(1700, ARMOUR, 1, '2026-02-21T06:00:00Z', 3) },
  // One run each, and nobody wrote the room down.
  'demo-layout': { body: LAYOUT, runs: inTurn(1800, LAYOUT, 1, '2026-02-22T08:00:00Z', 2).map((run) => ({ ...run, roomLost: true })) },
  'demo-long-session': { body: LONG_SESSION, runs: inTurn(1900, LONG_SESSION, 1, '2026-02-23T08:00:00Z', 2) },
  // The fans were left free: what a better interface gains goes into them.
  'demo-pad-free': { body: PAD_FREE, runs: inTurn(2000, PAD_FREE, 2, '2026-02-24T06:00:00Z', 2) },
  'demo-pad-locked': { body: PAD_LOCKED, runs: inTurn(2100, PAD_LOCKED, 3, '2026-02-24T20:00:00Z', 2) },
  // A slow processor starves the card of one side: it looks cool.
  'demo-tight-case': { body: TIGHT_CASE, runs: inTurn(2200, TIGHT_CASE, 2, '2026-02-25T14:00:00Z', 3) },
  'demo-wall': { body: AT_THE_WALL, runs: inTurn(2300, AT_THE_WALL, 2, '2026-02-26T08:00:00Z', 3) },
  'demo-salvaged': { body: SALVAGED, runs: inTurn(2400, SALVAGED, 2, '2026-02-26T16:00:00Z', 2) },
  'demo-loop': { body: AIR_OR_LOOP, runs: inTurn(2500, AIR_OR_LOOP, 2, '2026-02-27T08:00:00Z', 2) },
  'demo-shared-loop': { body: SHARED_LOOP, runs: sharedLoop },
  'demo-retrofit': { body: RETROFIT, runs: retrofit },
  'demo-watts-steps': { body: WATTS_STEPS, runs: inTurn(2600, WATTS_STEPS, 1, '2026-02-27T16:00:00Z', 5) },
  // Serial 07 runs with its fan at a fifth, which its firmware does.
  'demo-odd-board': { body: ODD_BOARD, runs: inTurn(2700, ODD_BOARD, 1, '2026-02-28T06:00:00Z', 3) },
};
