import { studentCoverage } from '../src/distributions/studentT.ts';
import { reviewOfFigures, type JudgedRun } from '../src/index.ts';
import { restatedFigure } from '../src/judge/figure/restate.ts';
import { line, share, type Claim } from './claim.ts';
import { normalFrom, uniformOf } from './traces.ts';

const DUTIES = [25, 35, 45, 55, 65, 75, 85, 100];
const FLOOR_DB = 28.5;

/** A cooler's sweep: rise and total level over duty, read with a meter that is off by 0.2 dB for the whole sweep and a tenth at each step. */
function sweep(seed: number) {
  const u = uniformOf(5000 + seed);
  const normal = normalFrom(seed + 3);
  const [top, least] = [1000 + 600 * u(), 24 + 10 * u()];
  const [quiet, perDuty] = [12 + 5 * u(), 0.4 + 0.2 * u()];
  const rise = (duty: number) => least + top / (duty + 12);
  const level = (duty: number) => 10 * Math.log10(10 ** (FLOOR_DB / 10) + 10 ** ((quiet + perDuty * duty) / 10));
  const off = 0.2 * normal();
  const given = reviewOfFigures({
    noiseFloorDb: FLOOR_DB,
    loads: DUTIES.map((duty) => ({
      name: `Fan, ${duty} %`,
      spots: [{ spotId: 'core', kind: 'rise', figure: { value: rise(duty) + 0.1 * normal(), step: 0.1 } }],
      room: null,
      outputs: { noise: { value: level(duty) + off + 0.1 * normal(), step: 0.1 } },
    })),
  });
  const dutyAt = (db: number) => (10 * Math.log10(10 ** (db / 10) - 10 ** (FLOOR_DB / 10)) - quiet) / perDuty;
  return { run: { review: given } as JudgedRun, truth: (db: number) => rise(dutyAt(db)), level };
}

/** All claims about equal noise. @param draws sweeps */
export function proveEqualNoise(draws: number): Claim[] {
  let [held, all, refused] = [0, 0, 0];
  for (let seed = 1; seed <= draws; seed++) {
    const { run, truth, level } = sweep(seed);
    for (const part of [0.3, 0.5, 0.8]) {
      const db = Math.max(FLOOR_DB + 4, level(40)) * (1 - part) + level(95) * part;
      const read = restatedFigure(run, 'core', 'rise', 'settled-mean', { kind: 'noise', levelDb: db });
      if (!read) continue;
      all++;
      // Beside the level: the tenth to which a rise was read, and what it scatters.
      const doubt = studentCoverage(0.95, 30) * Math.hypot(read.u, 0.1);
      if (Math.abs(read.value - truth(db)) <= doubt) held++;
    }
    if (restatedFigure(run, 'core', 'rise', 'settled-mean', { kind: 'noise', levelDb: FLOOR_DB + 1 }) === null) refused++;
  }
  return [
    line('95 % interval of a rise at equal noise holds, meter 0.2 dB off', share(held, all), 0.9, 1),
    line('Refused where the room drowns it', share(refused, draws), 0.95, 1),
  ];
}
