import { BlindWatch, CutOutWatch } from '@red-ember/core';
import { LEASE_S, type EventMessage, type Latch, type SamplesMessage, type StartCommand } from '@red-ember/contract';
import type { Readings, RigSource } from '../source.ts';

/** Most of the bench's time in one message while in time-lapse, ms: a phase change is never later than this. */
const LAPSE_MS = 15_000;
/**
 * In time-lapse the bench waits for the server when this many messages are not acknowledged: with one, a command that answers a
 * message holds from the very next sample.
 */
const LAPSE_AHEAD = 1;

/**
 * A run on a rig: takes samples as wall time passes and keeps them until they are acknowledged. The load is a lease: it falls unless
 * it is said again in time, and where the rig took it off by itself it stays off until it is re-armed; after a cut-out for good.
 */
export class ActiveRun {
  lastSeq = 0;
  ended = false;
  readonly unacknowledged: (SamplesMessage | EventMessage)[] = [];
  private readonly readings: Readings;
  private percent = 0;
  private latch: Latch | null = null;
  /** Monotonic ms at which the load falls unless it was said again. */
  private leaseEndsMs = 0;
  private eventCount = 0;
  private readonly watch: CutOutWatch;
  private readonly blind: BlindWatch;
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
    this.blind = new BlindWatch(command.armed);
  }

  get runId(): string {
    return this.command.runId;
  }

  get loadPercent(): number {
    return this.percent;
  }

  get latched(): Latch | null {
    return this.latch;
  }

  /**
   * Applies a load for so long, or says it again. A rig that took the load off by itself does not obey.
   *
   * @param nowMs monotonic
   */
  lease(percent: number, nowMs: number, forS: number = LEASE_S): void {
    if (percent > 0 && (this.latch || this.ended)) return;
    this.leaseEndsMs = nowMs + 1000 * Math.min(forS, LEASE_S);
    this.apply(percent);
  }

  /** Somebody says go on: the next load is obeyed again. Not after a cut-out. */
  rearm(): void {
    if (this.latch?.kind === 'load-removed') this.latch = null;
  }

  /** Takes the load off when nobody has said it again in time. @param nowMs monotonic */
  expire(nowMs: number): EventMessage | null {
    if (this.percent === 0 || nowMs < this.leaseEndsMs) return null;
    const event = this.removeLoad('load-removed', `Nobody said the load again for ${LEASE_S} s: the rig took it off and keeps it off.`);
    this.unacknowledged.push(event);
    return event;
  }

  private apply(percent: number): void {
    if (percent === this.percent) return;
    if (this.percent === 0) this.blind.reset(this.tMs / 1000);
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
    this.apply(0);
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
    const lapseBatch = Math.max(1, Math.floor(LAPSE_MS / sampleIntervalMs));
    const count = Math.min(due, timeScale > 1 ? lapseBatch : 600);
    this.owedMs =
      timeScale > 1
        ? Math.min(this.owedMs - count * sampleIntervalMs, lapseBatch * sampleIntervalMs)
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
        if (value === null) continue;
        this.blind.feed(key, this.tMs / 1000, value);
        if (this.watch.feed(key, this.tMs / 1000, value))
          made.push(this.removeLoad('cut-out', `${this.watch.tripped!.reason}. The rig removed the load.`));
      }
      const unseen = this.percent > 0 ? this.blind.blind(this.tMs / 1000) : null;
      if (unseen) made.push(this.removeLoad('load-removed', `${unseen}. The rig took the load off and keeps it off.`));
    }
    for (const text of this.readings.happened?.() ?? []) made.push(this.event('note', text));
    made.unshift(message);
    this.unacknowledged.push(...made);
    return made;
  }

  private removeLoad(kind: Latch['kind'], text: string): EventMessage {
    this.apply(0);
    // A cut-out is the stronger of the two: nothing that comes after makes less of it.
    if (this.latch?.kind !== 'cut-out') this.latch = { kind, text };
    return this.event(kind, text);
  }

  private event(kind: EventMessage['kind'], text: string): EventMessage {
    return { type: 'event', id: `${this.runId} ${++this.eventCount}`, runId: this.runId, tMs: this.tMs, kind, text };
  }

  /** Everything up to `seq`, and these events, are safe on the server's disk. */
  acknowledge(seq: number, events: readonly string[] = []): void {
    const keep = this.unacknowledged.filter((message) => (message.type === 'samples' ? message.seq > seq : !events.includes(message.id!)));
    this.unacknowledged.splice(0, this.unacknowledged.length, ...keep);
  }
}
