import { setImmediate } from 'node:timers/promises';
import {
  featuresOf,
  LEAST_RUNS,
  limitOf,
  offNormalOf,
  signatureOf,
  suspectsOf,
  type SignatureRecord,
  type UsualSpeed,
} from '@red-ember/core';
import { CHANNELS, goesOn, type RecordedRole, type Run, type RunSignature, type Study } from '@red-ember/contract';
import { conflict } from '../http/problems.ts';
import { whyUnsound } from '../readings/sound.ts';
import type { ReadingService } from '../readings/service.ts';
import type { RunService } from '../runs/service.ts';
import type { RunStore } from '../runs/store.ts';
import type { StudyService } from '../studies/service.ts';

/** More clean runs tell no better what is normal. */
const MOST_RUNS = 8;
/** Of a shorter load the end is not that of a load at all, s. */
const LEAST_LOAD_S = 300;
const FANS: RecordedRole[] = ['fan', 'fan2', 'fan3'];

/** The stretch of a run that is compared. */
interface Load {
  run: Run;
  startS: number;
  lengthS: number;
}

/** What is normal for a part and its set-up, learnt from clean runs, and what of a run is not. */
export class SignatureService {
  constructor(
    private readonly studies: StudyService,
    private readonly runs: RunService,
    private readonly store: RunStore,
    private readonly readings: ReadingService,
  ) {}

  /**
   * A run against the clean ones of its variant, over as much of the load as all of them have. Run by run, with room between.
   *
   * @throws HttpProblem 404 without the run, 409 while it goes on
   */
  async ofRun(runId: string): Promise<RunSignature> {
    const run = this.runs.get(runId);
    if (goesOn(run)) throw conflict('This run is still going on; it can be held against others when it has ended.');
    const study = this.studies.get(run.studyId);
    const none = (why: string, of: number[] = []): RunSignature => ({ runId, of, why, normals: [], offNormal: [], suspects: [] });
    const own = loadOf(run);
    if (run.figures || !own) return none('It has no load over time that could be held against others.');
    const clean = this.cleanOf(study, run.variantId)
      .filter((load) => load.run.id !== run.id && load.run.source === run.source)
      .slice(-MOST_RUNS);
    if (clean.length < LEAST_RUNS) return none(`Not known yet: it takes ${LEAST_RUNS} clean runs of it beside this one.`, clean.map((load) => load.run.number)); // prettier-ignore
    const lengthS = Math.min(own.lengthS, ...clean.map((load) => load.lengthS));
    const records: SignatureRecord[] = [];
    for (const load of clean) {
      records.push(this.recordOf(load, lengthS));
      await setImmediate();
    }
    const normals = signatureOf(records);
    const record = this.recordOf(own, lengthS);
    const offNormal = offNormalOf(normals, record);
    const known = new Set(featuresOf(record).map(({ id }) => id));
    const spotNames = Object.fromEntries(study.spots.filter(({ id }) => known.has(id)).map(({ id, name }) => [id, name]));
    const fanNames = Object.fromEntries(FANS.map((role) => [role, `the ${CHANNELS[role].label}`]));
    return {
      runId,
      of: clean.map((load) => load.run.number),
      why: '',
      normals,
      offNormal,
      suspects: suspectsOf(offNormal, spotNames, fanNames),
    };
  }

  /** How fast the fans of a variant turn for their duty, by the channel that shows it; empty where too few clean runs of a rig say so. */
  usualSpeeds(study: Study, variantId: string): Record<string, UsualSpeed> {
    const clean = this.cleanOf(study, variantId)
      .filter(({ run }) => run.source === 'rig')
      .slice(-MOST_RUNS);
    if (clean.length < LEAST_RUNS) return {};
    const lengthS = Math.min(...clean.map((load) => load.lengthS));
    const normals = signatureOf(clean.map((load) => ({ ...this.recordOf(load, lengthS), spots: [] })));
    const duty = normals.find(({ key }) => key === 'duty');
    if (!duty) return {};
    return Object.fromEntries(
      clean.at(-1)!.run.channels.flatMap(({ key, role }) => {
        const speed = normals.find((normal) => normal.key === 'speed' && normal.id === role);
        return speed ? [[key, { perDuty: speed.mean, within: limitOf(speed) / speed.mean, dutyPercent: duty.mean }]] : [];
      }),
    );
  }

  /** Clean runs of a variant with a load of some length, the newest last. */
  private cleanOf(study: Study, variantId: string): Load[] {
    return this.store
      .measured(study.id)
      .filter((run) => run.variantId === variantId && !goesOn(run) && whyUnsound(run, study, this.readings) === null)
      .flatMap((run) => loadOf(run) ?? []);
  }

  private recordOf({ run, startS }: Load, lengthS: number): SignatureRecord {
    const of = (role: RecordedRole) => {
      const channel = run.channels.find((candidate) => candidate.role === role);
      return channel ? this.readings.corrected(run, channel.key) : null;
    };
    return {
      id: run.id,
      loadStartS: startS,
      loadEndS: startS + lengthS,
      spots: run.channels.flatMap(({ key, role, spotId }) =>
        role === 'spot' && spotId ? [{ id: spotId, series: this.readings.corrected(run, key) }] : [],
      ),
      room: of('room'),
      power: of('power'),
      duty: of('duty'),
      fans: FANS.flatMap((role) => {
        const series = of(role);
        return series ? [{ id: role, series }] : [];
      }),
    };
  }
}

/** The first load of a run that is long enough; the first follows a rest, whatever comes later follows another load. */
function loadOf(run: Run): Load | null {
  const phase = run.phases.find(({ kind }) => kind === 'load');
  if (!phase) return null;
  const lengthS = (phase.endS ?? run.lengthS) - phase.startS;
  return lengthS >= LEAST_LOAD_S ? { run, startS: phase.startS, lengthS } : null;
}
