import { toCelsius } from '@red-ember/core';
import type { ColumnMapBody, LogPhaseBody } from '@red-ember/contract';
import type { LogSeen } from './columnScan.ts';

/** Fan duty that stays within so much under one load was held, points. */
const HELD_POINTS = 4;
export const dutyHeld = ({ least, most }: { least: number; most: number }): boolean => most - least <= HELD_POINTS;

/** Over the loads of a log. */
export interface LevelSeen {
  least: number;
  most: number;
  middle: number;
  /** From the second to the ninety-eighth of a hundred readings: a reading that is none does not widen it. */
  span: number;
}

export interface StepSeen {
  step: number | null;
}

/** How long a load takes to come up before its fan and its room are looked at, seconds. */
const COME_S = 60;

/** A reading in the unit that it is kept in. */
const valueOf = ({ unit, factor = 1 }: ColumnMapBody, value: number): number => (unit ? toCelsius(value, unit) : value * factor);

/** A step of a column in kelvin, where it is a temperature. */
export const stepOfColumn = (step: number | null, unit: ColumnMapBody['unit']): number | null =>
  step === null || unit !== 'F' ? step : (step * 5) / 9;

/** What a channel was under load; null where it was not recorded, or nothing of it is under load. */
export function levelOf(
  seen: LogSeen,
  columns: readonly ColumnMapBody[],
  phases: readonly LogPhaseBody[],
  role: ColumnMapBody['role'],
): LevelSeen | null {
  const map = columns.find((candidate) => candidate.role === role);
  if (!map) return null;
  const { t, y } = seen.signal(map.column);
  const loads = phases.filter(({ kind }) => kind === 'load' || kind === 'change');
  const values = [...y].map((value) => valueOf(map, value)).filter((value, i) => value === value && loads.some(({ startS, endS }) => t[i]! >= startS + COME_S && t[i]! < endS)).sort((p, q) => p - q); // prettier-ignore
  if (values.length === 0) return null;
  const at = (share: number) => values[Math.round(share * (values.length - 1))]!;
  return { least: at(0), most: at(1), middle: values[Math.floor(values.length / 2)]!, span: at(0.98) - at(0.02) };
}
