import { mean } from '../../mean.ts';
import type { UncertaintyComponent } from '../../uncertainty/combineUncertainty.ts';
import type { MountFigure } from './byMount.ts';
import { benchHours, DRIFT_K_PER_H } from './drift.ts';

export interface OneTime {
  a: MountFigure[];
  b: MountFigure[];
  /** What the order of the runs leaves in doubt; null where it balances a drift. */
  line: UncertaintyComponent | null;
}

/**
 * Figures of two sides brought to one time: a straight drift of the bench, of which nothing is known but its usual size and what the
 * repeats of each side say of it, is taken out as far as they tell, and the rest of it is in doubt. An order that balances it, as
 * A B B A, costs nothing.
 *
 * What the study's other sides repeat tells the rate too, and then the hours that they took are hours of the bench. It is asked where it
 * leaves less in doubt: of a study with one run a variant the others only say that the bench was busy.
 *
 * @param sd scatter of the figures about their side's mean
 * @param driftKPerH standard deviation of the rate as the bench is known, or the stated one
 * @param others mounts of further sides, each meant to be equal among themselves, at one power (`toOwnPower`)
 * @returns null where times are not known
 */
export function toOneTime(
  a: readonly MountFigure[],
  b: readonly MountFigure[],
  sd: number,
  driftKPerH = DRIFT_K_PER_H,
  others: readonly (readonly MountFigure[])[] = [],
): OneTime | null {
  if ([...a, ...b].some((mount) => mount.atMs === null)) return null;
  const own = straightened(a, b, [], sd, driftKPerH);
  const telling = others.map((side) => side.filter((mount) => mount.atMs !== null)).filter((side) => side.length > 1);
  if (telling.length === 0 || !own.line) return own;
  const joint = straightened(a, b, telling, sd, driftKPerH);
  return (joint.line?.u ?? 0) < own.line.u ? joint : own;
}

function straightened(
  a: readonly MountFigure[],
  b: readonly MountFigure[],
  others: readonly (readonly MountFigure[])[],
  sd: number,
  driftKPerH: number,
): OneTime {
  const all = [a, b, ...others].flat();
  const at = benchHours(all.map((mount) => mount.atMs!));
  const hours = new Map(all.map((mount, i) => [mount, at[i]!]));
  const middleOf = (side: readonly MountFigure[]) => mean(side.map((mount) => hours.get(mount)!));
  let [tt, ty] = [0, 0];
  for (const side of [a, b, ...others]) {
    const [t, y] = [middleOf(side), mean(side.map((mount) => mount.figure.value))];
    for (const mount of side) {
      tt += (hours.get(mount)! - t) ** 2;
      ty += (hours.get(mount)! - t) * (mount.figure.value - y);
    }
  }
  // Ridge regression: the usual size of a drift stands beside what was seen, as a normal prior about none.
  const seen = tt > 0 ? tt / sd ** 2 : 0;
  const rateU = seen === Infinity ? 0 : 1 / Math.sqrt(seen + driftKPerH ** -2);
  const perHour = tt > 0 ? ty / (tt + (sd / driftKPerH) ** 2) : 0;
  const middle = middleOf([...a, ...b]);
  const moved = (side: readonly MountFigure[]) =>
    side.map((mount) => ({
      ...mount,
      figure: { ...mount.figure, value: mount.figure.value - perHour * (hours.get(mount)! - middle) },
    }));
  const u = Math.abs(middleOf(b) - middleOf(a)) * rateU;
  return { a: moved(a), b: moved(b), line: u > 0 ? { name: 'order, in a bench that may drift', u } : null };
}
