import type { ArmedLimit } from '@red-ember/core';
import { FAMILIES, type Family } from '@red-ember/study';
import type { Quantity } from '../channels.ts';

/** Version of the rig link; a rig that speaks another is refused with a sentence. */
export const LINK_VERSION = 1;
/**
 * The load is a lease: a `load` command holds for this long, seconds of the wall clock, and falls to nought unless it is said again.
 * Nothing else that is heard renews it.
 */
export const LEASE_S = 5;
/** How often the server says the load again, and a rig its state, seconds of the wall clock. */
export const HEARTBEAT_S = 1;
/** Largest number of samples per channel in one message. */
export const MAX_SAMPLES_PER_MESSAGE = 2000;
/** Latest time of a run's clock, ms: what a record can hold, nearly 25 days. */
export const MAX_T_MS = 2 ** 31 - 1;
/** Largest message of a rig, bytes: of any kind, and of one that carries no samples. */
export const MAX_MESSAGE_BYTES = 4 * 1024 * 1024;
const MAX_PLAIN_BYTES = 64 * 1024;
const MAX_CHANNELS = 64;

export interface LinkChannel {
  key: string;
  label: string;
  quantity: Quantity;
  unit: string;
  /** Shown by an instrument that somebody holds: never recorded by itself, only what is typed. */
  byHand?: boolean;
}

/** Something that a rig can set while it runs: a number within bounds, or one of some choices. */
export interface LinkControl {
  key: string;
  label: string;
  unit: string;
  /** Where it stands at the start of a run. */
  usual: number | string;
  least?: number;
  most?: number;
  choices?: string[];
}

/** A rig that removed the load by itself keeps it off: until a person says go on, or after a cut-out until another run starts. */
export interface Latch {
  kind: 'load-removed' | 'cut-out';
  text: string;
}

export interface HelloMessage {
  type: 'hello';
  version: number;
  /** `family`: the kind of parts it is made for; any where nothing is said. `fastestMs`: from one sample to the next; a second where nothing is said. */
  rig: { id: string; name: string; simulated: boolean; family?: Family; fastestMs?: number };
  channels: LinkChannel[];
  setups: { key: string; label: string }[];
  /** What it can set; none where nothing is said. */
  controls?: LinkControl[];
  /** Faults that a simulated bench can be given, to learn on. */
  faults?: { key: string; label: string }[];
  /** The run it is in the middle of; null when idle. */
  run: { runId: string; lastSeq: number; loadPercent: number; latched?: Latch | null } | null;
}

/** Samples of all channels on one set of times: `values[key][i]` was read at `tMs[i]`, null where missing. */
export interface SamplesMessage {
  type: 'samples';
  runId: string;
  seq: number;
  tMs: number[];
  values: Record<string, (number | null)[]>;
}

export interface EventMessage {
  type: 'event';
  /** Kept by the rig until it is acknowledged by this id; without one it is said once. */
  id?: string;
  runId: string;
  tMs: number;
  kind: 'load-removed' | 'cut-out' | 'note';
  text: string;
}

/** Said every second and after every command: what the rig does, not what it was told. */
export interface StateMessage {
  type: 'state';
  runId: string | null;
  loadPercent: number;
  latched?: Latch | null;
}

/** What the rig shows when it is asked to look without a run: some seconds of every channel, without load. */
export interface LookMessage {
  type: 'look';
  lookId: string;
  tMs: number[];
  values: Record<string, (number | null)[]>;
}

export type RigMessage = HelloMessage | SamplesMessage | EventMessage | StateMessage | LookMessage;

export interface StartCommand {
  type: 'command';
  command: 'start';
  runId: string;
  setup: string;
  seed: number;
  /** Same number, same fit of lid and pads on the simulated bench. */
  mountSeed: number;
  timeScale: number;
  sampleIntervalMs: number;
  armed: ArmedLimit[];
  /** Faults to plant in a simulated bench; none where nothing is said. */
  faults?: string[];
}

/** Sets one control; a rig that does not have it ignores it. */
export interface SetCommand {
  type: 'command';
  command: 'set';
  runId: string;
  control: string;
  value: number | string;
}

/** Asks an idle rig what it shows; one that does not know it is not waited for long. */
export interface LookCommand {
  type: 'command';
  command: 'look';
  lookId: string;
  setup: string;
  seed: number;
  mountSeed: number;
  faults: string[];
}

export type ServerMessage =
  | { type: 'welcome'; heartbeatS: number }
  | { type: 'refused'; reason: string }
  | { type: 'beat' }
  | { type: 'ack'; runId: string; seq: number; events?: string[] }
  | StartCommand
  | SetCommand
  | LookCommand
  | { type: 'command'; command: 'load'; runId: string; percent: number; forS: number }
  | { type: 'command'; command: 'rearm'; runId: string }
  | { type: 'command'; command: 'end'; runId: string };

const isText = (value: unknown, most = 200): value is string => typeof value === 'string' && value.length > 0 && value.length <= most;
const isWhole = (value: unknown): value is number => typeof value === 'number' && Number.isSafeInteger(value);

function checkControls(controls: unknown): string | null {
  if (controls === undefined) return null;
  if (!Array.isArray(controls) || controls.length > 32) return 'hello holds up to 32 controls';
  for (const control of controls as Partial<LinkControl>[]) {
    if (!isText(control?.key) || !isText(control.label)) return 'every control needs key and label';
    const choices = Array.isArray(control.choices) && control.choices.length > 0 && control.choices.every((choice) => isText(choice));
    const bounds = Number.isFinite(control.least) && Number.isFinite(control.most) && control.least! < control.most!;
    if (!choices && !bounds) return `control ${control.key} needs choices, or least below most`;
    if (typeof control.unit !== 'string') return `control ${control.key} needs a unit, if an empty one`;
  }
  return null;
}

function checkFaults(faults: unknown): string | null {
  if (faults === undefined) return null;
  if (!Array.isArray(faults) || faults.length > 64 || faults.some((fault) => !isText(fault?.key) || !isText(fault?.label)))
    return 'hello holds up to 64 faults, each with key and label';
  return null;
}

/**
 * Names of channels, controls and set-ups: letters, digits and what stands between them. What every object has by itself is none,
 * so that no name can reach what belongs to the program.
 */
const KEY = /^[\p{L}\p{N}][\p{L}\p{N} ._/:+%°#()@-]{0,59}$/u;
const isKey = (value: unknown): value is string => typeof value === 'string' && KEY.test(value) && !(value in {});
const hasDoubles = (keys: string[]) => new Set(keys).size < keys.length;
const isShare = (value: unknown): value is number => typeof value === 'number' && value >= 0 && value <= 100;
const isLatch = (latch: unknown): boolean =>
  latch == null ||
  (typeof latch === 'object' && ['load-removed', 'cut-out'].includes((latch as Latch).kind) && isText((latch as Latch).text, 500));

function checkChannels(channels: unknown): string | null {
  if (!Array.isArray(channels) || channels.length > MAX_CHANNELS)
    return `hello needs up to ${MAX_CHANNELS} channels, each with key and unit`;
  for (const channel of channels as Partial<LinkChannel>[]) {
    if (!isText(channel?.key) || !isText(channel.unit, 20)) return `hello needs up to ${MAX_CHANNELS} channels, each with key and unit`;
    if (!isKey(channel.key)) return `“${String(channel.key).slice(0, 60)}” is no name for a channel: letters and digits, up to 60`;
    if (channel.label !== undefined && !isText(channel.label)) return `channel ${channel.key} has a label that is no text`;
  }
  return hasDoubles(channels.map(({ key }: LinkChannel) => key)) ? 'two channels of one name' : null;
}

function checkSetups(setups: unknown): string | null {
  if (!Array.isArray(setups) || setups.length > 200) return 'hello without its list of set-ups';
  return setups.every((setup) => isText(setup?.key) && isText(setup.label)) ? null : 'every set-up needs key and label';
}

function checkHello(message: Partial<HelloMessage>): string | null {
  if (!isText(message.rig?.id) || !isText(message.rig.name)) return "hello without the rig's id and name";
  if (message.rig.family !== undefined && !FAMILIES.includes(message.rig.family))
    return `hello with a family of parts that is not known: ${FAMILIES.join(', ')}`;
  const { fastestMs } = message.rig;
  if (fastestMs !== undefined && !(isWhole(fastestMs) && fastestMs >= 1 && fastestMs <= 60_000))
    return 'hello with a fastestMs that is no whole number of milliseconds from 1 to 60000';
  const { run } = message;
  if (run != null && (!isText(run.runId) || !isWhole(run.lastSeq) || run.lastSeq < 0 || !isShare(run.loadPercent) || !isLatch(run.latched)))
    return 'hello with a run that lacks runId, lastSeq or loadPercent';
  return checkChannels(message.channels) ?? checkSetups(message.setups) ?? checkControls(message.controls) ?? checkFaults(message.faults);
}

function checkEvent({ id, runId, tMs, kind, text }: Partial<EventMessage>): string | null {
  if (!isText(runId) || !isWhole(tMs) || tMs < 0 || tMs > MAX_T_MS || !isText(text, 500)) return 'event needs runId, tMs, kind and text';
  if (!['load-removed', 'cut-out', 'note'].includes(kind!)) return 'event of a kind that is not known: load-removed, cut-out or note';
  return id === undefined || isText(id, 100) ? null : 'event with an id that is no text';
}

function checkState({ runId, loadPercent, latched }: Partial<StateMessage>): string | null {
  if (!isShare(loadPercent)) return 'state without a loadPercent from 0 to 100';
  if (runId !== null && !isText(runId)) return 'state without its runId, or null';
  return isLatch(latched) ? null : 'state with a latch that lacks kind and text';
}

function checkSamples(message: Partial<SamplesMessage>): string | null {
  if (!isText(message.runId)) return 'samples without a runId';
  if (!isWhole(message.seq) || message.seq < 1) return 'samples without a sequence number from 1';
  return checkColumns(message);
}

function checkColumns(message: Partial<Pick<SamplesMessage, 'tMs' | 'values'>>): string | null {
  if (!Array.isArray(message.tMs) || message.tMs.length > MAX_SAMPLES_PER_MESSAGE)
    return `samples need tMs with up to ${MAX_SAMPLES_PER_MESSAGE} times`;
  for (let i = 0; i < message.tMs.length; i++) {
    const time = message.tMs[i];
    if (!isWhole(time) || time < 0 || time > MAX_T_MS) return `time ${i} is not a whole number of milliseconds up to ${MAX_T_MS}`;
    if (i > 0 && time <= message.tMs[i - 1]!) return `time ${i} does not come after the one before`;
  }
  if (typeof message.values !== 'object' || message.values === null) return 'samples without values';
  const columns = Object.entries(message.values);
  if (columns.length > MAX_CHANNELS) return `values of more than ${MAX_CHANNELS} channels`;
  for (const [key, values] of columns) {
    if (!isKey(key)) return `“${String(key).slice(0, 60)}” is no name for a channel`;
    if (!Array.isArray(values) || values.length !== message.tMs.length) return `${key} has another number of values than there are times`;
    for (const value of values)
      if (value !== null && (typeof value !== 'number' || !Number.isFinite(value)))
        return `${key} holds a value that is neither a number nor null`;
  }
  return null;
}

/**
 * Parses one message of a rig.
 *
 * @returns the message, or a sentence that says what is wrong with it
 */
export function parseRigMessage(text: string): { ok: true; message: RigMessage } | { ok: false; reason: string } {
  let message: Partial<RigMessage>;
  if (text.length > MAX_MESSAGE_BYTES) return { ok: false, reason: 'longer than a message may be' };
  try {
    message = JSON.parse(text) as Partial<RigMessage>;
  } catch {
    return { ok: false, reason: 'not JSON' };
  }
  if (typeof message !== 'object' || message === null) return { ok: false, reason: 'not a JSON object' };
  let wrong: string | null = null;
  if (text.length > MAX_PLAIN_BYTES && message.type !== 'samples' && message.type !== 'look')
    return { ok: false, reason: `${message.type ?? 'a message'} of more than ${MAX_PLAIN_BYTES / 1024} KiB` };
  switch (message.type) {
    case 'hello':
      wrong = checkHello(message);
      break;
    case 'samples':
      wrong = checkSamples(message);
      break;
    case 'event':
      wrong = checkEvent(message);
      break;
    case 'look':
      wrong = isText(message.lookId) ? checkColumns(message) : 'look without its id';
      break;
    case 'state':
      wrong = checkState(message);
      break;
    case undefined:
    default:
      wrong = `unknown type ${JSON.stringify((message as { type?: unknown }).type)?.slice(0, 40)}`;
  }
  return wrong === null ? { ok: true, message: message as RigMessage } : { ok: false, reason: wrong };
}
