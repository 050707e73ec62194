import type { TemperatureUnit } from '@red-ember/core';
import type { Quantity } from './channels.ts';

/** What stands in brackets after a name. */
export const bracketed = (name: string): string => /[[(]([^\])]+)[\])]\s*$/.exec(name)?.[1]?.trim() ?? '';

/** What a column is measured in, as far as it is said. */
export interface ColumnUnit {
  /** `percent` is a duty or a time busy, `rise` kelvin above the air, `other` something that a bench does not judge by. */
  quantity: Quantity | 'percent' | 'other';
  /** By which a reading is multiplied to be in the unit that it is kept in. */
  factor: number;
  /** Of a temperature. */
  degrees: TemperatureUnit | null;
}

const of = (quantity: ColumnUnit['quantity'], factor = 1): ColumnUnit => ({ quantity, factor, degrees: null });
const degrees = (unit: TemperatureUnit): ColumnUnit => ({ quantity: 'temperature', factor: 1, degrees: unit });

const UNITS: Record<string, ColumnUnit> = {
  c: degrees('C'),
  degc: degrees('C'),
  celsius: degrees('C'),
  f: degrees('F'),
  degf: degrees('F'),
  fahrenheit: degrees('F'),
  k: degrees('K'),
  kelvin: degrees('K'),
  '%': of('percent'),
  percent: of('percent'),
  pct: of('percent'),
  rpm: of('rotation'),
  '1/min': of('rotation'),
  'u/min': of('rotation'),
  'min-1': of('rotation'),
  w: of('power'),
  watt: of('power'),
  watts: of('power'),
  kw: of('power', 1000),
  mw: of('power', 1e-3),
  mhz: of('clock'),
  ghz: of('clock', 1000),
  khz: of('clock', 1e-3),
  v: of('voltage'),
  volt: of('voltage'),
  volts: of('voltage'),
  a: of('current'),
  amp: of('current'),
  amps: of('current'),
  ma: of('current', 1e-3),
  'mb/s': of('throughput'),
  'mib/s': of('throughput', 1.048576),
  'gb/s': of('throughput', 1000),
  'kb/s': of('throughput', 1e-3),
  fps: of('throughput'),
  'frames/s': of('throughput'),
  'renders/h': of('throughput'),
  'db(a)': of('level'),
  dba: of('level'),
  db: of('level'),
  mb: of('other'),
  gb: of('other'),
  mib: of('other'),
  mv: of('other'),
};

const plain = (unit: string) =>
  unit
    .toLowerCase()
    .replace(/[[\]\s°º]/g, '')
    .replace(/^\((.*)\)$/, '$1')
    // "% of TDP" is a share, whatever of.
    .replace(/^%.+$/, '%')
    .replace(/^deg(rees?)?(?=[cfk])/, '');

/** A unit behind a name, as in "chip C" or "fan rpm". */
const behind = (name: string): string => /(?:^|[\s_,/])(\(?[^\s_,]+)$/.exec(name.trim())?.[1] ?? '';
const TRAILING =
  /[\s_]*[[(]?\s*(°\s?[cfk]|deg ?[cfk]|(?<=[\s_])[cfk]|%|rpm|1\/min|k?w|[mgk]hz|m?v|m?a|db\(a\)|dba|[kmg]i?b\/s|fps|frames\/s)\s*[\])]?$/i;

/** A column's name without its unit. */
export function withoutUnit(name: string): string {
  const bare = name.replace(/\s*[[(][^\])]*[\])]\s*$/, '').trim();
  const cut = bare.replace(TRAILING, '').trim();
  return cut === '' ? bare || name.trim() : cut;
}

/**
 * What a column is measured in: by a row of units, in brackets, behind the name, alone as the name, or behind the number in its cells.
 *
 * @param cells some of the column's cells
 * @returns null where nothing says it
 */
export function unitOfColumn(name: string, unit: string, cells: readonly string[]): ColumnUnit | null {
  const inCell = /\d\s*([^\d\s.,:+-][^\d\s]*)$/.exec(cells.find((cell) => /\d/.test(cell))?.trim() ?? '')?.[1] ?? '';
  for (const said of [unit, behind(name), bracketed(name), name, inCell]) {
    const found = said === '' ? undefined : UNITS[plain(said)];
    if (found && Object.hasOwn(UNITS, plain(said))) return found;
  }
  return null;
}
