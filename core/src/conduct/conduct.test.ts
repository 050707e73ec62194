import { describe, expect, it } from 'vitest';
import {
  READ_WITHIN_K,
  settlingNow,
  settlingTrace,
  waitedEnough,
  CutOutWatch,
  marksDue,
  phaseEnd,
  phaseInWords,
  phasesOf,
  recipeLengthS,
  type PlannedPhase,
  type RecipePhase,
} from '../index.ts';
import { approach, madeTrace } from '@red-ember/testing/signals';

const load: RecipePhase = { kind: 'load', name: 'Load', mode: 'until-settled', durationS: 600, capS: 3600, loadPercent: 100 };
const soak: RecipePhase = { kind: 'idle-soak', name: 'Idle', mode: 'fixed', durationS: 480, capS: 480, loadPercent: 0 };

describe('phaseEnd', () => {
  const room = madeTrace({ n: 4000, f: () => 22, sd: 0.05, phi: 0.8, seed: 3 });
  const warm = madeTrace({
    n: 4000,
    f: approach(70, 22, [
      [0.6, 30],
      [0.4, 250],
    ]),
    sd: 0.1,
    phi: 0.8,
    seed: 4,
  });

  it('ends a fixed phase by its time alone', () => {
    expect(phaseEnd(soak, 100, 579, [warm], room)).toBeNull();
    expect(phaseEnd(soak, 100, 580, [warm], room)).toBe('time');
  });

  it('waits for the slow term, then ends as settled', () => {
    expect(phaseEnd(load, 0, 700, [warm], room)).toBeNull();
    expect(phaseEnd(load, 0, 2700, [warm], room)).toBe('settled');
  });

  it('never ends a pause by itself: the load comes back by a hand alone', () => {
    expect(phaseEnd({ ...soak, kind: 'pause' }, 0, 1e6, [], null)).toBeNull();
  });

  it('waits for every spot, not before the least length, not after the cap', () => {
    const slow = madeTrace({ n: 4000, f: approach(60, 22, [[1, 900]]), sd: 0.1, seed: 5 });
    const flat = madeTrace({ n: 4000, f: () => 30, sd: 0.05, seed: 6 });
    expect(phaseEnd(load, 0, 2000, [warm, slow], room)).toBeNull();
    expect(phaseEnd(load, 0, 599, [flat], room)).toBeNull();
    expect(phaseEnd(load, 0, 1500, [flat], room)).toBe('settled');
    expect(phaseEnd(load, 0, 3600, [slow], room)).toBe('cap');
  });

  it('ends as soon as it is known where every spot settles, where it waits for that', () => {
    const slow = madeTrace({ n: 4000, f: approach(60, 22, [[0.7, 60], [0.3, 900]]), sd: 0.05, seed: 5 }); // prettier-ignore
    const read = { ...load, mode: 'until-read' as const };
    const endOf = (phase: typeof read | typeof load, spots: (typeof warm)[]) => {
      for (let s = 600; s < 3600; s += 60) if (phaseEnd(phase, 0, s, spots, room)) return { s, by: phaseEnd(phase, 0, s, spots, room) };
      return { s: 3600, by: 'cap' };
    };
    const [soon, late] = [endOf(read, [slow]), endOf(load, [slow])];
    expect([soon.by, late.by]).toEqual(['read', 'settled']);
    expect(soon.s).toBeLessThan(0.7 * late.s);
    // What is still to come then is known as well as it is said.
    const upTo = (s: number) => settlingNow(settlingTrace({ t: slow.t.subarray(0, s), y: slow.y.subarray(0, s) }, room))!;
    const toCome = 38 * 0.3 * Math.exp(-soon.s / 900);
    expect(Math.abs(upTo(soon.s).remains!.likely.value - toCome)).toBeLessThan(READ_WITHIN_K);
    expect(waitedEnough('until-read', upTo(soon.s))).toBe(true);
    expect(waitedEnough('until-settled', upTo(soon.s))).toBe(false);
    expect(waitedEnough('until-read', { settled: false, remains: null })).toBe(false);
    expect(endOf(read, [slow, madeTrace({ n: 4000, f: (s) => 30 + s / 200, sd: 0.05, seed: 6 })]).by).toBe('cap');
  });

  it('is not fooled by a room that drifts with the part, nor held up by a spike', () => {
    const drifting = madeTrace({ n: 4000, f: (t) => 22 + t / 400, sd: 0.05, phi: 0.8, seed: 7 });
    const onIt = { t: warm.t, y: warm.y.map((value, i) => value + i / 400) };
    expect(phaseEnd(load, 0, 2700, [onIt], drifting)).toBe('settled');
    expect(phaseEnd(load, 0, 2700, [onIt], null)).toBeNull();
    const spiked = { t: warm.t, y: warm.y.slice() };
    spiked.y[2650] = 95;
    expect(phaseEnd(load, 0, 2700, [spiked], room)).toBe('settled');
  });
});

describe('recipeLengthS', () => {
  it('adds least and most', () => {
    expect(recipeLengthS([soak, load])).toEqual({ leastS: 1080, mostS: 4080 });
  });
});

describe('CutOutWatch', () => {
  const armed = [{ channel: 'tc1', name: 'Controller', limitC: 98, holdS: 5 }];
  it('trips only after the limit was exceeded without a break for its hold time', () => {
    const watch = new CutOutWatch(armed);
    for (let t = 0; t < 5; t++) expect(watch.feed('tc1', t, 99)).toBeNull();
    expect(watch.feed('tc1', 5, 98)).toBeNull(); // exactly at the limit is not above it
    for (let t = 6; t < 11; t++) expect(watch.feed('tc1', t, 99)).toBeNull();
    expect(watch.feed('tc1', 11, 99)).toMatchObject({
      atS: 11,
      channel: 'tc1',
      reason: 'Controller was above its cut-out of 98 °C for 5 s',
    });
    expect(watch.tripped).not.toBeNull();
    expect(watch.feed('tc1', 12, 120)).toBeNull(); // once is enough
  });
  it('neither trips nor clears on a missing value, and ignores other channels', () => {
    const watch = new CutOutWatch(armed);
    watch.feed('tc1', 0, 99);
    watch.feed('tc1', 3, NaN);
    expect(watch.feed('tc2', 4, 300)).toBeNull();
    expect(watch.feed('tc1', 5, 99)).not.toBeNull();
  });
  it('refuses limits that are no numbers', () => {
    expect(() => new CutOutWatch([{ ...armed[0]!, limitC: NaN }])).toThrow(RangeError);
    expect(() => new CutOutWatch([{ ...armed[0]!, holdS: -1 }])).toThrow(RangeError);
  });
});

describe('what a recipe comes to', () => {
  const sweep: PlannedPhase = {
    ...load,
    kind: 'sweep',
    name: 'Sweep',
    mode: 'fixed',
    durationS: 600,
    capS: 600,
    loadPercent: 40,
    toPercent: 100,
    steps: 4,
  };
  const change: PlannedPhase = { ...load, kind: 'change', name: 'Vent blocked', opensWith: 'Block the vent', marksMin: [10, 5] };

  it('makes a load phase of every step of a sweep, up or down, and counts their time', () => {
    expect(phasesOf([soak, sweep]).map(({ kind, name, loadPercent }) => [kind, name, loadPercent])).toEqual([
      ['idle-soak', 'Idle', 0],
      ['load', 'Sweep, 40 %', 40],
      ['load', 'Sweep, 60 %', 60],
      ['load', 'Sweep, 80 %', 80],
      ['load', 'Sweep, 100 %', 100],
    ]);
    expect(phasesOf([{ ...sweep, loadPercent: 100, toPercent: 0, steps: 3 }]).map((phase) => phase.loadPercent)).toEqual([100, 50, 0]);
    expect(recipeLengthS([soak, sweep])).toEqual({ leastS: 480 + 2400, mostS: 480 + 2400 });
  });

  it('opens a change with what is done by hand, and puts its marks in order', () => {
    expect(phasesOf([change])[0]).toMatchObject({ kind: 'load', opensWith: 'Block the vent', marksMin: [5, 10] });
    expect(phasesOf([{ ...change, opensWith: undefined! }])[0]!.opensWith).toBe('Vent blocked');
    expect(phasesOf([soak])[0]).toEqual(soak);
  });

  it('refuses a sweep that does not go anywhere', () => {
    expect(() => phasesOf([{ ...sweep, steps: 1 }])).toThrow('two steps or more');
    const { toPercent: _to, ...endless } = sweep;
    expect(() => phasesOf([endless])).toThrow(RangeError);
  });

  it('is due at a mark once, also where samples come in lumps', () => {
    const phase = { marksMin: [0, 5, 10] };
    expect(marksDue(phase, 100, 99, 100)).toEqual([0]);
    expect(marksDue(phase, 100, 100, 399)).toEqual([]);
    expect(marksDue(phase, 100, 399, 2000)).toEqual([5, 10]);
    expect(marksDue({}, 100, 0, 2000)).toEqual([]);
  });

  it('reads as a sentence', () => {
    expect(phaseInWords(sweep)).toBe('Sweep, 4 steps from 40 to 100 %, each 10 min');
    expect(phaseInWords(change)).toBe(
      'Vent blocked (Block the vent), until settled, 10 min to 60 min at 100 %, read by hand at minute 10, 5',
    );
  });
});
