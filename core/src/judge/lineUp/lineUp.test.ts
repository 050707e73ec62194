import { describe, expect, it } from 'vitest';
import {
  eachOutput,
  departures,
  factorView,
  lineUp,
  holm,
  InsufficientDataError,
  judgeRetest,
  ladderSteps,
  loadsAsSides,
  rankLineUp,
  retestsByHand,
  suspects,
  unrecorded,
  type LineUp,
  type JudgedRun,
  type JudgedSide,
} from '../../index.ts';
import { reading } from '@red-ember/testing';
import { rules, run, spots, throttledFrom } from '@red-ember/testing/judged';

type Change = Parameters<typeof run>[2];
const history = { top: { sd: 0.3, dof: 20 }, under: { sd: 0.3, dof: 20 } };

function side(name: string, tops: number[], change: Change = {}, levels: Record<string, string> = {}): JudgedSide {
  return { variantId: name, name, subject: 'card', levels, runs: tops.map((top) => run(top, top - 5, change)) };
}
const field = (sides: JudgedSide[], known: LineUp['history'] = history) => lineUp(sides, spots, rules, known);
const top = { spotId: 'top' };

const throttledAfter = (minutes: number | null, inReading = true): Change => ({
  review: {
    throttle: throttledFrom(minutes === null ? null : 60 * minutes, inReading ? 1800 : 1200),
  },
});

describe('holm', () => {
  it('steps down as published: each p times what is left, never falling', () => {
    expect(holm([0.01, 0.04, 0.03, 0.005])).toEqual([0.03, 0.06, 0.06, 0.02]);
    expect(holm([0.9, 0.8])).toEqual([1, 1]);
    expect(() => holm([1.2])).toThrow(RangeError);
  });
});

describe('rankLineUp', () => {
  const pastes = field([side('z', [61.2, 61.6]), side('k', [44.1, 44.5]), side('l', [43.8, 44.3]), side('q', [41.9, 42.1])]);
  it('puts the coolest first, and gives one letter to those that cannot be told apart', () => {
    const ranking = rankLineUp(pastes, top);
    expect(ranking.sides.map(({ name, groups }) => [name, groups])).toEqual([
      ['q', 'a'],
      ['l', 'b'],
      ['k', 'b'],
      ['z', 'c'],
    ]);
    expect(ranking.pairs).toHaveLength(6);
    expect(ranking.pairs.find((pair) => pair.a === 'l' && pair.b === 'k')!.different).toBe(false);
    expect(ranking.assumed).toBe(false);
    expect(ranking.sides[0]!.halfWidth).toBeGreaterThan(0.2);
  });
  it('calls nothing among equals more often than it says: 400 fields of eight with no difference', () => {
    let seed = 11;
    const uniform = () => (seed = (seed * 48271) % 2147483647) / 2147483647;
    const normal = () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
    const wrong = Array.from({ length: 400 }, () => {
      const sides = Array.from({ length: 8 }, (_, i) => side(`v${i}`, [50 + 0.8 * normal(), 50 + 0.8 * normal()]));
      return rankLineUp(field(sides, {}), top).pairs.some((pair) => pair.different);
    }).filter(Boolean).length;
    expect(wrong / 400).toBeLessThan(0.075);
    expect(wrong).toBeGreaterThan(0); // and it does test something
  });
  it('lends single runs a stated scatter, and names who has no reading', () => {
    const lone = rankLineUp(field([side('a', [40]), side('b', [48]), side('c', [])], {}), top);
    expect(lone).toMatchObject({ assumed: true, without: ['c'] });
    expect(lone.pairs[0]!.different).toBe(true);
    expect(() => rankLineUp(field([side('a', [40])]), top)).toThrow(InsufficientDataError);
  });
  it('ranks as many variants as all combinations of five factors of three levels make, without standing still over it', () => {
    const many = rankLineUp(field(Array.from({ length: 243 }, (_, i) => side(`v${i}`, [30 + 0.1 * i]))), top);
    expect(many.pairs).toHaveLength((243 * 242) / 2);
    expect(many.sides.map(({ name }) => name).slice(0, 2)).toEqual(['v0', 'v1']);
    expect(many.sides[0]!.groups).not.toBe(many.sides.at(-1)!.groups);
  }, 30_000);
  it('ranks an outcome the way it is better: more clock first', () => {
    const clocked = (mhz: number): Change => ({ review: { clock: { value: mhz, u: 1, dof: 40 } } });
    const ranking = rankLineUp(field([side('slow', [40, 40], clocked(2300)), side('fast', [40, 40], clocked(2400))]), { outcome: 'clock' });
    expect(ranking.sides.map(({ name }) => name)).toEqual(['fast', 'slow']);
  });
});

describe('loads of one run side by side', () => {
  it('are left out one by one: what the last did does not speak against the first', () => {
    const hot = throttledAfter(10);
    const loads = ['cool', 'hot'].map((name, i) => ({
      phase: i + 1,
      name,
      startS: 900 * i,
      endS: 900 * (i + 1),
      endedBy: 'time',
      spots: [{ spotId: 'top', reading: reading(40 + 20 * i) }],
      room: null,
      ...eachOutput(() => null),
    }));
    const swept = side('card', [60], {
      review: { ...hot!.review, loads: loads.map((load) => ({ ...load, room: { meanC: 22, minC: 22, maxC: 22, driftK: 0 } })) },
    });
    const made = field(loadsAsSides(swept));
    expect(made.sides.map((entry) => [entry.name, entry.runs.length, entry.leftOut.length])).toEqual([
      ['cool', 1, 0],
      ['hot', 0, 1],
    ]);
  });
});

describe('ladderSteps', () => {
  const steps = ladderSteps(
    field([
      side('stock', [90, 91], throttledAfter(6), { Cooler: 'stock', Pads: 'stock' }),
      side('tower', [88, 88.4], throttledAfter(9), { Cooler: 'tower', Pads: 'stock' }),
      side('pads', [71, 71.4], throttledAfter(null), { Cooler: 'tower', Pads: 'P12' }),
      side('loop', [60, 60.4], throttledAfter(null), { Cooler: 'loop', Pads: 'P12' }),
    ]),
    ['stock', 'tower', 'pads', 'loop'],
    'top',
  );
  it('says what each step did to throttling: delayed, then ended, then nothing to end', () => {
    expect(steps.map((step) => step.throttling)).toEqual(['began', 'delayed', 'ended', 'none']);
    expect(steps.map((step) => step.throttled.meanMin)).toEqual([6, 9, null, null]);
    expect(steps.map((step) => step.changed.join())).toEqual(['', 'Cooler: tower', 'Pads: P12', 'Cooler: loop']);
  });
  it('compares temperatures only where they were free, and adds up from the first that was', () => {
    // Throttled while read: the part held its own temperature, so the first two steps have none.
    expect(steps.map((step) => step.value === null)).toEqual([true, true, false, false]);
    expect(steps[2]!.step).toBeNull();
    expect(steps[3]!.step!.difference.value).toBeCloseTo(-11, 6);
    expect(steps[3]!.sum!.difference.value).toBeCloseTo(-11, 6);
  });
  it('adds up to what the ends differ by', () => {
    const plain = ladderSteps(field([side('a', [60, 60.2]), side('b', [57, 57.2]), side('c', [49, 49.2])]), ['a', 'b', 'c'], 'top');
    const total = plain.slice(1).reduce((sum, step) => sum + step.step!.difference.value, 0);
    expect(plain[2]!.sum!.difference.value).toBeCloseTo(total, 9);
    // The ends are compared with each other; their doubt is not that of two steps added.
    expect(plain[2]!.sum!.difference.u).toBeCloseTo(plain[1]!.step!.difference.u, 6);
    expect(() => ladderSteps(field([side('a', [60])]), ['a', 'x'], 'top')).toThrow(RangeError);
  });

  describe('over the loads of one run', () => {
    /** Resistance of the cooler goes as speed^−0.3, the intake 5 K above the room. */
    const at = (name: string, rpm: number, change = 0) => ({
      name,
      startS: rpm,
      endS: rpm + 1800,
      phase: 0,
      endedBy: 'time',
      room: { meanC: 22, minC: 21.9, maxC: 22.1, driftK: 0 },
      ...eachOutput(() => null),
      power: { value: 100, u: 0.1, dof: 60 },
      fan: { value: rpm, u: 1, dof: 60 },
      spots: ['top', 'under'].map((spotId) => {
        const over = 45 * (rpm / 1500) ** -0.3 + change;
        const rise = reading(over + 5);
        return { spotId, reading: { ...rise, overIntake: { ...rise.rise!, mean: { value: over, u: 0.05, dof: 60 } } } };
      }),
    });
    const taped = run(40, 40, { review: { loads: [at('open', 1500), at('off', 1300), at('taped', 2200, 0.2)] } });
    const loads = field(loadsAsSides({ variantId: 'v', name: 'stock', levels: {}, runs: [taped] }), {});
    const order = loads.sides.map(({ variantId }) => variantId);

    it('says what a step would have been had the fan not reacted, calculated', () => {
      const [first, , third] = ladderSteps(loads, order, 'top');
      expect(first!.fanHeld).toBeNull();
      // The air moves by nothing here, the cooler by what the fan did to it; what the intake might do is in the doubt.
      const slower = 45 * (1300 / 1500) ** -0.3 - 45;
      const found = ladderSteps(loads, order, 'top')[1]!;
      expect(found.step!.difference.value).toBeCloseTo(slower, 6);
      expect(Math.abs(found.fanHeld!.value)).toBeLessThan(2 * found.fanHeld!.u);
      expect(third!.fanHeld!.value).toBeGreaterThan(third!.step!.difference.value + 3);
    });

    it('says nothing of it for steps that did not follow one another', () => {
      const [, skipped] = ladderSteps(loads, [order[0]!, order[2]!], 'top');
      expect(skipped!.step).not.toBeNull();
      expect(skipped!.fanHeld).toBeNull();
    });
  });

  it('carries the figures that the study names itself', () => {
    const render = { id: 'render', name: 'render time', unit: 'min', better: 'low' as const, doubt: 0.05, practical: 0.5 };
    const noted = (name: string, minutes: number[]) => ({
      ...side(name, minutes.map(() => 50)), // prettier-ignore
      runs: minutes.map((value) => ({ ...run(50, 45), own: [{ figureId: 'render', load: null, value }] })),
    });
    const of = lineUp([noted('a', [14, 14.2]), noted('b', [12, 12.2]), side('c', [49, 49.4])], spots, { ...rules, own: [render] }, history);
    const [first, second, third] = ladderSteps(of, ['a', 'b', 'c'], 'top');
    expect(first!.own).toEqual([{ id: 'render', label: 'render time', unit: 'min', decimals: expect.any(Number), value: expect.closeTo(14.1), step: null }]); // prettier-ignore
    expect(second!.own[0]!.step!.difference.value).toBeCloseTo(-2, 9);
    expect(third!.own).toEqual([]);
  });
});

describe('one among four', () => {
  it('is found where it is 4 K off and the bench repeats to 0.6: drawn', () => {
    let seed = 3;
    const uniform = () => (seed = (seed * 48271) % 2147483647) / 2147483647;
    const normal = () => 0.6 * Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
    const four = (off: number) => ['p', 'q', 'r', 's'].map((name, i) => side(name, [0, 1].map(() => 50 + (i === 2 ? off : 0) + normal()))); // prettier-ignore
    const found = (off: number) =>
      Array.from({ length: 100 }, () =>
        departures(field(four(off), { top: { sd: 0.6, dof: 12 } }), 'top').filter(({ departs }) => departs),
      ).map((departed) => departed.map(({ name }) => name).join());
    expect(found(4).filter((names) => names === 'r').length).toBeGreaterThan(85);
    expect(found(0).filter((names) => names !== '').length).toBeLessThan(12);
  });
});

describe('factorView', () => {
  const factors = [
    { name: 'Plate', levels: ['off', 'on'] },
    { name: 'Fan', levels: ['off', 'on'] },
  ];
  const cell = (plate: string, fan: string, values: number[]) => side(`${plate}/${fan}`, values, {}, { Plate: plate, Fan: fan });
  const full = [cell('off', 'off', [50, 50.4]), cell('on', 'off', [58, 58.4]), cell('off', 'on', [44, 44.4]), cell('on', 'on', [40, 40.4])];
  it('finds effects and the interaction that planted them, with doubt', () => {
    const view = factorView(field(full), factors, top);
    const of = (...term: string[]) => view.effects.find((effect) => effect.term.join() === term.join())!;
    expect(of('Plate').value).toBeCloseTo(2, 9);
    expect(of('Fan').value).toBeCloseTo(-12, 9);
    expect(of('Plate', 'Fan').value).toBeCloseTo(-6, 9);
    expect(view.effects.every((effect) => effect.told)).toBe(true);
    expect(view.notes.join(' ')).toContain('Plate × Fan matters (−6.0)');
    expect(view.cells).toHaveLength(4);
    expect(view.holes).toEqual([]);
  });
  it('refuses to credit either of two that always changed together', () => {
    const view = factorView(field([full[0]!, full[3]!]), factors, top);
    expect(view.refused[0]!.sentence).toBe(
      'Plate and Fan always changed together in these runs: what they did cannot be credited to either.',
    );
    expect(view.effects).toEqual([]);
    expect(view.holes).toHaveLength(2);
  });
  it('says where two factors went together more often than not, as where one can only be had with the other', () => {
    const view = factorView(field([full[0]!, full[1]!, full[3]!]), factors, top);
    expect(view.notes.join(' ')).toContain('Plate and Fan did not change independently of each other');
    // Fitted together: the plate with the fan off, the fan with the plate on; contrasts would say 4 and −14.
    expect(view.fitted).toBe(true);
    expect(view.effects.map(({ term, value, told }) => [term.join(), Math.round(value * 1e9) / 1e9, told])).toEqual([
      ['Plate', 8, null],
      ['Fan', -18, null],
    ]);
    // Of what cannot be had nothing is missing.
    const impossible = [{ levels: { Plate: 'off', Fan: 'on' }, reason: 'no holes' }];
    const whole = factorView(field([full[0]!, full[1]!, full[3]!]), factors, top, impossible);
    expect(whole.effects.map(({ told }) => told)).toEqual([true, true]);
    expect(view.notes[0]).toContain('Effects are not called: combinations are missing');
    expect(factorView(field(full), factors, top).fitted).toBe(false);
    expect(factorView(field(full), factors, top).notes.join(' ')).not.toContain('independently');
  });
  it('takes what the fit leaves over for doubt where that has degrees of freedom enough, and not before', () => {
    const coolers = [...factors, { name: 'Cooler', levels: ['tower', 'downward', 'loop'] }];
    const cells = (lose: string[]) =>
      ['tower', 'downward', 'loop'].flatMap((cooler, i) =>
        [['off', 'off', 50], ['on', 'off', 58], ['off', 'on', 44], ['on', 'on', 52]].flatMap(([plate, fan, value]) => {
          const name = `${plate}/${fan}/${cooler}`;
          if (lose.includes(name)) return [];
          return [side(name, [Number(value) - 3 * i + 0.2 * Math.sin(7 * i + Number(value))], {}, { Plate: String(plate), Fan: String(fan), Cooler: cooler })];
        }),
      ); // prettier-ignore
    const some = factorView(field(cells(['off/on/tower', 'off/on/loop'])), coolers, top);
    expect(some.notes.join(' ')).toContain('the doubt rests on what the fit leaves over');
    const plate = some.effects.find((effect) => effect.term.join() === 'Plate')!;
    expect(Math.abs(plate.value - 8)).toBeLessThan(plate.halfWidth!);
    expect(plate.told).toBeNull();
    const few = factorView(field(cells(['off/on/tower', 'off/on/loop']).slice(0, 5)), coolers, top);
    expect(few.effects.every((effect) => effect.halfWidth === null && effect.halfNormal !== null)).toBe(true);
  });
  it('tests every term against the scatter of equal runs, with three levels as well', () => {
    const paste = { name: 'Paste', levels: ['k', 'l', 'm'] };
    const twice = ['off', 'on'].flatMap((plate, i) =>
      paste.levels.map((level, j) => {
        const middle = 40 + 6 * i + 2 * j + (i === 1 && j === 2 ? 4 : 0);
        return side(`${plate}/${level}`, [middle - 0.1, middle + 0.1], {}, { Plate: plate, Paste: level });
      }),
    );
    const { rows } = factorView(field(twice), [factors[0]!, paste], top);
    const f = (term: string) => rows.find((row) => row.term === term)!.f!;
    // Balanced two-way analysis by hand: cells 40 42 44 and 46 48 54, twice each, 0.02 within.
    expect(f('Plate')).toBeCloseTo((12 * 3.6667 ** 2) / 0.02, -1);
    expect(f('Paste')).toBeCloseTo((4 * (2.6667 ** 2 + 0.6667 ** 2 + 3.3333 ** 2)) / 2 / 0.02, -1);
    expect(rows.find((row) => row.term.startsWith('what factors do together'))!.p).toBeLessThan(1e-4);
    expect(rows.at(-1)).toMatchObject({ term: 'within cells', dof: 6 });
  });
  it('calls no effect where sides among them are withheld, and says what would earn it', () => {
    const unseen = lineUp(full, spots, { ...rules, fans: 'locked' }, {});
    const view = factorView(unseen, factors, top);
    expect(view.effects.every(({ told }) => told === null)).toBe(true);
    expect(view.notes[0]).toContain('To earn it: record what the fans do');
  });
  it('pays for many terms: of six factors that do nothing hardly one set in ten has a term that is told', () => {
    let seed = 5;
    const uniform = () => (seed = (seed * 48271) % 2147483647) / 2147483647;
    const normal = () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
    const four = ['A', 'B', 'C', 'D'].map((name) => ({ name, levels: ['off', 'on'] }));
    const told = Array.from({ length: 60 }, () => {
      const sides = Array.from({ length: 16 }, (_, i) => {
        const levels = Object.fromEntries(four.map(({ name }, k) => [name, (i >> k) & 1 ? 'on' : 'off']));
        return side(`v${i}`, [40 + normal(), 40 + normal()], {}, levels);
      });
      return factorView(field(sides), four, top).effects.some((effect) => effect.told);
    }).filter(Boolean).length;
    expect(told).toBeLessThan(9);
  });
  it('has no doubt without repeats, and says what to look at instead', () => {
    const single = factorView(
      field([cell('off', 'off', [50]), cell('on', 'off', [58]), cell('off', 'on', [44]), cell('on', 'on', [40])]),
      factors,
      top,
    );
    expect(single.effects.every((effect) => effect.halfWidth === null && effect.halfNormal! > 0)).toBe(true);
    expect(single.notes.join(' ')).toContain('half-normal');
    expect(() => factorView(field([full[0]!]), factors, top)).toThrow(InsufficientDataError);
  });
});

describe('the outlier', () => {
  const board = (name: string, tops: number[], settings: Record<string, string>): JudgedSide => side(name, tops, { settings });
  const boards = [
    board('B2', [52, 52.3], { Firmware: '1.2' }),
    board('B4', [49, 49.2], { Firmware: '1.2' }),
    board('C1', [50.6, 50.9], { Firmware: '1.2' }),
    board('D1', [51.2, 51.4], { Firmware: '1.2' }),
    board('C3', [66, 66.4], { Firmware: '1.3' }),
  ];
  it('names the result that departs, and only that', () => {
    const found = departures(field(boards), 'top');
    expect(found.filter((entry) => entry.departs).map((entry) => entry.name)).toEqual(['C3']);
    expect(found[0]!.offK).toBeCloseTo(15.375, 6);
    expect(departures(field(boards.slice(0, 4)), 'top').some((entry) => entry.departs)).toBe(false);
    expect(() => departures(field(boards.slice(0, 3)), 'top')).toThrow(InsufficientDataError);
  });
  it('suspects what differs from the twin, set or measured', () => {
    const fast: JudgedRun[] = [run(50, 45, { settings: { Firmware: '1.2' }, review: { fan: { value: 1500, u: 1, dof: 30 } } })];
    const slow: JudgedRun[] = [run(66, 60, { settings: { Firmware: '1.3' }, review: { fan: { value: 1100, u: 1, dof: 30 } } })];
    const made = field([
      { variantId: 'o', name: 'C3', runs: slow },
      { variantId: 't', name: 'C1', runs: fast },
    ]);
    expect(suspects(made.sides[0]!, made.sides[1]!)).toEqual([
      { name: 'Firmware', kind: 'setting', outlier: '1.3', twin: '1.2' },
      { name: 'fan', kind: 'measured', outlier: '1100.0 rpm', twin: '1500.0 rpm' },
    ]);
  });
  it('suspects every further channel that both recorded, a temperature over the room', () => {
    const at = (value: number) => ({ value, u: 0.01, dof: 30 });
    const named = {
      v: { name: 'voltage', unit: 'V' },
      f2: { name: 'second fan', unit: 'rpm' },
      w: { name: 'coolant', unit: '°C' },
      p: { name: 'wall', unit: 'W' },
      e: { name: 'EPS', unit: 'V' },
    };
    const made = (volts: number, fan2: number, coolantC: number, roomC: number, more: { key: string; value: number }[]) =>
      run(50, 45, {
        besides: named,
        review: {
          room: { meanC: roomC, minC: roomC, maxC: roomC, driftK: 0 },
          utilisationPercent: 99,
          besides: [
            { key: 'v', mean: at(volts) },
            { key: 'f2', mean: at(fan2) },
            { key: 'w', mean: at(coolantC) },
            ...more.map(({ key, value }) => ({ key, mean: at(value) })),
          ],
        },
      });
    const { sides } = field([
      { variantId: 'o', name: 'C3', runs: [made(1.08, 0, 34, 22, [{ key: 'p', value: 310 }])] },
      { variantId: 't', name: 'C1', runs: [made(1.05, 1520, 36, 24.2, [{ key: 'e', value: 12 }])] },
    ]);
    // The coolant is as far above its room; the wall and the EPS were recorded of one side only.
    expect(suspects(sides[0]!, sides[1]!)).toEqual([
      { name: 'voltage', kind: 'measured', outlier: '1.080 V', twin: '1.050 V' },
      { name: 'second fan', kind: 'measured', outlier: '0.0 rpm', twin: '1520.0 rpm' },
    ]);
    // A channel of that name in another unit is another thing.
    const inMillivolts = { ...made(1.05, 1520, 36, 24.2, []), besides: { ...named, v: { name: 'voltage', unit: 'mV' } } };
    const [other] = field([{ variantId: 't', name: 'C1', runs: [inMillivolts] }]).sides;
    expect(suspects(sides[0]!, other!).map(({ name }) => name)).toEqual(['second fan']);
  });
  it('says what nobody recorded, of which side, and that firmware is not mentioned', () => {
    const fan = { fan: { value: 1500, u: 1, dof: 30 } };
    const made = field([
      { variantId: 'o', name: 'C3', runs: [run(50, 45, { settings: { Case: 'open' }, review: fan })] },
      { variantId: 't', name: 'C1', runs: [run(50, 45, { settings: { Case: 'open', Paste: 'K' }, review: {} })] },
    ]);
    const [odd, twin] = [made.sides[0]!, made.sides[1]!];
    const found = unrecorded(odd, twin, ['Panels']);
    expect(found).toContainEqual({ name: 'fan', onlyOf: 'C3' });
    expect(found).toContainEqual({ name: 'noise', onlyOf: null });
    expect(found).toContainEqual({ name: 'Paste', onlyOf: 'C1' });
    expect(found).toContainEqual({ name: 'Panels', onlyOf: null });
    expect(found).toContainEqual({ name: 'Firmware', onlyOf: null });
    expect(found.some(({ name }) => name === 'Case')).toBe(false);
    expect(unrecorded(odd, twin, ['BIOS version']).some(({ name }) => name === 'Firmware')).toBe(false);
  });
  it('takes a variant for a retest that sets one suspect as the twin has it, on the same part, and no other', () => {
    const of = (name: string, subject: string, settings: Record<string, string>): JudgedSide => ({
      ...board(name, [50, 50.2], settings),
      subject,
    });
    const made = field([
      of('odd', 'C3 two', { Firmware: '1.3', Case: 'open' }),
      of('twin', 'C3 one', { Firmware: '1.2', Case: 'open' }),
      of('old firmware', 'C3 two', { Firmware: '1.2', Case: 'open' }),
      of('newer firmware', 'C3 two', { Firmware: '1.4', Case: 'open' }),
      of('two things', 'C3 two', { Firmware: '1.2', Case: 'closed' }),
      of('another part', 'C1', { Firmware: '1.2', Case: 'open' }),
    ]);
    const found = retestsByHand(made.sides, made.sides[0]!, made.sides[1]!);
    expect(found.map(({ side: { name }, suspect }) => [name, suspect])).toEqual([['old firmware', 'Firmware']]);
    // All of them on one part, or on none that was named: they are siblings.
    expect(retestsByHand(field([...boards]).sides, field([...boards]).sides[4]!, field([...boards]).sides[0]!)).toEqual([]);
  });
  it.each([
    ['fan held', [51.5, 51.8], 'it-was', 'it was this'],
    ['firmware', [66.1, 66.2], 'it-was-not', 'it was not this'],
    ['paste renewed', [59, 59.3], 'part-of-it', 'part of it'],
    ['noisy', [58, 70], 'cannot-tell', 'cannot be told'],
  ] as const)('a retest with the %s', (name, tops, outcome, words) => {
    const made = field([...boards, side(name, [...tops])], {});
    const of = (id: string) => made.sides.find((entry) => entry.variantId === id)!;
    const retest = judgeRetest(made, 'top', of('C3'), of('C1'), of(name));
    expect(retest.outcome).toBe(outcome);
    expect(retest.sentence).toContain(words);
  });
});
