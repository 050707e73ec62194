import type { Estimate } from '../estimate.ts';
import { thermalResistance } from '../heat/thermalResistance.ts';
import type { HeatPath, PhaseReading } from './types.ts';

/**
 * What a load reading says of the way of the heat: K/W to room and to intake, and how much of a cooler is delay and how much carry
 * (methods §2): carry = 1/R is shed for good, C = τ/R with the slow time constant is soaked up first.
 *
 * Referred to the power that was recorded; where that is more than the spot's own heat, K/W is per watt of load, not of the part.
 *
 * @returns null where no power was recorded, or none flowed
 */
export function heatPathOf(load: PhaseReading | null, power: Estimate | null): HeatPath | null {
  if (!load || !power || !(power.value > 0)) return null;
  const toRoomKPerW = load.rise && thermalResistance(load.rise.mean, power);
  const toIntakeKPerW = load.overIntake && thermalResistance(load.overIntake.mean, power);
  const { slowTauS } = load.settling;
  const r = toRoomKPerW && toRoomKPerW.value > 0 ? toRoomKPerW.value : null;
  return {
    toRoomKPerW,
    toIntakeKPerW,
    slowTauS,
    carryWPerK: r && 1 / r,
    delayJPerK: r && slowTauS !== null ? slowTauS / r : null,
  };
}
