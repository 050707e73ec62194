import { CHANNELS, QUANTITIES, RECORDED_ROLES, unitOfColumn, withoutUnit, type ColumnUnit, type Quantity } from '@red-ember/contract';
import { toCelsius } from '@red-ember/core';
import { withoutAccents } from '@red-ember/study';
import { keyFrom, parseLine, type FeedLine, type Kind, type LineReader } from './lines.ts';

/** One reading as it was printed: which, how much, and in what, as far as that is said. */
interface Printed {
  name: string;
  text: string;
  unit: string;
}

const NUMBER = String.raw`[+-]?\d+(?:[.,]\d+)?(?:[eE][+-]?\d+)?`;
const UNIT = String.raw`°\s?[CFK]|%|rpm|[km]?W|[kMG]Hz|m?V|m?A|dB\(A\)|[CFK](?![\p{L}])`;
/** "T1: 45.2 °C", "fan1=1180"; what is no number stands for a probe that is not there. */
const PAIR = new RegExp(
  String.raw`([\p{L}][\p{L}\p{N} _./#()-]{0,59}?)\s{0,9}[:=]\s{0,9}(${NUMBER}|[\p{L}-]{1,20})(?:\s{0,9}(${UNIT}))?(?=$|[\s,;|])`,
  'giu',
);
const CELL = new RegExp(String.raw`^(${NUMBER})\s*(${UNIT})?$`, 'iu');
/** No small logger prints more in a line; what does would keep whoever looks for names in it from watching the load. */
const LONGEST_PRINTED = 4000;
/** How loggers print a probe that is not there. */
const MISSING = /^(?:nan|n\/?a|inf|err(?:or)?|open|off|[-*?]*)$/i;
const WORD = /^\p{L}/u;
const SEPARATORS = [';', '\t', '|', ',', ' '];

const cellsOf = (text: string): string[] => {
  const by = SEPARATORS.find((separator) => text.includes(separator)) ?? ';';
  return (by === ' ' ? text.split(/\s+/) : text.split(by)).map((cell) => cell.trim());
};

/** Of what a name says that it is, the key by which the bench knows it; else the name itself. */
function keyOf(name: string, taken: ReadonlySet<string>): string {
  const words = withoutAccents(name.toLowerCase()).replace(/[\s_-]+/g, ' ');
  const role = RECORDED_ROLES.find((each) => !taken.has(each) && new RegExp(`^(?:${CHANNELS[each].known})$`).test(words));
  return role ?? keyFrom(name);
}

const isQuantity = (quantity: ColumnUnit['quantity']): quantity is Quantity => Object.hasOwn(QUANTITIES, quantity);
/** A channel of this unit; null where it is of none that is recorded. */
export const kindOfUnit = (unit: ColumnUnit | null): Kind | null =>
  unit && isQuantity(unit.quantity) ? { quantity: unit.quantity, unit: QUANTITIES[unit.quantity].unit ?? 'work' } : null;
/** A figure in the unit that its channel is kept in. */
export const inUnit = (value: number, unit: ColumnUnit | null): number =>
  unit?.degrees ? toCelsius(value, unit.degrees) : value * (unit?.factor ?? 1);

/**
 * Reads what a small logger prints, line by line: "T1: 45.2 °C, fan: 1180 rpm", or plain numbers between commas, semicolons, bars, tabs or
 * blanks, named by a line of names before them or by `names`; JSON objects as well. Numbers may have a decimal comma where commas do not
 * part them. Degrees Fahrenheit and kelvin are taken to °C, other units to those of the link.
 *
 * @param names of plain numbers, in their order, with units behind them or in brackets where they have one; an empty one is left out
 */
export function printedLines(names: readonly string[] | null = null): LineReader {
  let heads = names;
  const known = new Map<string, { key: string; unit: ColumnUnit | null }>();
  const kinds = new Map<string, Kind | null>();

  function channelOf({ name, unit }: Printed): { key: string; unit: ColumnUnit | null } {
    const before = known.get(name);
    if (before) return before;
    const said = unitOfColumn(name, unit, []);
    const channel = { key: keyOf(withoutUnit(name), new Set([...known.values()].map(({ key }) => key))), unit: said };
    known.set(name, channel);
    kinds.set(channel.key, kindOfUnit(said));
    return channel;
  }
  function valueOf({ text, unit }: Printed, said: ColumnUnit | null): number | null {
    const number = Number(text.replace(',', '.'));
    if (text === '' || !Number.isFinite(number)) return null;
    return inUnit(number, unit === '' ? said : unitOfColumn('', unit, []));
  }

  function columns(text: string): Printed[] | null {
    const cells = cellsOf(text);
    if (!cells.some((cell) => CELL.test(cell))) {
      // A logger that starts anew says its names again.
      if (cells.some((cell) => /\p{L}/u.test(cell)) && names === null) heads = cells;
      return null;
    }
    // A line of words is no line of names unless there are as many of them as figures.
    const named = names ?? (heads?.length === cells.length ? heads : null);
    if (!named && cells.some((cell) => WORD.test(cell) && !MISSING.test(cell))) return null;
    return cells.flatMap((cell, i): Printed[] => {
      const name = named ? (named[i] ?? '') : `column ${i + 1}`;
      const [, number = '', unit = ''] = CELL.exec(cell) ?? [];
      // Without a name a cell that is neither a number nor missing is a time.
      return name === '' || (number === '' && !named && !MISSING.test(cell)) ? [] : [{ name, text: number, unit }];
    });
  }

  return {
    read(text) {
      if (text.trimStart().startsWith('{')) return parseLine(text);
      if (text.length > LONGEST_PRINTED) return `longer than ${LONGEST_PRINTED} signs`;
      const pairs = [...text.matchAll(PAIR)].map(([, name = '', value = '', unit = '']) => ({ name: name.trim(), text: value, unit }));
      const printed = pairs.some((pair) => /\d/.test(pair.text)) ? pairs : columns(text.trim());
      if (printed === null) return null;
      const line: FeedLine = {};
      for (const one of printed) {
        const { key, unit } = channelOf(one);
        if (one.unit !== '') kinds.set(key, kinds.get(key) ?? kindOfUnit(unitOfColumn('', one.unit, [])));
        line[key] = valueOf(one, unit);
      }
      return Object.values(line).some((value) => value !== null) ? line : 'without a number';
    },
    kindOf: (key) => kinds.get(key) ?? null,
    converted: (key) => Boolean(kinds.get(key)),
  };
}
