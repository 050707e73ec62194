import type { ArmedLimit } from '@red-ember/core';
import type { Quantity } from '../channels.ts';

/** Version of the rig link; a rig that speaks another is refused with a sentence. */
export const LINK_VERSION = 1;
/** A rig that hears nothing for this long removes the load by itself, seconds of the wall clock. */
export const SILENCE_LIMIT_S = 5;
/** Largest number of samples per channel in one message. */
export const MAX_SAMPLES_PER_MESSAGE = 2000;

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

export interface HelloMessage {
  type: 'hello';
  version: number;
  rig: { id: string; name: string; simulated: boolean };
  channels: LinkChannel[];
  setups: { key: string; label: string }[];
  /** What it can set; none where nothing is said. */
  controls?: LinkControl[];
  /** Faults that a simulated bench can be given, to learn on. */
  faults?: { key: string; label: string }[];
  /** The run it is in the middle of; null when idle. */
  run: { runId: string; lastSeq: number; loadPercent: number } | null;
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
  runId: string;
  tMs: number;
  kind: 'load-removed' | 'cut-out' | 'note';
  text: string;
}

export interface StateMessage {
  type: 'state';
  runId: string | null;
  loadPercent: number;
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
  | { type: 'ack'; runId: string; seq: number }
  | StartCommand
  | SetCommand
  | LookCommand
  | { type: 'command'; command: 'load'; runId: string; percent: number }
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
    if (!isWhole(time) || time < 0) return `time ${i} is not a whole number of milliseconds`;
    if (i > 0 && time <= message.tMs[i - 1]!) return `time ${i} does not come after the one before`;
  }
  if (typeof message.values !== 'object' || message.values === null) return 'samples without values';
  for (const [key, values] of Object.entries(message.values)) {
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
  try {
    message = JSON.parse(text) as Partial<RigMessage>;
  } catch {
    return { ok: false, reason: 'not JSON' };
  }
  if (typeof message !== 'object' || message === null) return { ok: false, reason: 'not a JSON object' };
  let wrong: string | null = null;
  switch (message.type) {
    case 'hello':
      if (!isText(message.rig?.id) || !isText(message.rig?.name)) wrong = "hello without the rig's id and name";
      else if (
        !Array.isArray(message.channels) ||
        message.channels.length > 64 ||
        message.channels.some((channel) => !isText(channel?.key) || !isText(channel?.unit))
      )
        wrong = 'hello needs up to 64 channels, each with key and unit';
      else if (!Array.isArray(message.setups)) wrong = 'hello without its list of set-ups';
      else wrong = checkControls(message.controls) ?? checkFaults(message.faults);
      break;
    case 'samples':
      wrong = checkSamples(message);
      break;
    case 'event':
      if (!isText(message.runId) || !isWhole(message.tMs) || !isText(message.kind) || !isText(message.text, 500))
        wrong = 'event needs runId, tMs, kind and text';
      break;
    case 'look':
      wrong = isText(message.lookId) ? checkColumns(message) : 'look without its id';
      break;
    case 'state':
      if (typeof message.loadPercent !== 'number') wrong = 'state without loadPercent';
      break;
    case undefined:
    default:
      wrong = `unknown type ${JSON.stringify((message as { type?: unknown }).type)?.slice(0, 40)}`;
  }
  return wrong === null ? { ok: true, message: message as RigMessage } : { ok: false, reason: wrong };
}
