import { setImmediate } from 'node:timers/promises';
import { featuresOf, LEAST_RUNS, offNormalOf, signatureOf, suspectsOf, type SignatureRecord } from '@red-ember/core';
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
    const clean = this.cleanLike(run, study);
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

  /** The newest clean runs of the same variant with a load of some length at the same setting. */
  private cleanLike(run: Run, study: Study): Load[] {
    return this.store
      .measured(run.studyId)
      .filter((other) => other.id !== run.id && other.variantId === run.variantId && other.source === run.source && !goesOn(other))
      .filter((other) => whyUnsound(other, study, this.readings) === null)
      .flatMap((other) => loadOf(other) ?? [])
      .slice(-MOST_RUNS);
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
