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
  /** What another part sheds into the same sink, as a share of what it takes, and how late. */
  shared: { part: number; tauS: number };
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
    shared: { part: 0.1 + 0.5 * u(), tauS: 60 + 400 * u() },
  };
}

interface Held {
  airC: number;
  watts: number;
  mount: number;
  /** What a part beside it takes, from the middle of the load on where `late`; none where left out. */
  beside?: { watts: number; late?: boolean };
}

/** Ten minutes at rest and fifty under load, by small steps of time. */
function run(bench: Bench, { airC, watts, mount, beside }: Held, seed: number): { record: ResponseRecord; settledC: number } {
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
  const theirs = t.map((s) => (beside === undefined || (beside.late && s < 2100) ? 0 : beside.watts));
  let shed2 = bench.shared.part * theirs[0]!;
  let sink = sinkAt(bench.idleW + shed2);
  let part = sink + bench.idleW * inside;
  let noise = 0;
  const spot = new Float64Array(length);
  for (let s = 0; s < length; s++) {
    const across = (part - sink) / inside;
    part += (power[s]! - across) / bench.partJPerK;
    shed2 += (bench.shared.part * theirs[s]! - shed2) / bench.shared.tauS;
    sink += (across + shed2 - shed(sink)) / bench.sinkJPerK;
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
      ...(beside ? { neighbour: { t, y: theirs.map((w) => w + 0.3 * normal()) } } : {}),
    },
    settledC: airC + sinkAt(watts + bench.shared.part * (beside?.watts ?? 0)) + watts * inside,
  };
}

/** Runs with another part at rest, at work and in between, or coming on in the middle; what it would be with more of it, or less. */
function proveNeighbours(draws: number): Claim[] {
  let [held, fitted, wide] = [0, 0, 0];
  for (let seed = 1; seed <= 2 * draws; seed++) {
    const u = uniformOf(13_000 + seed);
    const normal = normalFrom(14_000 + seed);
    const bench = benchOf(u);
    const mount = () => 1 + bench.mounts * normal();
    const mostW = 40 + 100 * u();
    const usual = (watts: number, late = false) => ({ airC: 21 + 2 * u(), watts: bench.fullW, mount: mount(), beside: { watts, late } });
    const shares: [number, boolean][] = seed % 2 === 0 ? [[0.1, false], [1, false], [0.5, false]] : [[1, true], [0.6, true]]; // prettier-ignore
    const seen = shares.map(([share, late], i) => run(bench, usual(share * mostW, late), 100_000 + 10 * seed + i).record);
    const response = fitResponse(seen, { scatter: { sd: bench.mounts * bench.inside * bench.fullW, dof: 12 } });
    if (!response?.neighbour) continue;
    fitted++;
    const asked = usual(mostW * 1.4 * u());
    const told = foretell(response, { ...AS_IT_RAN, airC: asked.airC, powerW: asked.watts, neighbourW: asked.beside.watts });
    if (Math.abs(told.settledC.value - run(bench, asked, 100_000 + 10 * seed + 7).settledC) <= told.plusMinusK) held++;
    if (told.plusMinusK > 0.2 * (told.settledC.value - asked.airC)) wide++;
  }
  return [
    line('The same with a part beside it at 0 to 1.4 times the power that runs had it at', share(held, fitted), 0.9, 1),
    line('of these, with an interval wider than 20 % of the rise', share(wide, fitted), 0, 0.1),
    line('Told at all, where that part was at rest and at work', share(fitted, 2 * draws), 0.9, 1),
  ];
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
    ...proveNeighbours(draws),
  ];
}
