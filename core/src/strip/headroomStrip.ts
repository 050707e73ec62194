import { requireFinite } from '../errors.ts';

export interface StripInput {
  /** Room air, °C: the left end. */
  roomC: number;
  /** Limit, °C: the right end. */
  limitC: number;
  spotC: number;
  /** Half-width of the 95 % interval, K. */
  doubtK: number;
  idleC?: number | null;
  /** The same spot restated for a warm enclosure, °C. */
  projectedC?: number | null;
}

/** Positions as shares of the track, 0 at the room and 1 at the limit, clamped to 0..1. */
export interface StripGeometry {
  /** Solid part of the bar: up to the lower end of the doubt. */
  solid: number;
  /** Soft end: to the upper end of the doubt. */
  soft: number;
  spot: number;
  idle: number | null;
  projected: number | null;
  /** Left to the limit, K; negative where it is passed. */
  headroomK: number;
  overLimit: boolean;
}

/**
 * Geometry of the headroom strip: one track from room air to the limit.
 *
 * @throws RangeError a number is not finite, or the limit does not lie above the room
 */
export function headroomStrip(input: StripInput): StripGeometry {
  const { roomC, limitC, spotC, doubtK } = input;
  for (const [name, value] of Object.entries({ roomC, limitC, spotC, doubtK })) requireFinite(value, name);
  if (limitC <= roomC) throw new RangeError(`the limit (${limitC} °C) must lie above the room (${roomC} °C)`);
  const share = (c: number) => Math.min(1, Math.max(0, (c - roomC) / (limitC - roomC)));
  return {
    solid: share(spotC - doubtK),
    soft: share(spotC + doubtK),
    spot: share(spotC),
    idle: input.idleC == null ? null : share(input.idleC),
    projected: input.projectedC == null ? null : share(input.projectedC),
    headroomK: limitC - spotC,
    overLimit: spotC >= limitC,
  };
}
