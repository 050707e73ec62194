import { DEFAULT_SETTLED_RULE, marksDue, phaseEnd, withIntervention, withMoreTime, withPause, type RecipePhase } from '@red-ember/core';
import type { EventMessage, HelloMessage, InterventionBody, LiveSnapshot, Run, RunState, SamplesMessage } from '@red-ember/contract';
import type { LiveHub } from '../live/hub.ts';
import type { MountStore } from '../mounts/store.ts';
import type { RunStore } from '../runs/store.ts';
import type { SampleStore } from '../samples/store.ts';
import type { StudyStore } from '../studies/store.ts';
import { activeOf, answerOf, lookAtLocks, type Active } from './active.ts';
import { LivePublisher } from './publisher.ts';
import type { RigHub, RigListener } from './rigHub.ts';

/** A rig silent for this long is shown as lost; after the second figure its run is ended. Seconds of the wall clock. */
const QUIET_S = 5;
const LOST_S = 60;
/** The room probe must be heard at least this often where results rest on it, seconds of the run's clock. */
const ROOM_LOST_S = 60;
/** Locks are looked at this often, seconds of the run's clock. */
const LOCKS_EVERY_S = 20;
/** How often settling is judged where no phase waits for it, ms of the wall clock. */
const SHOWN_EVERY_MS = 500;
/** Nothing is said of settling before, seconds of the phase. */
const SETTLING_FROM_S = 60;

export interface ConductorDeps {
  runs: RunStore;
  samples: SampleStore;
  studies: StudyStore;
  mounts: MountStore;
  rigs: RigHub;
  live: LiveHub;
  now?: () => Date;
  log: (text: string) => void;
}

/**
 * Leads live runs: stores what rigs send, moves from phase to phase, watches the armed limits and tells the pages. All of its
 * state can be rebuilt from the database, so that a run survives the server.
 */
export class Conductor implements RigListener {
  private readonly active = new Map<string, Active>();
  private readonly timer = setInterval(() => this.lookForLostRigs(), 1000);
  private readonly now: () => Date;
  private readonly pages: LivePublisher;

  constructor(private readonly deps: ConductorDeps) {
    this.now = deps.now ?? (() => new Date());
    this.pages = new LivePublisher(deps);
    deps.rigs.listener = this;
  }

  close(): void {
    clearInterval(this.timer);
  }

  /** Picks up the runs that were going on when the server last stopped. */
  resume(): void {
    for (const runId of this.deps.runs.unfinished()) {
      const run = this.deps.runs.find(runId);
      if (run?.source === 'rig') this.active.set(runId, this.load(run));
      else this.deps.runs.setState(runId, 'failed', this.now().toISOString(), 'The study was put in the trash while the run went on.');
    }
  }

  runOnRig(rigId: string): string | null {
    return [...this.active.values()].find((active) => active.rigId === rigId)?.runId ?? null;
  }

  /** Starts a stored run on its rig. */
  begin(runId: string): void {
    this.deps.runs.startPhase(runId, 0, this.deps.runs.plan(runId)!.recipe[0]!, 0);
    const run = this.deps.runs.find(runId)!;
    const active = this.load(run);
    this.active.set(runId, active);
    this.sendStart(active, run);
  }

  /** Stops the load and ends the run. */
  stop(runId: string, state: Extract<RunState, 'stopped' | 'cut-out' | 'failed'>, endedBy: string, reason: string): void {
    const active = this.active.get(runId);
    if (!active) return;
    this.deps.rigs.send(active.rigId, { type: 'command', command: 'load', runId, percent: 0 });
    this.deps.runs.atomically(() => {
      this.deps.runs.endPhase(runId, active.phaseIndex, active.lastMs, endedBy);
      this.deps.runs.addEvent(runId, active.lastMs, this.now().toISOString(), endedBy, reason);
      this.finish(active, state, reason);
    });
    this.pages.run(active);
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

  /** Ends the present phase by hand: a pause, or a phase that has shown what it had to show. */
  goOnNow(runId: string): void {
    this.alter(runId, (active, phase) => ({ recipe: active.recipe, endedBy: phase.kind === 'pause' ? 'resumed' : 'by-hand' }));
  }

  moreTime(runId: string, minutes: number): void {
    this.alter(runId, (active) => ({ recipe: withMoreTime(active.recipe, active.phaseIndex, 60 * minutes), endedBy: null }));
    this.mark(runId, 'note', `${minutes} min more for this phase`);
  }

  private alter(runId: string, how: (active: Active, phase: RecipePhase) => { recipe: RecipePhase[]; endedBy: string | null }): void {
    const active = this.active.get(runId);
    if (!active) return;
    const { recipe, endedBy } = how(active, active.recipe[active.phaseIndex]!);
    this.deps.runs.atomically(() => {
      active.recipe = recipe;
      this.deps.runs.setRecipe(runId, recipe);
      if (endedBy) this.goOn(active, endedBy);
    });
    if (this.active.has(runId)) this.pages.snapshot(active);
  }

  snapshot(runId: string): LiveSnapshot | null {
    const active = this.active.get(runId);
    return active ? this.pages.snapshotOf(active) : null;
  }

  rigConnected(rigId: string, hello: HelloMessage): void {
    const active = [...this.active.values()].find((candidate) => candidate.rigId === rigId);
    if (hello.run && hello.run.runId !== active?.runId)
      this.deps.rigs.send(rigId, { type: 'command', command: 'end', runId: hello.run.runId });
    if (!active) return;
    const run = this.deps.runs.find(active.runId);
    if (!run) return;
    if (hello.run?.runId === active.runId) {
      this.deps.rigs.send(rigId, { type: 'ack', runId: active.runId, seq: active.lastSeq });
      const phase = active.recipe[active.phaseIndex]!;
      // A command may have been lost with the line: everything that was set so far is said again, in its order.
      for (const past of active.recipe.slice(0, active.phaseIndex + 1)) this.sendSettings(active, past);
      this.deps.rigs.send(rigId, { type: 'command', command: 'load', runId: active.runId, percent: phase.loadPercent });
      if (active.lastSeq > 0)
        this.mark(
          active.runId,
          'note',
          hello.run.loadPercent === phase.loadPercent
            ? 'The rig is back; nothing was lost.'
            : 'The rig is back; the load had been removed and is applied again.',
        );
    } else if (active.lastSeq === 0) {
      this.sendStart(active, run);
    } else {
      this.stop(active.runId, 'failed', 'rig-lost', 'The rig was restarted and no longer knew the run.');
    }
  }

  samplesArrived(rigId: string, message: SamplesMessage): void {
    const active = this.active.get(message.runId);
    if (!active || active.rigId !== rigId) {
      // A run that has ended wants no more samples: let the rig forget them.
      this.deps.rigs.send(rigId, { type: 'ack', runId: message.runId, seq: message.seq });
      this.deps.rigs.send(rigId, { type: 'command', command: 'end', runId: message.runId });
      return;
    }
    if (message.seq > active.lastSeq) this.store(active, message);
    // Commands go out before the acknowledgement, so that a bench in time-lapse obeys them before it makes more samples.
    if (this.active.has(active.runId)) this.advance(active);
    this.deps.rigs.send(rigId, { type: 'ack', runId: message.runId, seq: active.lastSeq });
    if (this.active.has(active.runId)) this.pages.samples(active);
  }

  eventArrived(rigId: string, message: EventMessage): void {
    const active = this.active.get(message.runId);
    if (!active || active.rigId !== rigId) return;
    if (message.kind === 'cut-out') this.stop(active.runId, 'cut-out', 'cut-out', message.text);
    else this.mark(active.runId, message.kind, message.text);
  }

  private load(run: Run): Active {
    const { runs, studies, samples } = this.deps;
    return activeOf(run, runs.plan(run.id)!, runs.channels(run.id), studies.find(run.studyId), samples);
  }

  private sendStart(active: Active, run: Run): void {
    const plan = this.deps.runs.plan(run.id)!;
    const mount = run.mountId ? this.deps.mounts.find(run.mountId) : null;
    const setup = this.deps.studies.find(run.studyId)?.variants.find((variant) => variant.id === run.variantId)?.setup ?? '';
    this.deps.rigs.send(active.rigId, {
      type: 'command',
      command: 'start',
      runId: run.id,
      setup,
      seed: plan.seed,
      mountSeed: mount?.seed ?? 1,
      timeScale: run.timeScale,
      sampleIntervalMs: 1000,
      armed: plan.armed,
      faults: run.faults,
    });
    this.sendSettings(active, active.recipe[0]!);
    this.deps.rigs.send(active.rigId, { type: 'command', command: 'load', runId: run.id, percent: active.recipe[0]!.loadPercent });
  }

  private sendSettings(active: Active, phase: RecipePhase): void {
    for (const { control, value } of phase.set ?? [])
      this.deps.rigs.send(active.rigId, { type: 'command', command: 'set', runId: active.runId, control, value });
  }

  /** Commits a message before anything else happens with it. Samples not later than the last stored are dropped. */
  private store(active: Active, message: SamplesMessage): void {
    const from = message.tMs.findIndex((time) => time > active.lastMs || (active.lastMs === 0 && active.lastSeq === 0));
    const tMs = from < 0 ? [] : message.tMs.slice(from);
    this.deps.runs.atomically(() => {
      if (active.lastSeq === 0) this.deps.runs.setState(active.runId, 'recording', null, '');
      for (const channel of active.channels) {
        const values = (message.values[channel.key] ?? message.tMs.map(() => null)).slice(Math.max(0, from)).map((value) => value ?? NaN);
        if (tMs.length > 0) this.deps.samples.append(active.runId, channel.key, tMs, values);
      }
      this.deps.runs.setProgress(active.runId, message.seq, tMs.at(-1) ?? active.lastMs);
    });
    const first = active.lastSeq === 0;
    for (const spot of active.hand) spot.valueC = message.values[spot.key]?.at(-1) ?? null;
    this.remind(active, tMs.at(-1) ?? active.lastMs);
    active.lastSeq = message.seq;
    active.lastMs = tMs.at(-1) ?? active.lastMs;
    for (let i = 0; i < tMs.length; i++) {
      for (const channel of active.channels) {
        const value = message.values[channel.key]?.[i + Math.max(0, from)] ?? NaN;
        active.series.get(channel.key)!.push(tMs[i]! / 1000, value);
        const trip = active.watch.feed(channel.key, tMs[i]! / 1000, value);
        if (trip) {
          this.stop(active.runId, 'cut-out', 'cut-out', `${trip.reason}. The load was removed.`);
          return;
        }
      }
    }
    if (first) this.pages.run(active);
    if (this.partAnswers(active)) this.roomAnswers(active);
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

  /** Writes down the marks of the phase that have come: somebody reads by hand now. */
  private remind(active: Active, toMs: number): void {
    const phase = active.recipe[active.phaseIndex]!;
    const due = marksDue(phase, active.phaseStartMs / 1000, active.lastSeq === 0 ? -1 : active.lastMs / 1000, toMs / 1000);
    for (const minute of due) {
      const atMs = active.phaseStartMs + 60_000 * minute;
      this.deps.runs.addEvent(active.runId, atMs, this.now().toISOString(), 'mark-due', `Read by hand: minute ${minute} of ${phase.name}`);
    }
    if (due.length > 0) this.pages.run(active);
  }

  /** Moves to the next phase when this one is over. */
  private advance(active: Active): void {
    const phase = active.recipe[active.phaseIndex]!;
    const startS = active.phaseStartMs / 1000;
    const nowS = active.lastMs / 1000;
    const spots = active.channels
      .filter((channel) => channel.role === 'spot')
      .map(({ key, spotId }) => ({ spotId: spotId!, series: active.series.get(key)!.view }));
    const room = active.channels.find((channel) => channel.role === 'room');
    // A phase of fixed length only shows it; in time-lapse it must not be held up for that.
    const judge = phase.mode === 'until-settled' || Date.now() - active.lookedAtMs >= SHOWN_EVERY_MS;
    if (judge && nowS - startS > SETTLING_FROM_S) {
      active.lookedAtMs = Date.now();
      active.settling.look(spots, room ? active.series.get(room.key)!.view : null, startS, nowS);
    }
    const waited = phase.mode === 'until-settled' && nowS - startS >= Math.max(phase.durationS, DEFAULT_SETTLED_RULE.windowS);
    const end = phaseEnd(phase, startS, nowS, [], null) ?? (waited && active.settling.allSettled(spots, nowS) ? 'settled' : null);
    if (end) this.goOn(active, end);
    else if (nowS - active.locksCheckedS >= LOCKS_EVERY_S) {
      active.locksCheckedS = nowS;
      for (const sentence of lookAtLocks(active)) this.mark(active.runId, 'lock-moved', sentence);
    }
  }

  /** Ends the present phase and begins the next one, or ends the run where there is none. */
  private goOn(active: Active, endedBy: string): void {
    const nowS = active.lastMs / 1000;
    const phase = active.recipe[active.phaseIndex]!;
    this.deps.runs.atomically(() => {
      this.deps.runs.endPhase(active.runId, active.phaseIndex, active.lastMs, endedBy);
      if (phase.kind === 'idle-soak') active.idleEnd = { fromS: Math.max(active.phaseStartMs / 1000, nowS - 120), toS: nowS };
      const next = active.recipe[active.phaseIndex + 1];
      if (!next) {
        this.finish(active, 'finished', '');
        return;
      }
      if (next.opensWith) this.deps.runs.addEvent(active.runId, active.lastMs, this.now().toISOString(), 'change', next.opensWith);
      active.phaseIndex++;
      active.settling.reset();
      active.phaseStartMs = active.lastMs;
      if (next.kind === 'load' && active.loadStartS === null) active.loadStartS = nowS;
      this.deps.runs.startPhase(active.runId, active.phaseIndex, next, active.lastMs);
      this.sendSettings(active, next);
      this.deps.rigs.send(active.rigId, { type: 'command', command: 'load', runId: active.runId, percent: next.loadPercent });
    });
    this.pages.run(active);
  }

  private finish(active: Active, state: RunState, reason: string): void {
    this.deps.runs.setState(active.runId, state, this.now().toISOString(), reason);
    this.deps.samples.compact(active.runId);
    this.deps.rigs.send(active.rigId, { type: 'command', command: 'end', runId: active.runId });
    this.active.delete(active.runId);
    this.deps.log(`Run ${active.runId} ended: ${state}. ${reason}`);
  }

  private lookForLostRigs(): void {
    const now = Date.now();
    for (const active of this.active.values()) {
      const heardAt = Math.max(active.waitingSinceMs, this.deps.rigs.heardAtMs(active.rigId) ?? 0);
      const silentS = (now - heardAt) / 1000;
      const quiet = silentS > QUIET_S;
      if (quiet !== active.quiet) {
        active.quiet = quiet;
        if (quiet) this.mark(active.runId, 'rig-quiet', 'The rig has gone quiet. It removes the load by itself after 5 s.');
        this.pages.snapshot(active);
      }
      if (silentS > LOST_S) this.stop(active.runId, 'cut-out', 'rig-lost', `The rig has been lost for ${LOST_S} s; the run was ended.`);
    }
  }
}
