import { findOnset, whichFirst } from '../src/index.ts';
import { line, share, type Claim } from './claim.ts';
import { normalFrom, uniformOf } from './traces.ts';

const CHANGE_S = 300;
const LENGTH_S = 1200;
const around = { changeS: CHANGE_S, fromS: 0, toS: LENGTH_S };

interface Draw {
  /** Of the movement, K and seconds; a second part six times as slow. */
  byK: number;
  tauS: number;
  delayS: number;
  alike: number;
  stepK: number;
  /** Of a part that is over in a third of a second before that, K. */
  atOnceK?: number;
  everyS?: number;
}

const AT_ONCE_S = 0.3;

function trace({ byK, tauS, delayS, alike, stepK, atOnceK = 0, everyS = 1 }: Draw, seed: number) {
  const normal = normalFrom(seed);
  const t = Float64Array.from({ length: LENGTH_S / everyS }, (_, i) => everyS * i);
  let noise = 0;
  const y = t.map((time) => {
    noise = alike * noise + 0.1 * normal() * Math.sqrt(1 - alike ** 2);
    const s = Math.max(0, time - CHANGE_S - delayS);
    const value =
      45 +
      0.002 * time -
      atOnceK * Math.expm1(-s / AT_ONCE_S) -
      byK * (0.7 * Math.expm1(-s / tauS) + 0.3 * Math.expm1(-s / (6 * tauS))) +
      noise;
    return stepK > 0 ? stepK * Math.round(value / stepK) : value;
  });
  return { t, y };
}

/** All claims about which spot moves first. @param draws of each kind */
export function proveOnsets(draws: number): Claim[] {
  const kinds = [
    ['white noise', 0, 0],
    ['noise alike for 10 s', 0.9, 0],
    ['steps of 1 K', 0, 1],
  ] as const;
  const covered = kinds.map(([words, alike, stepK]) => {
    let [inside, told] = [0, 0];
    for (let seed = 1; seed <= draws; seed++) {
      const u = uniformOf(8000 + seed);
      const draw = { byK: 4 + 16 * u(), tauS: 20 + 280 * u(), delayS: 60 * u(), alike, stepK };
      const { afterS } = findOnset(trace(draw, seed), around);
      if (!afterS) continue;
      told++;
      if (Math.abs(afterS.value - draw.delayS) <= 2 * afterS.u) inside++;
    }
    return line(`Twice its doubt holds when a spot began to move, ${words}`, share(inside, told), 0.88, 1);
  });
  let [held, found] = [0, 0];
  for (let seed = 1; seed <= draws; seed++) {
    const u = uniformOf(8500 + seed);
    const draw = {
      byK: 4 + 16 * u(),
      tauS: 20 + 280 * u(),
      delayS: 20 * u(),
      alike: 0.9,
      stepK: seed % 2,
      atOnceK: 8 + 30 * u(),
      everyS: 1 + (seed % 3),
    };
    const { afterS } = findOnset(trace(draw, seed + 30_000), around);
    if (!afterS) continue;
    found++;
    if (Math.abs(afterS.value - draw.delayS) <= 2 * afterS.u) held++;
  }
  covered.push(line('The same where half of the way is gone before the next sample', share(held, found), 0.88, 1));
  let [wrong, right, alarms] = [0, 0, 0];
  for (let seed = 1; seed <= draws; seed++) {
    const u = uniformOf(9000 + seed);
    const usual = () => ({ byK: 4 + 16 * u(), tauS: 20 + 280 * u(), alike: 0.9, stepK: 0 });
    const [near, far] = [trace({ ...usual(), delayS: 2 }, seed), trace({ ...usual(), delayS: 2 + 40 * (seed % 2) }, seed + 70_000)];
    const spots = [near, far].map((series, i) => ({ spotId: i === 0 ? 'near' : 'far', onset: findOnset(series, around) }));
    const said = whichFirst({ name: '', atS: CHANGE_S, spots }, (id) => id);
    if (said.startsWith(seed % 2 ? 'far' : 'far moves') || (seed % 2 === 0 && said.startsWith('near moves'))) wrong++;
    if (seed % 2 && said.startsWith('near moves')) right++;
    const still = trace({ byK: 0, tauS: 60, delayS: 0, alike: 0.9, stepK: 0 }, seed + 140_000);
    if (findOnset(still, around).afterS) alarms++;
  }
  return [
    ...covered,
    line('Which spot moves first, said wrongly or where both moved at once', share(wrong, draws), 0, 0.1),
    line('Which moves first, said where 40 s lie between', share(right, Math.ceil(draws / 2)), 0.85, 1),
    line('A spot that stays where it is is said to move', share(alarms, draws), 0, 0.05),
  ];
}
