import { mean } from '../mean.ts';
import { rejectSpikes } from '../series/rejectSpikes.ts';
import { stepOf } from '../series/stepOf.ts';
import { medianInPlace, medianInterval, slice, usable, type Series } from '../series/series.ts';

/** One run with a load that followed a rest, as what is normal of it is read. */
export interface SignatureRecord {
  id: string;
  /** Under the load that is read, s. */
  loadStartS: number;
  loadEndS: number;
  spots: { id: string; series: Series }[];
  room: Series | null;
  power: Series | null;
  duty: Series | null;
  /** The first one first. */
  fans: { id: string; series: Series }[];
}

/** What is read of a run, by what it is and of which channel. */
export const FEATURES = {
  /** Speed for each percent of duty where one was recorded, else speed, under load. */
  speed: { of: 'fan', least: 0.02, relative: true },
  /** What the fans were told under load, %. */
  duty: { of: 'fan', least: 0.03, relative: true },
  /** 0 where a fan shows nothing under load. */
  turns: { of: 'fan', least: 0.05, relative: false },
  /** Speed under load over that at rest, against the first fan. */
  apart: { of: 'fan', least: 0.02, relative: true },
  /** Rise over the room at rest, K. */
  idle: { of: 'spot', least: 0.3, relative: false },
  /** Rise that the load brought, for each watt where power was recorded, at its end. */
  perWatt: { of: 'spot', least: 0.02, relative: true },
  /** The same against the mean of the other spots: what a mount does to all of them falls out. */
  beside: { of: 'spot', least: 0.012, relative: true },
  /** Share of the rise of the first ten minutes that was there after one: slow parts of it hide a sensor that is late. */
  early: { of: 'spot', least: 0.03, relative: false },
  /** Until a third of the rise of the first ten minutes was there, s. */
  third: { of: 'spot', least: 0.06, relative: true, floor: 3 },
  /** What flickers from sample to sample, K. */
  noise: { of: 'spot', least: 0.25, relative: true },
  /** Share of the samples that did not come, 0..1. */
  missing: { of: 'spot', least: 0.004, relative: false },
  /** An hour. */
  spikes: { of: 'spot', least: 4, relative: false },
  /** What the room rose by under load, K. */
  roomRise: { of: 'room', least: 0.3, relative: false },
  /** Under load, W. */
  power: { of: 'power', least: 0.02, relative: true },
} as const satisfies Record<string, { of: 'fan' | 'spot' | 'room' | 'power'; least: number; relative: boolean; floor?: number }>;

export type FeatureKey = keyof typeof FEATURES;

export interface Feature {
  key: FeatureKey;
  /** Spot or fan; empty for room and power. */
  id: string;
  value: number;
}

/** The end of a load and of a rest are read over so long, s. */
const WINDOW_S = 180;
const EARLY_S = 60;
/** How fast a spot follows is told by its rise until then, s, read over the last minute of it. */
const FOLLOWS_BY_S = 600;
/** A spot that rises by less says nothing of how it does, K. */
const MOVES_K = 3;
/** Nothing smaller is counted as a spike, K, against what is read so many seconds around it. */
const SPIKE_K = 1.5;
const BESIDE_S = 30;
/** A fan slower than this shows nothing, rpm. */
const STANDS = 60;

const meanOf = (series: Series | null, startS: number, endS: number): number | null => {
  if (!series) return null;
  const { y } = usable(slice(series, { startS, endS }));
  return y.length === 0 ? null : mean([...y]);
};

/** Seconds under load until a series stays above a value over five readings of it; null where it never does. */
function secondsTo(series: Series, value: number, startS: number, endS: number): number | null {
  const { t, y } = usable(slice(series, { startS, endS }));
  let above = 0;
  for (let i = 0; i < t.length; i++) {
    above = y[i]! >= value ? above + 1 : 0;
    if (above === 5) return t[i - 4]! - startS;
  }
  return null;
}

/** Spikes that stand out by more than a coarse sensor flickers between two of its steps. */
function spikesOf(series: Series): number {
  const { clean, spikes } = rejectSpikes(series);
  const least = Math.max(SPIKE_K, 1.5 * (stepOf(usable(series).y) ?? 0));
  return spikes.filter(({ t, y }) => Math.abs(y - (meanOf(clean, t - BESIDE_S, t + BESIDE_S) ?? y)) > least).length;
}

/** What each spot rises by against the mean of the others, from what each rises by. */
function besideOthers(features: readonly Feature[]): Feature[] {
  const rises = features.filter(({ key }) => key === 'perWatt');
  if (rises.length < 2) return [];
  const all = rises.reduce((sum, { value }) => sum + value, 0);
  return rises.flatMap(({ id, value }): Feature[] => {
    const others = (all - value) / (rises.length - 1);
    return others > 0 ? [{ key: 'beside', id, value: value / others }] : [];
  });
}

function spotFeatures({ id, series }: SignatureRecord['spots'][number], record: SignatureRecord): Feature[] {
  const { loadStartS, loadEndS, room, power } = record;
  const at = (startS: number, endS: number) => meanOf(series, startS, endS);
  const [rest, end] = [at(loadStartS - WINDOW_S, loadStartS), at(loadEndS - WINDOW_S, loadEndS)];
  const roomAt = (startS: number, endS: number) => meanOf(room, startS, endS);
  const [roomRest, roomEnd] = [roomAt(loadStartS - WINDOW_S, loadStartS), roomAt(loadEndS - WINDOW_S, loadEndS)];
  const out: Feature[] = [];
  const say = (key: FeatureKey, value: number | null) => {
    if (value !== null && Number.isFinite(value)) out.push({ key, id, value });
  };
  if (rest !== null && roomRest !== null) say('idle', rest - roomRest);
  if (rest !== null && end !== null) {
    const rise = end - rest - (roomRest !== null && roomEnd !== null ? roomEnd - roomRest : 0);
    const [restW, endW] = [meanOf(power, loadStartS - WINDOW_S, loadStartS), meanOf(power, loadEndS - WINDOW_S, loadEndS)];
    // Of a spot that hardly moves a share is a share of nothing.
    const moves = Math.abs(rise) > MOVES_K;
    if (moves) say('perWatt', restW !== null && endW !== null && endW > 1.2 * restW ? rise / (endW - restW) : rise);
    const followsTo = Math.min(loadEndS, loadStartS + FOLLOWS_BY_S);
    const [minute, late] = [at(loadStartS + 0.7 * EARLY_S, loadStartS + 1.3 * EARLY_S), at(followsTo - EARLY_S, followsTo)];
    const risen = (late ?? rest) - rest;
    if (minute !== null && risen > MOVES_K) say('early', (minute - rest) / risen);
    if (risen > MOVES_K) say('third', secondsTo(series, rest + risen / 3, loadStartS, followsTo));
  }
  const loaded = slice(series, { startS: loadStartS, endS: loadEndS });
  const { t, y } = usable(loaded);
  if (t.length > 30) {
    const steps = new Float64Array(y.length - 2);
    for (let i = 2; i < y.length; i++) steps[i - 2] = Math.abs(y[i]! - 2 * y[i - 1]! + y[i - 2]!);
    // Second differences of white noise have √6 of its deviation; the median absolute one is 0.6745 of that.
    say('noise', medianInPlace(steps) / (Math.sqrt(6) * 0.6745));
    const expected = (loadEndS - loadStartS) / medianInterval(t);
    say('missing', Math.max(0, 1 - t.length / expected));
    say('spikes', (3600 * spikesOf(loaded)) / (loadEndS - loadStartS));
  }
  return out;
}

function fanFeatures(record: SignatureRecord): Feature[] {
  const { fans, duty, loadStartS, loadEndS } = record;
  const read = fans.map(({ id, series }) => ({
    id,
    rest: meanOf(series, loadStartS - WINDOW_S, loadStartS),
    load: meanOf(series, loadEndS - WINDOW_S, loadEndS),
  }));
  const percent = meanOf(duty, loadEndS - WINDOW_S, loadEndS);
  const [first] = read;
  const told: Feature[] = percent === null ? [] : [{ key: 'duty', id: '', value: percent }];
  const ofFans = read.flatMap(({ id, rest, load }): Feature[] => {
    if (load === null) return [];
    const turns = load >= STANDS;
    const out: Feature[] = [{ key: 'turns', id, value: turns ? 1 : 0 }];
    if (turns) out.push({ key: 'speed', id, value: percent !== null && percent > 0 ? load / percent : load });
    const known = first && first.id !== id && turns && rest !== null && rest >= STANDS && first.rest !== null && first.rest >= STANDS;
    if (known && first.load !== null && first.load >= STANDS)
      out.push({ key: 'apart', id, value: load / rest / (first.load / first.rest!) });
    return out;
  });
  return [...told, ...ofFans];
}

/** Everything that is read of one run. */
export function featuresOf(record: SignatureRecord): Feature[] {
  const { loadStartS, loadEndS, room, power } = record;
  const roomRise = (() => {
    const [before, most] = [meanOf(room, loadStartS - WINDOW_S, loadStartS), meanOf(room, loadEndS - WINDOW_S, loadEndS)];
    return before === null || most === null ? null : most - before;
  })();
  const watts = meanOf(power, loadEndS - WINDOW_S, loadEndS);
  const ofSpots = record.spots.flatMap((spot) => spotFeatures(spot, record));
  return [
    ...ofSpots,
    ...besideOthers(ofSpots),
    ...fanFeatures(record),
    ...(roomRise === null ? [] : [{ key: 'roomRise' as const, id: '', value: roomRise }]),
    ...(watts === null ? [] : [{ key: 'power' as const, id: '', value: watts }]),
  ];
}
