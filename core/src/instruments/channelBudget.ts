import { requireFinite, requireNotNegative } from '../errors.ts';
import { combineUncertainty, type UncertaintyBudget, type UncertaintyComponent } from '../uncertainty/combineUncertainty.ts';
import { typeB } from '../uncertainty/typeB.ts';

/** What a reading is used for: each use cancels other lines (methods §5). */
export type ReadingUse = 'absolute' | 'rise' | 'difference-one-sensor' | 'difference-two-sensors';

/** What is known of a sensor at the reading in question; all in K. */
export interface SensorDoubt {
  /** Half-width as its maker states it. */
  accuracyK: number;
  resolutionK: number;
  /** Standard uncertainty left after calibration, with its dof; null where it was never calibrated. */
  calibration: { u: number; dof: number } | null;
  /** Half-width of what place and contact of the probe may cost. */
  placementK: number;
  /** Half-width of drift between one calibration and the next. */
  driftK: number;
}

export interface BudgetInput {
  use: ReadingUse;
  sensor: SensorDoubt;
  /** The room probe, for a rise; a rise without one cannot be had. */
  room?: SensorDoubt;
  /** The other side's sensor, for a difference across sensors; the same kind where not given. */
  other?: SensorDoubt;
  /** Scatter between runs (standard deviation) with its dof. */
  repeatability: { sd: number; dof: number } | null;
  /** Runs on each side; default 1. */
  runs?: number;
  coverage?: number;
}

export interface BudgetLine extends UncertaintyComponent {
  /** Why this line is 0 in this use; null where it counts. */
  cancels: string | null;
  /** What would shrink it. */
  remedy: string;
}

export interface ChannelBudget {
  lines: BudgetLine[];
  total: UncertaintyBudget;
  /** The largest line that counts. */
  largest: BudgetLine;
}

const REMEDY = {
  accuracy: 'Calibrate the sensor at ice and boiling point.',
  calibration: 'Take more reference points, or a better reference.',
  resolution: 'Read with a finer step.',
  placement: 'Glue or clamp the probe flat, in one marked place.',
  drift: 'Calibrate more often.',
  repeatability: 'Repeat the run; the doubt falls with the root of their number.',
} as const;

function sensorLines(sensor: SensorDoubt, whose: string): BudgetLine[] {
  const line = (kind: keyof typeof REMEDY, name: string, u: number, dof = Infinity): BudgetLine => ({
    name: whose ? `${name}, ${whose}` : name,
    u,
    dof,
    cancels: null,
    remedy: REMEDY[kind],
  });
  return [
    sensor.calibration
      ? line('calibration', 'calibration residual', sensor.calibration.u, sensor.calibration.dof > 0 ? sensor.calibration.dof : Infinity)
      : line('accuracy', 'stated accuracy', typeB(sensor.accuracyK, 'rectangular')),
    line('drift', 'drift since calibration', typeB(sensor.driftK, 'rectangular')),
    line('placement', 'place and contact', typeB(sensor.placementK, 'rectangular')),
    line('resolution', 'resolution', typeB(sensor.resolutionK / 2, 'rectangular')),
  ];
}

/** In a difference by one sensor left in its place, all that is common to both readings goes out. */
const COMMON = /^(stated accuracy|calibration residual|drift|place)/;
const CANCELS = 'the same in both readings, so it cancels';

function check(sensor: SensorDoubt, name: string): void {
  for (const field of ['accuracyK', 'resolutionK', 'placementK', 'driftK'] as const) requireNotNegative(sensor[field], `${name}.${field}`);
  if (sensor.calibration) requireNotNegative(sensor.calibration.u, `${name}.calibration.u`);
}

/**
 * Uncertainty budget of a channel in one use: what counts, what cancels, and which line is worth working on.
 *
 * Absolute: the sensor's own lines. Rise: the room probe's come on top. Difference by one sensor in one place: accuracy,
 * calibration, drift and place cancel; resolution enters for both readings. Difference across sensors: nothing cancels.
 * Scatter between runs enters once per side.
 *
 * @returns lines in K (1 sigma), those that cancel with u 0 and the reason; the total at `coverage` (default 0.95)
 * @throws RangeError negative figures; a rise without a room probe
 * @see JCGM 100:2008, 4.3 and 5.1
 */
export function channelBudget(input: BudgetInput): ChannelBudget {
  const { use, sensor, room, other, repeatability, runs = 1 } = input;
  check(sensor, 'sensor');
  requireFinite(runs, 'runs');
  if (runs < 1) throw new RangeError(`runs must be 1 or more, got ${runs}`);
  if (use === 'rise' && !room) throw new RangeError('a rise needs a room probe');
  if (room) check(room, 'room');
  const lines: BudgetLine[] = sensorLines(sensor, '');
  if (use === 'rise')
    lines.push(...sensorLines({ ...room!, placementK: 0 }, 'room probe').filter((line) => !line.name.startsWith('place')));
  if (use === 'difference-one-sensor') {
    for (const line of lines) {
      if (COMMON.test(line.name)) Object.assign(line, { u: 0, cancels: CANCELS });
      else line.sensitivity = Math.SQRT2;
    }
  }
  if (use === 'difference-two-sensors') lines.push(...sensorLines(other ?? sensor, 'other sensor'));
  if (repeatability) {
    requireNotNegative(repeatability.sd, 'repeatability.sd');
    const sides = use.startsWith('difference') ? 2 : 1;
    lines.push({
      name: 'scatter between runs',
      u: repeatability.sd * Math.sqrt(sides / runs),
      dof: repeatability.dof,
      cancels: null,
      remedy: REMEDY.repeatability,
    });
  }
  const total = combineUncertainty(lines, { coverage: input.coverage ?? 0.95 });
  const size = (line: BudgetLine) => line.u * (line.sensitivity ?? 1);
  return { lines, total, largest: [...lines].sort((p, q) => size(q) - size(p))[0]! };
}
