import type { FedSeries } from '@red-ember/core';
import { familyOf, type Family } from '@red-ember/study';

/** What a channel can read, with the unit that it is recorded in; work is counted in the unit of its family, text in none. */
export const QUANTITIES = {
  temperature: { name: 'temperature', unit: '°C' },
  power: { name: 'power', unit: 'W' },
  clock: { name: 'clock', unit: 'MHz' },
  throughput: { name: 'throughput', unit: null },
  utilisation: { name: 'time busy', unit: '%' },
  rotation: { name: 'fan speed', unit: 'rpm' },
  duty: { name: 'duty', unit: '%' },
  level: { name: 'sound level', unit: 'dB(A)' },
  voltage: { name: 'voltage', unit: 'V' },
  current: { name: 'current', unit: 'A' },
} as const;
export type Quantity = keyof typeof QUANTITIES;

/** The unit that a quantity is recorded in for a family of parts. */
export const unitOf = (quantity: Quantity, family: Family): string => QUANTITIES[quantity].unit ?? familyOf(family).throughputUnit;

/** The unit in which an instrument's doubt of a quantity is written: kelvin for a temperature; work in the unit of whatever it is read of. */
export const doubtUnitOf = (quantity: Quantity): string => (quantity === 'temperature' ? 'K' : (QUANTITIES[quantity].unit ?? ''));

/** Everything that a run records beside its spots, one entry a role. */
export interface ChannelKind {
  quantity: Quantity;
  /** As a tester calls it. */
  label: string;
  /** Which series of a review it feeds; null where it is kept and drawn, and no figure rests on it. */
  feeds: FedSeries | null;
  /**
   * Words it is known by in a log, in small letters without accents, with single blanks, as a pattern; the first role that matches a name
   * takes it. Loggers speak other languages too.
   */
  known: string;
}

/**
 * The one table of channels: a new quantity is an entry here, and wherever it has to be named the compiler asks for it. The key is the
 * role, and the usual key of the channel on a rig.
 */
export const CHANNELS = {
  intake: {
    quantity: 'temperature',
    label: 'air at the intake',
    feeds: 'intake',
    known: 'intake|inlet|air in|ansaug\\w*|zuluft\\w*|air entrant',
  },
  exhaust: { quantity: 'temperature', label: 'air that leaves', feeds: 'exhaust', known: 'exhaust|outlet|air out|abluft\\w*|air sortant' },
  coolant: { quantity: 'temperature', label: 'coolant', feeds: null, known: 'coolant|water|liquid|loop|kuhlmittel' },
  room: {
    quantity: 'temperature',
    label: 'room air',
    feeds: 'room',
    known: 'room|t?amb(ient)?|lab|air|surroundings|raum\\w*|umgebung\\w*|zimmer\\w*|ambiente?|ambiante|ambiance|omgeving\\w*',
  },
  throughput: {
    quantity: 'throughput',
    label: 'throughput',
    feeds: 'performance',
    known: 'throughput|[mg]b s|transfer|write speed|frames( s| per second)?|fps|iops|durchsatz',
  },
  wall: { quantity: 'power', label: 'power at the socket', feeds: null, known: 'wall|socket|mains' },
  neighbour: { quantity: 'power', label: 'power of the part beside it', feeds: null, known: 'neighbou?r' },
  power: { quantity: 'power', label: 'power', feeds: 'power', known: 'power|watts?|w|leistung\\w*|puissance|potencia' },
  utilisation: {
    quantity: 'utilisation',
    label: 'time busy',
    feeds: 'utilisation',
    known: 'util|utilisation|utilization|usage|busy|load|auslastung',
  },
  clock: { quantity: 'clock', label: 'clock', feeds: 'clock', known: 'clock|clk|frequency|mhz|takt\\w*|frequence|frecuencia' },
  duty: { quantity: 'duty', label: 'fan duty', feeds: null, known: 'duty|pwm|fan ?%' },
  pump: { quantity: 'rotation', label: 'pump', feeds: null, known: 'pump' },
  fan2: { quantity: 'rotation', label: 'second fan', feeds: null, known: 'fan ?2' },
  fan3: { quantity: 'rotation', label: 'third fan', feeds: null, known: 'fan ?3' },
  fan: { quantity: 'rotation', label: 'fan', feeds: 'fan', known: 'fan( ?1)?|rpm|lufter( ?1)?|drehzahl|ventilat\\w+|ventola|ventilador' },
  whine: { quantity: 'level', label: 'coil whine level', feeds: 'whine', known: '(coil ?)?whine' },
  level: { quantity: 'level', label: 'sound level', feeds: 'noise', known: 'noise|sound|level|db a|dba|pegel|schall\\w*' },
  voltage: { quantity: 'voltage', label: 'voltage', feeds: null, known: 'voltage|vcore|volts?|spannung' },
  current: { quantity: 'current', label: 'current', feeds: null, known: 'current|amps?|amperes?|strom' },
} satisfies Record<string, ChannelKind>;

/** A role that a channel can have beside those of spots. */
export type RecordedRole = keyof typeof CHANNELS;
export const RECORDED_ROLES = Object.keys(CHANNELS) as RecordedRole[];

/** Role of a channel within a run: a spot read by the rig or by hand, one of the table's, or 'beside': kept, and known by its key alone. */
export type ChannelRole = 'spot' | 'hand' | 'beside' | RecordedRole;

/** Every series that a review reads is fed by some channel: one that was forgotten is named here and does not compile. */
type Unfed = Exclude<FedSeries, (typeof CHANNELS)[RecordedRole]['feeds']>;
const ALL_FED: [Unfed] extends [never] ? true : Unfed = true;
void ALL_FED;

export const isRecordedRole = (text: string): text is RecordedRole => text in CHANNELS && Object.hasOwn(CHANNELS, text);

/** Unit in which a role is recorded. */
export const unitOfRole = (role: RecordedRole, family: Family): string => unitOf(CHANNELS[role].quantity, family);

/** A role with its unit, as a list offers it: "fan, rpm". */
export function roleWords(role: RecordedRole, family: Family): string {
  const { label, quantity } = CHANNELS[role];
  return quantity === 'temperature' ? label : `${label}, ${unitOf(quantity, family)}`;
}

/** A channel of a run as a tester calls it: a column of a log by its head, or by its place in it, counted from one. */
export const channelWords = ({ key, head = '' }: { key: string; head?: string }): string =>
  key.replace(
    /^(?:log-(\d+)-)?column-(\d+)$/,
    (_, log: string | undefined, index: string) => `${head || `column ${Number(index) + 1}`}${log ? ` of log ${log}` : ''}`,
  );

/** By what a channel is found again from run to run: a log's column by its head, since its place may change; else by its key. */
export const lastingName = ({ key, head = '' }: { key: string; head?: string }): string => head || key;

/** The role that a name in a log speaks of, of those that are left; undefined where it speaks of none. @param words in small letters, single blanks */
export const roleByName = (words: string, taken: ReadonlySet<string>): RecordedRole | undefined =>
  RECORDED_ROLES.find((role) => !taken.has(role) && new RegExp(`\\b(${CHANNELS[role].known})\\b`).test(words));

/** Temperatures are asked for their degrees, corrected by calibrations and shown in the degrees that were chosen. */
export const isTemperature = (role: ChannelRole): boolean =>
  role === 'spot' || role === 'hand' || (role !== 'beside' && CHANNELS[role].quantity === 'temperature');

/** A channel of which no figure of a run is made. */
export const isBeside = (role: ChannelRole): boolean => role === 'beside' || (isRecordedRole(role) && CHANNELS[role].feeds === null);

/** Makes every series that a review reads out of the channel that feeds it. */
export function fedSeries<T>(of: (role: RecordedRole) => T): Record<FedSeries, T> {
  return Object.fromEntries(
    RECORDED_ROLES.flatMap((role) => {
      const { feeds } = CHANNELS[role];
      return feeds === null ? [] : [[feeds, of(role)]];
    }),
  ) as Record<FedSeries, T>;
}
