import { InsufficientDataError, requireFinite } from '../errors.ts';
import type { Estimate } from '../estimate.ts';
import type { Series } from '../series/series.ts';

export interface Calibration {
  /** Correction at x0, K. */
  offset: Estimate;
  slope: Estimate;
  /** Between the offset and slope estimates (GUM H.3). */
  correlation: number;
  residualSd: number;
  /** Correction to add at an indicated temperature, with its standard uncertainty. */
  correctionAt(indicatedC: number): Estimate;
}

/**
 * Straight-line correction b(t) = offset + slope·(t − x0) from reference points, by least squares.
 *
 * One point gives an offset alone: slope, correlation, residualSd, u and dof 0. Two points leave no residual: u and dof 0. The
 * doubt of the reference itself is not in the result; add it in the budget.
 *
 * @param points indicated and reference temperature, °C, shape [n], any order
 * @param opts.x0 where the offset is stated, °C, default 0
 * @throws InsufficientDataError no points
 * @throws RangeError a temperature is not finite, or two or more points that all stand at one indicated temperature
 * @see JCGM 100:2008, H.3
 */
export function calibrate(points: { indicatedC: number; referenceC: number }[], opts: { x0?: number } = {}): Calibration {
  const { x0 = 0 } = opts;
  requireFinite(x0, 'x0');
  const n = points.length;
  if (n === 0) throw new InsufficientDataError('a calibration needs at least one point');
  points.forEach((point, i) => {
    requireFinite(point.indicatedC, `points[${i}].indicatedC`);
    requireFinite(point.referenceC, `points[${i}].referenceC`);
  });
  const meanOf = (read: (point: (typeof points)[number]) => number) => points.reduce((sum, point) => sum + read(point) / n, 0);
  const xMean = meanOf((point) => point.indicatedC);
  const bMean = meanOf((point) => point.referenceC - point.indicatedC);
  const xx = points.reduce((sum, point) => sum + (point.indicatedC - xMean) ** 2, 0);
  if (n > 1 && !(xx > 0)) throw new RangeError('all calibration points stand at one indicated temperature: no line can be drawn');
  const xb = points.reduce((sum, { indicatedC, referenceC }) => sum + (indicatedC - xMean) * (referenceC - indicatedC - bMean), 0);
  const slope = n > 1 ? xb / xx : 0;
  const dof = Math.max(0, n - 2);
  const residuals = points.map(({ indicatedC, referenceC }) => referenceC - indicatedC - bMean - slope * (indicatedC - xMean));
  const residualSd = dof > 0 ? Math.sqrt(residuals.reduce((sum, r) => sum + r ** 2, 0) / dof) : 0;
  const valueAt = (t: number) => bMean + slope * (t - xMean);
  const uAt = (t: number) => (n > 1 ? residualSd * Math.sqrt(1 / n + (t - xMean) ** 2 / xx) : 0);
  return {
    offset: { value: valueAt(x0), u: uAt(x0), dof },
    slope: { value: slope, u: n > 1 ? residualSd / Math.sqrt(xx) : 0, dof },
    correlation: n > 1 ? (x0 - xMean) / Math.sqrt(xx / n + (x0 - xMean) ** 2) : 0,
    residualSd,
    correctionAt(indicatedC) {
      requireFinite(indicatedC, 'indicatedC');
      return { value: valueAt(indicatedC), u: uAt(indicatedC), dof };
    },
  };
}

/** Adds the correction to every sample; missing ones stay missing. The series itself is not changed. */
export function correctSeries(series: Series, calibration: Calibration): Series {
  return { t: series.t, y: series.y.map((value) => (Number.isNaN(value) ? NaN : value + calibration.correctionAt(value).value)) };
}
