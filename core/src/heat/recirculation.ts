import { requireFinite } from '../errors.ts';

/**
 * Share of a cooler's exhaust that it breathes again: (intake − room) / (exhaust − room).
 *
 * @param roomC,intakeC,exhaustC °C
 * @returns `raw` as measured and `fraction`, the same held to 0..1: probes that disagree by a little give a share below zero
 * @throws RangeError a temperature is not finite, or the exhaust is no warmer than the room
 */
export function recirculation(roomC: number, intakeC: number, exhaustC: number): { fraction: number; raw: number } {
  for (const [name, value] of Object.entries({ roomC, intakeC, exhaustC })) requireFinite(value, name);
  if (exhaustC <= roomC) throw new RangeError(`the exhaust (${exhaustC} °C) must be warmer than the room (${roomC} °C)`);
  const raw = (intakeC - roomC) / (exhaustC - roomC);
  return { fraction: Math.min(1, Math.max(0, raw)), raw };
}
