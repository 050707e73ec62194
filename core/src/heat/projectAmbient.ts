import { requireFinite } from '../errors.ts';
import { requireEstimate, type Estimate } from '../estimate.ts';

/**
 * A reading restated for another ambient, as in a warm enclosure.
 *
 * First order one for one. With a heat temperature coefficient α the part makes more heat when hotter, and the fixed point of
 * rise' = rise·(1 + α·ΔT_spot) is ΔT_spot = Δ/(1 − α·rise) with Δ = to − from (methods §1).
 *
 * @param spotC °C with its standard uncertainty
 * @param fromAmbientC °C at which it was read
 * @param toAmbientC °C to restate for
 * @param opts.powerTempCo α in 1/K, default 0
 * @returns °C; u times the derivative 1 + αΔ/(1 − α·rise)²; dof unchanged
 * @throws RangeError a value is not finite, or α·rise >= 1 (thermal runaway: no settled state exists)
 */
export function projectAmbient(spotC: Estimate, fromAmbientC: number, toAmbientC: number, opts: { powerTempCo?: number } = {}): Estimate {
  const alpha = opts.powerTempCo ?? 0;
  requireEstimate(spotC, 'spotC');
  requireFinite(fromAmbientC, 'fromAmbientC');
  requireFinite(toAmbientC, 'toAmbientC');
  requireFinite(alpha, 'powerTempCo');
  const room = 1 - alpha * (spotC.value - fromAmbientC);
  if (room <= 0) throw new RangeError('heat grows faster than the part can shed it (thermal runaway): no settled temperature to restate');
  const delta = toAmbientC - fromAmbientC;
  return {
    value: spotC.value + delta / room,
    u: spotC.u * Math.abs(1 + (alpha * delta) / room ** 2),
    dof: spotC.dof,
  };
}
