import { describe, expect, it } from 'vitest';
import { findPhases, onAndOff, type PhaseEvidence, type Signal } from './index.ts';
import { seededNormal as noiseOf } from '@red-ember/testing/signals';

const none: PhaseEvidence = {
  lengthS: 0,
  marks: [],
  utilisation: null,
  power: null,
  throughput: null,
  wall: null,
  duty: null,
  fan: null,
  temperatures: [],
};

/** A signal of one sample in `stepS`, by a function of time, with noise. */
function signal(lengthS: number, of: (t: number) => number, { stepS = 1, noise = 0, seed = 1 } = {}): Signal {
  const n = Math.floor(lengthS / stepS) + 1;
  const random = noiseOf(seed);
  return {
    t: Float64Array.from({ length: n }, (_, i) => i * stepS),
    y: Float64Array.from({ length: n }, (_, i) => of(i * stepS) + noise * random()),
  };
}
/** Approach to a level that changes at the given times, two time constants, as a part in a cooler does. */
function heated(lengthS: number, levels: [number, number][], options = {}): Signal {
  let fast = 0;
  let slow = 0;
  let last = 0;
  return signal(
    lengthS,
    (t) => {
      const level = [...levels].reverse().find(([at]) => t >= at)?.[1] ?? 0;
      const dt = t - last;
      last = t;
      fast += (0.6 * level - fast) * (1 - Math.exp(-dt / 40));
      slow += (0.4 * level - slow) * (1 - Math.exp(-dt / 500));
      return 25 + fast + slow;
    },
    { noise: 0.1, ...options },
  );
}
const short = (evidence: PhaseEvidence) =>
  findPhases(evidence).map(({ kind, name, startS, endS }) => [kind, name, Math.round(startS), Math.round(endS)]);
const between = (t: number, from: number, to: number) => t >= from && t < to;

describe('when a load was on', () => {
  it('is told from an idle that is not zero, and from a cool-down at rest', () => {
    const power = signal(3600, (t) => (between(t, 600, 2700) ? 206 : 26), { noise: 1 });
    expect(onAndOff(power)!.on).toEqual([{ startS: 600, endS: 2700 }]);
    expect(short({ ...none, lengthS: 3600, power })).toEqual([
      ['idle-soak', 'Idle', 0, 600],
      ['load', 'Load', 600, 2700],
      ['cool-down', 'Cool-down', 2700, 3600],
    ]);
  });
  it('goes on while a fast cache runs out, while it throttles, and through short collection dips', () => {
    const throughput = signal(4200, (t) => (t < 600 ? 0 : t % 270 < 3 && t > 610 ? 60 : t < 740 ? 5200 : t < 3000 ? 1180 : 590), {
      noise: 15,
    });
    expect(short({ ...none, lengthS: 4200, throughput })).toEqual([
      ['idle-soak', 'Idle', 0, 600],
      ['load', 'Load', 600, 4200],
    ]);
  });
  it('comes and goes several times; a burst of a few seconds is none', () => {
    const utilisation = signal(6000, (t) => (between(t, 300, 1500) || between(t, 2400, 4200) ? 99 : between(t, 5000, 5012) ? 90 : 2), {
      noise: 1,
    });
    expect(short({ ...none, lengthS: 6000, utilisation }).map(([kind, , from, to]) => [kind, from, to])).toEqual([
      ['idle-soak', 0, 300],
      ['load', 300, 1500],
      ['cool-down', 1500, 2400],
      ['load', 2400, 4200],
      ['cool-down', 4200, 6000],
    ]);
  });
  it('is the whole log where nothing tells rest from load, and says so', () => {
    const [only, ...rest] = findPhases({
      ...none,
      lengthS: 900,
      power: signal(900, () => 200, { noise: 2 }),
      temperatures: [signal(900, () => 60, { noise: 0.1 })],
    });
    expect(rest).toEqual([]);
    expect(only).toMatchObject({ kind: 'load', startS: 0, endS: 900, why: expect.stringContaining('Nothing tells') });
  });
  it('is not asked of an empty log', () => {
    expect(findPhases(none)).toEqual([]);
  });
});

describe('what was changed under load', () => {
  const lengthS = 9000;
  const power = signal(lengthS, (t) => (t < 480 ? 26 : t < 7200 ? 190 : 216), { noise: 1.5 });
  it('is named by what was written, and a mark beside a step is no second one', () => {
    const marks = [
      { atS: 482, text: 'load on' },
      { atS: 2700, text: 'panel off' },
      { atS: 7215, text: 'limit raised' },
    ];
    const phases = findPhases({ ...none, lengthS, power, marks });
    expect(phases.map(({ kind, name }) => [kind, name])).toEqual([
      ['idle-soak', 'Idle'],
      ['load', 'Load'],
      ['change', 'panel off'],
      ['change', 'limit raised'],
    ]);
    expect(phases[3]!.startS).toBe(7200);
    expect(phases[3]!.why).toContain('Power goes from 190 to 216 W');
  });
  it('is found by steps of the power and of a fan that somebody set, not by one that follows the heat', () => {
    const duty = signal(lengthS, (t) => (t < 4000 ? 40 : 70));
    const followed = signal(lengthS, (t) => 30 + 40 * (1 - Math.exp(-Math.max(0, t - 480) / 300)), { noise: 0.3 });
    expect(short({ ...none, lengthS, power, duty }).map(([, name]) => name)).toEqual(['Idle', 'Load', 'Fan duty 70 %', 'Power 216 W']);
    expect(short({ ...none, lengthS, power, duty: followed }).map(([, name]) => name)).toEqual(['Idle', 'Load', 'Power 216 W']);
  });
  it('is no drift of the power', () => {
    const drifting = signal(6000, (t) => (t < 300 ? 26 : 190 + (t - 300) / 200), { noise: 1 });
    expect(short({ ...none, lengthS: 6000, power: drifting }).map(([, name]) => name)).toEqual(['Idle', 'Load']);
  });
  it('names two that are called the same apart', () => {
    const marks = [2000, 4000, 6000].map((atS) => ({ atS, text: 'again' }));
    expect(short({ ...none, lengthS, power, marks }).map(([, name]) => name)).toEqual([
      'Idle',
      'Load',
      'again',
      'again 2',
      'again 3',
      'Power 216 W',
    ]);
  });
  it('takes marks alone at their word where nothing else was recorded', () => {
    const marks = [
      { atS: 0, text: 'idle soak' },
      { atS: 600, text: 'start stress' },
      { atS: 2400, text: 'load off' },
    ];
    expect(short({ ...none, lengthS: 3000, marks }).map(([kind, , from, to]) => [kind, from, to])).toEqual([
      ['idle-soak', 0, 600],
      ['load', 600, 2400],
      ['cool-down', 2400, 3000],
    ]);
  });
});

describe('a log of temperatures alone', () => {
  it.each([1, 2, 3, 4, 5])('begins its load where they begin to rise, and cools down where they turn (seed %i)', (seed) => {
    const spots = [heated(4200, [[600, 50], [3000, 0]], { seed }), heated(4200, [[600, 30], [3000, 0]], { seed: seed + 50 })]; // prettier-ignore
    const found = findPhases({ ...none, lengthS: 4200, temperatures: spots });
    expect(found.map(({ kind }) => kind)).toEqual(['idle-soak', 'load', 'cool-down']);
    expect(Math.abs(found[1]!.startS - 600)).toBeLessThan(15);
    expect(Math.abs(found[2]!.startS - 3000)).toBeLessThan(60);
  });
  it('calls a fall that stays warm a change, not a cool-down', () => {
    const spots = [heated(6000, [[600, 50], [3600, 40]], { noise: 0.05 })]; // prettier-ignore
    expect(findPhases({ ...none, lengthS: 6000, temperatures: spots }).map(({ kind }) => kind)).toEqual(['idle-soak', 'load', 'change']);
  });
  it('finds nothing in noise, in a slow drift, or in steps of a coarse sensor', () => {
    const drift = signal(6000, (t) => 40 + t / 3000, { noise: 0.1 });
    const coarse = signal(6000, (t) => 2 * Math.round((60 + Math.sin(t / 700)) / 2));
    for (const one of [drift, coarse, signal(600, () => 40, { noise: 0.5 })])
      expect(findPhases({ ...none, lengthS: one.t.at(-1)!, temperatures: [one] }).map(({ kind }) => kind)).toEqual(['load']);
  });
});

it('leaves no gap and no overlap, whatever it is given', () => {
  for (let seed = 1; seed <= 40; seed++) {
    const random = noiseOf(seed);
    const lengthS = 200 + Math.abs(random()) * 3000;
    const noisy = (scale: number) => signal(lengthS, () => 50 + scale * random(), { stepS: 1 + (seed % 3) });
    const marks = Array.from({ length: seed % 7 }, () => ({ atS: (Math.abs(random()) * lengthS) % lengthS, text: `mark ${seed}` })).sort(
      (p, q) => p.atS - q.atS,
    );
    const found = findPhases({ ...none, lengthS, marks, power: noisy(seed), duty: noisy(3), temperatures: [noisy(2)] });
    expect(found[0]!.startS).toBe(0);
    expect(found.at(-1)!.endS).toBe(lengthS);
    found.slice(1).forEach((phase, i) => expect(phase.startS).toBe(found[i]!.endS));
    expect(found.every(({ startS, endS, why, name }) => endS > startS && why !== '' && name !== '')).toBe(true);
    expect(new Set(found.map(({ name }) => name)).size).toBe(found.length);
  }
});
