import { CutOutWatch } from '@red-ember/core';
import type { EventMessage, SamplesMessage, StartCommand } from '@red-ember/contract';
import type { Readings, RigSource } from '../source.ts';

/** Most samples in one message while in time-lapse: a phase change is never later than this many samples. */
const LAPSE_BATCH = 15;
/**
 * In time-lapse the bench waits for the server when this many messages are not acknowledged: with one, a command that answers a
 * message holds from the very next sample.
 */
const LAPSE_AHEAD = 1;

/** A run on a rig: takes samples as wall time passes and keeps them until they are acknowledged. */
export class ActiveRun {
  lastSeq = 0;
  ended = false;
  readonly unacknowledged: (SamplesMessage | EventMessage)[] = [];
  private readonly readings: Readings;
  private percent = 0;
  private readonly watch: CutOutWatch;
  private owedMs = 0;
  /** Time that has passed for the bench, and the same by its clock, which may be wrong. */
  private benchMs = 0;
  private tMs = 0;

  constructor(
    readonly command: StartCommand,
    private readonly source: RigSource,
  ) {
    this.readings = source.begin(command);
    this.watch = new CutOutWatch(command.armed);
  }

  get runId(): string {
    return this.command.runId;
  }

  get loadPercent(): number {
    return this.percent;
  }

  set loadPercent(percent: number) {
    if (percent === this.percent) return;
    this.percent = percent;
    this.readings.load?.(percent);
  }

  /** Sets a control, and says so where it cannot. */
  set(control: string, value: number | string): EventMessage | null {
    try {
      this.readings.set?.(control, value);
      return null;
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      return this.notDone(error.message);
    }
  }

  /** Says, with the run, that something was asked of the rig that it could not do. */
  notDone(why: string): EventMessage {
    const note = this.event('note', `The rig could not do it: ${why}.`);
    this.unacknowledged.push(note);
    return note;
  }

  end(): void {
    this.ended = true;
    this.loadPercent = 0;
  }

  private get samplesWaiting(): number {
    return this.unacknowledged.filter((message) => message.type === 'samples').length;
  }

  /** Lets `wallMs` pass; new messages are appended to `unacknowledged` and returned. */
  pass(wallMs: number): (SamplesMessage | EventMessage)[] {
    if (this.ended) return [];
    const { timeScale, sampleIntervalMs } = this.command;
    // A real bench cannot wait for a slow server; a simulated one in time-lapse can, and then loses nothing by it.
    if (timeScale > 1 && this.samplesWaiting >= LAPSE_AHEAD) return [];
    this.owedMs += wallMs * timeScale;
    const due = Math.floor(this.owedMs / sampleIntervalMs);
    if (due === 0) return [];
    const count = Math.min(due, timeScale > 1 ? LAPSE_BATCH : 600);
    this.owedMs =
      timeScale > 1
        ? Math.min(this.owedMs - count * sampleIntervalMs, LAPSE_BATCH * sampleIntervalMs)
        : this.owedMs - count * sampleIntervalMs;
    const made: (SamplesMessage | EventMessage)[] = [];
    const message: SamplesMessage = {
      type: 'samples',
      runId: this.runId,
      seq: ++this.lastSeq,
      tMs: [],
      values: Object.fromEntries(this.source.channels.map((channel) => [channel.key, []])),
    };
    // Readings that nobody took are not made up: after a pause a real source gives one sample, at the time it has become.
    const skipped = this.source.simulated ? 0 : count - 1;
    for (let i = skipped; i < count; i++) {
      const steps = 1 + (i === skipped ? skipped : 0);
      const reading = this.readings.read((steps * sampleIntervalMs) / 1000, this.loadPercent);
      this.benchMs += steps * sampleIntervalMs;
      this.tMs = Math.round(this.benchMs * (this.readings.clockRate ?? 1));
      message.tMs.push(this.tMs);
      for (const { key } of this.source.channels) {
        const value = reading[key] ?? null;
        message.values[key]!.push(value === null ? null : Math.round(value * 1000) / 1000);
        if (value !== null && this.watch.feed(key, this.tMs / 1000, value))
          made.push(this.removeLoad('cut-out', `${this.watch.tripped!.reason}. The rig removed the load.`));
      }
    }
    for (const text of this.readings.happened?.() ?? []) made.push(this.event('note', text));
    made.unshift(message);
    this.unacknowledged.push(...made);
    return made;
  }

  removeLoad(kind: EventMessage['kind'], text: string): EventMessage {
    this.loadPercent = 0;
    return this.event(kind, text);
  }

  private event(kind: EventMessage['kind'], text: string): EventMessage {
    return { type: 'event', runId: this.runId, tMs: this.tMs, kind, text };
  }

  /** Everything up to `seq` is safe on the server's disk. */
  acknowledge(seq: number): void {
    const keep = this.unacknowledged.filter((message) => message.type === 'samples' && message.seq > seq);
    this.unacknowledged.splice(0, this.unacknowledged.length, ...keep);
  }
}
