import {
  atLoad,
  commonLoads,
  commonNoise,
  lineUp,
  hottestSpot,
  judgeClaim,
  judgePair,
  judgePrediction,
  loadsAsSides,
  mean,
  movedFigures,
  nextActs,
  predictionRecord,
  verdictSentence,
  judgeWattsClaim,
  listWords,
  wattsOfSide,
  type ClaimJudgement,
  type Finding,
  type JudgedSpot,
  type JudgedSide,
  type JudgeRules,
  type NextActs,
  type PairJudgement,
  type JudgedFigures,
} from '@red-ember/core';
import {
  type BenchScatter,
  type MovedResult,
  type PairVerdict,
  type Run,
  type Study,
  type StudyLineUp,
  type TesterRecord,
} from '@red-ember/contract';
import { blankJudging, otherStudyOf } from '@red-ember/study';
import type { AgreementService } from '../agreements/service.ts';
import { notFound } from '../http/problems.ts';
import { judgeRules, type ReadingService } from '../readings/service.ts';
import type { RunStore } from '../runs/store.ts';
import type { StudyService } from '../studies/service.ts';
import { BenchRepeats } from './benchScatter.ts';
import { Remembered } from './remembered.ts';
import { Sides } from './sides.ts';

/** A run takes so long where the study has none that was recorded, min. */
const USUAL_RUN_MIN = 55;

/** How a verdict is asked for otherwise than the house rules have it. */
export type JudgeChange = Pick<JudgeRules, 'restate' | 'signedOffOnly' | 'evidence'> & {
  /** Every run as it stood at this one of its loads, by name. */
  load?: string;
};

/** Two sides with everything that a claim or a prediction may be held against. */
interface Weighed {
  sides: [JudgedSide, JudgedSide];
  judgement: PairJudgement;
  spots: JudgedSpot[];
  rules: JudgeRules;
  history: Record<string, { sd: number; dof: number }>;
  loads: string[];
  commonNoise: PairVerdict['commonNoise'];
}

/** Judges pairs of variants from their runs' readings. */
export class VerdictService {
  private readonly remembered: Remembered;
  private readonly sides: Sides;
  private readonly repeats: BenchRepeats;

  constructor(
    private readonly studies: StudyService,
    runs: RunStore,
    private readonly readings: ReadingService,
    private readonly agreements: AgreementService,
  ) {
    this.remembered = new Remembered(() => runs.resultsStamp());
    this.sides = new Sides(studies, runs, readings);
    this.repeats = new BenchRepeats(studies, runs, readings, this.remembered);
  }

  /**
   * What b names against what a names (`Sides.named`); without ids, what the first claim or prediction is about, else the first
   * variant with runs, against the reference.
   *
   * @throws HttpProblem 404 where a side is not there, 422 where the sides are of two kinds of part
   */
  pair(studyId: string, aId?: string, bId?: string, change: JudgeChange = {}): PairVerdict {
    const study = this.studies.get(studyId);
    return this.remembered.get(`pair ${JSON.stringify([studyId, aId, bId, change])}`, () => this.judge(study, aId, bId, change));
  }

  /**
   * All variants of a study side by side, each with the runs that take part.
   *
   * @param loadsOf a variant whose loads are to stand side by side instead, as after changes or along a sweep
   * @throws HttpProblem 404 where that variant is not in the study
   */
  lineUp(studyId: string, change: JudgeChange = {}, loadsOf?: string): StudyLineUp {
    const study = this.studies.get(studyId);
    return this.remembered.get(`field ${JSON.stringify([studyId, change, loadsOf])}`, () => this.sideBySide(study, change, loadsOf));
  }

  private sideBySide(study: Study, change: JudgeChange, loadsOf: string | undefined): StudyLineUp {
    const studyId = study.id;
    const runs = this.sides.ended(studyId);
    const { load, ...rules } = change;
    const only = loadsOf === undefined ? undefined : study.variants.find((variant) => variant.id === loadsOf);
    if (loadsOf !== undefined && !only) throw notFound('This variant');
    const all = study.variants.map((variant) => this.sides.of(study, variant, runs));
    const at = load ? all.map((side) => ({ ...side, runs: atLoad(side.runs, load) })) : all;
    const sides = only ? loadsAsSides(this.sides.of(study, only, runs)) : at;
    const judgeBy = { ...judgeRules(study), ...this.repeats.drift(study), ...rules };
    const field = lineUp(sides, this.readings.spotsOf(study, runs), judgeBy, this.repeats.of(study));
    const several = all.flatMap((side) => (commonLoads(side.runs).length > 1 ? [{ id: side.variantId, name: side.name }] : []));
    const read = field.sides.filter((side) => side.workRuns.length > 0).length;
    return {
      field,
      several,
      loads: commonLoads(all.flatMap((side) => side.runs)),
      refusal: read === 0 ? 'No variant has a run yet that can be used.' : null,
    };
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

  /** What to do next about a pair, as `pair` names it. */
  next(studyId: string, aId?: string, bId?: string, change: JudgeChange = {}): NextActs {
    const study = this.studies.get(studyId);
    const { judgement, spots, rules } = this.weigh(study, aId, bId, change);
    const lengths = this.sides.ended(studyId).flatMap((run) => (run.figures === null && run.lengthS > 0 ? [run.lengthS / 60] : []));
    const runMin = lengths.length > 0 ? mean(lengths) : USUAL_RUN_MIN;
    const retired = study.variants.filter(
      (variant) => variant.retired && [judgement.a.variantId, judgement.b.variantId].includes(variant.id),
    );
    if (retired.length > 0) {
      const sentence = `${listWords(retired.map(({ name }) => name))} ${retired.length === 1 ? 'is' : 'are'} retired: no more runs are planned.`;
      return { spotId: null, acts: [], sentence };
    }
    const shown = rules.figure === 'hottest' ? [hottestSpot(spots), ...spots] : spots;
    return nextActs(judgement, shown, rules, { runMin, remountMin: study.plan.remountMin });
  }

  /** What the bench's other studies say of the scatter between mounts, by id of this study's spots. */
  repeatsOf(study: Study) {
    return this.remembered.get(`repeats ${study.id}`, () => this.repeats.of(study));
  }

  /** How well the bench repeats for the classes of component in a study. */
  scatter(studyId: string): BenchScatter[] {
    return this.repeats.scatter(studyId);
  }

  /** Two sides weighed against each other, before anything that was said of them is held against it. */
  private weigh(study: Study, aId?: string, bId?: string, change: JudgeChange = {}): Weighed {
    return this.remembered.get(`weighed ${JSON.stringify([study.id, study.version, aId, bId, change])}`, () => {
      const runs = this.sides.ended(study.id);
      const reference = study.variants.find((variant) => variant.isReference);
      const others = study.variants.filter((variant) => !variant.isReference);
      const ran = new Set(runs.map((run) => run.variantId));
      // What the first claim or prediction is about is what the study was made for.
      const about = study.claims[0]?.variantId ?? study.predictions[0]?.variantId;
      const claimed = others.find((variant) => variant.id === about && ran.has(variant.id));
      const usual = claimed ?? others.find((variant) => ran.has(variant.id)) ?? others[0];
      const { load, ...changed } = change;
      const whole = [
        aId ? this.sides.named(study, aId, runs) : this.sides.of(study, reference, runs),
        bId ? this.sides.named(study, bId, runs) : this.sides.of(study, usual, runs),
      ];
      const sides = whole.map((side) => (load ? { ...side, runs: atLoad(side.runs, load) } : side)) as Weighed['sides'];
      const taken = new Set(whole.flatMap((side) => side.runs.map((run) => run.id)));
      const compared = runs.filter((run) => taken.has(run.id));
      const elsewhere = this.elsewhere(study, aId, bId);
      // The hottest of several is a fair figure only over spots that both sides have.
      const spots = this.readings.spotsOf(study, compared).filter((spot) => !elsewhere || elsewhere.spots[spot.id]);
      const rules = { ...judgeRules(study), ...this.repeats.drift(study, elsewhere?.studyId), ...changed };
      const history = this.repeats.of(study, elsewhere?.studyId);
      const judgement = judgePair({ a: sides[0], b: sides[1], spots, rules, history, others: this.others(study, runs, taken, load) });
      const used = new Set([...judgement.a.runIds, ...judgement.b.runIds]);
      const usedHere = compared.filter((run) => used.has(run.id));
      judgement.findings.push(...this.agreements.findings(study, usedHere), ...withoutCounterpart(study, elsewhere));
      return {
        sides,
        judgement,
        spots,
        rules,
        history,
        loads: commonLoads(whole.flatMap((side) => side.runs)),
        commonNoise: commonNoise(sides.flatMap((side) => side.runs).filter((run) => used.has(run.id))),
      };
    });
  }

  /** The study's variants none of whose runs stand in the comparison: their repeats say how well the bench repeats. */
  private others(study: Study, runs: readonly Run[], taken: ReadonlySet<string>, load: string | undefined): JudgedSide[] {
    return study.variants
      .map((variant) => this.sides.of(study, variant, runs))
      .filter((side) => side.runs.length > 0 && !side.runs.some((run) => taken.has(run.id)))
      .map((side) => (load ? { ...side, runs: atLoad(side.runs, load) } : side));
  }

  private elsewhere(study: Study, aId?: string, bId?: string): PairVerdict['elsewhere'] {
    return this.sides.describeElsewhere(study, otherStudyOf(aId) ? aId : bId);
  }

  private judge(study: Study, aId?: string, bId?: string, change: JudgeChange = {}): PairVerdict {
    const weighed = this.weigh(study, aId, bId, change);
    const { judgement, spots, rules, loads, commonNoise: noise } = weighed;
    const { signedOffOnly = false, evidence = 'strict' } = change;
    const others = { signedOffOnly, evidence };
    const elsewhere = this.elsewhere(study, aId, bId);
    const claims = study.claims.map((claim) => {
      const { pair, of } = this.pairOf(study, claim.variantId, weighed, others);
      return { ...this.judgeClaim(study, claim, pair), of };
    });
    const predictions = study.predictions.map((prediction) => {
      const { pair, of } = this.pairOf(study, prediction.variantId, weighed, others);
      return { ...judgePrediction(prediction, pair.judgement, pair.spots, pair.rules.own), of };
    });
    // What stands in the headline is the first claim that is about these two.
    const restatedNoise = (i: number) => rules.restate?.kind === 'noise' && study.claims[i]!.outcome === 'noise';
    const leads = claims.findIndex((claim, i) => claim.of === null && !restatedNoise(i));
    const leading = leads < 0 ? null : { outcome: claims[leads]!.outcome, text: study.claims[leads]!.text };
    const shown = rules.figure === 'hottest' ? [hottestSpot(spots), ...spots] : spots;
    return {
      judgement,
      spots: shown,
      sentence: verdictSentence(judgement, shown, leading),
      claims,
      predictions,
      elsewhere,
      refusal: this.refusal(study, judgement, elsewhere),
      loads,
      commonNoise: noise,
      lentBy: this.repeats.sources(study, elsewhere?.studyId),
    };
  }

  /**
   * The pair that something is said of: its own variant against the reference, and whatever is compared where it names none.
   *
   * @returns `of`: what that pair is, in words, where it is another than the one that is shown; null where it is that one
   */
  private pairOf(
    study: Study,
    variantId: string | null | undefined,
    shown: Weighed,
    change: Pick<JudgeChange, 'signedOffOnly' | 'evidence'>,
  ): { pair: Weighed; of: string | null } {
    const variant = study.variants.find((candidate) => candidate.id === variantId);
    const reference = study.variants.find((candidate) => candidate.isReference);
    const { a, b } = shown.judgement;
    if (!variant || !reference || variant === reference || (b.variantId === variant.id && a.variantId === reference.id))
      return { pair: shown, of: null };
    return { pair: this.weigh(study, reference.id, variant.id, change), of: `${variant.name} against ${reference.name}` };
  }

  /** A claim about watts is held against what both sides carry in the air of the enclosure, any other against the comparison. */
  private judgeClaim(study: Study, claim: Study['claims'][number], { sides, judgement, spots, rules, history }: Weighed): ClaimJudgement {
    if (claim.outcome === 'noise' && rules.restate?.kind === 'noise')
      return {
        outcome: 'not-shown',
        sentence: `“${claim.text}” cannot be held against figures that are read at one noise level on both sides.`,
      };
    if (claim.outcome !== 'watts-carried') return judgeClaim(claim, judgement, spots, rules.practicalK, rules.own);
    const { name, airC } = study.enclosure;
    const { marginK } = study.judging ?? blankJudging();
    const field = lineUp(sides, spots, rules, history);
    const [a = null, b = null] = field.sides.map((side) => wattsOfSide(field, side, study.spots, airC, marginK));
    return judgeWattsClaim(claim, { a, b }, `${name} at ${airC} °C`, rules.coverage);
  }

  private refusal(study: Study, judgement: PairJudgement, elsewhere: PairVerdict['elsewhere']): string | null {
    const [a, b] = [judgement.a.runIds.length, judgement.b.runIds.length];
    if (study.spots.length === 0) return 'This study has no spots yet: say at Look what is to be read.';
    if (study.variants.length < 2 && !elsewhere) return 'A comparison needs two variants: add them at Plan.';
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
}

/** Spots of which the other study has nothing: they are not compared, and it is said. */
function withoutCounterpart(study: Study, elsewhere: PairVerdict['elsewhere']): Finding[] {
  const alone = elsewhere ? study.spots.filter((spot) => !elsewhere.spots[spot.id]).map((spot) => spot.name) : [];
  if (alone.length === 0) return [];
  const evidence = `Not compared, for want of a counterpart in “${elsewhere!.title}”: ${listWords(alone)}.`;
  return [{ check: 'sensors', severity: 'note', evidence, remedy: '', runId: null, spotId: null }];
}
