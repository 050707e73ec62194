import { setTimeout as delay } from 'node:timers/promises';
import { fixed, type ArmedLimit } from '@red-ember/core';
import {
  LEASE_S,
  type EventMessage,
  type RehearsalKey,
  type RehearsalStep,
  type SamplesMessage,
  type StateMessage,
} from '@red-ember/contract';
import type { RigHub, RigListener } from '../rigs/rigHub.ts';

/** A rig has so long to begin, and to put a load on, s. */
const BEGINS_S = 8;
/** A rig that is told to has so long to take its load off, and so long more until power shows it, s. */
const STOP_WITHIN_S = 2;
const POWER_WITHIN_S = 10;
/** The lease, and a second in which the rig may look at its clock and say so, s. */
const LEASE_WITHIN_S = LEASE_S + 1.5;
/** A cut-out that is passed from the first sample on trips after its hold, s; a rig that samples once a second needs some more. */
const HOLD_S = 3;
const CUT_OUT_WITHIN_S = HOLD_S + 4;
/** The limit that is rehearsed lies so far below what the channel shows, K. */
const BELOW_K = 3;
/** A load that must not come back is asked for so long, s. */
const REFUSES_S = 2.5;
/** Samples before the load is put on, and under it, from which power is told, s. */
const SHOWS_S = 4;
/** Power, or utilisation, shows a load from this share above idle on. */
const SHOWS_SHARE = 0.05;

/** It is over before its end. */
export class BrokenOff extends Error {}

type Line = Pick<RigHub, 'send' | 'isConnected' | 'hello'>;

/**
 * Tries on one rig, one after the other, the ways in which its load goes off, and measures how long each takes. It hears everything
 * that the rig says meanwhile, and nothing that it does outlives a lease.
 */
export class Rehearsing implements RigListener {
  private state: (StateMessage & { atMs: number }) | null = null;
  private readonly latest = new Map<string, number>();
  private readonly events: EventMessage[] = [];
  private runId = '';
  private runs = 0;
  private broken: string | null = null;
  private lease: NodeJS.Timeout | null = null;

  constructor(
    private readonly line: Line,
    private readonly rigId: string,
    private readonly percent: number,
    private readonly tries: (key: RehearsalKey) => void,
    private readonly done: (step: RehearsalStep) => void,
    private readonly id: string,
  ) {}

  /** Ends it as soon as anything is waited for; the load goes off at once. */
  breakOff(why: string): void {
    this.broken ??= why;
    this.letGo();
  }

  rigConnected(): void {
    this.breakOff('The line to the rig was lost in the middle.');
  }

  samplesArrived(_rigId: string, message: SamplesMessage): void {
    this.line.send(this.rigId, { type: 'ack', runId: message.runId, seq: message.seq });
    if (message.runId !== this.runId) return;
    for (const [key, values] of Object.entries(message.values)) {
      const value = values.at(-1);
      if (typeof value === 'number') this.latest.set(key, value);
    }
  }

  eventArrived(_rigId: string, message: EventMessage): void {
    this.line.send(this.rigId, { type: 'ack', runId: message.runId, seq: 0, events: message.id === undefined ? [] : [message.id] });
    if (message.runId === this.runId) this.events.push(message);
  }

  stateArrived(_rigId: string, message: StateMessage): void {
    this.state = { ...message, atMs: performance.now() };
  }

  /** @throws BrokenOff with a sentence, where it does not come to its end */
  async act(): Promise<void> {
    try {
      for (const [key, step] of [
        ['stop', () => this.stop()],
        ['lost-server', () => this.lostServer()],
        ['cut-out', () => this.cutOut()],
      ] as const) {
        this.tries(key);
        this.done({ key, ...(await step()) });
        await this.endRun();
      }
    } finally {
      this.letGo();
    }
  }

  private async stop(): Promise<Omit<RehearsalStep, 'key'>> {
    await this.begin([]);
    const { channels = [] } = this.line.hello(this.rigId) ?? {};
    const witness = ['power', 'utilisation'].flatMap((shows) => channels.find(({ quantity }) => quantity === shows) ?? [])[0];
    const figure = (value: number) => fixed(value, Math.abs(value) < 10 ? 1 : 0);
    const shown = () => (witness ? this.latest.get(witness.key) : undefined);
    if (witness) await this.until(() => shown() !== undefined, SHOWS_S);
    const idle = shown();
    await this.loadOn();
    if (witness) await this.until(() => false, SHOWS_S);
    const loaded = shown();
    const fromMs = performance.now();
    this.renewNoMore();
    this.say({ type: 'command', command: 'load', runId: this.runId, percent: 0, forS: LEASE_S });
    const off = await this.until(() => this.reports(0), STOP_WITHIN_S);
    const offAfterS = off ? this.sinceS(fromMs) : null;
    if (offAfterS === null)
      return failed(STOP_WITHIN_S, `${STOP_WITHIN_S} s after Stop the rig still reported ${this.state?.loadPercent} %.`);
    const seen = witness && idle !== undefined && loaded !== undefined && loaded > idle * (1 + SHOWS_SHARE) && loaded > idle + 1;
    if (!seen) {
      const unseen = witness ? `${witness.label} did not show the load` : 'neither power nor utilisation is measured';
      return { ok: true, offAfterS, withinS: STOP_WITHIN_S, sentence: `Off ${seconds(offAfterS)} after Stop, as the rig says; ${unseen}.` };
    }
    const follows = await this.until(() => (shown() ?? loaded) < (idle + loaded) / 2, POWER_WITHIN_S);
    const now = `${figure(shown() ?? loaded)} ${witness.unit}`;
    return follows
      ? {
          ok: true,
          offAfterS,
          withinS: STOP_WITHIN_S,
          sentence: `Off ${seconds(offAfterS)} after Stop; ${witness.label} fell from ${figure(loaded)} to ${now}.`,
        }
      : {
          ...failed(
            STOP_WITHIN_S,
            `The rig says that the load is off, but ${POWER_WITHIN_S} s later ${witness.label} still stood at ${now}.`,
          ),
          offAfterS,
        };
  }

  private async lostServer(): Promise<Omit<RehearsalStep, 'key'>> {
    await this.begin([]);
    await this.loadOn();
    this.renewNoMore();
    this.say({ type: 'command', command: 'load', runId: this.runId, percent: this.percent, forS: LEASE_S });
    const fromMs = performance.now();
    const off = await this.until(() => this.reports(0), LEASE_WITHIN_S);
    if (!off)
      return failed(
        LEASE_WITHIN_S,
        `${LEASE_WITHIN_S} s after the load was last said the rig still reported ${this.state?.loadPercent} %.`,
      );
    const offAfterS = this.sinceS(fromMs);
    const back = await this.comesBack();
    const fell = `Off ${seconds(offAfterS)} after nobody said the load any more`;
    return back
      ? { ...failed(LEASE_WITHIN_S, `${fell}, but it came back by itself when a load was asked again.`), offAfterS }
      : { ok: true, offAfterS, withinS: LEASE_WITHIN_S, sentence: `${fell}, and it stayed off.` };
  }

  private async cutOut(): Promise<Omit<RehearsalStep, 'key'>> {
    const channels = this.line.hello(this.rigId)?.channels ?? [];
    const warm = channels
      .filter(({ key, quantity, byHand }) => quantity === 'temperature' && !byHand && this.latest.has(key))
      .sort((a, b) => this.latest.get(b.key)! - this.latest.get(a.key)!)[0];
    if (!warm) return failed(CUT_OUT_WITHIN_S, 'No temperature is read by the rig: it has nothing to cut out by.');
    const limitC = Math.floor(this.latest.get(warm.key)! - BELOW_K);
    await this.begin([{ channel: warm.key, name: warm.label, limitC, holdS: HOLD_S }]);
    await this.loadOn();
    const fromMs = performance.now();
    const off = await this.until(() => this.reports(0), CUT_OUT_WITHIN_S);
    if (!off)
      return failed(
        CUT_OUT_WITHIN_S,
        `${warm.label} stood above a limit of ${limitC} °C for ${CUT_OUT_WITHIN_S} s, and the load stayed on.`,
      );
    const offAfterS = this.sinceS(fromMs);
    const said = this.state?.latched?.kind === 'cut-out' || this.events.some(({ kind }) => kind === 'cut-out');
    if (!said) return { ...failed(CUT_OUT_WITHIN_S, 'The load went off, but the rig did not say that it cut out.'), offAfterS };
    // Neither a load that is asked again nor a go-on may bring it back.
    this.say({ type: 'command', command: 'rearm', runId: this.runId });
    const back = await this.comesBack();
    const tripped = `Off ${seconds(offAfterS)} after ${warm.label} stood above a limit of ${limitC} °C`;
    return back
      ? { ...failed(CUT_OUT_WITHIN_S, `${tripped}, but the load came back when it was asked again.`), offAfterS }
      : { ok: true, offAfterS, withinS: CUT_OUT_WITHIN_S, sentence: `${tripped}, and it stayed off.` };
  }

  private async begin(armed: ArmedLimit[]): Promise<void> {
    this.runId = `${this.id}-${++this.runs}`;
    this.events.length = 0;
    this.say({
      type: 'command',
      command: 'start',
      runId: this.runId,
      setup: this.line.hello(this.rigId)?.setups[0]?.key ?? '',
      seed: 1,
      mountSeed: 1,
      timeScale: 1,
      sampleIntervalMs: 1000,
      armed,
      faults: [],
    });
    if (!(await this.until(() => this.state?.runId === this.runId, BEGINS_S)))
      throw new BrokenOff('The rig did not begin, or does not say what it does (a “state” every second).');
  }

  private async loadOn(): Promise<void> {
    const renew = () => this.say({ type: 'command', command: 'load', runId: this.runId, percent: this.percent, forS: LEASE_S });
    renew();
    this.lease = setInterval(renew, 1000);
    const on = await this.until(() => this.reports(this.percent), BEGINS_S);
    if (!on) throw new BrokenOff(`${this.percent} % were asked, and the rig reports ${this.state?.loadPercent ?? 0} %.`);
  }

  /** Whether a load comes on that the rig took off by itself and that is asked again, without anybody's go on. */
  private async comesBack(): Promise<boolean> {
    const ask = () => this.say({ type: 'command', command: 'load', runId: this.runId, percent: this.percent, forS: LEASE_S });
    ask();
    this.renewNoMore();
    this.lease = setInterval(ask, 1000);
    return this.until(() => (this.state?.loadPercent ?? 0) > 0, REFUSES_S);
  }

  private async endRun(): Promise<void> {
    this.letGo();
    const off = await this.until(() => this.state?.loadPercent === 0 && this.state.runId !== this.runId, LEASE_WITHIN_S);
    if (!off) throw new BrokenOff('The rig did not end: if its load is on, switch the machine off by hand.');
  }

  private reports(percent: number): boolean {
    return this.state?.runId === this.runId && this.state.loadPercent === percent;
  }

  private sinceS(fromMs: number): number {
    return Math.max(0, (this.state!.atMs - fromMs) / 1000);
  }

  private say(message: Parameters<Line['send']>[1]): void {
    this.line.send(this.rigId, message);
  }

  private renewNoMore(): void {
    if (this.lease) clearInterval(this.lease);
    this.lease = null;
  }

  private letGo(): void {
    this.renewNoMore();
    if (this.runId === '') return;
    this.say({ type: 'command', command: 'load', runId: this.runId, percent: 0, forS: LEASE_S });
    this.say({ type: 'command', command: 'end', runId: this.runId });
  }

  private async until(what: () => boolean, withinS: number): Promise<boolean> {
    const endMs = performance.now() + 1000 * withinS;
    for (;;) {
      if (this.broken !== null) throw new BrokenOff(this.broken);
      if (!this.line.isConnected(this.rigId)) throw new BrokenOff('The rig went away in the middle.');
      if (what()) return true;
      if (performance.now() >= endMs) return false;
      await delay(20);
    }
  }
}

const seconds = (s: number) => (s < 0.1 ? 'less than 0.1 s' : `${fixed(s, 1)} s`);
const failed = (withinS: number, sentence: string) => ({ ok: false, offAfterS: null, withinS, sentence });
