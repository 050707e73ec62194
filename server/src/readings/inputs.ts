import { createHash } from 'node:crypto';
import {
  calibrate,
  correctSeries,
  DEFAULT_READING_RULES,
  METHOD_VERSION,
  reviewOfFigures,
  reviewRun,
  type ChosenWindow,
  type GivenFigures,
  type ReadAs,
  type RunPhase,
  type RunRecord,
  type RunReview,
  type Series,
} from '@red-ember/core';
import {
  fedSeries,
  isBeside,
  type Calibration,
  type CalibrationPointBody,
  type ChannelRole,
  type HandReading,
  type Run,
  type Study,
} from '@red-ember/contract';
import { handSeries } from '../runs/handStore.ts';
import { powerLimit, watchedLocks, type WatchedLock } from '../runs/watchedLocks.ts';

/** A channel as it is read: where its figures go, and what corrects them. */
interface ReadChannel {
  key: string;
  role: ChannelRole;
  spotId: string | null;
  /** In which its samples come already: it stands here so that a review is made anew when it changes. */
  readAs: ReadAs;
  /** Smallest step of what somebody read off by hand, K; null for a channel that was recorded. */
  resolutionK: number | null;
  calibration: { id: string; points: CalibrationPointBody[] } | null;
}

/**
 * Everything beside the raw samples that a run's review rests on, as plain data. The record that is reviewed is made out of this and
 * nothing else (`recordOf`), and the hash of a stored review is the hash of the whole of it: an input that is not in here cannot be
 * used, and one that is in here cannot be forgotten.
 */
export interface ReviewInputs {
  method: string;
  rules: typeof DEFAULT_READING_RULES;
  channels: ReadChannel[];
  handReadings: Pick<HandReading, 'spotId' | 'atS' | 'valueC'>[];
  phases: RunPhase[];
  windows: ChosenWindow[];
  throttle: RunRecord['throttle'];
  powerCapW: number | null;
  locks: WatchedLock[];
  /** In place of all of it where there is no trace. */
  figures: GivenFigures | null;
}

/** The spot that throttles the part, of those that the run read; undefined where none is known. */
export const throttlingSpot = (run: Pick<Run, 'channels'>, study: Study) =>
  study.spots.find((spot) => spot.throttleC !== null && run.channels.some((channel) => channel.spotId === spot.id));

/** Gathers what a run's review rests on. @param corrections calibrations that correct it, by the channel's key */
export function inputsOf(run: Run, study: Study, corrections: ReadonlyMap<string, Calibration>): ReviewInputs {
  const throttling = throttlingSpot(run, study);
  return {
    method: METHOD_VERSION,
    rules: DEFAULT_READING_RULES,
    channels: run.channels.map(({ key, role, spotId, readAs }): ReadChannel => {
      const calibration = corrections.get(key);
      const byHand = role === 'hand' ? (study.spots.find((spot) => spot.id === spotId)?.resolutionK ?? 0.1) : null;
      return {
        key,
        role,
        spotId,
        readAs,
        resolutionK: byHand,
        calibration: calibration ? { id: calibration.id, points: calibration.points } : null,
      };
    }),
    handReadings: run.handReadings.map(({ spotId, atS, valueC }) => ({ spotId, atS, valueC })),
    phases: run.phases.map((phase, i): RunPhase => ({
      kind: phase.kind,
      name: phase.name,
      startS: phase.startS,
      endS: phase.endS ?? run.lengthS,
      endedBy: phase.endedBy ?? run.state,
      // A log does not say what was asked of the part.
      ...(run.source === 'rig' && run.recipe[i] ? { loadPercent: run.recipe[i].loadPercent } : {}),
    })),
    windows: run.windows,
    throttle: throttling ? { spotId: throttling.id, limitC: throttling.throttleC! } : null,
    powerCapW: powerLimit(run, study),
    locks: watchedLocks(run, study),
    figures: run.figures,
  };
}

export const hashOf = (inputs: ReviewInputs): string => createHash('sha256').update(JSON.stringify(inputs)).digest('hex');

/** More channels than these of which no figure is made are kept and not read: a log may have hundreds. */
const MOST_BESIDE = 32;

/** The record that is reviewed. @param samplesOf samples of a channel by its key, as what it reads them: with the same inputs they never change */
export function recordOf(inputs: ReviewInputs, samplesOf: (key: string) => Series): RunRecord {
  const corrected = ({ calibration }: ReadChannel, raw: Series) => (calibration ? correctSeries(raw, calibrate(calibration.points)) : raw);
  return {
    spots: inputs.channels.flatMap((channel): RunRecord['spots'] => {
      const { role, spotId, resolutionK } = channel;
      if (role === 'spot') return [{ id: spotId!, series: corrected(channel, samplesOf(channel.key)) }];
      if (role !== 'hand') return [];
      return [{ id: spotId!, series: corrected(channel, handSeries(inputs.handReadings, spotId!)), byHand: { resolutionK: resolutionK! } }];
    }),
    besides: inputs.channels
      .filter(({ role }) => isBeside(role))
      .slice(0, MOST_BESIDE)
      .map((channel) => ({ key: channel.key, series: corrected(channel, samplesOf(channel.key)) })),
    ...fedSeries((role) => {
      const channel = inputs.channels.find((candidate) => candidate.role === role);
      return channel ? corrected(channel, samplesOf(channel.key)) : null;
    }),
    windows: inputs.windows,
    phases: inputs.phases,
    throttle: inputs.throttle,
    powerCapW: inputs.powerCapW,
    locks: inputs.locks.map(({ key, ...lock }) => ({ ...lock, series: samplesOf(key) })),
  };
}

/** What is read off the samples that an input names. @param samplesOf as of `recordOf` */
export const reviewOf = (inputs: ReviewInputs, samplesOf: (key: string) => Series): RunReview =>
  inputs.figures ? reviewOfFigures(inputs.figures) : reviewRun(recordOf(inputs, samplesOf), inputs.rules);
