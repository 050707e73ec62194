import type { Estimate } from '../../estimate.ts';
import { mean } from '../../mean.ts';
import { pooledRepeatability } from '../../uncertainty/pooledRepeatability.ts';
import type { FigureReading } from './figureOf.ts';
import { toOwnPower } from './onePower.ts';

/** A mount's figure: the mean of its runs. */
export interface MountFigure {
  mount: string | null;
  figure: Estimate;
  /** Middle of the times at which it was run; null where one is not known. */
  atMs: number | null;
}

/**
 * A side's readings, one a mount: its runs share its contact, so that repeating them says how well the bench repeats and nothing of
 * what another fitting would give. Readings of unknown mounts count as one.
 */
export function byMount(readings: readonly FigureReading[]): MountFigure[] {
  const groups = [...new Set(readings.map(({ mount }) => mount))].map((mount) => readings.filter((reading) => reading.mount === mount));
  // What runs on one mount scatter by is a floor for its mean; of a mount of one run that of the others says as much.
  const within = pooledRepeatability(groups.map((group) => group.map((reading) => reading.figure.value)));
  return groups.map((group) => {
    const n = group.length;
    const known = Math.hypot(...group.map((reading) => reading.figure.u)) / n;
    const scattered = (within?.sd ?? 0) / Math.sqrt(n);
    const own = group.length === 1 ? group[0]!.figure.dof : Math.min(...group.map((reading) => reading.figure.dof));
    const times = group.flatMap((reading) => reading.atMs ?? []);
    return {
      mount: group[0]!.mount,
      figure: {
        value: mean(group.map((reading) => reading.figure.value)),
        u: Math.max(known, scattered),
        dof: scattered > known ? within!.dof : own,
      },
      atMs: times.length === n ? mean(times) : null,
    };
  });
}

/** A side's mounts at one power of theirs: what is left between them is the bench's. */
export const timedMounts = (readings: readonly FigureReading[]): MountFigure[] => byMount(toOwnPower(readings));
