import type { TemperatureUnit } from '@red-ember/core';
import {
  CHANNELS,
  isTemperature,
  RECORDED_ROLES,
  roleByName,
  unitOfColumn,
  withoutUnit,
  type ColumnMapBody,
  type ColumnUnit,
  type RecordedRole,
  type SpotBody,
} from '@red-ember/contract';
import {
  classByName,
  LONGEST_NAME,
  namesAnother,
  namesItself,
  namesNeighbour,
  plainWords as plain,
  readsItself,
  shortNames,
  type Family,
} from '@red-ember/study';
import type { ColumnSeen } from './columnScan.ts';
import { someNamed } from './someNamed.ts';

export type KnownSpot = Pick<SpotBody, 'id' | 'name' | 'channel' | 'componentClass'>;

/** A column as it is looked at. */
interface Looked {
  column: number;
  name: string;
  words: string;
  unit: ColumnUnit | null;
  seen: ColumnSeen;
}

/** What the columns hold by their names, units, range and behaviour, and what is not sure about it. */
export interface ColumnsGuessed {
  columns: ColumnMapBody[];
  /** Numbers that nothing is made of; `another` where they speak of another part of the machine. */
  unused: { column: number; another: boolean }[];
  doubts: string[];
}

/** No component is read above this, °C; a temperature without a unit that is, is in another one, or none. */
const HOTTEST_C = 160;
/** A room at these is no room in °C. */
const ROOM_MOST_C = 45;

const BUSY = /\b(busy|load|util\w*|usage|activity|\w*auslastung|nutzung|charge|carga|uso)\b/;
const isPercent = (unit: ColumnUnit | null) => unit?.quantity === 'percent';

/** The role of a column that holds no temperature; null where nothing tells, or where it is of another part. */
function otherRole({ words, unit }: Looked, taken: ReadonlySet<string>, family: Family): RecordedRole | null {
  // What another part takes warms this one; what it does and how fast it runs says nothing of this one.
  if (namesAnother(words, family)) {
    const watts = unit ? unit.quantity === 'power' : /\b(power|watts?|leistung\w*)\b/.test(words);
    return watts && namesNeighbour(words, family) && !taken.has('neighbour') ? 'neighbour' : null;
  }
  if (isPercent(unit)) {
    if (BUSY.test(words)) return taken.has('utilisation') ? null : 'utilisation';
    if (/\b(fan ?\d?|duty|pwm ?\d?|lufter ?\d?|ventilat\w+|ventola|ventilador)\b/.test(words) && !/\bpump\b/.test(words))
      return taken.has('duty') ? null : 'duty';
    return null;
  }
  const fits = (role: RecordedRole) => !taken.has(role) && (unit === null || CHANNELS[role].quantity === unit.quantity);
  const unfit = new Set(RECORDED_ROLES.filter((role) => !fits(role) || isTemperature(role)));
  const named = roleByName(words, unfit);
  // P_board beside T_core.
  if (named === undefined && unit === null && /^p [a-z]/.test(words) && !taken.has('power')) return 'power';
  // "Socket" without a unit may be a place on the board as well.
  if (named === 'wall' && unit === null && !/\b(power|watts?|w|mains)\b/.test(words)) return null;
  if (named) return named === 'duty' && unit === null && /\brpm\b/.test(words) ? 'fan' : named;
  if (unit === null) return null;
  // A unit alone says enough where only one thing is measured in it.
  const usual: Partial<Record<ColumnUnit['quantity'], readonly RecordedRole[]>> = {
    power: ['power'],
    clock: ['clock'],
    rotation: ['fan', 'fan2', 'fan3'],
    throughput: ['throughput'],
    level: ['level'],
    voltage: ['voltage'],
    current: ['current'],
  };
  return usual[unit.quantity]?.find((role) => !taken.has(role)) ?? null;
}

/** The air or the coolant that a temperature speaks of; null for one of a spot. */
function airOf(words: string, taken: ReadonlySet<string>): RecordedRole | null {
  const others = new Set([...taken, ...RECORDED_ROLES.filter((role) => !isTemperature(role))]);
  const role = roleByName(words, others);
  if (!role) return null;
  // "Air" alone may be the room; "coolant" and a sink beside each other are two things.
  return role === 'room' &&
    /\b(sink|case|card|board|chip|gpu|cpu)\b/.test(words) &&
    !/\b(room|t?amb(ient)?|raum\w*|umgebung\w*)\b/.test(words)
    ? null
    : role;
}

function isTemperatureColumn({ words, unit, seen }: Looked, family: Family | null): boolean | null {
  if (unit) return unit.quantity === 'temperature';
  if (/\b(temp\w*|tc ?\d+|thermocouple|probe|sensor|t\d+)\b/.test(words)) return true;
  if (airOf(words, new Set()) !== null) return true;
  if (/^[pniv] [a-z]/.test(words)) return false;
  if (classByName(words, family) === null) return null;
  // "GPU" may be anything that a card reports.
  if (/\b(power|clock|clk|takt|load|util\w*|usage|used|voltage|current|fan|speed|rpm|limit|mhz|watts?|throughput|mb s)\b/.test(words))
    return false;
  return seen.least > -40 && seen.most < 450;
}

/** Columns of temperatures that say no unit: °C, °F or K, by what they read. */
function degreesOf(temperatures: readonly Looked[], isRoom: (looked: Looked) => boolean): TemperatureUnit {
  const silent = temperatures.filter(({ unit }) => unit === null);
  if (silent.length === 0) return 'C';
  const lowest = Math.min(...silent.map(({ seen }) => seen.least));
  const highest = Math.max(...silent.map(({ seen }) => seen.most));
  const rooms = silent.filter(isRoom);
  if (lowest > 230 && highest < 500) return 'K';
  // All of them: where only the room reads so, it alone is odd, and is asked about when it is read.
  if (rooms.length > 0 && lowest > ROOM_MOST_C && rooms.every(({ seen }) => seen.most < 120)) return 'F';
  return rooms.length === 0 && lowest > 55 && highest > HOTTEST_C ? 'F' : 'C';
}

/** What is named after the part goes before what is not, where nothing else tells them apart. */
const NOT_NAMED = 0.5;

/**
 * The most telling of several columns of one role first: a board's power before a rail's, the chip's clock before the memory's, what is named
 * after the part before what may be anybody's, and of several rates and times busy the one that the load moves.
 */
function preferred(looked: readonly Looked[], family: Family): Looked[] {
  const rank = ({ words, unit }: Looked) => {
    if (/\b(max(imum)?|min(imum)?|limit|cap|target)\b/.test(words)) return 2;
    if (unit?.quantity === 'power' || /\bpower\b/.test(words)) return /\b(board|total|card|drive|package|tgp|tbp|part)\b/.test(words) ? 0 : /\b(chip|core|memory|mem|rail|pin|slot|limit|cap|target)\b/.test(words) ? 2 : 1; // prettier-ignore
    if (unit?.quantity === 'clock' || /\b(clock|clk)\b/.test(words)) return /\b(mem\w*|speicher\w*|video|bus|limit)\b/.test(words) ? 2 : 1;
    if (/\b(mem\w*|video|bus|decoder|encoder)\b/.test(words) && isPercent(unit)) return 2;
    return 1;
  };
  const order = (one: Looked) => rank(one) + (namesItself(one.words, family) ? 0 : NOT_NAMED);
  const moved = ({ words, unit, seen }: Looked) =>
    unit?.quantity === 'throughput' || (isPercent(unit) && BUSY.test(words)) ? seen.most : 0;
  return [...looked].sort((p, q) => order(p) - order(q) || moved(q) - moved(p) || p.column - q.column);
}

/**
 * What the columns of a log hold; the tester decides.
 *
 * @param skip columns of the time, and of marks
 * @param spots of the study that the log is for; none where the study is yet to be made
 */
export function guessColumns(
  {
    names,
    units,
    samples,
    seen,
  }: { names: readonly string[]; units: readonly string[]; samples: readonly string[][]; seen: readonly ColumnSeen[] },
  skip: readonly number[],
  spots: readonly KnownSpot[],
  family: Family | null,
): ColumnsGuessed {
  const doubts: string[] = [];
  const looked = names.flatMap((name, column): Looked[] => {
    const here = seen[column];
    if (!here || here.numbers === 0 || skip.includes(column)) return [];
    return [{ column, name, words: plain(name), unit: unitOfColumn(name, units[column] ?? '', samples[column] ?? []), seen: here }];
  });
  const warm = looked.filter((entry) => isTemperatureColumn(entry, family) === true);
  const part = family ?? 'card';
  const others = looked.filter((candidate) => !warm.includes(candidate));
  const turning = (entry: Looked) => entry.unit?.quantity === 'rotation' && !/\bpump\b/.test(entry.words);
  // Where the card's own fans are named after it, fans that are not are the case's.
  const named = part === 'card' && others.some((entry) => turning(entry) && namesItself(entry.words, 'card'));
  const mayBeOwn = others.filter((entry) => !named || !turning(entry) || namesItself(entry.words, 'card'));
  const taken = new Set<string>();
  const roles = new Map<number, RecordedRole>();
  for (const entry of preferred(mayBeOwn, part)) {
    const role = otherRole(entry, taken, part);
    if (role === null) continue;
    taken.add(role);
    roles.set(entry.column, role);
  }
  const known = new Map<number, KnownSpot>();
  for (const entry of warm) {
    const spot = spotOf(entry, spots, new Set([...known.values()].map(({ id }) => id)));
    if (spot) known.set(entry.column, spot);
  }
  for (const entry of warm.filter(({ column }) => !known.has(column))) {
    const role = airOf(entry.words, taken);
    // Words of a part go before those of the air: "memory, inlet side" is a spot.
    if (role === null || (classByName(entry.name, family) !== null && role === 'room')) continue;
    taken.add(role);
    roles.set(entry.column, role);
  }
  for (const entry of warm.filter(({ column }) => !known.has(column) && !roles.has(column))) {
    // By its class, where only one of the study's spots and one of the log's columns have it.
    const componentClass = classByName(entry.name, family);
    const free = spots.filter((spot) => spot.componentClass === componentClass && ![...known.values()].includes(spot));
    const alike = warm.filter(
      (other) => !known.has(other.column) && !roles.has(other.column) && classByName(other.name, family) === componentClass,
    );
    if (componentClass !== null && free.length === 1 && alike.length === 1) known.set(entry.column, free[0]!);
  }
  // "Core temperatures" beside those of a GPU and of a CPU are the CPU's.
  const whole = warm.some(({ words }) => namesItself(words, part)) && looked.some(({ words }) => namesNeighbour(words, part));
  const ofProcessor = ({ name, words }: Looked) =>
    part === 'card' && whole && !namesItself(words, part) && classByName(name, family) === 'graphics core';
  const degrees = degreesOf(warm, ({ column }) => roles.get(column) === 'room');
  if (degrees !== 'C') doubts.push(`The temperatures say no unit and read like ${degrees === 'F' ? '°F' : 'K'}: they are taken so.`);
  const used = new Map<string, number>();
  const [placeless, strange]: [string[], string[]] = [[], []];
  // Room for the number of a name that stands there twice.
  const short = shortNames(LONGEST_NAME - 4);
  const columns = looked.flatMap((entry): ColumnMapBody[] => {
    const { column, name, unit } = entry;
    const role = roles.get(column);
    const inDegrees = unit?.degrees ?? degrees;
    if (role) return [{ column, role, spotId: null, ...(isTemperature(role) ? { unit: inDegrees } : factorOf(unit)) }];
    if (!warm.includes(entry)) return [];
    const spot = known.get(column);
    if (spot) return [{ column, role: 'spot', spotId: spot.id, spotName: spot.name, componentClass: spot.componentClass, unit: inDegrees }];
    const componentClass = ofProcessor(entry) ? 'processor' : classByName(name, family);
    if (componentClass === null && spots.length === 0 && !namesAnother(entry.words, part)) placeless.push(name);
    if (spots.length > 0) {
      strange.push(name);
      return [];
    }
    return [
      {
        column,
        role: 'spot',
        spotId: null,
        spotName: once(short(withoutUnit(name)), used),
        componentClass: componentClass ?? 'board',
        unit: inDegrees,
      },
    ];
  });
  const more = (count: number) => `${count} more`;
  if (placeless.length > 0)
    doubts.push(
      `${someNamed(placeless, more)}: nothing says on which part ${placeless.length === 1 ? 'it is read; it is' : 'they are read; they are'} taken as on the board.`,
    );
  if (strange.length > 0)
    doubts.push(
      strange.length === 1
        ? `“${strange[0]}” is none of this study's spots by its name.`
        : `${someNamed(strange, more)} are none of this study's spots by their names.`,
    );
  const unused = looked
    .filter(({ column }) => !columns.some((map) => map.column === column) && !warm.some((entry) => entry.column === column))
    .map(({ column, words }) => ({ column, another: namesAnother(words, part) }));
  return { columns, unused, doubts };
}

const factorOf = (unit: ColumnUnit | null) => (unit === null || unit.factor === 1 ? {} : { factor: unit.factor });

/** A name that stands twice is counted. */
function once(name: string, used: Map<string, number>): string {
  const n = (used.get(name.toLowerCase()) ?? 0) + 1;
  used.set(name.toLowerCase(), n);
  return n === 1 ? name : `${name} ${n}`;
}

/** The spot of a study that a column speaks of, by its name or its channel. */
function spotOf({ words, name }: Looked, spots: readonly KnownSpot[], taken: ReadonlySet<string>): KnownSpot | undefined {
  const bare = plain(withoutUnit(name));
  const free = spots.filter(({ id }) => !taken.has(id));
  return (
    free.find((spot) => plain(spot.name) === bare) ??
    free.find((spot) => words.includes(plain(spot.name)) || words.split(' ').includes(plain(spot.channel)))
  );
}

/** How a spot that a log brings is read: by the part itself where the name says so. */
export const methodOf = (name: string, componentClass: string): 'own' | 'attached' =>
  componentClass === 'drive sensor' || readsItself(name) ? 'own' : 'attached';
