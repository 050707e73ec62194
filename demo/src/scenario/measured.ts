import { WATTS_STEPS } from './carry.ts';
import { AIR_OR_LOOP, AT_THE_WALL, PAD_FREE, PAD_LOCKED, SALVAGED, TIGHT_CASE } from './coolers.ts';
import { ODD_BOARD } from './outlier.ts';
import { ARMOUR, FIVE_BOARDS, FIXES, HEAT_PATH, HOLDING_BACK, HOT_DRIVE, LAYOUT, LONG_SESSION, PASTE_ROUND } from './index.ts';
import type { StudyBody } from '@red-ember/contract';
import type { DemoRun } from './runs.ts';

/** A study with the runs that were made for it. */
export interface MeasuredStudy {
  body: StudyBody;
  runs: DemoRun[];
}

/** Seeds of a study's runs start here, so that no two studies share noise. */
let nextSeed = 1000;

/**
 * Runs in turn, forwards and backwards, every one a mount of its own: A B B A.
 *
 * @param on first day, and hours between two runs
 */
function inTurn(body: StudyBody, repeats: number, on: string, hours: number, only?: (id: string) => boolean): DemoRun[] {
  const ids = body.variants.map((variant) => variant.id).filter((id) => only?.(id) ?? true);
  const rounds = Array.from({ length: repeats }, (_, i) => (i % 2 === 0 ? ids : [...ids].reverse()).map((id) => ({ id, mount: i + 1 })));
  const seed = (nextSeed += 100);
  return rounds.flat().map(({ id, mount }, i) => ({
    variantId: id,
    mount,
    startedAt: new Date(Date.parse(on) + i * hours * 3_600_000).toISOString(),
    seed: seed + i,
  }));
}

const notAutomatic = (id: string) => !id.endsWith('-auto');

/** Everything that was measured before the crew asks for a verdict. Problems are planted where the comment says so. */
export const MEASURED: Record<string, MeasuredStudy> = {
  'demo-pastes': { body: PASTE_ROUND, runs: inTurn(PASTE_ROUND, 2, '2026-02-16T08:00:00Z', 2) },
  'demo-five-boards': { body: FIVE_BOARDS, runs: inTurn(FIVE_BOARDS, 1, '2026-02-17T08:00:00Z', 3, notAutomatic) },
  'demo-fixes': { body: FIXES, runs: inTurn(FIXES, 1, '2026-02-18T08:00:00Z', 3) },
  'demo-heat-path': { body: HEAT_PATH, runs: inTurn(HEAT_PATH, 2, '2026-02-19T08:00:00Z', 2) },
  'demo-holding-back': { body: HOLDING_BACK, runs: inTurn(HOLDING_BACK, 2, '2026-02-19T18:00:00Z', 2) },
  'demo-hot-drive': { body: HOT_DRIVE, runs: inTurn(HOT_DRIVE, 2, '2026-02-20T08:00:00Z', 2) },
  'demo-armour': { body: ARMOUR, runs: inTurn(ARMOUR, 1, '2026-02-21T06:00:00Z', 3) },
  // One run each, and nobody wrote the room down.
  'demo-layout': { body: LAYOUT, runs: inTurn(LAYOUT, 1, '2026-02-22T08:00:00Z', 2).map((run) => ({ ...run, roomLost: true })) },
  'demo-long-session': { body: LONG_SESSION, runs: inTurn(LONG_SESSION, 1, '2026-02-23T08:00:00Z', 2) },
  // The fans were left free: what a better interface gains goes into them.
  'demo-pad-free': { body: PAD_FREE, runs: inTurn(PAD_FREE, 2, '2026-02-24T06:00:00Z', 2) },
  'demo-pad-locked': { body: PAD_LOCKED, runs: inTurn(PAD_LOCKED, 3, '2026-02-24T20:00:00Z', 2) },
  // A slow processor starves the card of one side: it looks cool.
  'demo-tight-case': { body: TIGHT_CASE, runs: inTurn(TIGHT_CASE, 2, '2026-02-25T14:00:00Z', 3) },
  'demo-wall': { body: AT_THE_WALL, runs: inTurn(AT_THE_WALL, 2, '2026-02-26T08:00:00Z', 3) },
  'demo-salvaged': { body: SALVAGED, runs: inTurn(SALVAGED, 2, '2026-02-26T16:00:00Z', 2) },
  'demo-loop': { body: AIR_OR_LOOP, runs: inTurn(AIR_OR_LOOP, 2, '2026-02-27T08:00:00Z', 2) },
  'demo-watts-steps': { body: WATTS_STEPS, runs: inTurn(WATTS_STEPS, 1, '2026-02-27T16:00:00Z', 5) },
  // Serial 07 runs with its fan at a fifth, which its firmware does.
  'demo-odd-board': { body: ODD_BOARD, runs: inTurn(ODD_BOARD, 1, '2026-02-28T06:00:00Z', 3) },
};
