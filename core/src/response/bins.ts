import { mean } from '../mean.ts';
import { usable, type Series } from '../series/series.ts';

/** One run as a spot's answer to power is fitted to it, on the run's own clock in seconds. */
export interface ResponseRecord {
  id: string;
  /** °C. */
  spot: Series;
  /** Air that the rise stands on, °C. */
  air: Series;
  /** Into the part, W. */
  power: Series;
  /** 1/min; null where no speed was recorded. */
  fan: Series | null;
  /** Into a part beside it, W; null where nobody recorded that. */
  neighbour?: Series | null;
}

/** A record on even steps: power and speed as they stood over each step, the rest as means of what was read in it. */
export interface Stepped {
  id: string;
  stepS: number;
  power: Float64Array;
  /** Speed; null where none was recorded. */
  fan: Float64Array | null;
  /** W into the part beside it; null where it was not recorded. */
  neighbour: Float64Array | null;
  air: Float64Array;
  /** Rise over the air, K; NaN where the spot was not read. */
  rise: Float64Array;
}

/** More steps than this cost time and tell nothing new. */
const MOST_STEPS = 20_000;
/** Shorter records say nothing of how anything settles, s. */
const LEAST_S = 240;
/** Fewer readings are fewer than what is fitted to them. */
const LEAST_READ = 5;

/** Means of what falls into each of n even steps from t0 on; NaN where nothing does. */
function means({ t, y }: Series, t0: number, stepS: number, n: number): Float64Array {
  const [sum, count] = [new Float64Array(n), new Int32Array(n)];
  for (let i = 0; i < t.length; i++) {
    const k = Math.floor((t[i]! - t0) / stepS);
    if (k < 0 || k >= n || Number.isNaN(y[i]!)) continue;
    sum[k]! += y[i]!;
    count[k]!++;
  }
  return sum.map((value, k) => (count[k]! > 0 ? value / count[k]! : NaN));
}

/** What was read last stands until something else is read; before the first reading the first stands. */
function held(values: Float64Array): Float64Array {
  let last = values.find((value) => !Number.isNaN(value)) ?? NaN;
  return values.map((value) => (last = Number.isNaN(value) ? last : value));
}

/** The usual distance of two readings of a series, s. */
function intervalOf({ t }: Series): number {
  const n = t.length;
  return n < 2 ? Infinity : (t[n - 1]! - t[0]!) / (n - 1);
}

/** A record on even steps; null where its series share too little time. */
export function stepped({ id, spot, air, power, fan, neighbour }: ResponseRecord): Stepped | null {
  const [s, a, p] = [usable(spot), usable(air), usable(power)];
  const f = fan && usable(fan);
  const b = neighbour ? usable(neighbour) : null;
  // A spot that is read by hand is read late and seldom: what heated it before is known all the same.
  const all = [a, p, ...[f, b].flatMap((other) => (other && other.t.length > 1 ? [other] : []))];
  if ([s, ...all].some(({ t }) => t.length < 2)) return null;
  const from = Math.max(...all.map(({ t }) => t[0]!));
  const to = Math.min(...[s, ...all].map(({ t }) => t[t.length - 1]!));
  if (!(to - from >= LEAST_S)) return null;
  const stepS = Math.max(1, intervalOf(p), (to - from) / MOST_STEPS);
  const n = Math.floor((to - from) / stepS);
  const airs = held(means(a, from, stepS, n));
  const spots = means(s, from, stepS, n);
  if (spots.filter((value) => !Number.isNaN(value)).length < LEAST_READ) return null;
  return {
    id,
    stepS,
    power: held(means(p, from, stepS, n)),
    fan: f && f.t.length > 1 ? held(means(f, from, stepS, n)) : null,
    neighbour: b && b.t.length > 1 ? held(means(b, from, stepS, n)) : null,
    air: airs,
    rise: spots.map((value, k) => value - airs[k]!),
  };
}

/** What goes into a fit: rise and regressors as means over bins of even length. Rows are bins. */
export interface Binned {
  id: string;
  n: number;
  /** K. */
  rise: Float64Array;
  /** Power as it reaches the spot through one lag each, W: the part's own through each of the first `own` lags, then that of the part beside it. */
  lagged: Float64Array[];
  /** What is left of the state before the record, per lag: 1 at its begin. */
  fading: Float64Array[];
  /** How many of the lags are the part's own. */
  own: number;
  /** W. */
  power: Float64Array;
  /** It took little when the record began. */
  beganAtRest: boolean;
  /** Read now and then, not all the time. */
  byHand: boolean;
}

const BINS = 300;
/** A fan that stands is no fan at all, and its law ends there: as a share of its speed under load. */
const LEAST_SPEED = 0.15;
/** The power before the record is taken for that of its first so many seconds. */
const BEFORE_S = 30;
/** What was read in less than this share of the steps was read by hand. */
const BY_HAND = 0.02;
/** A part that takes less than this share of the most is at rest. */
const AT_REST = 0.3;

/** What power and speed do to the rise beyond proportion. */
export interface Law {
  /** Resistance goes as speed^−n, 1 at `atRpm`; null where no speed was recorded in all records. */
  fan: { n: number; atRpm: number } | null;
  /** The rise grows with P·(1 + by·P/atW), as of what loses by its own resistance; by the plain power where `by` is 0. */
  bend: { by: number; atW: number };
}

/** Power as the rise goes by it, W: the plain power at `atW`. */
export const bent = (powerW: number, { by, atW }: Law['bend']): number => (powerW * (1 + (by * powerW) / atW)) / (1 + by);

/**
 * Power through first-order lags, and what fades of the state before, in bins.
 *
 * The resistance goes as a power of the fan's speed, speed^−n, so the power is multiplied by it before it is lagged. That of a part beside
 * it goes through air that another fan moves: in proportion.
 *
 * @param neighbourTausS lags of the part beside it, s; none where its power is not asked of
 */
export function binned(record: Stepped, tausS: readonly number[], { fan, bend }: Law, neighbourTausS: readonly number[] = []): Binned {
  const { stepS, rise, power, neighbour } = record;
  const n = rise.length;
  const size = Math.max(1, Math.ceil(n / BINS));
  const bins = Math.ceil(n / size);
  const speeds = record.fan;
  const effective = power.map((value, k) => {
    const flow = fan && speeds ? Math.max(LEAST_SPEED, speeds[k]! / fan.atRpm) ** -fan.n : 1;
    return flow * (bend.by === 0 ? value : bent(value, bend));
  });
  const count = new Int32Array(bins);
  for (let k = 0; k < n; k++) if (!Number.isNaN(rise[k]!)) count[Math.floor(k / size)]!++;
  const full: number[] = [];
  const place = new Int32Array(bins).fill(-1);
  for (let b = 0; b < bins; b++) if (count[b]! > 0) place[b] = full.push(b) - 1;
  const into = (out: Float64Array, k: number, value: number) => {
    const b = Math.floor(k / size);
    if (!Number.isNaN(rise[k]!)) out[place[b]!]! += value / count[b]!;
  };
  const y = new Float64Array(full.length);
  const p = new Float64Array(full.length);
  for (let k = 0; k < n; k++) {
    into(y, k, rise[k]!);
    into(p, k, power[k]!);
  }
  const first = Math.max(1, Math.round(BEFORE_S / stepS));
  const beforeOf = (watts: Float64Array) => mean([...watts.subarray(0, first)]);
  const before = beforeOf(effective);
  const lagged: Float64Array[] = [];
  const fading: Float64Array[] = [];
  const lag = (watts: Float64Array, tauS: number) => {
    const [through, left] = [new Float64Array(full.length), new Float64Array(full.length)];
    const share = 1 - Math.exp(-stepS / tauS);
    let state = beforeOf(watts);
    for (let k = 0; k < n; k++) {
      const next = state + share * (watts[k]! - state);
      into(through, k, (state + next) / 2);
      into(left, k, Math.exp((-(k + 0.5) * stepS) / tauS));
      state = next;
    }
    lagged.push(through);
    fading.push(left);
  };
  for (const tauS of tausS) lag(effective, tauS);
  if (neighbour) for (const tauS of neighbourTausS) lag(neighbour, tauS);
  const read = rise.reduce((sum, value) => sum + (Number.isNaN(value) ? 0 : 1), 0);
  const most = p.reduce((sum, value) => Math.max(sum, value), 0);
  return {
    id: record.id,
    n: full.length,
    rise: y,
    lagged,
    fading,
    own: tausS.length,
    power: p,
    beganAtRest: before < AT_REST * most,
    byHand: read < BY_HAND * n,
  };
}
