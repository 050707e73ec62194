import type { Calibration, CalibrationBody, Instrument, InstrumentBody, RunOfChannel, Study } from '@red-ember/contract';
import type { HistoryStore } from '../history/store.ts';
import { changedMeanwhile, conflict, notFound, unprocessable } from '../http/problems.ts';
import type { StudyService } from '../studies/service.ts';
import type { InstrumentStore } from './store.ts';

/** Instruments of the bench, shared by all studies, with the calibrations of their channels. */
export class InstrumentService {
  constructor(
    private readonly store: InstrumentStore,
    private readonly history: HistoryStore,
    private readonly studies: StudyService,
    private readonly now: () => Date = () => new Date(),
  ) {}

  list(trash = false): Instrument[] {
    return this.store.list(trash);
  }

  get(id: string): Instrument {
    const instrument = this.store.find(id);
    if (!instrument || instrument.deletedAt) throw notFound('This instrument');
    return instrument;
  }

  create(body: InstrumentBody): Instrument {
    this.checkChannelIds('', body);
    return this.get(this.store.insert(body, this.now().toISOString()));
  }

  /** @throws HttpProblem 412 where somebody else saved in between, 409 where a calibrated channel would be lost */
  replace(id: string, body: InstrumentBody, expectedVersion: number): Instrument {
    const before = this.get(id);
    this.checkChannelIds(id, body);
    const kept = new Set(body.channels.map((channel) => channel.id));
    const lost = before.calibrations.find((calibration) => !kept.has(calibration.channelId));
    if (lost) {
      const name = before.channels.find((channel) => channel.id === lost.channelId)?.name ?? 'A channel';
      throw conflict(`${name} has calibrations, so it cannot be removed.`);
    }
    const at = this.now().toISOString();
    this.store.atomically(() => {
      if (!this.store.update(id, body, expectedVersion, at)) throw changedMeanwhile('This instrument');
      this.history.add({ entity: 'instrument', entityId: id, at, before });
    });
    return this.get(id);
  }

  trash(id: string): void {
    if (!this.store.setDeleted(id, this.now().toISOString())) throw notFound('This instrument');
  }

  bringBack(id: string): Instrument {
    if (!this.store.setDeleted(id, null)) throw notFound('This instrument');
    return this.get(id);
  }

  runsOf(channelId: string): RunOfChannel[] {
    return this.store.runsOf(channelId).map(({ key: _key, ...run }) => run);
  }

  /**
   * Writes down a calibration. It serves every run to come from its date on, and of the earlier ones those that were chosen.
   *
   * @throws HttpProblem 422 where the channel is not of this instrument, 404 where a chosen run was not read by it
   */
  calibrate(id: string, body: CalibrationBody): Calibration {
    const instrument = this.get(id);
    const channel = instrument.channels.find((candidate) => candidate.id === body.channelId);
    if (!channel) throw unprocessable('This channel is not one of the instrument.');
    if (channel.quantity !== 'temperature')
      throw unprocessable(`${channel.name} reads ${channel.quantity}; only temperatures are calibrated here.`);
    if (Date.parse(body.madeOn) > this.now().getTime())
      throw unprocessable('The calibration is dated in the future.', [{ pointer: '/madeOn', sentence: 'This day has not come yet.' }]);
    const read = this.store.runsOf(body.channelId);
    const chosen = body.applyToRuns.map((runId) => read.find((run) => run.runId === runId));
    if (chosen.some((run) => run === undefined)) throw notFound('One of the chosen runs');
    const at = this.now().toISOString();
    const studies = [...new Set(chosen.map((run) => run!.studyId))];
    const words = (study: Study) => {
      const numbers = chosen.filter((run) => run!.studyId === study.id).map((run) => run!.number);
      return `calibration of ${channel.name} applied to run ${numbers.join(', ')}`;
    };
    const calibrationId = this.studies.withHistory(studies, words, () => {
      const made = this.store.addCalibration(id, body, at);
      for (const run of chosen) this.store.correct(run!.runId, run!.key, made, at);
      return made;
    });
    return this.store.calibration(calibrationId)!;
  }

  private checkChannelIds(id: string, body: InstrumentBody): void {
    const ids = body.channels.map((channel) => channel.id);
    const others = this.store.list(false).filter((instrument) => instrument.id !== id);
    const taken = new Set(ids).size < ids.length || others.some((other) => other.channels.some((channel) => ids.includes(channel.id)));
    if (taken) throw unprocessable('An id of a channel is used twice.');
  }
}
