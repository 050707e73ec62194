import { describe, expect, it } from 'vitest';
import { check, StudyBody, TRAPS, type HandInBody } from '@red-ember/contract';
import { FAULTS, SIMULATED } from '@red-ember/rig';
import { draw, drawOf, EXERCISES, mark, plantedIn, plantedWords, TRAP_WORDS, truthOf, type Drawn } from './index.ts';

const SEEDS = [1, 2, 3, 4, 5, 6];

describe('exercises', () => {
  it('are a dozen and one, from easy to hard, each a study that a bench keeps and can run', () => {
    expect(EXERCISES).toHaveLength(13);
    expect(new Set(EXERCISES.map(({ key }) => key)).size).toBe(13);
    for (const level of [1, 2, 3]) expect(EXERCISES.filter((exercise) => exercise.level === level).length).toBeGreaterThanOrEqual(4);
    for (const exercise of EXERCISES) {
      const setups = new Set(SIMULATED[exercise.family].setups.map(({ key }) => key));
      const channels = new Set(SIMULATED[exercise.family].channels.map(({ key }) => key));
      for (const seed of SEEDS) {
        const { body, drawn } = draw(exercise, seed);
        const found = check(StudyBody, body);
        expect([exercise.key, found.ok ? [] : found.problems]).toEqual([exercise.key, []]);
        for (const { setup } of body.variants) expect(setups).toContain(setup);
        for (const thing of [drawn.a, drawn.b]) if (thing.trueSetup) expect(setups).toContain(thing.trueSetup);
        for (const { channel } of body.spots) expect(channels).toContain(channel);
        for (const { channel } of body.locks) if (channel) expect(channels).toContain(channel);
      }
    }
  });

  it('come out of their seed: the same twice, and several of each', () => {
    for (const exercise of EXERCISES) {
      const tries = SEEDS.map((seed) => JSON.stringify(draw(exercise, seed)));
      expect(tries).toEqual(SEEDS.map((seed) => JSON.stringify(draw(exercise, seed))));
      if (exercise.turns || exercise.pairs.length > 1) expect([exercise.key, new Set(tries).size > 1]).toEqual([exercise.key, true]);
    }
  });

  it('give nothing away in what a learner reads before he hands in', () => {
    for (const exercise of EXERCISES) {
      const { body } = draw(exercise, 3);
      const text = JSON.stringify(body).toLowerCase();
      for (const word of ['film', 'swapped', 'wrong', 'fault', 'planted', 'starved', 'pad-off', 'drift']) expect([exercise.key, word, text.includes(word)]).toEqual([exercise.key, word, false]); // prettier-ignore
    }
  });

  it('know of every trap what to call it, what plants it and where it is seen', () => {
    for (const key of TRAPS) {
      const { label, faults, seen } = TRAP_WORDS[key];
      expect(label.length).toBeGreaterThan(10);
      expect(seen.length).toBeGreaterThan(20);
      for (const fault of faults) expect(FAULTS[fault]).toBeTruthy();
    }
    // Every trap of an exercise is planted by something: faults, or the study itself.
    for (const { key, trap, plant } of EXERCISES)
      if (trap && TRAP_WORDS[trap].faults.length > 0) expect([key, plant !== null]).toEqual([key, true]);
  });
});

/** What a hand reads off that takes what it sees for what is: mean of the last minutes of one run a side, b less a, K. */
function naive(family: 'drive' | 'card', drawn: Drawn, loads: readonly [seconds: number, percent: number][], absolute = false): number {
  const read = (side: 'a' | 'b', seed: number) => {
    const mount = drawn.mounts[0] ?? 1;
    const bench = SIMULATED[family].begin({ setup: drawn[side].setup, seed, mountSeed: 50 + seed, faults: plantedIn(drawn, side, mount) });
    for (const [control, value] of Object.entries(drawn.set)) bench.set(control, value);
    const shown: number[] = [];
    for (const [i, [loadS, percent]] of loads.entries())
      for (let t = 0; t < loadS; t += 5) {
        const now = bench.step(5, percent);
        const spot = now[drawn.spot];
        if (spot != null && i === loads.length - 1 && t > loadS - 300) shown.push(spot - (absolute ? 0 : now.room!));
      }
    return shown.reduce((sum, value) => sum + value, 0) / shown.length;
  };
  return read('b', 12) - read('a', 11);
}

describe('traps', () => {
  it.each(['cover', 'interface', 'little-fan', 'heavy', 'falling', 'second-machine', 'locked', 'warm-room', 'uneven', 'slow-fan'])(
    '%s: whoever takes what he sees for what is reads another difference',
    (key) => {
      const exercise = EXERCISES.find((candidate) => candidate.key === key)!;
      const { drawn, body } = draw(exercise, 4);
      const loads = body.recipe.filter(({ kind }) => kind === 'load');
      const asRun = loads.map(({ mode, durationS, loadPercent }): [number, number] => [mode === 'fixed' ? durationS : 3600, loadPercent]);
      const truth = truthOf(exercise.family, drawn);
      const seen = naive(exercise.family, drawn, asRun, body.rules.basis === 'as-found');
      expect(Math.abs(seen - truth.differenceK)).toBeGreaterThan(exercise.practicalK);
    },
    30_000,
  );

  it('leave the other mounts alone', () => {
    const { drawn } = draw(
      EXERCISES.find(({ key }) => key === 'cover')!,
      2,
    );
    expect(plantedIn(drawn, 'b', 1)).toEqual(['film-left-on']);
    expect(plantedIn(drawn, 'b', 2)).toEqual([]);
    expect(plantedIn(drawn, 'a', 1)).toEqual([]);
    expect(plantedWords(drawn)).toEqual([`The film was left on a pad: on mount 1 of ${drawn.b.name}.`]);
  });

  it('of a heavy slab turn the result round, and two good pastes are alike', () => {
    const heavy = draw(
      EXERCISES.find(({ key }) => key === 'heavy')!,
      1,
    ).drawn;
    const slab = heavy.b.name === 'thick slab';
    expect(truthOf('drive', heavy).calls).toEqual([slab ? 'warmer' : 'cooler']);
    for (const seed of SEEDS)
      expect(
        truthOf(
          'card',
          draw(
            EXERCISES.find(({ key }) => key === 'alike')!,
            seed,
          ).drawn,
        ).calls,
      ).toEqual(['alike']);
  }, 30_000);

  it('of one’s own study are drawn by seed, and are sometimes none', () => {
    const pair = [{ name: 'bare', setup: '4t-bare' }, { name: 'comb', setup: '4t-comb-sink' }] as const; // prettier-ignore
    const drawn = Array.from({ length: 40 }, (_, seed) => drawOf('drive', pair, 'tc1', 1, seed + 1));
    expect(drawn.filter(({ trap }) => trap === null).length).toBeGreaterThan(1);
    expect(new Set(drawn.map(({ trap }) => trap)).size).toBeGreaterThan(4);
    expect(plantedWords(drawn.find(({ trap }) => trap === null)!)).toEqual(['Nothing was wrong with the bench.']);
  });
});

describe('marks', () => {
  const { drawn } = draw(EXERCISES[0]!, 1);
  const truth = { differenceK: -15, calls: ['cooler' as const], loadS: 3000 };
  const work = { runsS: [3600, 3600], handsMin: [15, null], skippedSteps: 0, hints: 1 };
  const given = (change: Partial<HandInBody>) =>
    mark({ call: 'cooler', differenceK: -14, plusMinusK: 1.5, found: ['film-left'], sentence: '', ...change }, drawn, truth, work);

  it('say what was right, what was missed and what was imagined', () => {
    expect(given({})).toEqual({ call: 'right', figure: 'holds', found: ['film-left'], missed: [], imagined: [], skippedSteps: 0, hints: 1, hours: 2.5, goodHours: 5 }); // prettier-ignore
    expect(given({ call: 'warmer' }).call).toBe('wrong');
    expect(given({ call: 'alike' }).call).toBe('wrong');
    expect(given({ call: 'cannot', found: [] })).toMatchObject({ call: 'held-back', missed: ['film-left'] });
    expect(given({ found: ['wrong-plug'] })).toMatchObject({ found: [], missed: ['film-left'], imagined: ['wrong-plug'] });
  });

  it('hold a difference against its own doubt', () => {
    expect(given({ plusMinusK: 0.5 }).figure).toBe('misses');
    expect(given({ differenceK: -15.1, plusMinusK: null }).figure).toBe('holds');
    expect(given({ plusMinusK: 40 }).figure).toBe('too-wide');
    expect(given({ differenceK: null, plusMinusK: null }).figure).toBeNull();
  });
});
