import { setImmediate } from 'node:timers/promises';
import {
  calibrate,
  calibrationDoubt,
  correctSeries,
  METHOD_VERSION,
  rectangularHalfWidth,
  reviewOfFigures,
  changesOf,
  findOnset,
  lookedAtAround,
  reviewRun,
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
import { lastingName, type Calibration, type Run, type RunReactions, type RunReadings, type Study } from '@red-ember/contract';
import { familyOf, judgedSpots, ownFiguresOf } from '@red-ember/study';
import { conflict } from '../http/problems.ts';
import type { InstrumentStore } from '../instruments/store.ts';
import { handHeld, settingsOf, type RunService } from '../runs/service.ts';
import type { RunStore } from '../runs/store.ts';
import { hashOf, inputsOf, recordOf } from './inputs.ts';
import type { SampleStore } from '../samples/store.ts';
import type { StudyService } from '../studies/service.ts';
import type { ReviewStore } from './store.ts';

/** Locks of which the run's part has, or another part has, a value of its own, and which the run held as it is written down. */
function heldByPart(study: Study, run: Run): string[] {
  const now = settingsOf(study, run.variantId);
  return study.locks.filter((lock) => lock.overrides.length > 0 && run.settings[lock.name] === now[lock.name]).map((lock) => lock.name);
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
  const { stopRule, mostASide } = study.plan;
  const stopping = stopRule && stopRule !== 'none' && mostASide ? { stopping: { rule: stopRule, mostASide } } : {};
  const own = ownFiguresOf(study).map(({ id, name, unit, better, doubt, practical }) => ({ id, name, unit, better, doubt, practical }));
  return { basis, figure, practicalK, coverage, roomBand: { minC: roomMinC, maxC: roomMaxC }, fans, throughputUnit, own, ...stopping };
}

/** A log with more of either is looked at in part: each look costs some 30 ms. */
const MOST_CHANGES = 24;
const MOST_SPOTS = 16;

/** Reads runs off their samples, and keeps what was read until samples, phases or method change. */
export class ReadingService {
  constructor(
    private readonly runs: RunService,
    private readonly runStore: RunStore,
    private readonly samples: SampleStore,
    private readonly studies: StudyService,
    private readonly reviews: ReviewStore,
    private readonly instruments: InstrumentStore,
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
      startedAtMs: Date.parse(run.startedAt),
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
    const inputs = inputsOf(run, study, this.instruments.correctionsOf(run.id));
    const hash = hashOf(inputs);
    const stored = this.reviews.find(run.id, METHOD_VERSION, hash);
    if (stored) return stored;
    const review = inputs.figures
      ? reviewOfFigures(inputs.figures)
      : reviewRun(
          recordOf(inputs, (key) => this.samples.read(run.id, key)),
          inputs.rules,
        );
    this.reviews.put(run.id, METHOD_VERSION, hash, review);
    return review;
  }

  /** A channel's samples with its calibration applied; what is stored stays as it was read. */
  corrected(run: Run, key: string): Series {
    const calibration = this.instruments.correctionsOf(run.id).get(key);
    const raw = this.samples.read(run.id, key);
    return calibration ? correctSeries(raw, calibrate(calibration.points)) : raw;
  }
}
