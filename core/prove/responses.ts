import { AS_IT_RAN, fitResponse, foretell, readUnseen, type ResponseRecord } from '../src/index.ts';
import { line, share, type Claim } from './claim.ts';
import { normalFrom, uniformOf } from './traces.ts';

/** A part on a sink that sheds the better the warmer it is: not the sum of lags that is fitted to it. */
interface Bench {
  /** K/W from part to sink, and from sink to air at 20 K. */
  inside: number;
  outside: number;
  partJPerK: number;
  sinkJPerK: number;
  /** How the last of the way improves with its own difference, as a power. */
  buoyancy: number;
  fullW: number;
  idleW: number;
  /** Between mounts, share of the way inside. */
  mounts: number;
}

function benchOf(u: () => number): Bench {
  return {
    inside: 0.05 + 0.15 * u(),
    outside: 0.1 + 0.2 * u(),
    partJPerK: 40 + 100 * u(),
    sinkJPerK: 500 + 2500 * u(),
    buoyancy: 0.1 * u(),
    fullW: 60 + 140 * u(),
    idleW: 5 + 15 * u(),
    mounts: 0.03,
  };
}

interface Held {
  airC: number;
  watts: number;
  mount: number;
}

/** Ten minutes at rest and fifty under load, by small steps of time. */
function run(bench: Bench, { airC, watts, mount }: Held, seed: number): { record: ResponseRecord; settledC: number } {
  const normal = normalFrom(seed);
  const length = 3600;
  const t = Float64Array.from({ length }, (_, s) => s);
  const power = t.map((s) => (s < 600 ? bench.idleW : watts));
  const inside = bench.inside * mount;
  const shed = (overK: number) => (overK / bench.outside) * (Math.max(overK, 0.5) / 20) ** bench.buoyancy;
  /** Where the sink settles: by halving. */
  const sinkAt = (w: number) => {
    let [low, high] = [0, 400];
    for (let i = 0; i < 60; i++) if (shed((low + high) / 2) < w) low = (low + high) / 2;
      else high = (low + high) / 2; // prettier-ignore
    return low;
  };
  let sink = sinkAt(bench.idleW);
  let part = sink + bench.idleW * inside;
  let noise = 0;
  const spot = new Float64Array(length);
  for (let s = 0; s < length; s++) {
    const across = (part - sink) / inside;
    part += (power[s]! - across) / bench.partJPerK;
    sink += (across - shed(sink)) / bench.sinkJPerK;
    noise = 0.9 * noise + 0.06 * normal();
    spot[s] = airC + part + noise;
  }
  return {
    record: {
      id: String(seed),
      spot: { t, y: spot },
      air: { t, y: t.map(() => airC + 0.05 * normal()) },
      power: { t, y: power.map((w) => w + 0.3 * normal()) },
      fan: null,
    },
    settledC: airC + sinkAt(watts) + watts * inside,
  };
}

/** Claims about what would be, from a spot's answer to power. @param draws of each kind */
export function proveResponses(draws: number): Claim[] {
  let [unseen, same, other, fitted, wide] = [0, 0, 0, 0, 0];
  for (let seed = 1; seed <= draws; seed++) {
    const u = uniformOf(11_000 + seed);
    const normal = normalFrom(12_000 + seed);
    const bench = benchOf(u);
    const mount = () => 1 + bench.mounts * normal();
    const usual = () => ({ airC: 21 + 2 * u(), watts: bench.fullW, mount: mount() });
    const seen = [0, 1, 2].map((i) => run(bench, usual(), 10 * seed + i).record);
    const spread = bench.mounts * bench.inside * bench.fullW;
    const response = fitResponse(seen, { scatter: { sd: spread, dof: 12 } });
    if (!response) continue;
    fitted++;
    const next = run(bench, usual(), 10 * seed + 5);
    const read = readUnseen(response, next.record)!;
    if (Math.abs(read.offK) <= read.bandK) unseen++;
    const told = foretell(response, { ...AS_IT_RAN, airC: 22, powerW: bench.fullW });
    if (
      Math.abs(told.settledC.value - run(bench, { airC: 22, watts: bench.fullW, mount: mount() }, 10 * seed + 6).settledC) <=
      told.plusMinusK
    )
      same++;
    const asked = { airC: 21 + 12 * u(), watts: bench.fullW * (0.6 + 0.65 * u()), mount: mount() };
    const changed = foretell(response, { ...AS_IT_RAN, airC: asked.airC, powerW: asked.watts });
    if (Math.abs(changed.settledC.value - run(bench, asked, 10 * seed + 7).settledC) <= changed.plusMinusK) other++;
    if (changed.plusMinusK > 0.15 * (changed.settledC.value - asked.airC)) wide++;
  }
  return [
    line('95 % band holds a run that was not seen, from three others', share(unseen, fitted), 0.9, 1),
    line('95 % interval of what another mount comes to holds', share(same, fitted), 0.9, 1),
    line('The same with other air and 0.6 to 1.25 times the power', share(other, fitted), 0.9, 1),
    line('of these, with an interval wider than 15 % of the rise', share(wide, fitted), 0, 0.1),
  ];
}
