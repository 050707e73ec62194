import { describe, expect, it } from 'vitest';
import { CARD, CARD_SETUPS, cardSetup, COOLERS } from './parameters.ts';
import { CARD_CHANNELS } from './channels.ts';
import { CardBench } from './cardBench.ts';

const still = { startC: 22, driftKPerH: 0, wanderK: 0 };
type Reading = Record<string, number | null>;

function run(setup: string, options: { seconds?: number; load?: number; set?: [string, number | string][]; roomC?: number } = {}) {
  const bench = new CardBench({ setup, seed: 1, mountSeed: 1, room: { ...still, startC: options.roomC ?? 22 } });
  for (const [control, value] of options.set ?? []) bench.set(control, value);
  let reading: Reading = {};
  for (let s = 0; s < (options.seconds ?? 5400); s++) reading = bench.step(1, options.load ?? 100);
  return { bench, reading };
}
const read = (reading: Reading, key: string) => reading[key]!;

describe('the card on the bench', () => {
  it('shows every channel it announces, for every set-up', () => {
    for (const { key } of CARD_SETUPS) {
      const shown = Object.keys(new CardBench({ setup: key, seed: 1, mountSeed: 1 }).step(1, 100)).sort();
      expect(shown).toEqual(CARD_CHANNELS.map((channel) => channel.key).sort());
    }
    expect(() => cardSetup('nothing')).toThrow(RangeError);
  });

  it('replays by its seeds', () => {
    const trace = (seed: number, mountSeed: number) => {
      const bench = new CardBench({ setup: 'open-auto', seed, mountSeed });
      return Array.from({ length: 60 }, () => bench.step(1, 100).stages);
    };
    expect(trace(3, 4)).toEqual(trace(3, 4));
    expect(trace(3, 4)).not.toEqual(trace(5, 4));
    expect(trace(3, 4)).not.toEqual(trace(3, 6));
  });

  it('settles where the closed form says: chip over room is power through sink and layer', () => {
    const { bench, reading } = run('open-full');
    const { core, sink, caseAir, upperAir } = bench.truth as Record<'core' | 'sink' | 'caseAir' | 'upperAir', number>;
    const powerW = read(reading, 'power');
    const air = (1 - COOLERS.open.upward) * caseAir + COOLERS.open.upward * upperAir;
    // A little of memory and stages goes past the sink, straight into the air.
    expect(COOLERS.open.sinkToAir * (sink - air)).toBeGreaterThan(0.88 * powerW);
    expect(COOLERS.open.sinkToAir * (sink - air)).toBeLessThan(1.02 * powerW);
    expect((core - sink) / (CARD.share.core * powerW)).toBeCloseTo(1 / COOLERS.open.coreToSink, 2);
  });

  it('is held by its power limit, and by its clock where that is raised', () => {
    const stock = run('open-full').reading;
    const raised = run('open-raised').reading;
    expect(read(stock, 'power')).toBeGreaterThan(228);
    expect(read(stock, 'power')).toBeLessThan(238);
    expect(read(raised, 'clock')).toBeGreaterThan(read(stock, 'clock') + 30);
    expect(read(raised, 'power')).toBeLessThan(280);
    expect(read(raised, 'die')).toBeGreaterThan(read(stock, 'die'));
  });

  it('lowers its power with its voltage, at the clock it then reaches', () => {
    const usual = run('open-full', { set: [['power-limit', 300]] }).reading;
    const lowered = run('open-full', { set: [['power-limit', 300], ['core-voltage', 950]] }).reading; // prettier-ignore
    expect(read(lowered, 'power')).toBeLessThan(0.87 * read(usual, 'power'));
    expect(read(lowered, 'clock')).toBeGreaterThanOrEqual(read(usual, 'clock'));
  });

  it('absorbs a blocked vent by its automatic fan, and cannot when the fan is locked', () => {
    const change = (set: [string, number | string][]) => {
      const open = run('open-case', { set }).reading;
      const blocked = run('open-case', { set: [...set, ['vent', 'blocked']] }).reading;
      return { k: read(blocked, 'die') - read(open, 'die'), duty: read(blocked, 'duty') - read(open, 'duty') };
    };
    const free = change([['processor-load', 0], ['power-limit', 150]]); // prettier-ignore
    const held = change([['processor-load', 0], ['power-limit', 150], ['fan-mode', 'locked'], ['fan-duty', 55]]); // prettier-ignore
    expect(free.duty).toBeGreaterThan(5);
    expect(held.duty).toBe(0);
    expect(held.k).toBeGreaterThan(free.k + 1);
  });

  it('throttles in a blocked case, holding its core at the limit by the clock', () => {
    const { reading } = run('open-case-locked', { set: [['vent', 'blocked']] }); // prettier-ignore
    expect(read(reading, 'die')).toBeGreaterThan(CARD.recoverAtC - 1.5);
    expect(read(reading, 'die')).toBeLessThan(CARD.throttleAtC + 2.5);
    expect(read(reading, 'throughput')).toBeLessThan(0.93 * read(run('open-full').reading, 'throughput'));
  });

  it('looks cool when the processor starves it, with its time busy to show for it', () => {
    const fed = run('open-case').reading;
    const starved = run('starved').reading;
    expect(read(starved, 'die')).toBeLessThan(read(fed, 'die') - 5);
    expect(read(starved, 'utilisation')).toBeLessThan(70);
    expect(read(starved, 'throughput')).toBeLessThan(0.7 * read(fed, 'throughput'));
  });

  it('warms the processor more through a flow-through cooler, and an open front takes it away again', () => {
    const processor = (setup: string, set: [string, string][] = []) => read(run(setup, { set }).reading, 'processor');
    expect(processor('flow-case-locked')).toBeGreaterThan(processor('open-case-locked') + 1);
    expect(processor('flow-case-locked', [['front-panel', 'off']])).toBeLessThan(processor('flow-case-locked') - 3);
  });

  it('is louder with more duty, by fifty times the logarithm of the speed, above the floor of the room', () => {
    const level = (duty: number) => read(run('open-full', { seconds: 5, set: [['fan-duty', duty]] }).reading, 'level');
    expect(level(100) - level(50)).toBeGreaterThan(12);
    expect(level(20)).toBeGreaterThan(CARD.floorDb - 1);
    expect(level(20)).toBeLessThan(CARD.floorDb + 1.5);
  });

  it('goes on rising for an hour: what it is bolted to takes heat long after its sink has all it gets', () => {
    const bench = new CardBench({ setup: 'open-full', seed: 1, mountSeed: 1, room: still });
    const over: number[] = [];
    for (let s = 1; s <= 4 * 3600; s++) {
      bench.step(1, 100);
      if (s % 300 === 0) over.push(bench.truth.sink! - bench.truth.room!);
    }
    const last = over.at(-1)!;
    const missing = (minute: number) => last - over[minute / 5 - 1]!;
    // Ten minutes on, the quick terms are over; what is missing then goes by one slow one.
    const tauMin = 30 / Math.log(missing(15) / missing(45));
    expect(missing(15)).toBeGreaterThan(0.6);
    expect(tauMin).toBeGreaterThan(20);
    expect(tauMin).toBeLessThan(60);
  });

  it('breathes out what its sink sheds, which at first is little of what it draws', () => {
    const bench = new CardBench({ setup: 'open-full', seed: 1, mountSeed: 1, room: still });
    let reading: Reading = {};
    const warmedK = () => read(reading, 'exhaust') - read(reading, 'intake');
    for (let s = 0; s < 20; s++) reading = bench.step(1, 100);
    const early = warmedK();
    for (let s = 0; s < 7200; s++) reading = bench.step(1, 100);
    const airWPerK = 1200 * CARD.airFullM3PerS;
    expect(early).toBeLessThan(0.6 * warmedK());
    // Settled, air carries all but what goes past the sink.
    expect(warmedK() * airWPerK).toBeGreaterThan(0.85 * read(reading, 'power') - airWPerK);
    expect(warmedK() * airWPerK).toBeLessThan(read(reading, 'power') + airWPerK);
  });

  it('separates pastes by their layer: what Z loses is its resistance times the power of the core', () => {
    const [k, z] = ['paste-K', 'paste-Z'].map((setup) => run(setup));
    const over = (one: typeof k) => one!.bench.truth.core! - one!.bench.truth.sink!;
    expect(over(z) - over(k)).toBeCloseTo(0.075 * CARD.share.core * read(z!.reading, 'power'), 0);
  });

  it('refuses what it does not have', () => {
    const bench = new CardBench({ setup: 'open-auto', seed: 1, mountSeed: 1 });
    expect(() => bench.set('window', 'open')).toThrow('no control "window"');
    expect(() => bench.set('fan-duty', 130)).toThrow('from 20 to 100 %');
    expect(() => bench.set('vent', 'half')).toThrow('open or blocked');
  });
});
