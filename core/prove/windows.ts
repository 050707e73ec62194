import { studentCoverage } from '../src/distributions/studentT.ts';
import { readWindow, reviewRun, type Estimate, type RunRecord, type Series } from '../src/index.ts';
import { line, share, type Claim } from './claim.ts';
import { normalFrom, uniformOf } from './traces.ts';

/** A record of noise of 1 K that stays alike for `tauS`, one sample a second; its true mean is 0. */
function noise(lengthS: number, tauS: number, seed: number): Series {
  const normal = normalFrom(seed);
  const stays = tauS > 0 ? Math.exp(-1 / tauS) : 0;
  let now = normal();
  const y = Float64Array.from({ length: lengthS }, (_, i) => (now = i === 0 ? now : stays * now + Math.sqrt(1 - stays * stays) * normal()));
  return { t: Float64Array.from({ length: lengthS }, (_, i) => i), y };
}

const holds = ({ value, u, dof }: Estimate, truth: number) => Math.abs(value - truth) <= studentCoverage(0.95, dof) * u;

/** 95 % intervals of a window's mean hold the true mean, however long the noise remembers. */
const ofNoise = (draws: number): Claim[] =>
  [0, 10, 30, 60, 120].map((tauS) => {
    let held = 0;
    for (let seed = 1; seed <= draws; seed++)
      if (holds(readWindow(noise(300, tauS, 1000 * tauS + seed), { startS: 0, endS: 300 }).mean, 0)) held++;
    return line(`95 % interval of a mean over 300 s holds, noise alike for ${tauS} s`, share(held, draws), 0.92, 0.99);
  });

/** A settled spot that follows a room which comes and goes, four minutes late: what is read is the rise. */
function inWanderingRoom(periodS: number, seed: number): RunRecord {
  const uniform = uniformOf(seed);
  const phase = 2 * Math.PI * uniform();
  const normal = normalFrom(seed + 7);
  const n = 3600;
  const t = Float64Array.from({ length: n }, (_, i) => i);
  const w = (2 * Math.PI) / periodS;
  const late = Math.atan(240 * w);
  const room = t.map((s) => 22 + 0.5 * Math.sin(w * s + phase) + 0.03 * normal());
  const spot = t.map((s) => 62 - 40 * Math.exp(-s / 180) + 0.5 * Math.cos(late) * Math.sin(w * s + phase - late) + 0.1 * normal());
  const none = { performance: null, power: null, fan: null, clock: null, noise: null, whine: null };
  return {
    ...none,
    room: { t, y: room },
    intake: null,
    exhaust: null,
    utilisation: null,
    spots: [{ id: 'spot', series: { t, y: spot } }],
    phases: [{ kind: 'load', name: 'load', startS: 0, endS: n, endedBy: 'time', loadPercent: 100 }],
    throttle: null,
    locks: [],
  };
}

function ofRoom(draws: number): Claim {
  let [held, all] = [0, 0];
  for (const periodS of [600, 900, 1500])
    for (let seed = 1; seed <= draws; seed++) {
      const rise = reviewRun(inWanderingRoom(periodS, 31 * periodS + seed)).spots[0]!.load!.rise!.mean;
      all++;
      if (holds(rise, 40)) held++;
    }
  return line('95 % interval of a rise holds, room of ± 0.5 K in 10 to 25 min', share(held, all), 0.92, 1);
}

/** All claims about windows. @param draws of each kind of noise */
export const proveWindows = (draws: number): Claim[] => [...ofNoise(20 * draws), ofRoom(draws)];
