import { requireFinite, requireNotNegative } from '../errors.ts';

export const THERMOCOUPLE_TYPES = ['K', 'T', 'J', 'N'] as const;
export type ThermocoupleType = (typeof THERMOCOUPLE_TYPES)[number];

/** Accuracy as a maker states it: ±(percent of reading + fixed), or a tolerance class of a thermocouple, or both added. */
export interface StatedAccuracy {
  percentOfReading: number;
  /** K. */
  fixedK: number;
  /** Tolerance class of the wire by IEC 60584-1; null where the sensor is no thermocouple or its class is in the other figures. */
  thermocouple: { type: ThermocoupleType; toleranceClass: 1 | 2 } | null;
}

/** IEC 60584-1 tolerance classes above −40 °C: the larger of a fixed value (K) and a share of |t|. */
const TOLERANCE: Record<ThermocoupleType, Record<1 | 2, { fixedK: number; share: number }>> = {
  K: { 1: { fixedK: 1.5, share: 0.004 }, 2: { fixedK: 2.5, share: 0.0075 } },
  N: { 1: { fixedK: 1.5, share: 0.004 }, 2: { fixedK: 2.5, share: 0.0075 } },
  J: { 1: { fixedK: 1.5, share: 0.004 }, 2: { fixedK: 2.5, share: 0.0075 } },
  T: { 1: { fixedK: 0.5, share: 0.004 }, 2: { fixedK: 1, share: 0.0075 } },
};

/**
 * Half-width of a thermocouple's tolerance at a temperature.
 *
 * @param celsius −40 °C or more
 * @throws RangeError below −40 °C, where other classes apply
 * @see IEC 60584-1:2013, table of tolerance classes
 */
export function thermocoupleTolerance(type: ThermocoupleType, toleranceClass: 1 | 2, celsius: number): number {
  requireFinite(celsius, 'celsius');
  if (celsius < -40) throw new RangeError('tolerance classes 1 and 2 begin at −40 °C');
  const { fixedK, share } = TOLERANCE[type][toleranceClass];
  return Math.max(fixedK, share * Math.abs(celsius));
}

/**
 * Half-width (K) of a sensor's stated accuracy at a reading. Parts add in full: nobody knows which way each is off.
 *
 * @param reading °C
 * @throws RangeError a figure is negative or not finite
 */
export function accuracyHalfWidth(accuracy: StatedAccuracy, reading: number): number {
  requireFinite(reading, 'reading');
  requireNotNegative(accuracy.percentOfReading, 'percentOfReading');
  requireNotNegative(accuracy.fixedK, 'fixedK');
  const wire = accuracy.thermocouple ? thermocoupleTolerance(accuracy.thermocouple.type, accuracy.thermocouple.toleranceClass, reading) : 0;
  return (accuracy.percentOfReading / 100) * Math.abs(reading) + accuracy.fixedK + wire;
}
