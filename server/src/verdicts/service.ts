import {
  atLoad,
  commonLoads,
  commonNoise,
  figureOf,
  gatherField,
  hottestSpot,
  judgeClaim,
  judgePair,
  judgePrediction,
  loadsAsSides,
  movedFigures,
  pooledRepeatability,
  predictionRecord,
  verdictSentence,
  judgeWattsClaim,
  wattsOfSide,
  type ClaimJudgement,
  type JudgedSpot,
  type JudgedSide,
  type JudgeRules,
  type PairJudgement,
  type JudgedFigures,
} from '@red-ember/core';
import {
  blankJudging,
  levelsOf,
  type BenchScatter,
  type MovedResult,
  type PairVerdict,
  type Run,
  type Study,
  type StudyField,
  type TesterRecord,
} from '@red-ember/contract';
import type { AgreementService } from '../agreements/service.ts';
import { notFound } from '../http/problems.ts';
import { judgeRules, type ReadingService } from '../readings/service.ts';
import type { RunStore } from '../runs/store.ts';
import type { StudyService } from '../studies/service.ts';

const ENDED = new Set(['finished', 'stopped', 'cut-out']);

/** Answers kept at a time: a slider that is dragged asks for many. */
const MOST_REMEMBERED = 500;

/** How a verdict is asked for otherwise than the house rules have it. */
export type JudgeChange = Pick<JudgeRules, 'restate' | 'signedOffOnly'> & {
  /** Every run as it stood at this one of its loads, by name. */
  load?: string;
};

/** Judges pairs of variants from their runs' readings. */
export class VerdictService {
  constructor(
    private readonly studies: StudyService,
    private readonly runs: RunStore,
    private readonly readings: ReadingService,
    private readonly agreements: AgreementService,
  ) {}

  private readonly told = new Map<string, unknown>();
  private toldAt = '';

  /** What was worked out and still holds: many pages ask for the same, and a shelf for everything at once. */
  private remembered<T>(key: string, make: () => T): T {
    const stamp = this.runs.resultsStamp();
    if (stamp !== this.toldAt || this.told.size > MOST_REMEMBERED) this.told.clear();
    this.toldAt = stamp;
    if (!this.told.has(key)) this.told.set(key, make());
    return this.told.get(key) as T;
  }

  /**
   * Variant b against variant a; without ids, the first variant that is not the reference against the reference.
   *
   * @throws HttpProblem 404 where a variant is not in the study
   */
  pair(studyId: string, aId?: string, bId?: string, change: JudgeChange = {}): PairVerdict {
    const study = this.studies.get(studyId);
    return this.remembered(`pair ${JSON.stringify([studyId, aId, bId, change])}`, () => this.judge(study, aId, bId, change));
  }

  /**
   * All variants of a study side by side, each with the runs that take part.
   *
   * @param loadsOf a variant whose loads are to stand side by side instead, as after changes or along a sweep
   * @throws HttpProblem 404 where that variant is not in the study
   */
  field(studyId: string, change: JudgeChange = {}, loadsOf?: string): StudyField {
    const study = this.studies.get(studyId);
    return this.remembered(`field ${JSON.stringify([studyId, change, loadsOf])}`, () => this.sideBySide(study, change, loadsOf));
  }

  private sideBySide(study: Study, change: JudgeChange, loadsOf: string | undefined): StudyField {
    const studyId = study.id;
    const runs = this.ended(studyId);
    const { load, ...rules } = change;
    const only = loadsOf === undefined ? undefined : study.variants.find((variant) => variant.id === loadsOf);
    if (loadsOf !== undefined && !only) throw notFound('This variant');
    const all = study.variants.map((variant) => this.side(study, variant, runs));
    const at = load ? all.map((side) => ({ ...side, runs: atLoad(side.runs, load) })) : all;
    const sides = only ? loadsAsSides(this.side(study, only, runs)) : at;
    const field = gatherField(sides, this.readings.spotsOf(study, runs), { ...judgeRules(study), ...rules }, this.history(study));
    const several = all.flatMap((side) => (commonLoads(side.runs).length > 1 ? [{ id: side.variantId, name: side.name }] : []));
    const read = field.sides.filter((side) => side.workRuns.length > 0).length;
    return {
      field,
      several,
      loads: commonLoads(all.flatMap((side) => side.runs)),
      refusal: read === 0 ? 'No variant has a run yet that can be used.' : null,
    };
  }

  private ended(studyId: string): Run[] {
    return this.runs.measured(studyId).filter((run) => ENDED.has(run.state));
  }

  private side(study: Study, variant: Study['variants'][number] | undefined, runs: readonly Run[]): JudgedSide {
    return {
      variantId: variant?.id ?? '',
      name: variant?.name ?? '',
      subject: study.subjects.find((subject) => subject.id === variant?.subjectId)?.name ?? '',
      levels: variant ? levelsOf(variant) : {},
      runs: runs.filter((run) => run.variantId === variant?.id).map((run) => this.readings.judgedRun(run, study)),
    };
  }

  /**
   * What stands on one side: a variant by its id, a single run as "run:" and its id, or every run at a level as "level:factor=level".
   *
   * @throws HttpProblem 404 where nothing in the study is called that
   */
  private sideNamed(study: Study, asked: string, runs: readonly Run[]): JudgedSide {
    if (asked.startsWith('run:')) {
      const run = runs.find((candidate) => candidate.id === asked.slice('run:'.length));
      const variant = study.variants.find((candidate) => candidate.id === run?.variantId);
      if (!run || !variant) throw notFound('This run');
      return { ...this.side(study, variant, [run]), variantId: asked, name: `${variant.name}, run ${run.number}` };
    }
    if (asked.startsWith('level:')) {
      const [factor, level] = [asked.slice('level:'.length).split('=', 1)[0]!, asked.slice(asked.indexOf('=') + 1)];
      const variants = study.variants.filter((variant) => levelsOf(variant)[factor] === level);
      if (variants.length === 0) throw notFound('This level');
      const all = variants.flatMap((variant) => this.side(study, variant, runs).runs);
      return { variantId: asked, name: `${factor} ${level}`, levels: { [factor]: level }, runs: all };
    }
    const variant = study.variants.find((candidate) => candidate.id === asked);
    if (!variant) throw notFound('This variant');
    return this.side(study, variant, runs);
  }

  /** Predictions of all studies, held against what their runs say now, and the record they make. */
  record(): TesterRecord {
    const predictions = this.studies.list().flatMap((summary) => {
      const study = this.studies.get(summary.id);
      if (study.predictions.length === 0) return [];
      const verdict = this.pair(study.id);
      return verdict.predictions.map((outcome) => ({ studyId: study.id, title: study.title, outcome }));
    });
    return { record: predictionRecord(predictions.map(({ outcome }) => outcome)), predictions };
  }

  figures(study: Study): JudgedFigures {
    const { judgement, spots } = this.judge(study);
    return { judgement, limitsC: Object.fromEntries(spots.map((spot) => [spot.id, spot.limitC])) };
  }

  /** What a change of the study did to its results, in words. */
  moved(study: Study, before: JudgedFigures, after: JudgedFigures): MovedResult[] {
    const nameOf = (id: string) => study.spots.find((spot) => spot.id === id)?.name ?? id;
    return movedFigures(before, after).map(({ spotId, ...figures }) => ({
      what: nameOf(spotId),
      ...figures,
    }));
  }

  private judge(study: Study, aId?: string, bId?: string, change: JudgeChange = {}): PairVerdict {
    const studyId = study.id;
    const reference = study.variants.find((variant) => variant.isReference);
    const others = study.variants.filter((variant) => !variant.isReference);
    const ran = new Set(this.ended(study.id).map((run) => run.variantId));
    const usual = others.find((variant) => ran.has(variant.id)) ?? others[0];
    const runs = this.ended(studyId);
    const { load, ...changed } = change;
    const whole = [
      aId ? this.sideNamed(study, aId, runs) : this.side(study, reference, runs),
      bId ? this.sideNamed(study, bId, runs) : this.side(study, usual, runs),
    ];
    const loads = commonLoads(whole.flatMap((side) => side.runs));
    const [sideA, sideB] = whole.map((side) => (load ? { ...side, runs: atLoad(side.runs, load) } : side)) as [JudgedSide, JudgedSide];
    const taken = new Set(whole.flatMap((side) => side.runs.map((run) => run.id)));
    const compared = runs.filter((run) => taken.has(run.id));
    const spots = this.readings.spotsOf(study, compared);
    const rules = { ...judgeRules(study), ...changed };
    const judgement = judgePair({ a: sideA, b: sideB, spots, rules, history: this.history(study) });
    const used = new Set([...judgement.a.runIds, ...judgement.b.runIds]);
    judgement.findings.push(
      ...this.agreements.findings(
        study,
        compared.filter((run) => used.has(run.id)),
      ),
    );
    const claims = this.claims(study, [sideA, sideB], judgement, spots, rules);
    const leading = claims[0] && study.claims[0] ? { outcome: claims[0].outcome, text: study.claims[0].text } : null;
    const shown = rules.figure === 'hottest' ? [hottestSpot(spots), ...spots] : spots;
    return {
      judgement,
      spots: shown,
      sentence: verdictSentence(judgement, shown, leading),
      claims,
      predictions: study.predictions.map((prediction) => judgePrediction(prediction, judgement, spots)),
      refusal: this.refusal(study, judgement),
      loads,
      commonNoise: commonNoise([...sideA.runs, ...sideB.runs].filter((run) => used.has(run.id))),
    };
  }

  /** Claims against the comparison; one about watts against what both sides carry in the air of the enclosure. */
  private claims(
    study: Study,
    sides: [JudgedSide, JudgedSide],
    judgement: PairJudgement,
    spots: readonly JudgedSpot[],
    rules: JudgeRules,
  ): ClaimJudgement[] {
    const { name, airC } = study.enclosure;
    const asked = study.claims.some((claim) => claim.outcome === 'watts-carried');
    const field = asked ? gatherField(sides, spots, rules, this.history(study)) : null;
    const { marginK } = study.judging ?? blankJudging();
    const [a = null, b = null] = field?.sides.map((side) => wattsOfSide(field, side, study.spots, airC, marginK)) ?? [];
    return study.claims.map((claim) =>
      claim.outcome === 'watts-carried'
        ? judgeWattsClaim(claim, { a, b }, `${name} at ${airC} °C`, rules.coverage)
        : judgeClaim(claim, judgement, spots, rules.practicalK),
    );
  }

  private refusal(study: Study, judgement: PairJudgement): string | null {
    const [a, b] = [judgement.a.runIds.length, judgement.b.runIds.length];
    if (study.spots.length === 0) return 'This study has no spots yet: say at Look what is to be read.';
    if (study.variants.length < 2) return 'A comparison needs two variants: add them at Plan.';
    if (a > 0 && b > 0) return null;
    const sides = [judgement.a, judgement.b];
    const without = sides
      .filter((side) => side.runIds.length === 0 && !judgement.leftOut.some((entry) => entry.label.startsWith(`${side.name}, `)))
      .map((side) => side.name);
    if (without.length > 0) return `${without.join(' and ')} ${without.length === 1 ? 'has' : 'have'} no finished run yet.`;
    // Where the part held its own temperature, its work and its time to throttle still speak.
    if (judgement.cooling.rows.length > 1) return null;
    return `Every run of one side is left out (${judgement.leftOut.length} in all); the margin says why.`;
  }

  /** How well the bench repeats for the classes of component in a study, this study's own runs among the rest. */
  scatter(studyId: string): BenchScatter[] {
    const study = this.studies.get(studyId);
    const own = this.runs.measured(studyId).filter((run) => run.state === 'finished' && run.disposition !== 'reject');
    const figures = [...this.otherFigures(study), ...own.flatMap((run) => this.figuresOf(run, study))];
    return [...new Set(study.spots.map((spot) => spot.componentClass))].map((componentClass) => {
      const ofClass = figures.filter((figure) => figure.componentClass === componentClass);
      return {
        componentClass,
        untouched: pooledRepeatability(grouped(ofClass, (figure) => `${figure.key}/${figure.mount}`)),
        remounted: pooledRepeatability(grouped(ofClass, (figure) => figure.key)),
      };
    });
  }

  private figuresOf(run: Run, owner: Study): BenchFigure[] {
    const judged = this.readings.judgedRun(run, owner);
    return owner.spots.flatMap((spot) => {
      const figure = figureOf(judged, spot.id, judgeRules(owner));
      if (!figure) return [];
      return [
        { componentClass: spot.componentClass, key: `${run.variantId}/${spot.id}`, mount: run.mountId ?? run.id, value: figure.value },
      ];
    });
  }

  /** Figures of the bench's other studies of the same family. Figures under other rules are another quantity and stay out. */
  private otherFigures(study: Study): BenchFigure[] {
    const owners = new Map<string, Study>();
    return this.runs.otherStudies(study.id).flatMap((other) => {
      const owner = owners.get(other.studyId) ?? this.studies.get(other.studyId);
      owners.set(other.studyId, owner);
      if (owner.rules.basis !== study.rules.basis || owner.rules.figure !== study.rules.figure) return [];
      return this.remembered(`figures ${other.runId}`, () => this.figuresOf(this.runs.find(other.runId)!, owner));
    });
  }

  /**
   * Scatter between equal runs, pooled over the bench's other studies of the same family, per class of component: a part's own
   * sensor in whole degrees scatters otherwise than a thermocouple. By id of this study's spots.
   */
  private history(study: Study): Record<string, { sd: number; dof: number }> {
    const figures = this.otherFigures(study);
    return Object.fromEntries(
      study.spots.flatMap((spot) => {
        const ofClass = figures.filter((figure) => figure.componentClass === spot.componentClass);
        const scatter = pooledRepeatability(grouped(ofClass, (figure) => figure.key));
        return scatter ? [[spot.id, scatter]] : [];
      }),
    );
  }
}

/** One run's figure at one spot, with what makes it equal to others. */
interface BenchFigure {
  componentClass: string;
  key: string;
  mount: string;
  value: number;
}

function grouped(figures: readonly BenchFigure[], keyOf: (figure: BenchFigure) => string): number[][] {
  const groups = new Map<string, number[]>();
  for (const figure of figures) groups.set(keyOf(figure), [...(groups.get(keyOf(figure)) ?? []), figure.value]);
  return [...groups.values()];
}
