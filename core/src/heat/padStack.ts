import { requireFinite, requireNotNegative, requirePositive } from '../errors.ts';
import { slabKPerW } from './slab.ts';

export type PadContact = 'none' | 'light' | 'good' | 'over-compressed';

export interface PadStack {
  gapMm: number;
  compressedMm: number;
  /** 0..1 of the free thickness; negative means no contact. */
  compression: number;
  pressureKPa: number | null;
  contact: PadContact;
  resistanceKPerW: number | null;
  /** Across the pad at the given heat, K. */
  dropK: number | null;
}

export interface PadStackInput {
  /** Sink face to board, minus part height. */
  gapMm: number;
  /** Default 0. */
  gapToleranceMm?: number;
  padMm: number;
  conductivityWPerMK: number;
  areaMm2: number;
  heatW?: number;
  /** Sum of both faces, K·mm²/W; default 0. */
  contactKMm2PerW?: number;
  /** Default 0.4. */
  maxCompression?: number;
  pressureCurve?: { compression: number; kPa: number }[];
}

/** Below this compression a pad touches but does not wet. */
const LIGHT_BELOW = 0.1;
/** Rounding of a sum or quotient must not decide what kind of contact it is. */
const ROUNDING = 1e-9;
const WORSE: PadContact[] = ['good', 'light', 'over-compressed', 'none'];

function pressureAt(curve: { compression: number; kPa: number }[] | undefined, compression: number): number | null {
  const points = [...(curve ?? [])].sort((p, q) => p.compression - q.compression);
  for (let i = 1; i < points.length; i++) {
    const [from, to] = [points[i - 1]!, points[i]!];
    if (compression < from.compression - ROUNDING || compression > to.compression + ROUNDING) continue;
    const width = to.compression - from.compression;
    return width === 0 ? to.kPa : from.kPa + ((compression - from.compression) / width) * (to.kPa - from.kPa);
  }
  return points.length === 1 && Math.abs(points[0]!.compression - compression) <= ROUNDING ? points[0]!.kPa : null;
}

function stackAt(gapMm: number, input: PadStackInput): PadStack {
  const { padMm, conductivityWPerMK, areaMm2, heatW, contactKMm2PerW = 0, maxCompression = 0.4 } = input;
  const compression = 1 - gapMm / padMm;
  if (compression <= ROUNDING)
    return { gapMm, compressedMm: padMm, compression, pressureKPa: null, contact: 'none', resistanceKPerW: null, dropK: null };
  const contact = compression > maxCompression + ROUNDING ? 'over-compressed' : compression < LIGHT_BELOW - ROUNDING ? 'light' : 'good';
  // Contact resistance is given per area already.
  const resistanceKPerW = slabKPerW(gapMm, conductivityWPerMK, areaMm2) + contactKMm2PerW / areaMm2;
  return {
    gapMm,
    compressedMm: gapMm,
    compression,
    pressureKPa: pressureAt(input.pressureCurve, compression),
    contact,
    resistanceKPerW,
    dropK: heatW === undefined ? null : resistanceKPerW * heatW,
  };
}

/**
 * A pad between a part and a sink: whether it touches, how far it is squeezed, and what it costs in temperature.
 *
 * Compression c = 1 − gap/pad; no contact where the gap is as large as the pad, light below 10 %, over-compressed above
 * `maxCompression` (still computed, at the gap). R = t/(kA) + R_c/A, ΔT = R·heat (methods §9).
 *
 * @param input.gapMm not negative; a part taller than the sink's face collides, which is not a pad's matter
 * @param input.pressureCurve linear between points; the pressure is null outside it
 * @returns the nominal stack, and as `worstCase` that of gap ± tolerance which ranks worse (none, over-compressed, light, good),
 *   then the larger resistance
 * @throws RangeError a length, conductivity or area not above zero, gap, tolerance, heat or contact resistance negative,
 *   maxCompression outside 0..1
 */
export function padStack(input: PadStackInput): PadStack & { worstCase: PadStack } {
  const { gapMm, gapToleranceMm = 0, maxCompression = 0.4 } = input;
  requireNotNegative(gapMm, 'gapMm');
  requireNotNegative(gapToleranceMm, 'gapToleranceMm');
  requirePositive(input.padMm, 'padMm');
  requirePositive(input.conductivityWPerMK, 'conductivityWPerMK');
  requirePositive(input.areaMm2, 'areaMm2');
  if (input.heatW !== undefined) requireNotNegative(input.heatW, 'heatW');
  requireNotNegative(input.contactKMm2PerW ?? 0, 'contactKMm2PerW');
  requirePositive(maxCompression, 'maxCompression');
  if (maxCompression > 1) throw new RangeError(`maxCompression must be at most 1, got ${maxCompression}`);
  for (const point of input.pressureCurve ?? []) {
    requireFinite(point.compression, 'pressureCurve.compression');
    requireNotNegative(point.kPa, 'pressureCurve.kPa');
  }
  const rank = (stack: PadStack) => WORSE.indexOf(stack.contact);
  const [worstCase] = [gapMm + gapToleranceMm, Math.max(0, gapMm - gapToleranceMm)]
    .map((gap) => stackAt(gap, input))
    .sort((p, q) => rank(q) - rank(p) || (q.resistanceKPerW ?? 0) - (p.resistanceKPerW ?? 0));
  return { ...stackAt(gapMm, input), worstCase: worstCase! };
}
