import { studentCoverage } from '../src/distributions/studentT.ts';
import { typeB } from '../src/uncertainty/typeB.ts';
import { eachOutput, readWindow, reviewRun, type Estimate, type RunRecord, type Series } from '../src/index.ts';
import { leftBySteps } from '../src/series/leftBySteps.ts';
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
  return {
    ...eachOutput(() => null),
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

/** A load read by a sensor that gives whole steps, in noise of so many of them. */
function inSteps(stepK: number, noiseSteps: number, seed: number): { record: RunRecord; truthK: number } {
  const made = inWanderingRoom(1500, seed);
  const [uniform, normal] = [uniformOf(seed + 5), normalFrom(seed + 9)];
  const truthK = 35 + 10 * uniform();
  const { t } = made.spots[0]!.series;
  const y = t.map((s) => stepK * Math.round((22 + truthK - truthK * Math.exp(-s / 180) + noiseSteps * stepK * normal()) / stepK));
  return { record: { ...made, room: { t, y: t.map(() => 22) }, spots: [{ id: 'spot', series: { t, y } }] }, truthK };
}

/** What a sensor's steps leave is inside the doubt, and steps are no spikes. */
function ofSteps(draws: number): Claim[] {
  let [held, all, left, wide] = [0, 0, 0, 0];
  for (const stepK of [1, 2])
    for (const noiseSteps of [0.02, 0.3, 0.5, 0.8])
      for (let seed = 1; seed <= draws; seed++) {
        const { record, truthK } = inSteps(stepK, noiseSteps, 97 * stepK + 13_000 * noiseSteps + seed);
        const { absolute, spikeShare, steps } = reviewRun(record).spots[0]!.load!;
        const u = Math.hypot(absolute.mean.u, leftBySteps(steps.stepK ?? stepK, steps.scatterK));
        all++;
        if (Math.abs(absolute.mean.value - 22 - truthK) <= 2 * u) held++;
        if (spikeShare > 0.01) left++;
        if (noiseSteps >= 0.5 && u > typeB(stepK / 2, 'rectangular') / 2) wide++;
      }
  return [
    line('Twice the doubt of a mean holds, sensors that read in steps of 1 and 2 K', share(held, all), 0.92, 1),
    line('More than a hundredth of a window is left out as spikes, the same', share(left, all), 0, 0.02),
    line('More than half of a step stands in the doubt though noise of half a step dithers it', share(wide, all / 2), 0, 0.05),
  ];
}

/** All claims about windows. @param draws of each kind of noise */
export const proveWindows = (draws: number): Claim[] => [...ofNoise(20 * draws), ofRoom(draws), ...ofSteps(draws)];
