import { describe, expect, it } from 'vitest';
import { judgePair, pooledRepeatability, figureOf, type JudgeRules, type PairJudgement } from '@red-ember/core';
import { simulatedSide, trueRises, type Compared } from './truth.ts';

const SEEDS = 20;
const card = (study: string, a: string, b: string, channels: string[], change: Partial<Compared> = {}): Compared => ({
  study,
  family: 'card',
  a,
  b,
  channels,
  loadS: 2400,
  stepS: 5,
  ...change,
});
const board = (study: string, a: string, b: string, change: Partial<Compared> = {}): Compared => ({
  study,
  family: 'regulator',
  a,
  b,
  channels: ['tc1', 'tc3'],
  loadS: 5400,
  stepS: 15,
  ...change,
});

/** Every demo study whose verdict is a temperature, with a pair that it turns on. */
const STUDIES: Compared[] = [
  { study: 'slot lid', family: 'drive', a: 'bare', b: 'slot-lid', channels: ['tc1', 'tc2', 'tc3'], loadS: 1800, stepS: 5 },
  card('pastes', 'paste-K', 'paste-Q', ['die', 'mem']),
  card('pastes, the bad one', 'paste-K', 'paste-Z', ['die', 'mem']),
  card('pad, fans free', 'stock-paste-auto', 'graphite-sheet-auto', ['die', 'mem']),
  card('pad, fans locked', 'stock-paste', 'graphite-sheet', ['die', 'mem']),
  card('holding back', 'open-auto', 'open-full', ['die', 'mem', 'stages']),
  card('loop', 'open-auto', 'loop', ['die', 'mem', 'stages']),
  card('salvaged', 'open-full', 'strap-on', ['die', 'mem', 'stages']),
  card('shared loop', 'open-auto', 'shared-loop', ['die', 'mem', 'processor']),
  card('shared loop, pump on the wrong header', 'shared-loop', 'shared-loop-slow-pump', ['die', 'mem']),
  card('retrofit, tuned', 'open-auto-tuned', 'tower-tuned', ['die', 'mem', 'stages']),
  card('salvaged, tower', 'open-full', 'tower', ['die', 'mem', 'stages']),
  card('heat path', 'open-case-locked', 'flow-case-locked', ['processor', 'die']),
  card('layout', 'upright-front', 'upright-top', ['die', 'mem']),
  card('against the wall', 'flow-wall-locked', 'flow-wall-locked', ['die', 'processor'], {
    set: { 'core-voltage': 980, 'fan2-duty': 80 },
    setB: { 'case-fans': 90 },
  }),
  card('long session', 'open-case', 'open-case', ['die', 'mem'], { setB: { 'side-panel': 'off' } }),
  board('five boards', 'ferry-b2-held', 'quarry-c3-held'),
  board('odd board', 'quarry-c3-held', 'c3-slow'),
  board('armour', 'b4-none-tower', 'b4-none-downward'),
  board('watts', 'b2-still', 'b2-fan', { set: { 'power-cap': 62 } }),
];

const rules: JudgeRules = { basis: 'rise', figure: 'settled-mean', practicalK: 1, coverage: 0.95, roomBand: null };
const spotsOf = (compared: Compared) =>
  compared.channels.map((id) => ({
    id,
    name: id,
    limitC: 110,
    placementK: 0.5,
    accuracyK: 1,
    resolutionK: ['die', 'mem', 'processor'].includes(id) ? 1 : 0.1,
  }));

/** Verdicts of one study over all seeds, two runs a side, with the bench's own history as the product pools it. */
function verdicts(compared: Compared): PairJudgement[] {
  const sides = Array.from({ length: SEEDS }, (_, seed) => ({
    a: simulatedSide(compared, 'a', 2, seed + 1),
    b: simulatedSide(compared, 'b', 2, seed + 1),
  }));
  return sides.map(({ a, b }, i) => {
    // What other days came to is history; this day's own runs are not.
    const others = sides.filter((_, j) => j !== i && j < 6);
    const history = Object.fromEntries(
      compared.channels.map((channel) => [
        channel,
        pooledRepeatability(
          others.flatMap((day) => [day.a, day.b].map((side) => side.runs.flatMap((run) => figureOf(run, channel, rules)?.value ?? []))),
        )!,
      ]),
    );
    return judgePair({ a, b, spots: spotsOf(compared), rules, history });
  });
}

describe('verdicts against what the simulator knows, over twenty seeds a study', () => {
  let [held, of, wrong] = [0, 0, 0];

  it.each(STUDIES.map((compared) => [compared.study, compared] as const))(
    '%s: the right winner, and the interval holds the truth',
    (_, compared) => {
      const [a, b] = [trueRises(compared, 'a'), trueRises(compared, 'b')];
      let [own, wrongHere] = [0, 0];
      let all = 0;
      for (const judgement of verdicts(compared))
        for (const spot of judgement.spots) {
          if (!spot.comparison) continue;
          const truth = b[spot.spotId]! - a[spot.spotId]!;
          const { interval, verdict } = spot.comparison;
          all++;
          if (interval[0] <= truth && truth <= interval[1]) own++;
          // A winner is named the wrong way round no more often than intervals of 95 % may miss; all studies together are counted below.
          const astray = (verdict === 'a-cooler' && truth < -0.3) || (verdict === 'b-cooler' && truth > 0.3);
          if (astray) wrongHere++;
          if (verdict === 'equivalent') expect(Math.abs(truth), `${compared.study}, ${spot.spotId}`).toBeLessThan(1.3);
        }
      expect(wrongHere).toBeLessThanOrEqual(1);
      wrong += wrongHere;
      expect(all).toBeGreaterThanOrEqual(SEEDS);
      expect(own / all).toBeGreaterThan(0.85);
      held += own;
      of += all;
    },
    240_000,
  );

  it('holds the truth in 90 to 99 of a hundred intervals, all studies together', () => {
    expect(of).toBeGreaterThan(500);
    expect(held / of).toBeGreaterThan(0.9);
    expect(held / of).toBeLessThan(0.99);
    expect(wrong / of).toBeLessThanOrEqual(0.005);
  });

  it('tight case: a starved card is never called cooler, it is blocked', () => {
    const compared = card('tight case', 'open-case-locked', 'starved-locked', ['die']);
    for (const judgement of verdicts(compared)) expect(judgement.blockedBy.map((finding) => finding.check)).toContain('work');
  }, 240_000);

  it.each([
    { study: 'hot drive', family: 'drive', a: '4t-hot-bare', b: '4t-hot-comb-sink', channels: ['tc1'], loadS: 1200, stepS: 2 },
    { study: 'fixes', family: 'regulator', a: 'b2-step-0', b: 'b2-step-3', channels: ['stage3'], loadS: 4200, stepS: 10 },
  ] satisfies Compared[])(
    '$study: temperatures that the part held decide nothing, the time to throttle does',
    (compared) => {
      for (const judgement of verdicts(compared)) {
        // A probe that sits off may hide that the board was at its limit; the wrong side is named by nothing.
        expect(judgement.cooling.rows[0]!.better).not.toBe('a');
        if (compared.family === 'drive') expect(judgement.cooling.rows[0]!.freedom).toBe('held-by-part');
        expect(judgement.cooling.rows.find((row) => row.outcome === 'time-to-throttle')!.better).toBe('b');
      }
    },
    240_000,
  );
});
