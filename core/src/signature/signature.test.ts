import { describe, expect, it } from 'vitest';
import { seededNormal } from '@red-ember/testing/signals';
import { featuresOf, offNormalOf, signatureOf, suspectsOf, type SignatureRecord } from './index.ts';

interface Made {
  seed: number;
  /** K/W of the three spots. */
  perWatt?: [number, number, number];
  lagS?: number;
  rpm?: number;
  rpm2AtLoad?: number;
  roomRiseK?: number;
  missing?: (s: number) => boolean;
  spikeEveryS?: number;
}

const LOAD_S = 600;
const LENGTH_S = 1800;

/** A card with three spots and two fans; ten minutes at rest, twenty at 200 W. */
function made({
  seed,
  perWatt = [0.2, 0.15, 0.1],
  lagS = 0,
  rpm = 1500,
  rpm2AtLoad = 1480,
  roomRiseK = 0.2,
  missing,
  spikeEveryS = 0,
}: Made): SignatureRecord {
  const normal = seededNormal(seed);
  const mount = 1 + 0.01 * normal();
  const t = Float64Array.from({ length: LENGTH_S }, (_, s) => s);
  const on = (s: number) => s >= LOAD_S;
  const room = (s: number) => 22 + (on(s) ? (roomRiseK * (s - LOAD_S)) / (LENGTH_S - LOAD_S) : 0);
  const spot = (kPerW: number, delay: number) =>
    t.map((s) => {
      const up = on(s) ? 1 - Math.exp(-Math.max(0, s - LOAD_S - delay) / 150) : 0;
      return room(s) + 4 + 180 * kPerW * mount * up + 0.1 * normal();
    });
  const spots = perWatt.map((kPerW, i) => {
    const y = spot(kPerW, i === 1 ? lagS : 0);
    if (i === 2 && missing) t.forEach((s) => missing(s) && (y[s] = NaN));
    if (i === 0 && spikeEveryS) for (let s = LOAD_S; s < LENGTH_S; s += spikeEveryS) y[s]! += 6;
    return { id: ['chip', 'memory', 'stages'][i]!, series: { t, y } };
  });
  const series = (of: (s: number) => number, sd: number) => ({ t, y: t.map((s) => of(s) + sd * normal()) });
  return {
    id: String(seed),
    loadStartS: LOAD_S,
    loadEndS: LENGTH_S,
    spots,
    room: series(room, 0.03),
    power: series((s) => (on(s) ? 200 : 20), 0.5),
    duty: series(() => 60, 0),
    fans: [
      { id: 'fan', series: series(() => rpm, 4) },
      { id: 'fan2', series: series((s) => (on(s) ? rpm2AtLoad : 1480), 4) },
    ],
  };
}

const names = { chip: 'Chip', memory: 'Memory', stages: 'Stages' };
const fans = { fan: 'the fan', fan2: 'the second fan' };
const normals = signatureOf([made({ seed: 1 }), made({ seed: 2 })]);
const suspected = (one: Omit<Made, 'seed'>, seed = 3) => suspectsOf(offNormalOf(normals, made({ seed, ...one })), names, fans);

describe('what is normal', () => {
  it('is not known from one run', () => {
    expect(signatureOf([made({ seed: 1 })])).toEqual([]);
    expect(offNormalOf([], made({ seed: 3 }))).toEqual([]);
  });

  it('is what was put in: K/W, rest, speed for its duty, lag', () => {
    const of = (key: string, id: string) => featuresOf(made({ seed: 4 })).find((one) => one.key === key && one.id === id)!.value;
    expect(of('perWatt', 'chip')).toBeCloseTo(0.2, 2);
    expect(of('idle', 'memory')).toBeCloseTo(4, 1);
    expect(of('speed', 'fan')).toBeCloseTo(25, 1);
    expect(of('apart', 'fan2')).toBeCloseTo(1, 2);
    // A third of an approach of 150 s is there after 150·ln 1.5 = 61 s.
    expect(Math.abs(of('third', 'stages') - 61)).toBeLessThan(4);
    expect(Math.abs(of('noise', 'chip') - 0.1)).toBeLessThan(0.01);
    expect(of('missing', 'chip')).toBe(0);
  });

  it('holds another clean run, of fifty', () => {
    const alarms = Array.from({ length: 50 }, (_, i) => suspected({}, 100 + i)).filter((found) => found.length > 0);
    expect(alarms.length).toBeLessThanOrEqual(2);
  });
});

describe('what may be wrong', () => {
  it.each<[string, Omit<Made, 'seed'>, string[]]>([
    ['a fan that shows nothing', { rpm: 0 }, ['fan-plug']],
    ['a fan on another header', { rpm: 900 }, ['fan-duty']],
    ['a fan that is free', { rpm2AtLoad: 1900 }, ['fan-duty', 'fan-free']],
    ['a room that warms', { roomRiseK: 4 }, ['room']],
    ['samples that do not come', { missing: (s) => s % 50 < 5 }, ['drop-outs']],
    ['spikes', { spikeEveryS: 40 }, ['spikes']],
    ['a sensor that answers late', { lagS: 90 }, ['lag']],
    ['one sensor that reads its neighbour', { perWatt: [0.2, 0.15, 0.07] }, ['place', 'pad']],
    ['a pad under all of them', { perWatt: [0.3, 0.24, 0.16] }, ['pad', 'place']],
  ])('%s is among the first two', (_, one, [first, second]) => {
    const found = suspected(one).map(({ key }) => key);
    expect(found.slice(0, 2)).toContain(first);
    if (second) expect(found).toContain(second);
  });

  it('is said with what was seen, what is usual, and what to look at', () => {
    expect(suspected({ lagS: 90 })[0]).toMatchObject({
      key: 'lag',
      text: expect.stringMatching(
        /^Memory (took \d+ s to a third of its ten-minute rise, usually \d+ s|was at \d+ % of its ten-minute rise after one minute, usually \d+ %)$/,
      ),
      look: 'Whether its sensor is still bedded in and pressed on.',
    });
    expect(suspected({ rpm: 900 })[0]!.text).toBe('the fan turns 40 % slower than usual for its duty');
  });

  it('is little where little was recorded, and nothing that is not a number', () => {
    const bare = made({ seed: 9 });
    const poor: SignatureRecord = {
      ...bare,
      room: null,
      power: null,
      duty: null,
      fans: [],
      spots: [{ id: 'chip', series: { t: bare.spots[0]!.series.t, y: bare.spots[0]!.series.y.map(() => NaN) } }],
    };
    expect(featuresOf(poor)).toEqual([]);
    expect(offNormalOf(normals, poor)).toEqual([]);
  });
});
