import { requireFinite } from '../errors.ts';

const ZERO_C_IN_K = 273.15;
/** Under this emissivity the reflected surroundings outweigh the surface, and small errors in it swing the result (methods §10). */
export const TRUSTWORTHY_EMISSIVITY = 0.6;

function requireEmissivity(value: number, name: string): void {
  requireFinite(value, name);
  if (value <= 0 || value > 1) throw new RangeError(`${name} must lie above 0 and be at most 1, got ${value}`);
}

function kelvin(celsius: number, name: string): number {
  requireFinite(celsius, name);
  if (celsius < -ZERO_C_IN_K) throw new RangeError(`${name} lies below absolute zero: ${celsius} °C`);
  return celsius + ZERO_C_IN_K;
}

/**
 * Grey-body correction of an infrared reading by total radiation (fourth powers, kelvin):
 * T_app⁴ = e_set·T_ind⁴ + (1 − e_set)·T_refl⁴ is what reaches the instrument; T⁴ = (T_app⁴ − (1 − e)·T_refl⁴)/e.
 *
 * @param input.indicatedC what the instrument shows, °C
 * @param input.emissivitySet what the instrument was set to, 0 < e <= 1
 * @param input.emissivity the surface's own, 0 < e <= 1
 * @param input.reflectedC reflected apparent temperature of the surroundings, °C
 * @returns °C; `trustworthy` false below an emissivity of 0.6
 * @throws RangeError emissivity outside 0..1, below absolute zero, or a surface that would have to be colder than absolute zero
 * @see Stefan-Boltzmann law for grey bodies; ISO 18434-1 for the practice
 */
export function trueSurfaceTemperature(input: { indicatedC: number; emissivitySet: number; emissivity: number; reflectedC: number }): {
  valueC: number;
  trustworthy: boolean;
} {
  const { emissivitySet, emissivity } = input;
  requireEmissivity(emissivitySet, 'emissivitySet');
  requireEmissivity(emissivity, 'emissivity');
  const reflected = kelvin(input.reflectedC, 'reflectedC') ** 4;
  const apparent = emissivitySet * kelvin(input.indicatedC, 'indicatedC') ** 4 + (1 - emissivitySet) * reflected;
  const surface = (apparent - (1 - emissivity) * reflected) / emissivity;
  if (surface < 0) throw new RangeError('the reflected temperature is too high for this reading and emissivity');
  return { valueC: surface ** 0.25 - ZERO_C_IN_K, trustworthy: emissivity >= TRUSTWORTHY_EMISSIVITY };
}
