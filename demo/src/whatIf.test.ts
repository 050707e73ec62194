import { expect, it } from 'vitest';
import { AS_IT_RAN, fitResponse, foretell, foretoldUnseen, type RecipePhase, type ResponseRecord, type WhatIf } from '@red-ember/core';
import { simulateRun } from './simulateRun.ts';

type Family = 'drive' | 'card' | 'regulator';
const phase = (kind: 'idle-soak' | 'load', minutes: number, loadPercent: number, set: RecipePhase['set'] = []): RecipePhase =>
  ({ kind, name: kind, mode: 'fixed', durationS: 60 * minutes, capS: 60 * minutes, loadPercent, set }) as RecipePhase;

interface Bench {
  family: Family;
  setup: string;
  spot: string;
  /** Held in every phase, so that nothing but what is asked for differs. */
  set?: RecipePhase['set'];
  loadMin: number;
}

/** One run of a simulated bench as a record, and what it came to over the end of its load. */
function ran(
  bench: Bench,
  {
    seed,
    mountSeed = 5,
    roomC = 22,
    load = 100,
    set = [],
  }: { seed: number; mountSeed?: number; roomC?: number; load?: number; set?: RecipePhase['set'] },
) {
  const held = [...(bench.set ?? []), ...(set ?? [])];
  const run = simulateRun(
    { setup: bench.setup, seed, mountSeed, room: { startC: roomC, driftKPerH: 0.2, wanderK: 0.1 } },
    [phase('idle-soak', 12, 0, held), phase('load', bench.loadMin, load)],
    { spots: [bench.spot], family: bench.family },
  );
  const t = Float64Array.from(run.tMs, (ms) => ms / 1000);
  const series = (key: string) => ({ t, y: Float64Array.from(run.values[key]!) });
  const record: ResponseRecord = {
    id: String(seed),
    spot: series(bench.spot),
    air: series('room'),
    power: series('power'),
    fan: run.values.fan ? series('fan') : null,
  };
  const end = (key: string) => {
    const tail = run.values[key]!.slice(-60).filter((value) => !Number.isNaN(value));
    return tail.reduce((sum, value) => sum + value, 0) / tail.length;
  };
  return { record, endC: end(bench.spot), roomC: end('room'), powerW: end('power'), rpm: run.values.fan ? end('fan') : null };
}

const fixed = (duty: number): RecipePhase['set'] => [
  { control: 'fan-mode', value: 'locked' },
  { control: 'fan-duty', value: duty },
];
const CARD: Bench = { family: 'card', setup: 'open-case', spot: 'die', set: fixed(60), loadMin: 50 };
const DRIVE: Bench = { family: 'drive', setup: 'slot-lid', spot: 'tc1', loadMin: 45 };
const BOARD: Bench = { family: 'regulator', setup: 'b2-step-1', spot: 'tc3', loadMin: 120 };

const CASES: [
  string,
  Bench,
  Parameters<typeof ran>[1][],
  Parameters<typeof ran>[1],
  (truth: ReturnType<typeof ran>, rpm: number | null) => Partial<WhatIf>,
][] = [
  [
    'warmer air at the card',
    CARD,
    [1, 2, 3].map((seed) => ({ seed })),
    { seed: 9, roomC: 32 },
    ({ roomC, powerW }) => ({ airC: roomC, powerW }),
  ],
  [
    'less power for the card',
    CARD,
    [1, 2, 3].map((seed) => ({ seed })),
    { seed: 9, set: [{ control: 'power-limit', value: 160 }] },
    ({ roomC, powerW }) => ({ airC: roomC, powerW }),
  ],
  [
    'a faster fan than two speeds that were tried',
    CARD,
    [1, 2, 3].map((seed) => ({ seed, set: fixed(seed === 1 ? 45 : 60) })),
    { seed: 9, set: fixed(80) },
    ({ roomC, powerW, rpm }, at) => ({ airC: roomC, powerW, fanShare: rpm! / at! }),
  ],
  [
    'a faster fan, none tried',
    CARD,
    [1, 2, 3].map((seed) => ({ seed })),
    { seed: 9, set: fixed(80) },
    ({ roomC, powerW, rpm }, at) => ({ airC: roomC, powerW, fanShare: rpm! / at! }),
  ],
  [
    'warmer air at the drive',
    DRIVE,
    [1, 2, 3].map((seed) => ({ seed })),
    { seed: 9, roomC: 31 },
    ({ roomC, powerW }) => ({ airC: roomC, powerW }),
  ],
  [
    'more power for the board',
    BOARD,
    [1, 2, 3].map((seed) => ({ seed, set: [{ control: 'power-cap', value: seed === 1 ? 80 : 110 }] })),
    { seed: 9, set: [{ control: 'power-cap', value: 135 }] },
    ({ roomC, powerW }) => ({ airC: roomC, powerW }),
  ],
];
it.each(CASES)(
  'foretells what the bench does: %s',
  (_, bench, seen, other, asked) => {
    const fit = fitResponse(seen.map((one) => ran(bench, one).record))!;
    const truth = ran(bench, other);
    const told = foretell(fit, { ...AS_IT_RAN, ...asked(truth, fit.fan?.atRpm ?? null) });
    expect(Math.abs(told.settledC.value - truth.endC)).toBeLessThan(told.plusMinusK);
    // A band that holds everything says nothing.
    expect(told.plusMinusK).toBeLessThan(told.footing === 'guessed' ? 10 : 4.5);
  },
  120_000,
);

it('foretells runs of other mounts that it has not seen, within its band, on all three benches', () => {
  const unseen = [CARD, DRIVE, BOARD].flatMap((bench) =>
    foretoldUnseen([11, 12, 13, 14].map((seed) => ran(bench, { seed, mountSeed: seed }).record)),
  );
  expect(unseen).toHaveLength(12);
  expect(unseen.filter(({ offK, bandK }) => Math.abs(offK) < bandK).length).toBeGreaterThanOrEqual(11);
  expect(unseen.reduce((sum, { within }) => sum + within, 0) / 12).toBeGreaterThan(0.9);
}, 120_000);
