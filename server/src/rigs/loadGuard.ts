import { ABSENT_S, BlindWatch, loadAbsences, type ArmedLimit, type LoadWitnesses } from '@red-ember/core';
import { LEASE_S, type Latch, type StateMessage } from '@red-ember/contract';

/** A rig has this long to take load off before what it reports is held against it, ms. */
const OBEY_MS = 2000;
/** It has longer to put load on: a machine that stands still for a moment under too little load harms nothing, ms. */
const LOADS_MS = 1000 * LEASE_S;
/** Under load a new sample must come at least this often, ms of the monotonic clock. */
const SAMPLES_MS = 10_000;
/** The load has this long to show in power, work and utilisation, seconds of the run's clock. */
const SHOWS_AFTER_S = 60;

/**
 * Whether the load of one run may stay on. It says nothing of temperatures, which the cut-out watches, but of whether anything is
 * watched at all: the rig does what it was told, samples come, their times go on, and what is armed shows something.
 *
 * Times called ms are of the monotonic clock, so that a clock that is set is no event; times called s are the run's.
 */
export class LoadGuard {
  private commanded = 0;
  private commandedAtMs = 0;
  private reported: { percent: number; atMs: number } | null = null;
  private newestAtMs = 0;
  private repeats = 0;
  private latched: Latch | null = null;
  private readonly watch: BlindWatch;

  constructor(limits: readonly ArmedLimit[]) {
    this.watch = new BlindWatch(limits);
  }

  /** The load was said, for the first time or again. */
  said(percent: number, nowMs: number, runS: number): void {
    if (percent === this.commanded) return;
    if (this.commanded === 0) this.watch.reset(runS);
    this.commanded = percent;
    this.commandedAtMs = nowMs;
    this.newestAtMs = nowMs;
    this.repeats = 0;
  }

  heardState({ loadPercent, latched }: Pick<StateMessage, 'loadPercent' | 'latched'>, nowMs: number): void {
    this.reported = { percent: loadPercent, atMs: nowMs };
    this.latched = latched ?? null;
  }

  /** Somebody says go on: what the rig said before is past. */
  rearm(): void {
    this.latched = null;
  }

  /** A message of samples has come. @param advanced one of them is later than everything before */
  heardSamples(advanced: boolean, nowMs: number): void {
    if (advanced) this.newestAtMs = nowMs;
    this.repeats = advanced ? 0 : this.repeats + 1;
  }

  feed(channel: string, atS: number, valueC: number): void {
    this.watch.feed(channel, atS, valueC);
  }

  /** Why the load may not stay on, in a sentence; null where all is well. */
  whyNot(nowMs: number, runS: number): string | null {
    if (this.commanded === 0) return null;
    const { reported } = this;
    const since = (reported?.atMs ?? this.commandedAtMs) - this.commandedAtMs;
    if (since > LOADS_MS && this.latched) return this.latched.text;
    if (reported && reported.percent !== this.commanded && since > (reported.percent > this.commanded ? OBEY_MS : LOADS_MS))
      return `The rig reports a load of ${reported.percent} % where ${this.commanded} % were asked`;
    const silentMs = nowMs - this.newestAtMs;
    if (silentMs > SAMPLES_MS)
      return this.repeats > 0
        ? `The times of the rig's samples have not gone on for ${Math.round(silentMs / 1000)} s`
        : `No sample has come for ${Math.round(silentMs / 1000)} s`;
    return this.watch.blind(runS);
  }

  /** The rig has load although none is asked: nothing the server says gets it off. */
  runsAway(): boolean {
    const { reported } = this;
    return this.commanded === 0 && reported !== null && reported.percent > 0 && reported.atMs > this.commandedAtMs + OBEY_MS;
  }
}

/** What power, work and utilisation say against a load that the rig reports as on, in a sentence; null where nothing. */
export function loadDoesNotShow(
  witnesses: LoadWitnesses,
  phaseStartS: number,
  nowS: number,
  idle: { fromS: number; toS: number } | null,
): string | null {
  if (nowS - phaseStartS < SHOWS_AFTER_S) return null;
  const load = { startS: phaseStartS, endS: nowS };
  const last = loadAbsences(witnesses, load, idle && { startS: idle.fromS, endS: idle.toS }).at(-1);
  if (!last || nowS - last.endS > 5 || last.endS - last.startS < ABSENT_S) return null;
  return `Power, work and utilisation have stood at idle for ${Math.round(last.endS - last.startS)} s although the load is on`;
}
