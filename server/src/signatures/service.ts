import { setImmediate } from 'node:timers/promises';
import {
  controlChart,
  controlSentence,
  featuresOf,
  figureOf,
  LEAST_POINTS,
  LEAST_RUNS,
  limitOf,
  offNormalOf,
  signatureOf,
  suspectsOf,
  type BenchSuspect,
  type JudgedRun,
  type SignatureRecord,
  type UsualSpeed,
} from '@red-ember/core';
import {
  CHANNELS,
  CLOCK_OFF,
  goesOn,
  type RecordedRole,
  type Run,
  type RunSignature,
  type SpotControl,
  type Study,
  type VariantNormal,
} from '@red-ember/contract';
import { notFound } from '../http/problems.ts';
import { whyUnsound } from '../readings/sound.ts';
import { judgeRules, type ReadingService } from '../readings/service.ts';
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
   * A run against the clean ones of its variant, over as much of the load as all of them have. One that goes on is held against them
   * over what there is of its load, from the fifth minute on. Run by run, with room between.
   *
   * @throws HttpProblem 404 without the run
   */
  async ofRun(runId: string): Promise<RunSignature> {
    const run = this.runs.get(runId);
    const study = this.studies.get(run.studyId);
    const none = (why: string, of: number[] = []): RunSignature => ({ runId, of, why, loadS: 0, normals: [], offNormal: [], suspects: [] });
    const own = goesOn(run) ? wholeMinutes(loadOf(run)) : loadOf(run);
    if (!own && goesOn(run)) return none(`Said from minute ${LEAST_LOAD_S / 60} of the load on.`);
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
      loadS: lengthS,
      normals,
      offNormal,
      suspects: [...clockSuspect(run), ...suspectsOf(offNormal, spotNames, fanNames)],
    };
  }

  /**
   * What is normal of a variant, and its figures over time. Run by run, with room between.
   *
   * @param variantId the reference where nothing is said
   * @throws HttpProblem 404 without the study or the variant
   */
  async ofVariant(studyId: string, variantId?: string): Promise<VariantNormal> {
    const study = this.studies.get(studyId);
    const ended = this.store.measured(studyId).filter((run) => !goesOn(run));
    const variants = study.variants.map(({ id, name }) => ({ id, name, runs: ended.filter((run) => run.variantId === id).length }));
    const most = [...variants].sort((p, q) => q.runs - p.runs)[0];
    const usual =
      study.variants.find(({ isReference, id }) => isReference && variants.some((each) => each.id === id && each.runs > 0)) ?? most;
    const asked = variantId === undefined ? usual?.id : study.variants.find(({ id }) => id === variantId)?.id;
    if (asked === undefined) throw notFound('This variant');
    const clean = this.cleanOf(study, asked).slice(-MOST_RUNS);
    const records: SignatureRecord[] = [];
    const lengthS = Math.min(...clean.map((load) => load.lengthS));
    if (clean.length >= LEAST_RUNS)
      for (const load of clean) {
        records.push(this.recordOf(load, lengthS));
        await setImmediate();
      }
    return {
      variantId: asked,
      variants: variants.filter(({ runs }) => runs > 0),
      of: clean.map(({ run }) => run.number),
      why: clean.length >= LEAST_RUNS ? '' : `Not known yet: it takes ${LEAST_RUNS} clean runs with a load over time.`,
      normals: signatureOf(records).map((normal) => ({ ...normal, limit: limitOf(normal) })),
      control: await this.controlOf(
        study,
        ended
          .filter((run) => run.variantId === asked && run.disposition !== 'reject')
          .sort((p, q) => p.startedAt.localeCompare(q.startedAt)),
      ),
    };
  }

  /** The study's figure at each spot over repeats, in the order in which they were measured. */
  private async controlOf(study: Study, runs: readonly Run[]): Promise<SpotControl[]> {
    const rules = judgeRules(study);
    const read: { run: Run; judged: JudgedRun; why: string }[] = [];
    for (const run of runs) {
      read.push({ run, judged: this.readings.judgedRun(run, study), why: whyUnsound(run, study, this.readings) ?? '' });
      await setImmediate();
    }
    return study.spots.flatMap((spot): SpotControl[] => {
      const at = read.flatMap(({ run, judged, why }) => {
        const figure = figureOf(judged, spot.id, rules);
        return figure ? [{ run, why, value: figure.value }] : [];
      });
      if (at.length === 0) return [];
      const chart = controlChart(
        at.map(({ run, why, value }) => ({ id: run.id, value, counts: why === '' })),
        spot.resolutionK,
      );
      const counted = at.filter(({ why }) => why === '').length;
      return [
        {
          spotId: spot.id,
          name: spot.name,
          runs: at.map(({ run, why }) => ({ runId: run.id, number: run.number, at: run.startedAt, mountNumber: run.mountNumber, why })),
          chart,
          ...(chart
            ? said(controlSentence(chart))
            : {
                off: false,
                sentence: `Not known yet: limits take ${LEAST_POINTS} clean repeats, ${counted === 0 ? 'and there is none' : `${counted} of them are there`}.`,
              }),
        },
      ];
    });
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

/** No trace shows a clock that is off: it was seen while the run was recorded. */
function clockSuspect({ events }: Run): BenchSuspect[] {
  const said = events.find(({ kind }) => kind === CLOCK_OFF);
  return said ? [{ key: 'clock', text: said.text, look: 'How the rig keeps its time: every time constant and every hour of it is off by that share.', times: 1 }] : []; // prettier-ignore
}

/** So that whoever asks again within a minute is told the same. */
const wholeMinutes = (load: Load | null): Load | null => load && { ...load, lengthS: 60 * Math.floor(load.lengthS / 60) };

const said = ({ off, text }: { off: boolean; text: string }) => ({ off, sentence: text });

/** The first load of a run that is long enough; the first follows a rest, whatever comes later follows another load. */
function loadOf(run: Run): Load | null {
  const phase = run.phases.find(({ kind }) => kind === 'load');
  if (!phase) return null;
  const lengthS = (phase.endS ?? run.lengthS) - phase.startS;
  return lengthS >= LEAST_LOAD_S ? { run, startS: phase.startS, lengthS } : null;
}
