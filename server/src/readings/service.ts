import { setImmediate, setTimeout } from 'node:timers/promises';
import {
  calibrate,
  calibrationDoubt,
  correctSeries,
  METHOD_VERSION,
  rectangularHalfWidth,
  changesOf,
  findOnset,
  lookedAtAround,
  runFindings,
  type Disposition,
  type JudgedRun,
  type JudgedSpot,
  type JudgeRules,
  type RunReview,
  meanWithin,
  type OwnValue,
  type Reaction,
  type Series,
} from '@red-ember/core';
import {
  CHANNELS,
  channelWords,
  goesOn,
  isBeside,
  isRecordedRole,
  lastingName,
  type BeingRead,
  type Calibration,
  type Run,
  type RunReactions,
  type RunReadings,
  type Study,
} from '@red-ember/contract';
import { asksOfNeighbour, familyOf, judgedSpots, ownFiguresOf } from '@red-ember/study';
import { conflict } from '../http/problems.ts';
import type { InstrumentStore } from '../instruments/store.ts';
import { handSeries } from '../runs/handStore.ts';
import { handHeld, settingsOf, USUAL_POINTS, type RunService } from '../runs/service.ts';
import type { RunStore } from '../runs/store.ts';
import type { Reviewer } from './beside/reviewer.ts';
import { hashOf, inputsOf, reviewOf } from './inputs.ts';
import type { SampleStore } from '../samples/store.ts';
import type { StudyService } from '../studies/service.ts';
import type { ReviewStore } from './store.ts';

/** Locks of which the run's part has, or another part has, a value of its own, and which the run held as it is written down. */
function heldByPart(study: Study, run: Run): string[] {
  const now = settingsOf(study, run.variantId);
  return study.locks.filter((lock) => lock.overrides.length > 0 && run.settings[lock.name] === now[lock.name]).map((lock) => lock.name);
}

/** What a run recorded beside everything that figures are made of, in the tester's words; a figure of the study's own has a name already. */
function besideNames(run: Run, study: Study): NonNullable<JudgedRun['besides']> {
  const own = new Set(ownFiguresOf(study).map(({ channel }) => channel));
  return Object.fromEntries(
    run.channels
      .filter((channel) => isBeside(channel.role) && !own.has(channel.key) && !own.has(lastingName(channel)))
      .map((channel) => [
        channel.key,
        {
          name: isRecordedRole(channel.role) ? CHANNELS[channel.role].label : channelWords(channel),
          unit: channel.unit,
          ...(channel.role === 'neighbour' ? { neighbour: true } : {}),
        },
      ]),
  );
}

/** Half-width that a calibration leaves of a sensor's accuracy at a temperature, K. */
function calibratedAccuracyK(calibration: Calibration, atC: number): number {
  return rectangularHalfWidth(calibrationDoubt(calibrate(calibration.points), calibration.referenceAccuracyK, atC).u);
}

/** A figure of the study's own is read off its channel over so much of the end of a load, s. */
const OWN_WINDOW_S = 300;

export function judgeRules(study: Study): JudgeRules {
  const { basis, figure, practicalK, coverage, roomMinC, roomMaxC, fans } = study.rules;
  const throughputUnit = familyOf(study.family).throughputUnit;
  const { stopRule, mostASide, fromASide } = study.plan;
  const stopping =
    stopRule && stopRule !== 'none' && mostASide ? { stopping: { rule: stopRule, mostASide, ...(fromASide && { fromASide }) } } : {};
  const own = ownFiguresOf(study).map(({ id, name, unit, better, doubt, practical }) => ({ id, name, unit, better, doubt, practical }));
  return {
    basis,
    figure,
    practicalK,
    coverage,
    roomBand: { minC: roomMinC, maxC: roomMaxC },
    fans,
    throughputUnit,
    own,
    ...(asksOfNeighbour(study) ? { neighbourIsAsked: true } : {}),
    ...stopping,
  };
}

/** How often it is looked whether somebody still waits, ms. */
const WAITS_MS = 200;
/** Runs that are handed over to be read at a time. */
const AT_A_TIME = 4;
/** As many and fewer are read here: a third of a second each, where a thread takes seconds to start. */
const FEW = 12;
/** A run of more samples is left to the reviewer, however few there are: an hour at one a second has some 70,000. */
const HEAVY_SAMPLES = 500_000;

/** A log with more of either is looked at in part: each look costs some 30 ms. */
const MOST_CHANGES = 24;
const MOST_SPOTS = 16;

/** Reads runs off their samples, and keeps what was read until samples, phases or method change. */
export class ReadingService {
  /** The state of the bench at which a run was found to be read, by its id: what has not changed since need not be looked at again. */
  private readonly readAt = new Map<string, string>();
  /** How far they have come, by the study that is waited for. */
  private readonly going = new Map<string, BeingRead>();
  /** Runs that are being read beside, by id. */
  private readonly inHand = new Map<string, Promise<void>>();
  /** Traces that are being thinned beside. */
  private readonly drawing = new Map<string, Promise<void>>();

  constructor(
    private readonly runs: RunService,
    private readonly runStore: RunStore,
    private readonly samples: SampleStore,
    private readonly studies: StudyService,
    private readonly reviews: ReviewStore,
    private readonly instruments: InstrumentStore,
    /** Reads runs beside this thread; null where they are read as they are asked for. */
    private readonly reviewer: Reviewer | null = null,
  ) {}

  readings(runId: string): RunReadings {
    const run = this.ended(runId);
    const study = this.studies.get(run.studyId);
    const judged = this.judgedRun(run, study);
    return {
      runId,
      review: judged.review,
      findings: runFindings(judged, this.spotsOf(study, [run]), judgeRules(study)),
      own: [...(judged.own ?? [])],
    };
  }

  /**
   * When each spot began to move after each change. One is looked at after the other, with room between for whatever else is asked.
   *
   * @throws HttpProblem 409 while the run goes on
   */
  async reactions(runId: string): Promise<RunReactions> {
    const run = this.ended(runId);
    const changes = changesOf(run.phases, run.lengthS);
    const spots = run.channels.flatMap(({ key, role, spotId }) => (role === 'spot' && spotId ? [{ key, spotId }] : []));
    const reactions: Reaction[] = [];
    for (const change of changes.slice(0, MOST_CHANGES)) {
      const reaction: Reaction = { name: change.name, atS: change.changeS, spots: [] };
      const { startS, endS } = lookedAtAround(change);
      for (const { key, spotId } of spots.slice(0, MOST_SPOTS)) {
        const series = this.samples.read(runId, key, startS, endS);
        reaction.spots.push({ spotId, onset: findOnset(series, change) });
        await setImmediate();
      }
      reactions.push(reaction);
    }
    return {
      runId,
      reactions,
      leftOut: { changes: Math.max(0, changes.length - MOST_CHANGES), spots: Math.max(0, spots.length - MOST_SPOTS) },
    };
  }

  /** @throws HttpProblem 409 while the run goes on */
  private ended(runId: string): Run {
    const run = this.runs.get(runId);
    if (run.state === 'waiting' || run.state === 'recording')
      throw conflict('This run is still going on; it can be read when it has ended.');
    return run;
  }

  /** Spots as they are judged: where every run was corrected by a calibration, what it leaves stands for the stated accuracy. */
  spotsOf(study: Study, runs: Run[]): JudgedSpot[] {
    const corrections = runs.map((run) => ({ run, by: this.instruments.correctionsOf(run.id) }));
    return judgedSpots(study).map((spot) => {
      const read = corrections.flatMap(({ run, by }) => {
        const channel = run.channels.find((candidate) => candidate.spotId === spot.id);
        return channel ? [by.get(channel.key) ?? null] : [];
      });
      if (read.length === 0 || read.includes(null)) return spot;
      return { ...spot, accuracyK: Math.max(...read.map((calibration) => calibratedAccuracyK(calibration!, spot.limitC ?? 60))) };
    });
  }

  judgedRun(run: Run, study: Study): JudgedRun {
    const channels = this.runStore.channels(run.id);
    const corrections = this.instruments.correctionsOf(run.id);
    const day = run.startedAt.slice(0, 10);
    const confirmed = new Set(run.confirmedLocks);
    return {
      id: run.id,
      label: `run ${run.number}`,
      mountNo: run.mountNumber,
      ...(run.mountId === null ? {} : { mountId: run.mountId }),
      startedAtMs: run.startKnown ? Date.parse(run.startedAt) : null,
      disposition: run.disposition as Disposition,
      dispositionReason: run.dispositionReason,
      sensors: Object.fromEntries(channels.filter((channel) => channel.spotId).map((channel) => [channel.spotId!, channel.sensor])),
      settings: run.settings,
      heldByPart: heldByPart(study, run),
      // A recorded log was made elsewhere: nobody was asked.
      unconfirmed: run.source === 'rig' ? handHeld(study).filter((name) => run.settings[name] !== undefined && !confirmed.has(name)) : [],
      overdue: channels.flatMap((channel) => {
        const dueOn = corrections.get(channel.key)?.dueOn;
        return dueOn && dueOn < day ? [{ spotId: channel.spotId, sensor: channel.sensor, dueOn }] : [];
      }),
      besides: besideNames(run, study),
      own: [...run.own.map(({ figureId, load, value }) => ({ figureId, load, value })), ...this.recordedFigures(run, study)],
      review: this.review(run, study),
    };
  }

  /** Figures of the study's own that a channel records: the mean of the last minutes of each load. */
  private recordedFigures(run: Run, study: Study): OwnValue[] {
    return ownFiguresOf(study).flatMap((figure) => {
      // A column that a lock watches is known by the lock's channel as well.
      const channel = run.channels.find((candidate) => [candidate.key, lastingName(candidate)].includes(figure.channel));
      if (!channel) return [];
      return run.phases.flatMap((phase): OwnValue[] => {
        if (phase.kind !== 'load') return [];
        const endS = phase.endS ?? run.lengthS;
        const startS = Math.max(phase.startS, endS - OWN_WINDOW_S);
        const value = meanWithin(this.samples.read(run.id, channel.key, startS, endS), { startS, endS });
        // What was typed of the same load is meant to stand in its place.
        const typed = run.own.some(({ figureId, load }) => figureId === figure.id && load === phase.name);
        return value === null || typed ? [] : [{ figureId: figure.id, load: phase.name, value }];
      });
    });
  }

  review(run: Run, study: Study): RunReview {
    const { inputs, hash } = this.asked(run, study);
    const stored = this.reviews.find(run.id, METHOD_VERSION, hash);
    if (stored) return stored;
    const review = reviewOf(inputs, (key) => this.samples.read(run.id, key));
    this.reviews.put(run.id, METHOD_VERSION, hash, review);
    return review;
  }

  /** What a run's review rests on, with the hash by which a review made of just that is found. */
  private asked(run: Run, study: Study) {
    const inputs = inputsOf(run, study, this.instruments.correctionsOf(run.id));
    return { inputs, hash: hashOf(inputs) };
  }

  /** Changes whenever anything does that is read of a run: its samples apart, which never change. */
  restsOn(run: Run, study: Study): string {
    return this.asked(run, study).hash;
  }

  /** Runs are about to come. @param heavy such as take seconds to read */
  getReady(heavy: boolean): void {
    // Whoever is there already needs no practice.
    if (heavy || !this.reviewer?.running) this.reviewer?.getReady(heavy);
  }

  /** Has a run read that is about to be looked at. */
  readRun(runId: string): Promise<void> {
    return this.readBeside([runId]);
  }

  /**
   * Has a study's own runs read and, where the bench's scatter is lent to what is judged, those of the bench's other studies of its kind.
   */
  async readStudy(studyId: string, scatter: 'lent' | 'own' = 'lent'): Promise<void> {
    const others = scatter === 'own' ? [] : this.runStore.otherStudies(studyId).map((other) => other.runId);
    const runIds = [...this.runStore.measured(studyId).map(({ id }) => id), ...others];
    const going: BeingRead = { runs: runIds.length, read: 0 };
    this.going.set(studyId, going);
    try {
      await this.readBeside(runIds, () => going.read++);
    } finally {
      // Somebody who came later may be shown by now.
      if (this.going.get(studyId) === going) this.going.delete(studyId);
    }
  }

  beingRead(studyId: string): BeingRead {
    return this.going.get(studyId) ?? { runs: 0, read: 0 };
  }

  /** The own runs of the study that a run belongs to. */
  async readStudyOfRun(runId: string): Promise<void> {
    const run = this.runStore.find(runId);
    if (run) await this.readStudy(run.studyId, 'own');
  }

  /** Has every run of the bench read that was not, or not by these methods. */
  readAll(): Promise<void> {
    return this.readBeside(this.runStore.everMeasured());
  }

  /**
   * Has the whole trace of a long run thinned beside the server's own work, where that was not done; a short one is drawn by whoever asks.
   */
  async drawRun(runId: string, points: number): Promise<void> {
    const { reviewer } = this;
    if (!reviewer || !this.isHeavy(runId)) return;
    const task = `${runId} ${points}`;
    if (!this.drawing.has(task)) {
      const keys = this.runs.undrawn(runId, points);
      if (keys.length === 0) return;
      const work = reviewer
        .draw(runId, keys, points)
        .then((drawn) => this.runs.keepDrawn(runId, points, new Map(keys.map((key, i) => [key, drawn[i]!]))))
        // What fails here is left to whoever needs it.
        .catch(() => undefined)
        .finally(() => this.drawing.delete(task));
      this.drawing.set(task, work);
    }
    await this.drawing.get(task);
  }

  /** Long runs that were just stored are read and drawn at once: somebody is about to look at them. */
  readSoon(runIds: readonly string[]): void {
    const heavy = runIds.filter((runId) => this.isHeavy(runId));
    // The trace is what is looked for first, and the quicker of the two.
    for (const runId of heavy) void this.drawRun(runId, USUAL_POINTS).catch(() => undefined);
    // One that is gone again by then is nobody's trouble; what else fails is met by whoever asks for it.
    void this.readBeside(heavy, undefined, 0).catch(() => undefined);
  }

  /** The same in its own time: whoever waits for a study goes first. */
  async catchUp(): Promise<void> {
    for (const runId of this.runStore.everMeasured()) {
      while (this.going.size > 0) await setTimeout(WAITS_MS);
      // Nobody waits for it, and so not even one is read here.
      await this.readBeside([runId], undefined, 0);
    }
  }

  /**
   * Has runs read before somebody needs them, with room between for whatever else is asked; nothing where there is no reviewer. A few are
   * read here, one after the other, sooner than a thread has started, where none has; many, and such as take seconds, by the reviewer, few at a time, so
   * that whoever asks next for one run need not wait for two hundred.
   */
  private async readBeside(runIds: readonly string[], onRead: () => void = () => {}, few = FEW): Promise<void> {
    const { reviewer } = this;
    if (!reviewer) return;
    const stamp = this.runStore.resultsStamp();
    const unread: string[] = [];
    for (const runId of runIds) {
      if (this.readAt.get(runId) !== stamp) {
        if (this.inHand.has(runId) || this.unreadRun(runId)) {
          unread.push(runId);
          continue;
        }
        this.readAt.set(runId, stamp);
        await setImmediate();
      }
      onRead();
    }
    const going = new Set<Promise<void>>();
    for (const runId of unread) {
      const apart = reviewer.running || unread.length > few || this.isHeavy(runId);
      // Few at a time, however many ask.
      if (apart) while (!this.inHand.has(runId) && this.inHand.size >= AT_A_TIME) await Promise.race(this.inHand.values());
      const work = this.inHand.get(runId) ?? (apart ? this.begin(runId, reviewer) : this.readHere(runId));
      going.add(work);
      void work.then(() => {
        going.delete(work);
        onRead();
      });
      if (going.size >= AT_A_TIME) await Promise.race(going);
      else await setImmediate();
    }
    await Promise.all(going);
  }

  /** What a run's reading needs; null where it goes on, is gone, or is read. */
  private unreadRun(runId: string) {
    const run = this.runStore.find(runId);
    if (!run || goesOn(run)) return null;
    const study = this.studies.get(run.studyId);
    const asked = this.asked(run, study);
    return this.reviews.has(runId, METHOD_VERSION, asked.hash) ? null : { run, study, ...asked };
  }

  /** It takes seconds to read, in which nobody else would be answered here. */
  private isHeavy(runId: string): boolean {
    return this.samples.countOf(runId) > HEAVY_SAMPLES;
  }

  private async readHere(runId: string): Promise<void> {
    const unread = this.unreadRun(runId);
    if (unread) this.review(unread.run, unread.study);
    await setImmediate();
  }

  /** Has the reviewer read a run. One that its thread dies over is given to another once more; what fails then is left to whoever needs it. */
  private begin(runId: string, reviewer: Reviewer): Promise<void> {
    const unread = this.unreadRun(runId);
    if (!unread) return Promise.resolve();
    const read = () => reviewer.review(runId, unread.inputs, this.isHeavy(runId));
    const work = read()
      .catch(read)
      .then((review) => this.reviews.put(runId, METHOD_VERSION, unread.hash, review))
      .catch(() => undefined)
      .finally(() => this.inHand.delete(runId));
    this.inHand.set(runId, work);
    return work;
  }

  /** A channel's samples, or what was read by hand there, with its calibration applied; what is stored stays as it was read. */
  corrected(run: Run, key: string): Series {
    const calibration = this.instruments.correctionsOf(run.id).get(key);
    const spotId = run.channels.find((channel) => channel.key === key && channel.role === 'hand')?.spotId;
    const raw = spotId ? handSeries(run.handReadings, spotId) : this.samples.read(run.id, key);
    return calibration ? correctSeries(raw, calibrate(calibration.points)) : raw;
  }
}
