import { randomInt } from 'node:crypto';
import {
  clock,
  drawable,
  phaseInWords,
  phasesOf,
  slice,
  SEAT_LATE_S,
  type ArmedLimit,
  type PreflightCheck,
  type RecipePhase,
} from '@red-ember/core';
import {
  lockValue,
  type ChannelRole,
  type InterventionBody,
  type MarkBody,
  type RigStatus,
  type Run,
  type SignOffBody,
  type StartRunBody,
  type Study,
  type Trace,
  type VariantBody,
} from '@red-ember/contract';
import { conflict, notFound, unprocessable } from '../http/problems.ts';
import type { InstrumentStore } from '../instruments/store.ts';
import type { MountStore } from '../mounts/store.ts';
import type { Conductor } from '../rigs/conductor.ts';
import type { RigHub } from '../rigs/rigHub.ts';
import type { SampleStore } from '../samples/store.ts';
import { samplesTable } from '../samples/table.ts';
import type { StudyService } from '../studies/service.ts';
import type { RunStore, StoredChannel } from './store.ts';

/** What a channel is recorded as, by its usual key; anything else is recorded beside. */
const OTHER_ROLES: Readonly<Record<string, ChannelRole>> = {
  room: 'room',
  intake: 'intake',
  throughput: 'throughput',
  power: 'power',
  utilisation: 'utilisation',
  clock: 'clock',
  fan: 'fan',
  level: 'level',
  exhaust: 'exhaust',
};

export function armedLimits(study: Study): ArmedLimit[] {
  return logged(study).map((spot) => ({ channel: spot.channel, name: spot.name, limitC: spot.cutOutC, holdS: spot.cutOutHoldS }));
}

/** Spots that a rig reads by itself; the others are typed in. */
const logged = (study: Study) => study.spots.filter((spot) => !spot.byHand);

/** What was held for a variant's part when a run started, by name. */
export function settingsOf(study: Study, variantId: string): Record<string, string> {
  const subjectId = study.variants.find((variant) => variant.id === variantId)?.subjectId ?? '';
  return Object.fromEntries(study.locks.map((lock) => [lock.name, lockValue(lock, subjectId)]));
}

/** Locks of which nothing but the tester's word says that they were held. */
export function handHeld(study: Study): string[] {
  return study.locks.filter((lock) => lock.channel === '').map((lock) => lock.name);
}

/** Channels of a run on a rig: every spot's, by the rig or by hand, and everything else that the rig offers. */
export function rigChannels(study: Study, offered: { key: string; unit: string; byHand?: boolean }[]): StoredChannel[] {
  const spots = study.spots.map((spot): StoredChannel => ({
    key: spot.channel,
    role: spot.byHand ? 'hand' : 'spot',
    spotId: spot.id,
    unit: '°C',
    sensor: spot.sensor,
    instrumentChannelId: spot.instrumentChannelId,
  }));
  const others = offered
    .filter((channel) => !channel.byHand && !spots.some((spot) => spot.key === channel.key))
    .map((channel): StoredChannel => ({
      key: channel.key,
      role: OTHER_ROLES[channel.key] ?? 'held',
      spotId: null,
      unit: channel.unit,
      sensor: channel.key,
      instrumentChannelId: channel.key === 'room' ? study.roomChannelId : null,
    }));
  return [...spots, ...others];
}

/** What a rig lacks to run a variant, in a sentence; null where it lacks nothing. */
function whatLacks(study: Study, variant: VariantBody, rig: RigStatus): string | null {
  // A real bench is what is mounted on it; only a simulated one has to be told.
  if (rig.simulated && !rig.setups.some((setup) => setup.key === variant.setup))
    return `${variant.name} has no set-up on ${rig.name}. Choose one at Plan.`;
  const missing = logged(study).find((spot) => !rig.channels.some((channel) => channel.key === spot.channel));
  if (missing) return `${missing.name} is to be read by channel ${missing.channel}, which ${rig.name} does not have.`;
  const otherUnit = rig.channels.find(
    (channel) => channel.unit !== '°C' && (channel.key === 'room' || logged(study).some((spot) => spot.channel === channel.key)),
  );
  return otherUnit ? `Channel ${otherUnit.key} of ${rig.name} reads ${otherUnit.unit}; temperatures must come in °C.` : null;
}

/** A window shorter than this says nothing that its noise would not. */
const LEAST_WINDOW_S = 30;

/** What was looked at before a run is started. */
export interface Looked {
  rigId: string;
  checks: PreflightCheck[];
  clear: boolean;
  seed: number;
  faults: string[];
}

/** Two minutes of idle and a short load: enough to see a film that was left on. */
function seatRecipe(study: Study): RecipePhase[] {
  const load = study.recipe.find((phase) => phase.kind === 'load' || phase.kind === 'sweep');
  const fixed = (kind: RecipePhase['kind'], name: string, durationS: number, loadPercent: number): RecipePhase => ({
    kind,
    name,
    mode: 'fixed',
    durationS,
    capS: durationS,
    loadPercent,
  });
  return [fixed('idle-soak', 'Seat check, idle', 120, 0), fixed('load', 'Seat check, load', SEAT_LATE_S + 30, load?.loadPercent ?? 100)];
}

export class RunService {
  constructor(
    private readonly store: RunStore,
    private readonly samples: SampleStore,
    private readonly studies: StudyService,
    private readonly mounts: MountStore,
    private readonly rigs: RigHub,
    private readonly instruments: InstrumentStore,
    private readonly conductor: () => Conductor,
    private readonly now: () => Date = () => new Date(),
  ) {}

  ofStudy(studyId: string): Run[] {
    this.studies.get(studyId);
    return this.store.ofStudy(studyId);
  }

  /** Seconds that loads of the bench's other studies of the same family took to settle. */
  settledLoads(studyId: string): number[] {
    this.studies.get(studyId);
    return this.store.otherStudies(studyId).flatMap(({ runId }) =>
      this.get(runId)
        .phases.filter((phase) => phase.kind === 'load' && phase.endedBy === 'settled' && phase.endS !== null)
        .map((phase) => phase.endS! - phase.startS),
    );
  }

  get(id: string): Run {
    const run = this.store.find(id);
    if (!run) throw notFound('This run');
    return run;
  }

  /**
   * A mount of a study with its variant.
   *
   * @throws HttpProblem 404 without them, 422 where the study has nothing to read
   */
  mounted(studyId: string, mountId: string): { study: Study; mount: NonNullable<ReturnType<MountStore['find']>>; variant: VariantBody } {
    const study = this.studies.get(studyId);
    const mount = this.mounts.find(mountId);
    const variant = study.variants.find((candidate) => candidate.id === mount?.variantId);
    if (!mount || mount.studyId !== studyId || !variant) throw notFound('This mount');
    if (study.spots.length === 0) throw unprocessable('This study has no spots yet: say at Look what is to be read.');
    return { study, mount, variant };
  }

  /**
   * A free rig that can run a variant: the one that is named, or the first that fits.
   *
   * @throws HttpProblem 409 without a free rig, 422 with what the rig lacks
   */
  rigFor(study: Study, variant: VariantBody, rigId?: string): RigStatus {
    const rigs = this.rigs.list((id) => this.conductor().runOnRig(id)).filter((rig) => rig.connected && (!rigId || rig.id === rigId));
    if (rigs.length === 0)
      throw conflict(rigId ? 'This rig is not connected.' : 'No rig is connected. Start the bench, or import a recorded log.');
    const free = rigs.filter((candidate) => candidate.busyRunId === null);
    if (free.length === 0) throw conflict(rigs.length === 1 ? 'The rig is busy with another run.' : 'Every rig is busy with another run.');
    const lacking = free.map((rig) => ({ rig, lacks: whatLacks(study, variant, rig) }));
    const fits = lacking.find(({ lacks }) => lacks === null);
    if (!fits) throw unprocessable(lacking[0]!.lacks!);
    return fits.rig;
  }

  /**
   * Starts a run of a mounted variant.
   *
   * @param looked the pre-flight list that was looked at before, with the seed and the faults it was looked at with
   * @throws HttpProblem 409 without a free rig, 422 where the study lacks what a run needs, or the list is not clear and no reason is given
   */
  start(studyId: string, body: StartRunBody, looked: Looked | null = null): Run {
    const { study, mount, variant } = this.mounted(studyId, body.mountId);
    const rig = this.rigFor(study, variant, looked?.rigId ?? body.rigId);
    if (body.timeScale !== 1 && !rig.simulated) throw unprocessable('Only a simulated bench can run faster than the clock.');
    const overrideReason = body.overrideReason?.trim() ?? '';
    if (looked && !looked.clear && overrideReason === '')
      throw unprocessable('The pre-flight list is not clear: put it right, or say why the run is started all the same.');
    const id = this.store.insert({
      studyId,
      variantId: variant.id,
      mountId: mount.id,
      source: 'rig',
      sourceName: rig.id,
      state: 'waiting',
      startedAt: this.now().toISOString(),
      timeScale: body.timeScale,
      settings: settingsOf(study, variant.id),
      confirmedLocks: (body.confirmedLocks ?? []).filter((name) => handHeld(study).includes(name)),
      purpose: body.purpose ?? 'measure',
      recipe: body.purpose === 'seat-check' ? seatRecipe(study) : phasesOf(study.recipe),
      armed: armedLimits(study),
      seed: body.seed ?? looked?.seed ?? randomInt(2 ** 31 - 1),
      channels: rigChannels(study, rig.channels),
      faults: looked?.faults ?? [],
      onVanish: body.onVanish ?? 'cut-out',
      preflight: looked && { checks: looked.checks, overrideReason: looked.clear ? '' : overrideReason },
    });
    this.correct(id);
    this.conductor().begin(id);
    return this.get(id);
  }

  /** The calibrations that hold on a run's day correct it from its start on. */
  correct(id: string): void {
    const run = this.get(id);
    for (const channel of this.store.channels(id)) {
      const calibration = channel.instrumentChannelId && this.instruments.newestOf(channel.instrumentChannelId, run.startedAt.slice(0, 10));
      if (calibration) this.instruments.correct(id, channel.key, calibration.id, this.now().toISOString());
    }
  }

  stop(id: string, reason: string): Run {
    const run = this.get(id);
    if (run.state !== 'waiting' && run.state !== 'recording') throw conflict('This run has ended already.');
    this.conductor().stop(id, 'stopped', 'stopped', reason.trim() || 'Stopped by hand.');
    return this.get(id);
  }

  mark(id: string, body: MarkBody): Run {
    const run = this.get(id);
    if (run.state !== 'waiting' && run.state !== 'recording')
      throw conflict('This run has ended; a mark now would stand at the wrong time.');
    this.conductor().mark(id, body.kind, body.text);
    return this.get(id);
  }

  /** @throws HttpProblem 409 once the run has ended */
  private going(id: string, what: string): Run {
    const run = this.get(id);
    if (run.state !== 'recording') throw conflict(`This run does not go on, so ${what}.`);
    return run;
  }

  intervene(id: string, body: InterventionBody): Run {
    const run = this.going(id, 'nothing can be changed in it');
    const rig = this.rigs.list(() => null).find((candidate) => candidate.id === run.sourceName);
    const unknown = body.set.find(({ control }) => !rig?.controls.some((candidate) => candidate.key === control));
    if (unknown) throw unprocessable(`${rig?.name ?? 'The rig'} has no control ${unknown.control}.`);
    this.conductor().intervene(id, body);
    return this.get(id);
  }

  pause(id: string): Run {
    const run = this.going(id, 'it cannot be paused');
    if (run.phases.at(-1)?.kind === 'pause') throw conflict('This run is paused already.');
    this.conductor().pause(id);
    return this.get(id);
  }

  goOn(id: string): Run {
    this.going(id, 'there is no phase to end');
    this.conductor().goOnNow(id);
    return this.get(id);
  }

  moreTime(id: string, minutes: number): Run {
    this.going(id, 'there is no phase to extend');
    this.conductor().moreTime(id, minutes);
    return this.get(id);
  }

  signOff(id: string, body: SignOffBody): Run {
    const run = this.get(id);
    if (run.state === 'waiting' || run.state === 'recording') throw conflict('Sign a run off when it has ended.');
    this.store.setDisposition(id, body.disposition, body.reason, this.now().toISOString());
    return this.get(id);
  }

  /**
   * Reads a phase over a window of the tester's own, or over its last minutes again.
   *
   * @throws HttpProblem 409 while the run goes on, 422 where the window lies outside the phase or is too short to read
   */
  setWindow(id: string, phase: number, window: { startS: number; endS: number } | null): Run {
    const run = this.get(id);
    if (run.state === 'waiting' || run.state === 'recording') throw conflict('Windows are chosen when a run has ended.');
    const over = run.phases[phase];
    if (!over) throw notFound('This phase');
    if (window) {
      const endS = over.endS ?? run.lengthS;
      if (window.startS < over.startS || window.endS > endS + 0.5)
        throw unprocessable(`The window lies outside ${over.name}, which goes from ${clock(over.startS)} to ${clock(endS)}.`);
      if (window.endS - window.startS < LEAST_WINDOW_S) throw unprocessable('A window is at least half a minute long.');
    }
    this.store.setWindow(id, phase, window, this.now().toISOString());
    return this.get(id);
  }

  /** Everything that was held and used in a run, by name, for the question what else changed. */
  conditions(id: string): Record<string, string> {
    const run = this.get(id);
    const study = this.studies.get(run.studyId);
    const variant = study.variants.find((candidate) => candidate.id === run.variantId);
    const plan = this.store.plan(id)!;
    const corrections = this.instruments.correctionsOf(id);
    const sensors = this.store.channels(id).flatMap((channel): [string, string][] => {
      const name =
        channel.role === 'spot' ? study.spots.find((spot) => spot.id === channel.spotId)?.name : channel.role === 'room' ? 'Room' : null;
      const made = corrections.get(channel.key)?.madeOn;
      return name ? [[`Sensor, ${name}`, `${channel.sensor}${made ? `, calibrated ${made}` : ''}`]] : [];
    });
    return {
      Variant: variant?.name ?? '',
      Part: study.subjects.find((subject) => subject.id === variant?.subjectId)?.name ?? '',
      ...(run.mountNumber === null ? {} : { Mount: String(run.mountNumber) }),
      ...run.settings,
      Source: run.source === 'file' ? `recorded log ${run.sourceName}` : run.sourceName,
      ...Object.fromEntries(plan.recipe.map((phase, i) => [`Phase ${i + 1}`, phaseInWords(phase)])),
      ...Object.fromEntries(sensors),
      ...Object.fromEntries(plan.armed.map((limit) => [`Cut-out, ${limit.name}`, `${limit.limitC} °C for ${limit.holdS} s`])),
    };
  }

  /** Samples of every channel in [fromS, toS) as they were read, as pieces of one CSV table. */
  samplesCsv(id: string, fromS: number, toS: number): Generator<string> {
    const run = this.get(id);
    const study = this.studies.get(run.studyId);
    const nameOf = ({ key, role, spotId, unit }: Run['channels'][number]) =>
      `${study.spots.find((spot) => spot.id === spotId)?.name ?? (role === 'held' ? key : role)}${unit ? `, ${unit}` : ''}`;
    const recorded = run.channels.filter((channel) => channel.role !== 'hand');
    // What is stored comes in whole chunks.
    const within = { startS: fromS, endS: toS };
    return samplesTable(
      recorded.map((channel) => ({ name: nameOf(channel), series: slice(this.samples.read(id, channel.key, fromS, toS), within) })),
    );
  }

  /** Traces for drawing: each channel thinned to about `points`, gaps kept. */
  trace(id: string, fromS: number, toS: number, points: number): Trace {
    const run = this.get(id);
    const drawn = run.channels.filter((channel) => channel.role !== 'held' && channel.role !== 'hand');
    const series = drawn.map((channel) => ({ ...channel, ...drawable(this.samples.read(id, channel.key, fromS, toS), points) }));
    return { runId: id, fromS, toS: Number.isFinite(toS) ? toS : run.lengthS, series };
  }
}
