import { requireFinite } from '../errors.ts';
import type { ThermocoupleType } from '../instruments/statedAccuracy.ts';
import { REFERENCE_FUNCTIONS, TYPE_K_BUMP } from './referenceFunctions.ts';

/** Below this the inverse is not offered: sensitivity falls away, and no bench of ours is that cold. */
const COLDEST_C = -200;

/** Range in which `thermocoupleTemperature` answers, °C. */
export function thermocoupleRange(type: ThermocoupleType): { fromC: number; toC: number } {
  return { fromC: COLDEST_C, toC: REFERENCE_FUNCTIONS[type].at(-1)!.toC };
}

/**
 * Voltage of a thermocouple with its reference junction at 0 °C.
 *
 * @param celsius of the measuring junction
 * @returns mV
 * @throws RangeError outside the range of the reference function
 * @see NIST Monograph 175 (ITS-90)
 */
export function thermocoupleVoltage(type: ThermocoupleType, celsius: number): number {
  requireFinite(celsius, 'celsius');
  // The later piece holds where two meet: the bump of type K belongs to 0 °C and above.
  const piece = REFERENCE_FUNCTIONS[type].findLast((candidate) => celsius >= candidate.fromC && celsius <= candidate.toC);
  if (!piece) throw new RangeError(`type ${type} has no reference function at ${celsius} °C`);
  let mV = 0;
  for (let i = piece.coefficients.length - 1; i >= 0; i--) mV = mV * celsius + piece.coefficients[i]!;
  return type === 'K' && celsius >= 0 ? mV + TYPE_K_BUMP.a0 * Math.exp(TYPE_K_BUMP.a1 * (celsius - TYPE_K_BUMP.a2) ** 2) : mV;
}

/**
 * Temperature of the measuring junction from a measured voltage, the cold junction compensated by adding its own voltage (not its
 * temperature: the curve is not straight).
 *
 * The reference function is inverted by bisection, so the answer is exact to its rounding; the inverse polynomials of the tables
 * are good to 0.05 K only.
 *
 * @param millivolts measured
 * @param coldJunctionC temperature where the wires meet the instrument, °C
 * @returns °C; NaN for NaN in, a missing sample
 * @throws RangeError outside the range of the type
 */
export function thermocoupleTemperature(type: ThermocoupleType, millivolts: number, coldJunctionC: number): number {
  if (Number.isNaN(millivolts) || Number.isNaN(coldJunctionC)) return NaN;
  requireFinite(millivolts, 'millivolts');
  const target = millivolts + thermocoupleVoltage(type, coldJunctionC);
  let { fromC: low, toC: high } = thermocoupleRange(type);
  // The published coefficients are rounded: type K at 0 °C comes out a few nanovolts off zero.
  const rounding = 1e-6;
  if (target < thermocoupleVoltage(type, low) - rounding || target > thermocoupleVoltage(type, high) + rounding)
    throw new RangeError(`${millivolts} mV lies outside the range of a type ${type} thermocouple`);
  while (high - low > 1e-7) {
    const middle = (low + high) / 2;
    if (thermocoupleVoltage(type, middle) < target) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
