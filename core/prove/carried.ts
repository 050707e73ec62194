import { carry, type PowerPoint } from '../src/index.ts';
import { line, share, type Claim } from './claim.ts';
import { normalFrom, uniformOf } from './traces.ts';

/** A regulator that loses something at no load, in proportion to what it gives, and by a resistance that grows with its own heat. */
function regulator(seed: number): { riseAt: (powerW: number) => number; limitC: number; airC: number } {
  const u = uniformOf(3000 + seed);
  const kPerW = 2 + 6 * u();
  const rest = 0.3 + 1.2 * u();
  const linear = 0.01 + 0.05 * u();
  const resistive = (0.5 + 3.5 * u()) * 1e-4;
  const warms = 0.002 + 0.002 * u();
  const airC = 20 + 15 * u();
  const riseAt = (powerW: number) => {
    let rise = 0;
    for (let i = 0; i < 200; i++) rise = kPerW * (rest + linear * powerW + resistive * (1 + warms * rise) * powerW ** 2);
    return rise;
  };
  return { riseAt, limitC: 95 + 30 * u(), airC };
}

/** Power at which it reaches its limit; bisection on the model. */
function truthOf({ riseAt, limitC, airC }: ReturnType<typeof regulator>): number {
  let [low, high] = [0, 2000];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    const rise = riseAt(middle);
    if (Number.isFinite(rise) && rise < limitC - airC) low = middle;
    else high = middle;
  }
  return low;
}

/** Measured at a quarter, 0.37 and half of what it carries and at rest, with scatter between loads; as 40, 60 and 80 of 160 W. */
function carried(kind: 'idle' | 'none', draws: number): { safe: number; far: number; near: number } {
  let [safe, far, all] = [0, 0, 0];
  const slack: number[] = [];
  for (let seed = 1; seed <= draws; seed++) {
    const made = regulator(seed);
    const truth = truthOf(made);
    const normal = normalFrom(seed + 11);
    const point = (powerW: number): PowerPoint => ({
      powerW: { value: powerW * (1 + 0.003 * normal()), u: 0.003 * powerW, dof: 60 },
      rise: { value: made.riseAt(powerW) + 0.15 * normal(), u: 0.15, dof: 60 },
    });
    const top = truth * (0.45 + (0.35 * ((seed * 7) % 11)) / 10);
    const points = [0.5, 0.75, 1].map((part) => point(part * top));
    const [spot] = carry({
      spots: [
        {
          id: 'stage',
          name: 'stage',
          limitC: made.limitC,
          limitSource: 'made up',
          points,
          ...(kind === 'idle' ? { idle: [point(0.02 * top)] } : {}),
        },
      ],
      airC: made.airC,
      marginK: 0,
      coverage: 0.95,
    }).spots;
    if (!spot?.maxW) continue;
    all++;
    if (spot.maxW.value - spot.doubtW <= truth) safe++;
    if (spot.far === truth > 1.3 * top) far++;
    slack.push((spot.maxW.value - spot.doubtW) / truth);
  }
  slack.sort((p, q) => p - q);
  return { safe: share(safe, all), far: share(far, all), near: slack[Math.floor(slack.length / 2)] ?? 0 };
}

/** All claims about carry. @param draws regulators of each kind */
export function proveCarry(draws: number): Claim[] {
  const [idle, none] = [carried('idle', draws), carried('none', draws)];
  return [
    line('Least watts of a regulator lie below the truth, three loads and idle', idle.safe, 0.9, 1),
    line('The same without an idle reading', none.safe, 0.9, 1),
    line('Least watts as a share of the true ones, median, with idle', idle.near, 0.6, 1),
  ];
}
