import { findLosses, type LossInput, type Series } from '../src/index.ts';
import { line, share, type Claim } from './claim.ts';
import { normalFrom, uniformOf } from './traces.ts';

/** A part under load for an hour, one sample a second: what it does, how warm it gets, what it draws, how busy it is. */
interface Drawn {
  input: LossInput;
  /** When the loss began, seconds; null where there is none. */
  startS: number | null;
  cause: Cause | null;
}
type Cause = 'thermal' | 'power' | 'load' | 'voltage-or-clock-cap' | 'vanished';

const LENGTH_S = 3600;
const LIMIT_C = 90;
const CAP_W = 220;

/** What a second of the trace is, before noise. */
interface Second {
  work: number;
  temperatureC: number;
  powerW: number;
  busy: number;
}

interface Shape {
  at(s: number): Second;
  /** Of the work. */
  noise: number;
  alikeS: number;
}

function traced({ at, noise, alikeS }: Shape, seed: number, scale: number): LossInput {
  const [n1, n2, n3, n4] = [normalFrom(seed), normalFrom(seed + 1), normalFrom(seed + 2), normalFrom(seed + 3)];
  const stays = alikeS > 0 ? Math.exp(-1 / alikeS) : 0;
  const t = Float64Array.from({ length: LENGTH_S }, (_, i) => i);
  const seconds = Array.from(t, at);
  let now = n1();
  const series = (of: (second: Second, i: number) => number): Series => ({ t, y: Float64Array.from(seconds, of) });
  return {
    load: { startS: 0, endS: LENGTH_S },
    work: series(({ work }, i) => {
      if (i > 0) now = stays * now + Math.sqrt(1 - stays * stays) * n1();
      return scale * work * (1 + noise * now);
    }),
    temperature: series(({ temperatureC }) => Math.round(10 * (temperatureC + 0.15 * n2())) / 10),
    limitC: LIMIT_C,
    power: series(({ powerW }) => powerW * (1 + 0.006 * n3())),
    powerCapW: CAP_W,
    utilisation: series(({ busy }) => Math.min(100, busy + 0.4 * n4())),
  };
}

const warming = (s: number, toC: number, tauS: number) => toC - (toC - 32) * Math.exp(-s / tauS);

/** No loss by anything: noise, a drift as it warms, a boost, a fast cache, dips for collection. */
function harmless(kind: number, seed: number): Drawn {
  const u = uniformOf(9000 + seed);
  const [hot, tau] = [60 + 12 * u(), 100 + 300 * u()];
  const [drift, boost, boostS] = [0.03 + 0.04 * u(), 1.04 + 0.12 * u(), 30 + 40 * u()];
  const [cache, cacheS] = [1.5 + 2 * u(), 60 + 350 * u()];
  const every = 90 + 200 * u();
  const alikeS = kind === 1 ? 3 + 25 * u() : 0;
  const work = (s: number) => {
    if (kind === 2) return 1 - drift * (1 - Math.exp(-s / (tau + 400)));
    if (kind === 3) return s < boostS ? boost : 1;
    if (kind === 4) return s < cacheS ? cache : 1;
    if (kind === 5) return s % every < 3 ? 0.3 : 1;
    return 1;
  };
  const at = (s: number): Second => ({ work: work(s), temperatureC: warming(s, hot, tau), powerW: 150 * Math.min(1.1, work(s)), busy: 99 });
  return { input: traced({ at, noise: kind < 2 ? 0.02 : 0.008, alikeS }, 50 * seed + kind, 6100), startS: null, cause: null };
}

/** A loss of a known cause that begins at a known second. */
function held(cause: Cause, seed: number): Drawn {
  const u = uniformOf(400 + seed);
  const startS = Math.round(500 + 1800 * u());
  const depth = 0.04 + 0.21 * u();
  const period = u() < 0.4 ? 10 + 50 * u() : 0;
  const duty = 0.35 + 0.4 * u();
  const sensorOff = -2 + 2.5 * u();
  const cap = CAP_W * (1 + 0.04 * (2 * u() - 1));
  const lateS = u() < 0.3 ? 8 + 40 * u() : Infinity;
  const on = (s: number) => s >= startS && (period === 0 || (s - startS) % period < duty * period);
  const cold = 62 + 10 * u();
  const at = (s: number): Second => {
    const less = on(s) ? 1 - depth : 1;
    const idle: Second = { work: less, temperatureC: warming(s, cold, 300), powerW: 150, busy: 99 };
    if (cause === 'thermal') {
      const rising = warming(s, LIMIT_C + 8, 0.37 * startS) + (LIMIT_C - warming(startS, LIMIT_C + 8, 0.37 * startS));
      const temperatureC = Math.min(LIMIT_C, s < startS ? rising : LIMIT_C - (on(s) ? 0.6 : 0.1)) + sensorOff;
      // What waits for the part later on is a consequence.
      return { work: less, temperatureC, powerW: 190 * (on(s) ? 1 - 1.3 * depth : 1), busy: s > startS + lateS ? 91 : 99 };
    }
    if (cause === 'power') return { ...idle, powerW: s < startS ? Math.min(cap, 0.93 * cap + (0.07 * cap * s) / startS) : cap };
    if (cause === 'load') return { ...idle, powerW: 150 * less, busy: on(s) ? 99 * (1 - depth) - 1 : 99 };
    if (cause === 'voltage-or-clock-cap') return { ...idle, powerW: 150 * less };
    return { ...idle, work: s >= startS && s < startS + 120 ? NaN : 1 };
  };
  const noise = cause === 'voltage-or-clock-cap' ? 0.001 : 0.002 + 0.01 * u();
  return { input: traced({ at, noise, alikeS: 0 }, 77 * seed, 2400), startS, cause };
}

const KINDS = ['white noise of 2 %', 'noise of 2 % that stays alike', 'a drift', 'a boost', 'a fast cache', 'short dips'];
const CAUSES: Cause[] = ['thermal', 'power', 'load', 'voltage-or-clock-cap', 'vanished'];

/** All claims about losses of work. @param draws of each kind */
export function proveLosses(draws: number): Claim[] {
  let [found, begun, right, all, single, swings, heatRight] = [0, 0, 0, 0, 0, 0, 0];
  const quiet = KINDS.map((_, kind) => {
    let alarms = 0;
    for (let seed = 1; seed <= draws; seed++) {
      const { episodes, heldBack } = findLosses(harmless(kind, seed).input);
      if (episodes.length + heldBack.length > 0) alarms++;
    }
    return share(alarms, draws);
  });
  for (const cause of CAUSES)
    for (let seed = 1; seed <= draws; seed++) {
      const { input, startS } = held(cause, 1000 * CAUSES.indexOf(cause) + seed);
      const report = findLosses(input);
      const losses = [...report.episodes, ...report.heldBack];
      const first = losses.find((loss) => Math.abs(loss.startS - startS!) < 90);
      all++;
      if (first) found++;
      if (first && Math.abs(first.startS - startS!) <= 15) begun++;
      if (first?.limiter === cause) right++;
      if ((report.timeToFirstS !== null) === (cause === 'thermal')) heatRight++;
      if (first && first.duty < 0.9) {
        swings++;
        if (losses.length === 1) single++;
      }
    }
  return [
    ...KINDS.map((kind, i) => line(`No loss of work is made out of ${kind}: alarms`, quiet[i]!, 0, 0.02)),
    line('Losses of 4 to 25 % are found', share(found, all), 0.95, 1),
    line('Their beginning within 15 s', share(begun, all), 0.9, 1),
    line('By what the part was held back, right', share(right, all), 0.9, 1),
    line('Throttled is said where heat did it and nowhere else', share(heatRight, all), 0.95, 1),
    line('What comes and goes within a minute is one episode', share(single, swings), 0.9, 1),
  ];
}
