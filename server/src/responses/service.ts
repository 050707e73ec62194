import { setImmediate } from 'node:timers/promises';
import { fitResponse, readUnseen, type ResponseOptions, type ResponseRecord, type Unseen } from '@red-ember/core';
import {
  CHANNELS,
  goesOn,
  STANDS_ON,
  type DrivenBy,
  type Run,
  type SpotFit,
  type StandsOn,
  type Study,
  type VariantResponses,
} from '@red-ember/contract';
import { notFound, unprocessable } from '../http/problems.ts';
import type { InstrumentStore } from '../instruments/store.ts';
import { hashOf, inputsOf } from '../readings/inputs.ts';
import type { ReadingService } from '../readings/service.ts';
import { whyUnsound } from '../readings/sound.ts';
import type { RunStore } from '../runs/store.ts';
import type { StudyService } from '../studies/service.ts';
import type { VerdictService } from '../verdicts/service.ts';

/** More runs tell a response no better, and each costs a fit for every other. */
const MOST_RUNS = 6;
/** Fits kept: one a variant and air. */
const MOST_KEPT = 40;

/** How the spots of a variant answer power, from all that its runs recorded. */
export class ResponseService {
  private readonly kept = new Map<string, { stamp: string; answer: Promise<VariantResponses> }>();

  constructor(
    private readonly studies: StudyService,
    private readonly runs: RunStore,
    private readonly readings: ReadingService,
    private readonly verdicts: VerdictService,
    private readonly instruments: InstrumentStore,
  ) {}

  /**
   * Spot by spot and fit by fit, with room between for whatever else is asked. Kept until anything changes that it rests on.
   *
   * @param air what rises stand on; the room's where nothing is said and it was recorded
   * @throws HttpProblem 404 where the variant is not in the study, 422 an air that is none of those
   */
  ofVariant(studyId: string, variantId: string, air?: string): Promise<VariantResponses> {
    const asked = STANDS_ON.find((known) => known === air);
    if (air !== undefined && !asked) throw unprocessable(`Rises stand on ${STANDS_ON.join(' or ')}, not on ${air}.`);
    const study = this.studies.get(studyId);
    if (!study.variants.some(({ id }) => id === variantId)) throw notFound('This variant');
    const { used, leftOut } = this.runsOf(study, variantId);
    const airs = STANDS_ON.filter((role) => recorded(used, role));
    const standsOn = asked ?? airs[0] ?? 'room';
    const scatter = this.verdicts.repeatsOf(study);
    const hashes = used.map((run) => hashOf(inputsOf(run, study, this.instruments.correctionsOf(run.id))));
    const stamp = JSON.stringify([hashes, leftOut, scatter, study.spots.map(({ id }) => id)]);
    const key = `${variantId} ${standsOn}`;
    const known = this.kept.get(key);
    if (known?.stamp === stamp) return known.answer;
    const answer = this.fitted(study, variantId, standsOn, used, scatter).then((spots) => ({ ...spots, airs, leftOut }));
    this.kept.delete(key);
    this.kept.set(key, { stamp, answer });
    for (const oldest of [...this.kept.keys()].slice(0, -MOST_KEPT)) this.kept.delete(oldest);
    answer.catch(() => this.kept.delete(key));
    return answer;
  }

  /** Runs whose traces are those of this variant and of nothing else; the newest where there are many. */
  private runsOf(study: Study, variantId: string): { used: Run[]; leftOut: VariantResponses['leftOut'] } {
    const leftOut: VariantResponses['leftOut'] = [];
    const sound = this.runs.measured(study.id).filter((run) => {
      if (run.variantId !== variantId || goesOn(run)) return false;
      const why = whyUnsound(run, study, this.readings);
      if (why !== null) leftOut.push({ number: run.number, why });
      return why === null;
    });
    for (const run of sound.slice(0, -MOST_RUNS)) leftOut.push({ number: run.number, why: `The ${MOST_RUNS} newest runs are enough.` });
    return { used: sound.slice(-MOST_RUNS), leftOut };
  }

  private async fitted(
    study: Study,
    variantId: string,
    standsOn: StandsOn,
    used: readonly Run[],
    scatter: ReturnType<VerdictService['repeatsOf']>,
  ): Promise<Omit<VariantResponses, 'airs' | 'leftOut'>> {
    const drivenBy: DrivenBy = recorded(used, 'power') ? 'watts' : 'load';
    const spots: SpotFit[] = [];
    for (const { id: spotId } of study.spots) {
      const records = used.flatMap((run) => this.recordOf(run, study, spotId, standsOn, drivenBy) ?? []);
      const options: ResponseOptions = { drivenBy, scatter: scatter[spotId] ?? null };
      const response = records.length === 0 ? null : fitResponse(records, options);
      await setImmediate();
      const unseen: Unseen[] = [];
      if (records.length > 1)
        for (const record of records) {
          const others = fitResponse(
            records.filter((other) => other !== record),
            options,
          );
          const read = others && readUnseen(others, record);
          if (read) unseen.push(read);
          await setImmediate();
        }
      const why = response ? (response.misfit ? MISFIT : '') : whyNot(used, spotId, standsOn, records.length);
      spots.push({ spotId, response: why === '' ? response : null, why, unseen: why === '' ? unseen : [] });
    }
    const neighbour = recorded(used, 'neighbour');
    return { variantId, drivenBy, standsOn, neighbour, runs: used.map(({ id, number }) => ({ id, number })), spots };
  }

  /** One run at one spot; null where the spot or the air was not recorded. */
  private recordOf(run: Run, study: Study, spotId: string, standsOn: StandsOn, drivenBy: DrivenBy): ResponseRecord | null {
    const keyOf = (role: Run['channels'][number]['role'], spot: string | null = null) =>
      run.channels.find((channel) => channel.role === role && (spot === null || channel.spotId === spot))?.key;
    const [spot, air, power, fan] = [keyOf('spot', spotId) ?? keyOf('hand', spotId), keyOf(standsOn), keyOf('power'), keyOf('fan')];
    const neighbour = keyOf('neighbour');
    if (spot === undefined || air === undefined) return null;
    const airs = this.readings.corrected(run, air);
    return {
      id: run.id,
      spot: this.readings.corrected(run, spot),
      air: airs,
      power: drivenBy === 'watts' ? this.readings.corrected(run, power!) : { t: airs.t, y: this.loadOver(run, study, airs.t) },
      fan: fan === undefined ? null : this.readings.corrected(run, fan),
      neighbour: neighbour === undefined ? null : this.readings.corrected(run, neighbour),
    };
  }

  /** How far the load was on at each time, percent. */
  private loadOver(run: Run, study: Study, t: Float64Array): Float64Array {
    const { phases } = inputsOf(run, study, new Map());
    return t.map((s) => {
      const phase = phases.findLast(({ startS }) => startS <= s);
      return phase?.kind === 'load' ? (phase.loadPercent ?? 100) : 0;
    });
  }
}

const MISFIT = 'What it did does not follow from the power: something else was changed in its runs, or between them.';

/** Whether every run recorded it. */
const recorded = (used: readonly Run[], role: 'power' | 'neighbour' | StandsOn): boolean =>
  used.length > 0 && used.every((run) => run.channels.some((channel) => channel.role === role));

function whyNot(used: readonly Run[], spotId: string, standsOn: StandsOn, records: number): string {
  if (used.length === 0) return 'No run of it can be used.';
  const reads = ({ role, spotId: at }: Run['channels'][number]) => (role === 'spot' || role === 'hand') && at === spotId;
  if (!used.some((run) => run.channels.some(reads))) return 'No run read this spot.';
  return records === 0
    ? `No run recorded the ${CHANNELS[standsOn].label} beside it.`
    : 'Its runs are too short, it was read too seldom, or the load never changed what it read.';
}
