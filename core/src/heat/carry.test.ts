import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  minutesToLimit,
  riseByLaw,
  riseOf,
  timeToLimit,
  type ApproachFit,
  carry,
  dutyNeeded,
  InsufficientDataError,
  judgeLoad,
  lifeIndex,
  paretoFront,
  riseAtPower,
  safePower,
} from '../index.ts';

const known = (value: number, u = 0) => ({ value, u, dof: u === 0 ? Infinity : 10 });
const point = (power: number, rise: number, share = 0.01) => ({ powerW: known(power, power * share), rise: known(rise, rise * share) });

describe('safePower', () => {
  it('finds the law that made the points, and is its inverse', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 1.4, noNaN: true }),
        fc.double({ min: 0.2, max: 3, noNaN: true }),
        fc.double({ min: 40, max: 90, noNaN: true }),
        (b, a, allowed) => {
          const points = [20, 45, 80, 130].map((power) => point(power, a * power ** b));
          const { value } = safePower({ points, limitC: allowed + 30, ambientC: 30 });
          expect(a * value ** b).toBeCloseTo(allowed, 6);
        },
      ),
    );
  });
  it('covers the truth about as often as its doubt says, over 600 noisy boards', () => {
    let seed = 1;
    const uniform = () => (seed = (seed * 48271) % 2147483647) / 2147483647;
    const normal = () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
    const truth = (90 / 0.7) ** (1 / 0.9);
    const hits = Array.from({ length: 600 }, () => {
      const points = [40, 70, 118].map((power) => {
        const rise = 0.7 * power ** 0.9;
        return {
          powerW: { value: power * (1 + 0.01 * normal()), u: 0.01 * power, dof: Infinity },
          rise: { value: rise * (1 + 0.015 * normal()), u: 0.015 * rise, dof: Infinity },
        };
      });
      const { value, u } = safePower({ points, limitC: 120, ambientC: 25, marginK: 5 });
      return Math.abs(value - truth) < 1.96 * u;
    }).filter(Boolean).length;
    expect(hits / 600).toBeGreaterThan(0.92);
    expect(hits / 600).toBeLessThan(0.98);
  });
  it('doubts more the further it is carried', () => {
    const points = [point(60, 40), point(90, 58)];
    const u = (limitC: number) => {
      const safe = safePower({ points, limitC, ambientC: 30 });
      return safe.u / safe.value;
    };
    expect(u(150)).toBeGreaterThan(u(100));
    expect(u(100)).toBeGreaterThan(u(80));
  });
  it.each([
    ['no point', { points: [] }, InsufficientDataError],
    ['one power twice', { points: [point(50, 20), point(50, 22)] }, InsufficientDataError],
    ['air at the limit', { points: [point(50, 20)], ambientC: 90 }, RangeError],
    ['a margin that eats it all', { points: [point(50, 20)], marginK: 60 }, RangeError],
    ['a rise that falls', { points: [point(50, 30), point(90, 20)] }, RangeError],
    ['no rise', { points: [point(50, 0)] }, RangeError],
  ])('refuses %s', (_, change, error) => {
    const usual = { points: [point(50, 20)], limitC: 90, ambientC: 30 };
    expect(() => safePower({ ...usual, ...change })).toThrow(error);
  });
});

describe('riseAtPower', () => {
  it('there and back again is where it was', () => {
    const rise = known(41.5, 0.4);
    const there = riseAtPower(rise, known(80), 130, 0.8);
    expect(riseAtPower(there, known(130), 80, 0.8).value).toBeCloseTo(41.5, 9);
    expect(riseAtPower(rise, known(80), 0)).toMatchObject({ value: 0 });
    expect(() => riseAtPower(rise, known(0), 100)).toThrow(RangeError);
  });
});

describe('paretoFront', () => {
  it('keeps exactly what no other beats', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 6 }), fc.integer({ min: 0, max: 6 })), { minLength: 1, maxLength: 12 }),
        (rows) => {
          const front = paretoFront(rows, ['low', 'high']);
          rows.forEach(([p, q], i) => {
            const beaten = rows.some(([r, s]) => r <= p && s >= q && (r < p || s > q));
            expect(front.includes(i)).toBe(!beaten);
          });
        },
      ),
    );
  });
  it('lets equals stand together, and refuses what cannot be compared', () => {
    expect(paretoFront([[1], [1], [2]], ['low'])).toEqual([0, 1]);
    expect(() => paretoFront([], ['low'])).toThrow(InsufficientDataError);
    expect(() => paretoFront([[1, 2]], ['low'])).toThrow(RangeError);
    expect(() => paretoFront([[NaN]], ['low'])).toThrow(RangeError);
  });
});

describe('carry', () => {
  const spots = [
    { id: 'stage', name: 'Power stages', limitC: 125, limitSource: 'data sheet', points: [point(62, 42), point(118, 85)] },
    { id: 'cap', name: 'Capacitors', limitC: 105, limitSource: 'data sheet', points: [point(62, 20), point(118, 41)] },
    { id: 'hub', name: 'Hub chip', limitC: 95, limitSource: 'house rule', points: [point(62, 0.5)] },
    { id: 'none', name: 'Inductors', limitC: 130, limitSource: 'general figure', points: [] },
  ];
  const at = (airC: number) => carry({ spots, airC, marginK: 5, coverage: 0.95 });
  it('puts the component that binds first, and says why one has no figure', () => {
    const made = at(22);
    expect(made.binding!.id).toBe('stage');
    expect(made.spots.map((spot) => spot.id)).toEqual(['stage', 'cap', 'hub', 'none']);
    expect(made.spots[3]).toMatchObject({ maxW: null, refusal: 'no measured point to carry a load from' });
    // A hub that hardly warms allows kilowatts by this law: too far to be believed.
    expect(made.spots[2]!.far).toBe(true);
  });
  it('carries less in warm air, and nothing where the air is the limit', () => {
    expect(at(34).binding!.maxW!.value).toBeLessThan(at(22).binding!.maxW!.value);
    expect(carry({ spots, airC: 121, marginK: 5, coverage: 0.95 }).binding).toBeNull();
  });
  it('draws no law through points whose powers hardly differ: the last alone counts', () => {
    const swept = [point(232, 40), point(233, 46), point(231, 55)];
    const [spot] = carry({ spots: [{ ...spots[0]!, points: swept }], airC: 22, marginK: 5, coverage: 0.95 }).spots;
    expect(spot).toMatchObject({ points: 1, law: { exponent: 1 } });
    expect(spot!.maxW!.value).toBeCloseTo((231 * 98) / 55, 6);
  });
  it('lets a shared accuracy move all points together, so that more of them do not shrink it', () => {
    const at = (accuracyK: number, points: ReturnType<typeof point>[]) =>
      carry({ spots: [{ ...spots[0]!, points, accuracyK }], airC: 22, marginK: 5, coverage: 0.95 }).spots[0]!.maxW!;
    const many = [40, 60, 80, 100].map((watts) => point(watts, 0.49 * watts, 0));
    // 98 K allowed at 0.49 K/W is 200 W; 3 K rectangular of 98 K is 1.77 %.
    const u = (200 * 3) / Math.sqrt(3) / 98;
    expect(at(3, many)).toMatchObject({ value: expect.closeTo(200, 4), u: expect.closeTo(u, 3) });
    expect(at(3, [...many, ...many]).u).toBeCloseTo(u, 3);
    expect(at(0, many).u).toBeLessThan(0.01);
  });
  it('doubts the exponent where one power only was measured, the more the further', () => {
    const at = (powerW: number) => carry({ spots: [{ ...spots[0]!, points: [point(powerW, 0.49 * powerW, 0)] }], airC: 22, marginK: 5, coverage: 0.95 }).spots[0]!.maxW!; // prettier-ignore
    expect(at(100)).toMatchObject({ value: expect.closeTo(200, 9), u: expect.closeTo(200 * Math.LN2 * 0.12, 9) });
    expect(at(180).u).toBeLessThan(at(100).u / 3);
  });
  it('reads watts off losses that grow, with rest as a point', () => {
    const rise = (watts: number) => 2 + 0.2 * watts + 0.004 * watts ** 2;
    const points = [40, 60, 80].map((watts) => point(watts, rise(watts), 0.002));
    const [spot] = carry({ spots: [{ ...spots[0]!, points, idle: [point(1, rise(1), 0.002)] }], airC: 22, marginK: 5, coverage: 0.95 }).spots; // prettier-ignore
    expect(spot!.losses).toMatchObject({ r0: expect.closeTo(2, 3), a: expect.closeTo(0.2, 4), c: expect.closeTo(0.004, 6) });
    const truth = (-0.2 + Math.sqrt(0.04 + 4 * 0.004 * 96)) / 0.008;
    expect(spot!.maxW!.value).toBeCloseTo(truth, 3);
    expect(spot!.far).toBe(true);
    // The power law says far more, and what the two differ by is doubted.
    expect(safePower({ points, limitC: 125, ambientC: 22, marginK: 5 }).value).toBeGreaterThan(truth + 5);
    expect(spot!.doubtW).toBeGreaterThan(5);
    expect(riseOf(spot!, 100)).toBeCloseTo(rise(100), 3);
  });
  it('never lets losses bend down, and lies between two laws where rest and one power are all there is', () => {
    const made = (points: ReturnType<typeof point>[], idle: ReturnType<typeof point>[]) =>
      carry({ spots: [{ ...spots[0]!, points, idle }], airC: 22, marginK: 5, coverage: 0.95 }).spots[0]!;
    const bent = made([20, 60, 100].map((watts) => point(watts, 2 * watts ** 0.8)), []); // prettier-ignore
    expect(bent.losses!.c).toBe(0);
    const between = made([point(100, 52)], [point(0, 2)]);
    expect(between.losses).toBeNull();
    expect(between.maxW!.value).toBeGreaterThan(100 * Math.sqrt(96 / 50));
    expect(between.maxW!.value).toBeLessThan((100 * 96) / 50);
    expect(made([point(100, 52)], [point(0, 120)]).maxW).not.toBeNull();
  });
  it('says when a load that is too much passes the limit, by the slow time constant', () => {
    const law = { lnA: Math.log(0.7), exponent: 1 };
    expect(riseByLaw(law, 165)).toBeCloseTo(115.5, 9);
    expect(minutesToLimit(115.5, 600, 57.75)).toBeCloseTo(10 * Math.LN2, 9);
    expect(minutesToLimit(40, 600, 57.75)).toBeNull();
    expect(minutesToLimit(40, 600, -1)).toBe(0);
    // The same as the fitted curve of one term says.
    const fit = {
      t0: 0,
      start: { value: 22 },
      asymptote: { value: 137.5 },
      terms: [{ share: 1, tau: { value: 600 } }],
      at: (t: number) => 137.5 - 115.5 * Math.exp(-t / 600),
    };
    expect(timeToLimit(fit as unknown as ApproachFit, 79.75)! / 60).toBeCloseTo(10 * Math.LN2, 6);
  });
  it.each([
    [62, 'carries', null],
    [139, 'no-call', 133],
    [165, 'with-a-cap', 133],
    [240, 'does-not', null],
  ] as const)('a load of %d W: %s', (loadW, verdict, capW) => {
    expect(judgeLoad(loadW, { value: 138, u: 2, dof: 20 }, 4.2)).toEqual({ verdict, capW });
  });
  it('doubles the life of a capacitor every ten kelvin', () => {
    expect(lifeIndex(105, 105)).toBe(1);
    expect(lifeIndex(85, 105)).toBe(4);
    expect(lifeIndex(115, 105)).toBe(0.5);
  });
  it('finds the least duty that is enough, never beyond the sweep', () => {
    const sweep = [30, 45, 60, 80, 100].map((x) => ({ x, y: known(25 + 900 / x) }));
    const duty = dutyNeeded(sweep, 45)!;
    expect(duty).toBeGreaterThan(43);
    expect(duty).toBeLessThan(48);
    expect(dutyNeeded(sweep, 30)).toBeNull();
    expect(dutyNeeded(sweep, 70)).toBe(30);
  });
});
