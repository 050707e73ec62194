import { describe, expect, it } from 'vitest';
import { changesWithin, roomOverLoads, type LoadReview, type PhaseReading } from '../index.ts';

const estimate = (value: number, u = 0.05) => ({ value, u, dof: 60 });
interface Made {
  intakeK: number;
  powerW: number;
  rpm: number;
  /** K/W of the cooler at 1000 rpm. */
  r1000?: number;
  bound?: PhaseReading['bound'];
  toGoK?: number;
}
const N = 0.3;
const M = 0.25;

/** A load of a card whose cooler goes as speed^−N. */
function load({ intakeK, powerW, rpm, r1000 = 0.24, bound = 'settled', toGoK = 0 }: Made): LoadReview {
  const over = powerW * r1000 * (rpm / 1000) ** -N;
  const mean = (value: number) => ({ mean: estimate(value) }) as PhaseReading['rise'];
  const reading = {
    rise: mean(over + intakeK - toGoK),
    overIntake: mean(over - toGoK),
    bound,
    toGo: { likely: { value: toGoK, u: 0.1 }, lowK: -0.2, highK: 0.2 },
  } as PhaseReading;
  return { name: '', spots: [{ spotId: 'chip', reading }], power: estimate(powerW), fan: estimate(rpm) } as unknown as LoadReview;
}
const riseOf = (one: LoadReview) => one.spots[0]!.reading!.rise!.mean.value;

describe('what one load of a run changed against the one before', () => {
  const open = { intakeK: 10, powerW: 190, rpm: 1800 };
  const off = { intakeK: 3, powerW: 190, rpm: 1500 };
  const taped = { intakeK: 21, powerW: 190, rpm: 2300 };

  it('gives what it would have been had the fan not reacted', () => {
    const loads = [open, off, taped].map(load);
    const [first, second, third] = changesWithin(loads);
    expect(first).toEqual([]);
    // The same cooler at 1800 rpm with the air of the open panel, as it would be at that speed.
    const held = riseOf(load({ ...off, rpm: 1800, intakeK: 3 * (1800 / 1500) ** -M })) - riseOf(loads[0]!);
    expect(second![0]!.fanHeld!.value).toBeCloseTo(held, 6);
    expect(second![0]!.settled!.value).toBeCloseTo(riseOf(loads[1]!) - riseOf(loads[0]!), 9);
    expect(second![0]!.fanHeld!.value).toBeLessThan(second![0]!.settled!.value);
    const back = riseOf(load({ ...taped, rpm: 1500, intakeK: 21 * (1500 / 2300) ** -M })) - riseOf(loads[1]!);
    expect(third![0]!.fanHeld!.value).toBeCloseTo(back, 6);
    // Whatever the openings make of it is inside.
    for (const m of [0, 0.5]) {
      const other = riseOf(load({ ...taped, rpm: 1500, intakeK: 21 * (1500 / 2300) ** -m })) - riseOf(loads[1]!);
      expect(Math.abs(other - back)).toBeLessThan(2 * third![0]!.fanHeld!.u);
    }
  });

  it('says nothing of the fan where it kept its speed, where two loads are all there is, or where the cooler itself was changed', () => {
    expect(changesWithin([open, off, taped, { ...taped, powerW: 200 }].map(load))[3]![0]!.fanHeld).toBeNull();
    expect(changesWithin([open, off].map(load))[1]![0]!.fanHeld).toBeNull();
    expect(changesWithin([open, { ...off, r1000: 0.18 }, taped].map(load))[1]![0]!.fanHeld).toBeNull();
    const without = [open, off, taped].map(load).map((one) => ({ ...one, fan: null }));
    expect(changesWithin(without)[2]![0]!.fanHeld).toBeNull();
  });

  it("takes the law from another run of the part, in which its fan was swept, where the run's own loads show none", () => {
    const sweep = [900, 1300, 1900, 2600].map((rpm) => load({ intakeK: 8, powerW: 190, rpm }));
    const alone = [open, taped].map(load);
    expect(changesWithin(alone)[1]![0]!.fanHeld).toBeNull();
    const held = riseOf(load({ ...taped, rpm: 1800, intakeK: 21 * (1800 / 2300) ** -M })) - riseOf(alone[0]!);
    expect(changesWithin(alone, [sweep])[1]![0]!.fanHeld!.value).toBeCloseTo(held, 6);
    // A run in which the cooler itself was changed is none.
    expect(changesWithin(alone, [[{ ...open, rpm: 900 }, { ...off, r1000: 0.18 }, taped].map(load)])[1]![0]!.fanHeld).toBeNull();
  });

  it('takes it over the room, with more doubt, where nothing was measured at the intake', () => {
    const bare = (one: LoadReview) =>
      ({ ...one, spots: one.spots.map(({ spotId, reading }) => ({ spotId, reading: { ...reading!, overIntake: null } })) }) as LoadReview;
    // Air at the intake follows the fan as the openings make it.
    const sweep = [900, 1300, 1900, 2600].map((rpm) => ({
      ...bare(load({ intakeK: 10 * (rpm / 1800) ** -M, powerW: 190, rpm })),
      name: `Fan, ${rpm}`,
    }));
    const session = [open, off, taped].map(load).map(bare);
    expect(changesWithin(session)[2]![0]!.fanHeld).toBeNull();
    // The same session once more has the same openings changed in it: it says nothing of the fan alone.
    expect(changesWithin(session, [sweep.map((one) => ({ ...one, name: '' }))])[2]![0]!.fanHeld).toBeNull();
    const change = changesWithin(session, [sweep])[2]![0]!;
    const held = riseOf(load({ ...taped, rpm: 1500, intakeK: 21 * (1500 / 2300) ** -M })) - riseOf(load(off));
    expect(Math.abs(change.fanHeld!.value - held)).toBeLessThan(change.fanHeld!.u);
    expect(Math.abs(change.settled!.value - held)).toBeGreaterThan(2 * change.fanHeld!.u);
    expect(change.fanHeld!.u).toBeLessThan(4);
  });

  it('counts both as settled, and takes a change that goes on for at least what it shows', () => {
    const rising = changesWithin([off, { ...taped, bound: 'still-rising' as const, toGoK: 2 }, open].map(load));
    const done = changesWithin([off, taped, open].map(load));
    expect(rising[1]![0]!.settled!.value).toBeCloseTo(done[1]![0]!.settled!.value, 9);
    expect(rising[1]![0]!.settled!.u).toBeGreaterThan(0.1);
    expect(rising[1]![0]!.reach).toBe('at-least');
    expect(changesWithin([taped, { ...off, bound: 'still-falling' as const }].map(load))[1]![0]!.reach).toBe('at-least');
    // Cooler than before, and warming again.
    expect(changesWithin([taped, { ...off, bound: 'still-rising' as const }].map(load))[1]![0]!.reach).toBe('at-most');
    expect(done[1]![0]!.reach).toBe(null);
  });

  it('says where the room went, where it did', () => {
    const at = (meanC: number | null) => ({ ...load(open), room: meanC === null ? null : { meanC } }) as LoadReview;
    expect(roomOverLoads([at(22.4), at(null), at(23.9)])).toEqual({ fromC: 22.4, toC: 23.9 });
    expect(roomOverLoads([at(22.4), at(22.8)])).toBeNull();
    expect(roomOverLoads([at(null)])).toBeNull();
  });

  it('has nothing to say of no loads and of loads without a reading', () => {
    expect(changesWithin([])).toEqual([]);
    const empty = { ...load(open), spots: [{ spotId: 'chip', reading: null }] } as LoadReview;
    expect(changesWithin([load(open), empty])).toEqual([[], []]);
  });
});
