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
  type Normal,
  type SignatureRecord,
  type UsualSpeed,
} from '@red-ember/core';
import {
  CHANNELS,
  CLOCK_OFF,
  goesOn,
  type KeptFrom,
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
import type { RunKind, RunStore } from '../runs/store.ts';
import type { StudyService } from '../studies/service.ts';
import type { KeptSignatures } from './kept.ts';
import { FANS, LEAST_LOAD_S, loadOf, type CleanLoads, type Load } from './loads.ts';
import type { KeptSignature } from './store.ts';

/** What a run, or a mount before it, is held against. */
interface HeldAgainst {
  normals: Normal[];
  /** So much of the load was looked at, s. */
  loadS: number;
  of: number[];
  kept: KeptFrom | null;
}

const keptFrom = ({ version, madeAt, study }: KeptSignature): KeptFrom => ({ version, madeAt, study });

/** What is normal for a part and its set-up, learnt from clean runs, and what of a run is not. */
export class SignatureService {
  constructor(
    private readonly studies: StudyService,
    private readonly runs: RunService,
    private readonly store: RunStore,
    private readonly readings: ReadingService,
    private readonly loads: CleanLoads,
    private readonly kept: KeptSignatures,
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
    const none = (why: string, of: number[] = []): RunSignature => ({
      runId,
      of,
      kept: null,
      why,
      loadS: 0,
      normals: [],
      offNormal: [],
      suspects: clockSuspect(run),
    });
    const own = goesOn(run) ? wholeMinutes(loadOf(run)) : loadOf(run);
    if (!own && goesOn(run)) return none(`Said from minute ${LEAST_LOAD_S / 60} of the load on.`);
    if (run.figures || !own) return none('It has no load over time that could be held against others.');
    const clean = this.loads.of(study, run.variantId, (other) => other.id !== run.id && other.source === run.source);
    const against =
      clean.length >= LEAST_RUNS
        ? await this.againstOwn(clean, own.lengthS)
        : await this.againstKept(study, run.variantId, this.store.kindOf(run.id), own.lengthS);
    if (!against) return none(`Not known yet: it takes ${LEAST_RUNS} clean runs of it beside this one.`, clean.map((load) => load.run.number)); // prettier-ignore
    const { normals, loadS } = against;
    const record = this.loads.record(own, loadS);
    const offNormal = offNormalOf(normals, record);
    const known = new Set(featuresOf(record).map(({ id }) => id));
    const spotNames = Object.fromEntries(study.spots.filter(({ id }) => known.has(id)).map(({ id, name }) => [id, name]));
    const fanNames = Object.fromEntries(FANS.map((role) => [role, `the ${CHANNELS[role].label}`]));
    const suspects = [...clockSuspect(run), ...suspectsOf(offNormal, spotNames, fanNames)];
    return { runId, why: '', offNormal, suspects, ...against };
  }

  private async againstOwn(clean: readonly Load[], upToS: number, what: 'all' | 'fans' = 'all'): Promise<HeldAgainst> {
    const loadS = Math.min(upToS, ...clean.map((load) => load.lengthS));
    const records: SignatureRecord[] = [];
    for (const load of clean) {
      records.push(this.loads.record(load, loadS, what));
      await setImmediate();
    }
    return { normals: signatureOf(records), loadS, of: clean.map(({ run }) => run.number), kept: null };
  }

  /** What another study of the bench learnt of the same set-up; null where none did. */
  private async againstKept(study: Study, variantId: string, kind: RunKind, upToS: number): Promise<HeldAgainst | null> {
    const known = await this.kept.fromElsewhere(study, variantId, kind, upToS);
    return known && { normals: known.normals, loadS: known.loadS, of: known.from.of, kept: keptFrom(known.from) };
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
    const clean = this.loads.of(study, asked);
    const against =
      clean.length >= LEAST_RUNS
        ? await this.againstOwn(clean, Infinity)
        : await this.againstKept(study, asked, this.loads.kindOf(study, clean), Infinity);
    return {
      variantId: asked,
      variants: variants.filter(({ runs }) => runs > 0),
      of: against?.of ?? clean.map(({ run }) => run.number),
      kept: against?.kept ?? null,
      why: against ? '' : `Not known yet: it takes ${LEAST_RUNS} clean runs with a load over time.`,
      normals: (against?.normals ?? []).map((normal) => ({ ...normal, limit: limitOf(normal) })),
      versions: await this.kept.versions(study, asked),
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

  /** How fast the fans of a variant turn for their duty, by their role; empty where too few clean runs of a rig say so. */
  async usualSpeeds(study: Study, variantId: string): Promise<Record<string, UsualSpeed>> {
    const clean = this.loads.of(study, variantId, ({ source }) => source === 'rig');
    const against =
      clean.length >= LEAST_RUNS
        ? await this.againstOwn(clean, Infinity, 'fans')
        : await this.againstKept(study, variantId, this.loads.kindOf(study, clean), Infinity);
    const duty = against?.normals.find(({ key }) => key === 'duty');
    if (!against || !duty) return {};
    return Object.fromEntries(
      against.normals.flatMap((speed) =>
        speed.key === 'speed' ? [[speed.id, { perDuty: speed.mean, within: limitOf(speed) / speed.mean, dutyPercent: duty.mean }]] : [],
      ),
    );
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
