import {
  clock,
  DEFAULT_SETTLED_RULE,
  marksDue,
  phaseEnd,
  unreachable,
  withInterruption,
  withIntervention,
  withMoreTime,
  withPause,
  type RecipePhase,
  endOfWait,
  waitedEnough,
  type BoundedSettling,
} from '@red-ember/core';
import {
  CLOCK_OFF,
  HEARTBEAT_S,
  LEASE_S,
  type EventMessage,
  type HelloMessage,
  type InterventionBody,
  type LiveSnapshot,
  type Run,
  type RunLoad,
  type RunState,
  type SamplesMessage,
  type StateMessage,
} from '@red-ember/contract';
import { sampleIntervalOn } from '@red-ember/study';
import type { LiveHub } from '../live/hub.ts';
import type { MountStore } from '../mounts/store.ts';
import type { LineStore } from '../runs/lineStore.ts';
import type { RunStore } from '../runs/store.ts';
import type { SampleStore } from '../samples/store.ts';
import type { StudyStore } from '../studies/store.ts';
import { activeOf, answerOf, lookAtClock, lookAtLocks, seriesOf, spotsOf, type Active } from './active.ts';
import { loadDoesNotShow } from './loadGuard.ts';
import { LivePublisher } from './publisher.ts';
import type { RigHub, RigListener } from './rigHub.ts';
import type { SettlingJudge } from './settling/judge.ts';
import { StopWishes } from './stopWishes.ts';
import { isBusy, storageTrouble } from '../database/storageTrouble.ts';

/** A rig silent for this long is shown as lost, ms of the monotonic clock. */
const QUIET_MS = 5000;
/** A beat that comes later than this was held up: what it would say of the rig may only be late as well. */
const LATE_MS = 2000;
/** After a record could not be written the next try comes after the first, at most after the second, ms. */
const TRY_AGAIN_MS = { first: 1000, most: 30_000 };
/** Another program, or the desk, may hold the database for this long before a load is taken off for it, ms. */
const BUSY_GRACE_MS = 3000;
/** A message that cannot be kept, for no fault of the disk, is given up after so many tries. */
const POISON_TRIES = 3;
/** The room probe must be heard at least this often where results rest on it, seconds of the run's clock. */
const ROOM_LOST_S = 60;
/** Locks are looked at this often, seconds of the run's clock. */
const LOCKS_EVERY_S = 20;
/** How often settling is judged where no phase waits for it, ms of the wall clock. */
const SHOWN_EVERY_MS = 500;
/** Nothing is said of settling before, seconds of the phase. */
const SETTLING_FROM_S = 60;

type EndedState = Extract<RunState, 'stopped' | 'cut-out' | 'interrupted' | 'failed'>;

export interface ConductorDeps {
  runs: RunStore;
  samples: SampleStore;
  lines: LineStore;
  studies: StudyStore;
  mounts: MountStore;
  rigs: RigHub;
  live: LiveHub;
  /** What the practice bench has wrong in a run. */
  planted?: { in(studyId: string, variantId: string, mountNumber: number | null): string[] };
  /** Judges settling. */
  judge: SettlingJudge;
  /** Joins the many small pieces of a run that has ended; whenever there is time, and without ever failing. */
  tidy: (runId: string) => void;
  now?: () => Date;
  log: (text: string) => void;
}

/**
 * Leads live runs: stores what rigs send, moves from phase to phase, watches the armed limits and tells the pages. All of its
 * state can be rebuilt from the database, so that a run survives the server.
 *
 * The load is a lease: it is said again every second as long as everything that guards it is well, and is not said again where
 * anything is not. What went off comes back only when somebody says go on. No error ends the watch: what cannot be written is tried
 * again, without load.
 */
export class Conductor implements RigListener {
  private readonly active = new Map<string, Active>();
  private readonly stops: StopWishes;
  private readonly timer = setInterval(() => this.beat(), 1000 * HEARTBEAT_S);
  private beatAtMs = performance.now();
  private readonly now: () => Date;
  private readonly pages: LivePublisher;

  constructor(private readonly deps: ConductorDeps) {
    this.now = deps.now ?? (() => new Date());
    this.pages = new LivePublisher(deps);
    this.stops = new StopWishes(deps.rigs);
    deps.rigs.listener = this;
  }

  close(): void {
    clearInterval(this.timer);
    this.deps.judge.close();
  }

  /** Picks up the runs that were going on when the server last stopped. */
  resume(): void {
    for (const runId of this.deps.runs.unfinished()) {
      const run = this.deps.runs.find(runId);
      if (run?.source === 'rig') {
        const active = this.load(run);
        this.active.set(runId, active);
        // The rig may never come back: the load counts as said, and the guard waits for samples from now on.
        active.guard.said(this.wanted(active), performance.now(), active.lastMs / 1000);
      } else this.deps.runs.setState(runId, 'failed', this.now().toISOString(), 'The study was put in the trash while the run went on.');
    }
  }

  runOnRig(rigId: string): string | null {
    return [...this.active.values()].find((active) => active.rigId === rigId)?.runId ?? null;
  }

  /** Whether any run goes on. */
  measuring(): boolean {
    return this.active.size > 0;
  }

  /** Starts a stored run on its rig. */
  begin(runId: string): void {
    this.deps.runs.startPhase(runId, 0, this.deps.runs.plan(runId)!.recipe[0]!, 0);
    const run = this.deps.runs.find(runId)!;
    const active = this.load(run);
    this.active.set(runId, active);
    this.sendStart(active, run);
  }

  /** Stops the load at once, and ends the run as soon as that can be written. */
  stop(runId: string, state: EndedState, endedBy: string, reason: string): void {
    const active = this.active.get(runId);
    if (!active) return;
    active.ending ??= { state, endedBy, reason };
    this.sayLoad(active, 0);
    this.stops.want(runId, active.rigId);
    this.writing(active, () => this.endRun(active));
  }

  /** Something went wrong that nobody expected: no load stays on that was watched by it. */
  distrust(why: string): void {
    for (const active of this.active.values()) this.interrupt(active, `The server stumbled (${why})`);
  }

  /** What is known of the load of a run's rig, for whoever has pressed Stop. */
  loadOf(run: Run): RunLoad {
    const rig = this.deps.rigs.reported(run.sourceName);
    const active = this.active.get(run.id);
    return {
      runId: run.id,
      ended: !active,
      off: !active && !this.stops.has(run.id),
      connected: this.deps.rigs.isConnected(run.sourceName),
      reportedPercent: rig?.loadPercent ?? null,
      heardAgoS: rig ? (performance.now() - rig.atMs) / 1000 : null,
    };
  }

  /** Writes down something that happened at this moment of the run. */
  mark(runId: string, kind: string, text: string): void {
    const active = this.active.get(runId);
    this.deps.runs.addEvent(runId, active?.lastMs ?? 0, this.now().toISOString(), kind, text);
    if (active) this.pages.run(active);
  }

  /** The run's clock, seconds; null where it does not go on. */
  clockS(runId: string): number | null {
    const active = this.active.get(runId);
    return active ? active.lastMs / 1000 : null;
  }

  /** Tells the pages that something was typed or taken back. */
  handRead(runId: string): void {
    const active = this.active.get(runId);
    if (!active) return;
    this.pages.run(active);
    this.pages.snapshot(active);
  }

  /** Changes something under way: the present phase is over, and one that is to settle again begins. */
  intervene(runId: string, { text, set }: InterventionBody): void {
    this.alter(runId, (active, phase) => {
      const again: RecipePhase = { ...phase, name: text.slice(0, 60), opensWith: text };
      delete again.set;
      delete again.marksMin;
      return {
        recipe: withIntervention(active.recipe, active.phaseIndex, set.length > 0 ? { ...again, set } : again),
        endedBy: 'intervention',
      };
    });
  }

  /** Takes the load off until `goOnNow`; the phase is then done once more, whole. */
  pause(runId: string): void {
    this.alter(runId, (active) => ({ recipe: withPause(active.recipe, active.phaseIndex), endedBy: 'paused' }));
  }

  /**
   * Ends the present phase by hand: a pause, a wait after the load went off, or a phase that has shown what it had to show.
   *
   * @param reason why it goes on after the load had gone by itself; kept with the run
   */
  goOnNow(runId: string, reason = ''): void {
    const active = this.active.get(runId);
    if (active?.recipe[active.phaseIndex]?.kind === 'pause') {
      const offS = active.phaseStartMs / 1000;
      const why = reason === '' ? '' : `: ${reason}`;
      this.mark(runId, 'load-on', `The load was off from ${clock(offS)} to ${clock(active.lastMs / 1000)}. Gone on by hand${why}.`);
      active.guard.rearm();
      this.deps.rigs.send(active.rigId, { type: 'command', command: 'rearm', runId });
    }
    this.alter(runId, (of, phase) => ({ recipe: of.recipe, endedBy: phase.kind === 'pause' ? 'resumed' : 'by-hand' }));
  }

  moreTime(runId: string, minutes: number): void {
    this.alter(runId, (active) => ({ recipe: withMoreTime(active.recipe, active.phaseIndex, 60 * minutes), endedBy: null }));
    this.mark(runId, 'note', `${minutes} min more for this phase`);
  }

  private alter(runId: string, how: (active: Active, phase: RecipePhase) => { recipe: RecipePhase[]; endedBy: string | null }): void {
    const active = this.active.get(runId);
    if (!active) return;
    const { recipe, endedBy } = how(active, active.recipe[active.phaseIndex]!);
    try {
      if (endedBy) this.goOn(active, endedBy, recipe);
      else {
        this.deps.runs.setRecipe(runId, recipe);
        active.recipe = recipe;
      }
    } catch (error) {
      // Whoever asked for a pause must not be left with a load that goes on.
      this.inTrouble(active, error);
      throw error;
    }
    if (this.active.has(runId)) this.pages.snapshot(active);
  }

  /**
   * The load is off, or must go: the phase is over without a reading, and the run waits until somebody says go on. Where that cannot
   * be written yet it is held all the same.
   */
  private interrupt(active: Active, why: string, linkId?: string): void {
    if (this.wanted(active) === 0) return;
    active.held = { why, linkId };
    this.sayLoad(active, 0);
    this.writing(active, () => this.writeInterruption(active));
  }

  private writeInterruption(active: Active): void {
    if (active.held === null) return;
    const { why, linkId } = active.held;
    const text = `The load went off at ${clock(active.lastMs / 1000)}: ${why.replace(/\.$/, '')}.`;
    this.deps.runs.atomically(() => {
      this.deps.runs.addEvent(active.runId, active.lastMs, this.now().toISOString(), 'load-off', text, linkId);
      this.goOn(active, 'interrupted', withInterruption(active.recipe, active.phaseIndex));
    });
    active.held = null;
    this.deps.log(`Run ${active.runId}: ${text}`);
    this.pages.snapshot(active);
  }

  /** The load that the run asks for now, percent. */
  private wanted(active: Active): number {
    return active.held !== null || active.ending !== null ? 0 : active.recipe[active.phaseIndex]!.loadPercent;
  }

  private sayLoad(active: Active, percent = this.wanted(active)): void {
    active.guard.said(percent, performance.now(), active.lastMs / 1000);
    active.line.command(percent, active.lastMs / 1000);
    this.deps.rigs.send(active.rigId, { type: 'command', command: 'load', runId: active.runId, percent, forS: LEASE_S });
  }

  /** Does what writes to the record; where that fails the load is off, the page says why, and it is tried again. */
  private writing(active: Active, work: () => void): boolean {
    try {
      work();
    } catch (error) {
      this.inTrouble(active, error);
      return false;
    }
    const { trouble } = active;
    if (trouble) {
      active.trouble = null;
      this.deps.log(`Run ${active.runId} is written again.`);
      this.writing(active, () =>
        this.mark(active.runId, 'note', `${trouble.sentence}. It is written again; what the rig kept was not lost.`),
      );
    }
    return true;
  }

  private inTrouble(active: Active, error: unknown): void {
    const why = storageTrouble(error);
    const said = error instanceof Error ? error.message : String(error);
    const sentence = why === null ? `The server stumbled over this run (${said})` : `The record could not be written: ${why}`;
    if (!active.trouble) this.deps.log(`Run ${active.runId}: ${sentence}.`);
    const now = performance.now();
    const waitMs = Math.min(TRY_AGAIN_MS.most, active.trouble ? 2 * active.trouble.waitMs : TRY_AGAIN_MS.first);
    const sinceMs = active.trouble?.sinceMs ?? now;
    const wait = isBusy(error) && now - sinceMs < BUSY_GRACE_MS ? TRY_AGAIN_MS.first : waitMs;
    active.trouble = { sentence, sinceMs, waitMs: wait, nextAtMs: now + wait };
    // The watch goes on meanwhile: it sees what comes before it is written.
    if (isBusy(error) && now - sinceMs < BUSY_GRACE_MS) return;
    if (this.wanted(active) > 0) active.held = { why: sentence };
    this.sayLoad(active, 0);
    this.pages.snapshot(active);
  }

  snapshot(runId: string): LiveSnapshot | null {
    const active = this.active.get(runId);
    return active ? this.pages.snapshotOf(active) : null;
  }

  rigConnected(rigId: string, hello: HelloMessage): void {
    const active = [...this.active.values()].find((candidate) => candidate.rigId === rigId);
    this.stops.heardHello(rigId, hello.run?.runId ?? null);
    if (hello.run && hello.run.runId !== active?.runId) this.stops.want(hello.run.runId, rigId);
    if (!active) return;
    const run = this.deps.runs.find(active.runId);
    if (!run) return;
    const { run: known } = hello;
    if (known?.runId === active.runId) {
      if (active.lastSeq > 0) active.line.back(active.lastMs / 1000);
      this.deps.rigs.send(rigId, { type: 'ack', runId: active.runId, seq: active.lastSeq });
      if (known.latched?.kind === 'cut-out') {
        this.stop(active.runId, 'cut-out', 'cut-out', known.latched.text);
        return;
      }
      const wanted = this.wanted(active);
      if (wanted > 0 && (known.latched || known.loadPercent !== wanted)) {
        const why = known.latched?.text ?? `The rig is back with a load of ${known.loadPercent} % where ${wanted} % were asked`;
        this.interrupt(active, why);
        return;
      }
      // A command may have been lost with the line: everything that was set so far is said again, in its order.
      for (const past of active.recipe.slice(0, active.phaseIndex + 1)) this.sendSettings(active, past);
      this.sayLoad(active);
      if (active.lastSeq > 0) this.writing(active, () => this.mark(active.runId, 'note', 'The rig is back; nothing was lost.'));
    } else if (active.lastSeq === 0) {
      this.sendStart(active, run);
    } else {
      this.stop(
        active.runId,
        'interrupted',
        'rig-lost',
        'The rig was restarted and no longer knew the run. What was measured before is kept.',
      );
    }
  }

  stateArrived(rigId: string, message: StateMessage): void {
    this.stops.heardState(rigId, message);
    const active = [...this.active.values()].find((candidate) => candidate.rigId === rigId);
    if (!active || message.runId !== active.runId) return;
    active.guard.heardState(message, performance.now());
    active.line.report(message.loadPercent, active.lastMs / 1000);
    // A load that went off is held against it at the next beat: what was on its way when somebody said go on is past.
    if (message.latched?.kind === 'cut-out') this.stop(active.runId, 'cut-out', 'cut-out', message.latched.text);
  }

  samplesArrived(rigId: string, message: SamplesMessage): void {
    const active = this.active.get(message.runId);
    if (!active || active.rigId !== rigId) {
      // A run that has ended wants no more samples: let the rig forget them.
      this.deps.rigs.send(rigId, { type: 'ack', runId: message.runId, seq: message.seq });
      this.stops.want(message.runId, rigId);
      return;
    }
    // What waits to be kept comes again by our own asking.
    if (active.declinedSeq === null) active.line.heard(message.seq, active.lastSeq, active.lastMs / 1000);
    // What comes once more says nothing of when it was measured.
    if (message.seq > active.lastSeq && active.declinedSeq === null) active.clock.heard(message.tMs.at(-1) ?? 0, performance.now());
    const trip = message.seq > active.lastSeq ? this.watchOver(active, message) : null;
    if (message.seq > active.lastSeq && !this.keep(active, message)) {
      if (trip) this.stop(active.runId, 'cut-out', 'cut-out', trip);
      return;
    }
    if (trip) this.stop(active.runId, 'cut-out', 'cut-out', trip);
    const looking = this.lookAtSettling(active);
    // Commands go out before the acknowledgement, so that a bench in time-lapse obeys them before it makes more samples.
    const goOn = () => {
      if (this.active.has(active.runId)) this.writing(active, () => this.advance(active));
      this.deps.rigs.send(rigId, { type: 'ack', runId: message.runId, seq: active.lastSeq });
      if (this.active.has(active.runId)) this.pages.samples(active);
    };
    // A bench in time-lapse can wait for the judgement; a real one goes on, and the judgement is there at its next sample.
    if (active.timeScale > 1 && looking) void looking.then(goOn);
    else goOn();
  }

  /** Has settling judged where it is due; null where it is not. Never fails: what could not be judged is not settled. */
  private lookAtSettling(active: Active): Promise<void> | null {
    const phase = active.recipe[active.phaseIndex]!;
    const startS = active.phaseStartMs / 1000;
    const nowS = active.lastMs / 1000;
    // A phase of fixed length only shows it; in time-lapse it must not be held up for that.
    const waits = phase.mode !== 'fixed';
    if (nowS - startS <= SETTLING_FROM_S || !(waits || performance.now() - active.lookedAtMs >= SHOWN_EVERY_MS)) return null;
    active.lookedAtMs = performance.now();
    const looking = active.settling
      .look(spotsOf(active), seriesOf(active, 'room'), startS, nowS)
      .catch((error: unknown) => this.deps.log(`Settling of run ${active.runId} was not judged: ${String(error)}`));
    return waits ? looking : null;
  }

  eventArrived(rigId: string, message: EventMessage): void {
    const active = this.active.get(message.runId);
    const ack = () =>
      this.deps.rigs.send(rigId, {
        type: 'ack',
        runId: message.runId,
        seq: active?.lastSeq ?? 0,
        events: message.id === undefined ? [] : [message.id],
      });
    if (!active || active.rigId !== rigId) {
      ack();
      return;
    }
    // Said again because an acknowledgement was lost: it was dealt with then.
    if (message.id !== undefined && this.deps.runs.hasLinkEvent(active.runId, message.id)) ack();
    else if (this.dealWith(active, message)) ack();
  }

  /** @returns false where it could not be written and has to come again */
  private dealWith(active: Active, { kind, text, id }: EventMessage): boolean {
    switch (kind) {
      case 'cut-out':
        this.stop(active.runId, 'cut-out', 'cut-out', text);
        return !this.active.has(active.runId);
      case 'load-removed':
        this.interrupt(active, text, id);
        return active.held === null;
      case 'note':
        return this.writing(active, () => {
          this.deps.runs.addEvent(active.runId, active.lastMs, this.now().toISOString(), kind, text, id);
          this.pages.run(active);
        });
      default:
        return unreachable(kind);
    }
  }

  private load(run: Run): Active {
    const { runs, studies, samples } = this.deps;
    return activeOf(run, runs.plan(run.id)!, runs.channels(run.id), studies.find(run.studyId), samples, this.deps.judge, this.now);
  }

  private sendStart(active: Active, run: Run): void {
    this.stops.forget(active.rigId);
    const plan = this.deps.runs.plan(run.id)!;
    const mount = run.mountId ? this.deps.mounts.find(run.mountId) : null;
    const study = this.deps.studies.find(run.studyId);
    const setup = study?.variants.find((variant) => variant.id === run.variantId)?.setup ?? '';
    this.deps.rigs.send(active.rigId, {
      type: 'command',
      command: 'start',
      runId: run.id,
      setup,
      seed: plan.seed,
      mountSeed: mount?.seed ?? 1,
      timeScale: run.timeScale,
      sampleIntervalMs: sampleIntervalOn(study?.plan ?? {}, this.deps.rigs.fastestMs(active.rigId)),
      armed: plan.armed,
      faults: [...run.faults, ...(this.deps.planted?.in(run.studyId, run.variantId, run.mountNumber) ?? [])],
    });
    this.sendSettings(active, active.recipe[0]!);
    this.sayLoad(active);
  }

  private sendSettings(active: Active, phase: RecipePhase): void {
    for (const { control, value } of phase.set ?? [])
      this.deps.rigs.send(active.rigId, { type: 'command', command: 'set', runId: active.runId, control, value });
  }

  /** Feeds what guards the load, before anything else can go wrong with the message. Returns why the cut-out trips, or null. */
  private watchOver(active: Active, message: SamplesMessage): string | null {
    const newest = message.tMs.at(-1) ?? 0;
    active.guard.heardSamples(newest > active.seenMs, performance.now());
    let reason: string | null = null;
    message.tMs.forEach((tMs, i) => {
      // A clock that goes back must not make the watch forget how long something has been hot.
      active.seenMs = Math.max(active.seenMs, tMs);
      for (const { key } of active.channels) {
        const value = message.values[key]?.[i] ?? NaN;
        active.guard.feed(key, active.seenMs / 1000, value);
        const trip = active.watch.feed(key, active.seenMs / 1000, value);
        if (trip) reason = `${trip.reason}. The load was removed.`;
      }
    });
    return reason;
  }

  /** Stores a message; false where it could not be and has to come again. One that can never be kept is given up, and said. */
  private keep(active: Active, message: SamplesMessage): boolean {
    const { declinedSeq, trouble } = active;
    if (trouble && performance.now() < trouble.nextAtMs) {
      active.declinedSeq ??= message.seq;
      return false;
    }
    // What comes after one that was not kept waits until that one has come again.
    if (declinedSeq !== null && message.seq > declinedSeq) return false;
    const tries = active.poison?.seq === message.seq ? active.poison.tries : 0;
    try {
      if (tries >= POISON_TRIES) this.giveUp(active, message.seq);
      else this.store(active, message);
    } catch (error) {
      active.declinedSeq ??= message.seq;
      if (storageTrouble(error) === null) active.poison = { seq: message.seq, tries: tries + 1 };
      this.inTrouble(active, error);
      return false;
    }
    active.poison = null;
    if (declinedSeq !== null && message.seq < declinedSeq) return true;
    active.declinedSeq = null;
    return this.writing(active, () => this.partAnswers(active) && this.roomAnswers(active));
  }

  /** Within whatever is written anyway. @returns how many entries went into it */
  private writeLine(active: Active): number {
    const { pending } = active.line;
    if (pending.length > 0) this.deps.lines.append(active.runId, pending);
    return pending.length;
  }

  private giveUp(active: Active, seq: number): void {
    this.deps.runs.atomically(() => {
      this.deps.runs.setProgress(active.runId, seq, active.lastMs);
      this.mark(active.runId, 'note', `Message ${seq} of the rig could not be kept and was left out`);
    });
    active.lastSeq = seq;
  }

  /** Commits a message before anything else happens with it. Samples not later than the last stored are dropped. */
  private store(active: Active, message: SamplesMessage): void {
    const from = message.tMs.findIndex((time) => time > active.lastMs || (active.lastMs === 0 && active.lastSeq === 0));
    const tMs = from < 0 ? [] : message.tMs.slice(from);
    const columns = active.channels.map(({ key }) => ({
      key,
      values: (message.values[key] ?? message.tMs.map(() => null)).slice(Math.max(0, from)).map((value) => value ?? NaN),
    }));
    const toMs = tMs.at(-1) ?? active.lastMs;
    const first = active.lastSeq === 0;
    let marked = 0;
    let lineEntries = 0;
    this.deps.runs.atomically(() => {
      if (first) this.deps.runs.setState(active.runId, 'recording', null, '');
      if (tMs.length > 0) for (const { key, values } of columns) this.deps.samples.append(active.runId, key, tMs, values);
      this.deps.runs.setProgress(active.runId, message.seq, toMs);
      marked = this.remind(active, toMs);
      lineEntries = this.writeLine(active);
    });
    active.line.written(lineEntries);
    for (const spot of active.hand) spot.valueC = message.values[spot.key]?.at(-1) ?? null;
    active.lastSeq = message.seq;
    active.lastMs = toMs;
    for (const { key, values } of columns) {
      const series = active.series.get(key)!;
      tMs.forEach((time, i) => series.push(time / 1000, values[i]!));
    }
    if (first || marked > 0) this.pages.run(active);
  }

  /** Removes the load from a part that is gone, or writes down that it went and came back; false where the run ended with it. */
  private partAnswers(active: Active): boolean {
    const answer = answerOf(active);
    if (answer === 'gone' && active.onVanish === 'cut-out') {
      this.stop(active.runId, 'cut-out', 'cut-out', 'The part no longer answers. The load was removed.');
      return false;
    }
    if (answer)
      this.mark(
        active.runId,
        answer === 'gone' ? 'vanished' : 'returned',
        answer === 'gone' ? 'The part no longer answers' : 'The part answers again',
      );
    return true;
  }

  private roomAnswers(active: Active): void {
    const room = active.channels.find((channel) => channel.role === 'room');
    if (active.needsRoom && room && active.lastMs / 1000 - (active.series.get(room.key)!.latestAtS ?? 0) > ROOM_LOST_S) {
      this.stop(active.runId, 'cut-out', 'cut-out', `The room probe has been silent for ${ROOM_LOST_S} s. The load was removed.`);
    }
  }

  /** Writes down the marks of the phase that have come, and says how many: somebody reads by hand now. */
  private remind(active: Active, toMs: number): number {
    const phase = active.recipe[active.phaseIndex]!;
    const due = marksDue(phase, active.phaseStartMs / 1000, active.lastSeq === 0 ? -1 : active.lastMs / 1000, toMs / 1000);
    for (const minute of due) {
      const atMs = active.phaseStartMs + 60_000 * minute;
      this.deps.runs.addEvent(active.runId, atMs, this.now().toISOString(), 'mark-due', `Read by hand: minute ${minute} of ${phase.name}`);
    }
    return due.length;
  }

  /** Moves to the next phase when this one is over. */
  private advance(active: Active): void {
    if (active.held !== null || active.ending !== null) return;
    const phase = active.recipe[active.phaseIndex]!;
    const startS = active.phaseStartMs / 1000;
    const nowS = active.lastMs / 1000;
    const waited = phase.mode !== 'fixed' && nowS - startS >= Math.max(phase.durationS, DEFAULT_SETTLED_RULE.windowS);
    const enough = (settling: BoundedSettling) => waitedEnough(phase.mode, settling);
    const end =
      phaseEnd(phase, startS, nowS, [], null) ??
      (waited && active.settling.all(spotsOf(active), nowS, enough) ? endOfWait(phase.mode) : null);
    if (nowS - active.locksCheckedS >= LOCKS_EVERY_S || end) {
      active.locksCheckedS = nowS;
      const witnesses = {
        power: seriesOf(active, 'power'),
        performance: seriesOf(active, 'throughput'),
        utilisation: seriesOf(active, 'utilisation'),
      };
      const hidden = phase.loadPercent > 0 && phase.kind === 'load' ? loadDoesNotShow(witnesses, startS, nowS, active.idleEnd) : null;
      if (hidden) {
        this.interrupt(active, hidden);
        return;
      }
      if (!end) for (const sentence of lookAtLocks(active)) this.mark(active.runId, 'lock-moved', sentence);
      const clockOff = lookAtClock(active);
      if (clockOff) this.mark(active.runId, CLOCK_OFF, clockOff);
    }
    if (end) this.goOn(active, end);
  }

  /** Ends the present phase and begins the next one of the recipe, or ends the run where there is none. Written first, then done. */
  private goOn(active: Active, endedBy: string, recipe = active.recipe): void {
    const { runId, lastMs, phaseIndex } = active;
    const nowS = lastMs / 1000;
    const phase = active.recipe[phaseIndex]!;
    const next = recipe[phaseIndex + 1];
    this.deps.runs.atomically(() => {
      if (recipe !== active.recipe) this.deps.runs.setRecipe(runId, recipe);
      this.deps.runs.endPhase(runId, phaseIndex, lastMs, endedBy);
      if (!next) return;
      if (next.opensWith) this.deps.runs.addEvent(runId, lastMs, this.now().toISOString(), 'change', next.opensWith);
      this.deps.runs.startPhase(runId, phaseIndex + 1, next, lastMs);
    });
    active.recipe = recipe;
    if (phase.kind === 'idle-soak') active.idleEnd = { fromS: Math.max(active.phaseStartMs / 1000, nowS - 120), toS: nowS };
    if (!next) {
      active.ending = { state: 'finished', endedBy, reason: '' };
      this.endRun(active);
      return;
    }
    active.phaseIndex++;
    active.settling.reset();
    active.phaseStartMs = lastMs;
    if (next.kind === 'load' && active.loadStartS === null) active.loadStartS = nowS;
    this.sendSettings(active, next);
    this.sayLoad(active, next.loadPercent);
    this.pages.run(active);
  }

  /** Writes the end that `ending` says, and lets the run go. */
  private endRun(active: Active): void {
    if (!active.ending) return;
    const { state, endedBy, reason } = active.ending;
    const at = this.now().toISOString();
    this.deps.runs.atomically(() => {
      this.deps.runs.endPhase(active.runId, active.phaseIndex, active.lastMs, endedBy);
      if (reason !== '') this.deps.runs.addEvent(active.runId, active.lastMs, at, endedBy, reason);
      this.deps.runs.setState(active.runId, state, at, reason);
      this.writeLine(active);
    });
    this.active.delete(active.runId);
    this.stops.want(active.runId, active.rigId);
    this.deps.log(`Run ${active.runId} ended: ${state}. ${reason}`);
    this.pages.run(active);
    this.deps.tidy(active.runId);
  }

  /** Every second: looks after each run, says its load again where all is well, and what stands open. */
  private beat(): void {
    const now = performance.now();
    const late = now - this.beatAtMs > 1000 * HEARTBEAT_S + LATE_MS;
    this.beatAtMs = now;
    for (const active of this.active.values()) {
      try {
        this.lookAfter(active, now, late);
      } catch (error) {
        this.inTrouble(active, error);
      }
    }
    this.stops.sayAgain();
  }

  private lookAfter(active: Active, now: number, late: boolean): void {
    if (!active.trouble || now >= active.trouble.nextAtMs) {
      // What stands open is written, and what was not acknowledged is asked for again.
      if (active.trouble || active.declinedSeq !== null) this.deps.rigs.send(active.rigId, { type: 'welcome', heartbeatS: HEARTBEAT_S });
      if (active.ending) this.writing(active, () => this.endRun(active));
      else if (active.held) this.writing(active, () => this.writeInterruption(active));
      if (!this.active.has(active.runId)) return;
    }
    const quiet = now - Math.max(active.waitingSinceMs, this.deps.rigs.heardAtMs(active.rigId) ?? 0) > QUIET_MS;
    if (quiet !== active.quiet && !late) {
      active.quiet = quiet;
      if (quiet)
        this.writing(active, () =>
          this.mark(active.runId, 'rig-quiet', `The rig has gone quiet. It removes the load by itself after ${LEASE_S} s.`),
        );
      this.pages.snapshot(active);
    }
    const why = late ? null : active.guard.whyNot(now, active.seenMs / 1000);
    if (why) this.interrupt(active, why);
    const runsAway = active.guard.runsAway();
    if (runsAway !== active.runsAway) {
      active.runsAway = runsAway;
      this.pages.snapshot(active);
    }
    // Before the first sample the rig has yet to hear of the run: what it was told with the start stands.
    if (active.lastSeq > 0 || this.wanted(active) > 0) this.sayLoad(active);
  }
}
