import { boundSettling, READ_WITHIN_K, remainingAt } from '../src/index.ts';
import { leftInMeanOf } from '../src/judge/figure/doubt.ts';
import { line, share, type Claim } from './claim.ts';
import { drawn, settledAt, toCome, upTo, type TraceModel } from './traces.ts';

const TOLERANCE_K = 0.5;
const NOISES = [
  { sdK: 0.1, correlationS: 0 },
  { sdK: 0.1, correlationS: 15 },
];
const SHAPES: Pick<TraceModel, 'name' | 'terms'>[] = [
  { name: '25 K/1 min and 5 K/60 min', terms: [[25, 60], [5, 3600]] }, // prettier-ignore
  { name: '25 K/1 min and 5 K/30 min', terms: [[25, 60], [5, 1800]] }, // prettier-ignore
  { name: '20 K/2 min and 6 K/12 min', terms: [[20, 120], [6, 720]] }, // prettier-ignore
  { name: '30 K/3 min', terms: [[30, 180]] },
  { name: 'falling 18 K/4 min', terms: [[-18, 240]] },
];
const MODELS: TraceModel[] = SHAPES.flatMap((shape) => NOISES.map((noise) => ({ ...shape, ...noise })));

/** The 95 % bounds hold what truly remains. */
function boundsHold(draws: number): Claim {
  let [held, all] = [0, 0];
  for (const model of MODELS)
    for (let seed = 1; seed <= draws; seed++) {
      const record = drawn(model, 3600, seed);
      for (const n of [600, 900, 1500, 2400, 3600]) {
        const { lowK, highK } = remainingAt(upTo(record, n), { toleranceK: TOLERANCE_K });
        const truth = toCome(model, n);
        all++;
        // The bound away from the part's start: upper where it warms, lower where it cools.
        if (truth >= 0 ? highK >= truth - 0.01 : lowK <= truth + 0.01) held++;
      }
    }
  return line('One-sided 95 % bound of what remains holds the truth', share(held, all), 0.92, 1);
}

/** Nothing is called settled that is not, and what is settled is called so in time. */
function stops(draws: number): Claim[] {
  let [early, stopped] = [0, 0];
  const late: number[] = [];
  for (const model of MODELS) {
    const truth = settledAt(model, TOLERANCE_K);
    for (let seed = 1; seed <= draws; seed++) {
      const record = drawn(model, 4 * 3600, 100 + seed);
      for (let n = 420; n <= record.t.length; n = Math.ceil(n * 1.06)) {
        if (!boundSettling(upTo(record, n), { toleranceK: TOLERANCE_K }).settled) continue;
        stopped++;
        if (Math.abs(toCome(model, n)) > 1.1 * TOLERANCE_K) early++;
        if (model.correlationS === 0) late.push(n / truth);
        break;
      }
    }
  }
  late.sort((p, q) => p - q);
  return [
    line('Called settled with more than a tenth beyond the tolerance left', share(early, stopped), 0, 0.05),
    line('Called settled at so many times the true time, median, white noise', late[Math.floor(late.length / 2)] ?? NaN, 0.95, 2.2),
  ];
}

/** The forecast's 95 % band holds the time at which it settles, from a third of the way on. */
function forecasts(draws: number): Claim {
  let [held, all] = [0, 0];
  for (const model of MODELS) {
    const truth = settledAt(model, TOLERANCE_K);
    for (let seed = 1; seed <= draws; seed++) {
      const record = drawn(model, Math.ceil(truth), 300 + seed);
      for (const part of [0.35, 0.5, 0.7, 0.9]) {
        const n = Math.round(part * truth);
        if (n < 240) continue;
        const { etaLowS, etaHighS } = remainingAt(upTo(record, n), { toleranceK: TOLERANCE_K });
        all++;
        if (etaLowS <= truth - n + 5 && etaHighS >= truth - n - 5) held++;
      }
    }
  }
  return line('95 % band of the forecast holds, from a third of the way on', share(held, all), 0.85, 0.995);
}

/** What is said of when it settles is not far from the truth: nothing is said where it is not known. */
function toldRight(draws: number): Claim[] {
  let [off, told, all] = [0, 0, 0];
  for (const model of [...MODELS, ...SHAPES.map((shape) => ({ ...shape, sdK: 0.3, correlationS: 15 }))]) {
    const truth = settledAt(model, TOLERANCE_K);
    for (let seed = 1; seed <= draws; seed++) {
      const record = drawn(model, Math.ceil(truth), 500 + seed);
      for (const part of [0.15, 0.35, 0.5, 0.7]) {
        const n = Math.round(part * truth);
        if (n < 240) continue;
        const { etaS, settled } = boundSettling(upTo(record, n), { toleranceK: TOLERANCE_K });
        all++;
        if (settled || etaS === null) continue;
        told++;
        if (etaS > 2.5 * (truth - n) + 120 || etaS < 0.4 * (truth - n) - 120) off++;
      }
    }
  }
  return [
    line('When it settles, told and off by more than 2.5 times', share(off, told), 0, 0.1),
    line('Told at all, slow parts and fast, quiet sensors and noisy', share(told, all), 0.15, 1),
  ];
}

/** Twice the doubt about what is likely to remain holds it. */
function likelyHolds(draws: number): Claim {
  let [held, all] = [0, 0];
  for (const model of MODELS)
    for (let seed = 1; seed <= draws; seed++)
      for (const n of [1500, 2700]) {
        const { likely } = remainingAt(drawn(model, n, 500 + seed), { toleranceK: TOLERANCE_K });
        all++;
        if (Math.abs(toCome(model, n) - likely.value) <= 2 * likely.u + 0.02) held++;
      }
  return line('Likely remainder within twice its doubt, 25 and 45 min', share(held, all), 0.9, 1);
}

/** Runs of one side, whose mean is known better than one of them: as far as they are not wrong alike. */
function likelyOfMean(draws: number): Claim {
  const RUNS = 3;
  let [held, all] = [0, 0];
  for (const model of MODELS)
    for (let seed = 1; seed <= draws; seed++)
      for (const n of [1500, 2700]) {
        const likely = Array.from({ length: RUNS }, (_, k) => remainingAt(drawn(model, n, 5000 + RUNS * seed + k), { toleranceK: TOLERANCE_K }).likely); // prettier-ignore
        const meanOf = (of: (of: (typeof likely)[number]) => number) => likely.reduce((sum, one) => sum + of(one) / RUNS, 0);
        all++;
        if (Math.abs(toCome(model, n) - meanOf(({ value }) => value)) <= 2 * leftInMeanOf(RUNS) * meanOf(({ u }) => u) + 0.02) held++;
      }
  return line('The same of the mean of three runs, which err partly alike', share(held, all), 0.9, 1);
}

/** A load that ends as soon as it is known where it settles: what is still to come then lies within twice its doubt, though it was looked at again and again. */
function readEarly(draws: number): Claim[] {
  let [held, all] = [0, 0];
  const shares: number[] = [];
  for (const model of MODELS) {
    const truth = settledAt(model, TOLERANCE_K);
    for (let seed = 1; seed <= draws; seed++) {
      const record = drawn(model, 2 * 3600, 900 + seed);
      for (let n = 600; n <= record.t.length; n += 60) {
        const { likely } = remainingAt(upTo(record, n), { toleranceK: TOLERANCE_K });
        if (2 * likely.u > READ_WITHIN_K) continue;
        all++;
        if (Math.abs(toCome(model, n) - likely.value) <= 2 * likely.u + 0.02) held++;
        // Where the least length is longer than it takes to settle there is nothing to be won.
        if (truth > 1200) shares.push(n / truth);
        break;
      }
    }
  }
  shares.sort((p, q) => p - q);
  return [
    line('Ended when it could be read: what remains within twice its doubt', share(held, all), 0.9, 1),
    line('The same, as a share of the time to settle, slow parts, median', shares[Math.floor(shares.length / 2)] ?? NaN, 0, 1),
  ];
}

/** All claims about settling. @param draws of each kind of trace */
export const proveSettling = (draws: number): Claim[] => [
  boundsHold(draws),
  ...stops(Math.max(2, Math.ceil(draws / 2))),
  forecasts(draws),
  ...toldRight(draws),
  likelyHolds(draws),
  likelyOfMean(Math.max(2, Math.ceil(draws / 2))),
  ...readEarly(Math.max(2, Math.ceil(draws / 2))),
];
