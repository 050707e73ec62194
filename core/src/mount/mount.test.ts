import { assert, constantFrom, property } from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changeOverCard, crosswiseOrder, seatCheck, type FitStep, type SeatMount } from './index.ts';

const step = (id: string, when: FitStep['when'], factor?: string, level?: string, variantId: string | null = null): FitStep => ({
  id,
  when,
  level: factor ? { factor, level: level! } : null,
  variantId,
});

/** A cooler over a paste, a fan beside them, a panel before everything. */
const FACTORS = [
  { name: 'Cooler', under: 'Panel', renew: false },
  { name: 'Paste', under: 'Cooler', renew: true },
  { name: 'Fan', under: 'Panel', renew: false },
  { name: 'Panel', under: '', renew: false },
];
const at = (id: string, cooler: string, paste: string, fan = 'rear', panel = 'mesh') => ({
  id,
  levels: { Cooler: cooler, Paste: paste, Fan: fan, Panel: panel },
});
const STEPS = [
  step('power-off', 'off'),
  step('power-on', 'on'),
  ...['low', 'tall'].flatMap((level) => [step(`off-${level}`, 'off', 'Cooler', level), step(`on-${level}`, 'on', 'Cooler', level)]),
  ...['K', 'L'].flatMap((level) => [step(`clean-${level}`, 'off', 'Paste', level), step(`spread-${level}`, 'on', 'Paste', level)]),
  step('fan-out', 'off', 'Fan', 'rear'),
  step('fan-in', 'on', 'Fan', 'rear'),
  step('mesh-off', 'off', 'Panel', 'mesh'),
  step('mesh-on', 'on', 'Panel', 'mesh'),
];

describe('a change-over', () => {
  it('holds only what differs, outermost off first and on last', () => {
    const card = changeOverCard(at('a', 'low', 'K'), at('b', 'low', 'L'), FACTORS, STEPS);
    expect(card.changed).toEqual([{ factor: 'Paste', from: 'K', to: 'L' }]);
    expect(card.reopened).toEqual(['Cooler', 'Panel']);
    expect(card.steps).toEqual(['power-off', 'mesh-off', 'off-low', 'clean-K', 'spread-L', 'on-low', 'mesh-on', 'power-on']);
  });

  it('renews what is spoilt when its cover comes off, although it does not change', () => {
    const card = changeOverCard(at('a', 'low', 'K'), at('b', 'tall', 'K'), FACTORS, STEPS);
    expect(card).toMatchObject({ reopened: ['Panel'], renewed: ['Paste'] });
    expect(card.steps).toEqual(['power-off', 'mesh-off', 'off-low', 'clean-K', 'spread-K', 'on-tall', 'mesh-on', 'power-on']);
  });

  it('takes nothing off an empty bench, and everything off for a refit', () => {
    expect(changeOverCard(null, at('a', 'low', 'K'), FACTORS, STEPS).steps).toEqual([
      'power-off',
      'spread-K',
      'fan-in',
      'on-low',
      'mesh-on',
      'power-on',
    ]);
    expect(changeOverCard(at('a', 'low', 'K'), at('a', 'low', 'K'), FACTORS, STEPS).steps).toEqual([
      'power-off',
      'mesh-off',
      'off-low',
      'fan-out',
      'clean-K',
      'spread-K',
      'fan-in',
      'on-low',
      'mesh-on',
      'power-on',
    ]);
  });

  it('follows variants that have no factors by their own steps', () => {
    const own = [
      step('lid-off', 'off', undefined, undefined, 'lid'),
      step('sink-on', 'on', undefined, undefined, 'sink'),
      ...STEPS.slice(0, 2),
    ];
    expect(changeOverCard({ id: 'lid', levels: {} }, { id: 'sink', levels: {} }, [], own).steps).toEqual([
      'power-off',
      'lid-off',
      'sink-on',
      'power-on',
    ]);
  });

  it('refuses factors that lie under each other', () => {
    const round = [
      { name: 'A', under: 'B', renew: false },
      { name: 'B', under: 'A', renew: false },
    ];
    expect(() => changeOverCard(null, { id: 'x', levels: {} }, round, [])).toThrow('A lies under B, and B under A');
  });

  it('is mirrored: what went on for one is what comes off for the other', () => {
    const level = (of: string[]) => constantFrom(...of);
    assert(
      property(level(['low', 'tall']), level(['K', 'L']), level(['low', 'tall']), level(['K', 'L']), (c1, p1, c2, p2) => {
        const there = changeOverCard(at('a', c1, p1), at('b', c2, p2), FACTORS, STEPS);
        const back = changeOverCard(at('b', c2, p2), at('a', c1, p1), FACTORS, STEPS);
        const sort = (of: string[], mark: string) => of.filter((id) => id.startsWith(mark)).length;
        expect(there.steps.length).toBe(back.steps.length);
        expect(sort(there.steps, 'off-')).toBe(sort(back.steps, 'on-'));
        expect(new Set(there.steps).size).toBe(there.steps.length);
      }),
    );
  });
});

describe('screws crosswise', () => {
  it('goes from corner to opposite corner', () => {
    const corners = [
      { xMm: 0, yMm: 0 },
      { xMm: 50, yMm: 0 },
      { xMm: 50, yMm: 50 },
      { xMm: 0, yMm: 50 },
    ];
    expect(crosswiseOrder(corners)).toEqual([0, 2, 1, 3]);
  });

  it('never tightens two neighbours of six one after the other, but once at most', () => {
    const ring = Array.from({ length: 6 }, (_, i) => ({ xMm: 30 * Math.cos((i * Math.PI) / 3), yMm: 30 * Math.sin((i * Math.PI) / 3) }));
    const order = crosswiseOrder(ring);
    expect([...order].sort()).toEqual([0, 1, 2, 3, 4, 5]);
    const neighbours = order.slice(1).filter((screw, i) => [1, 5].includes(Math.abs(screw - order[i]!)));
    expect(neighbours.length).toBeLessThanOrEqual(1);
  });

  it('takes one screw, none, or all in one place', () => {
    expect(crosswiseOrder([])).toEqual([]);
    expect(crosswiseOrder([{ xMm: 1, yMm: 1 }])).toEqual([0]);
    expect([...crosswiseOrder(Array.from({ length: 3 }, () => ({ xMm: 1, yMm: 1 })))].sort()).toEqual([0, 1, 2]);
  });
});

describe('the seat', () => {
  const mount = (gains: number[], change: Partial<SeatMount> & { idleK?: number; early?: number } = {}): SeatMount => ({
    powerW: 8,
    ...change,
    spots: gains.map((gainK, i) => ({ spotId: `s${i}`, gainK, earlyGainK: (change.early ?? 0.5) * gainK, idleK: change.idleK ?? 8 })),
  });
  const earlier = [mount([30, 20]), mount([30.8, 20.4]), mount([29.4, 19.7])];

  it('looks like the others within what mounts scatter', () => {
    const check = seatCheck(mount([31, 20.2]), earlier);
    expect(check).toMatchObject({ verdict: 'alike', earlier: 3, causes: [] });
    expect(check.spots[0]!.expectedK).toBeCloseTo(30.0667, 3);
  });

  it('says how much hotter, and suspects contact where it shows at once', () => {
    const check = seatCheck(mount([39, 27], { early: 0.55 }), earlier);
    expect(check.verdict).toBe('hotter');
    expect(check.spots.map((spot) => Number(spot.differenceK!.toFixed(2)))).toEqual([8.93, 6.97]);
    expect(check.worst!.spotId).toBe('s1');
    expect(check.causes[0]).toBe('contact');
    // The same that comes late, with idle up as well: air.
    expect(seatCheck(mount([39, 27], { early: 0.38, idleK: 11 }), earlier).causes).toEqual(['fan', 'contact', 'room']);
  });

  it('suspects the one part where one spot is off', () => {
    expect(seatCheck(mount([41, 20.1]), earlier).causes[0]).toBe('one-part');
  });

  it('restates at equal power before it compares', () => {
    expect(seatCheck(mount([33, 22], { powerW: 8.8 }), earlier).verdict).toBe('alike');
    expect(seatCheck(mount([36, 24]), earlier).verdict).toBe('hotter');
  });

  it('says whether powers could be made equal, and makes nothing of an idle level without a room', () => {
    expect(seatCheck(mount([30, 20]), earlier).equalPower).toBe(true);
    const unread = seatCheck(mount([39, 27], { powerW: null, early: 0.55 }), earlier);
    expect(unread).toMatchObject({ equalPower: false, causes: ['contact', 'fan', 'power'] });
    const roomless = {
      ...mount([39, 27], { early: 0.55 }),
      spots: mount([39, 27], { early: 0.55 }).spots.map((spot) => ({ ...spot, idleK: null })),
    };
    expect(seatCheck(roomless, earlier).causes).toEqual(['contact', 'fan']);
  });

  it('calls nothing without another mount, and refuses what is no reading', () => {
    expect(seatCheck(mount([30]), [])).toMatchObject({ verdict: 'unknown', worst: null, causes: [] });
    expect(() => seatCheck(mount([]), earlier)).toThrow('no spot');
    expect(() => seatCheck(mount([NaN]), earlier)).toThrow(RangeError);
    expect(() => seatCheck(mount([30], { powerW: 0 }), earlier)).toThrow(RangeError);
  });

  it('calls one good mount in twenty by mistake, no more', () => {
    let seed = 7;
    const uniform = () => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647;
    const normal = () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
    let wrong = 0;
    for (let i = 0; i < 2000; i++) {
      const any = () => mount([30 * (1 + 0.06 * normal())]);
      if (seatCheck(any(), [any(), any(), any()]).verdict !== 'alike') wrong++;
    }
    expect(wrong / 2000).toBeLessThan(0.06);
    expect(wrong / 2000).toBeGreaterThan(0.02);
  });
});
