import { v7 as newId } from 'uuid';
import { ownIdOf, type JudgedFigures } from '@red-ember/core';
import { type FieldProblem, type HistoryEntry, type MovedResult, type Study, type StudyBody, type StudySummary } from '@red-ember/contract';
import { blankJudging, bodyOf, fixedPredictionsChange, measuredChanges, ownFiguresOf, USUAL_REPEATS } from '@red-ember/study';
import { whatChanged } from '../history/whatChanged.ts';
import type { HistoryStore } from '../history/store.ts';
import { changedMeanwhile, conflict, notFound, unprocessable } from '../http/problems.ts';
import { withIds } from './ids.ts';
import type { StudyStore } from './store.ts';

const TRASH_DAYS = 30;

/**
 * Says what a study's runs come to, and how two sayings differ. Judging rests on studies, and so is told of here and not imported: who
 * judges introduces itself by `resultsBy`.
 */
export interface StudyJudge {
  figures(study: Study): JudgedFigures;
  moved(study: Study, before: JudgedFigures, after: JudgedFigures): MovedResult[];
}

/** What may be left unsaid of a variant, said: a study that is sent back as it was read has not changed. */
function complete(body: StudyBody): StudyBody {
  const variants = body.variants.map((variant) => ({
    ...variant,
    levels: variant.levels ?? [],
    repeats: variant.repeats ?? USUAL_REPEATS,
    retired: variant.retired ?? false,
    retest: variant.retest ?? null,
  }));
  return { ...body, variants, figures: body.figures ?? [], judging: body.judging ?? blankJudging() };
}

/** Decides what may be changed in a study and when. */
export class StudyService {
  constructor(
    private readonly store: StudyStore,
    private readonly historyStore: HistoryStore,
    private readonly now: () => Date = () => new Date(),
  ) {}

  private judge: StudyJudge | null = null;

  /** From now on what a change does to results is kept with it. */
  resultsBy(judge: StudyJudge): void {
    this.judge = judge;
  }

  list(trash = false): StudySummary[] {
    return this.store.list(trash);
  }

  get(id: string): Study {
    const study = this.store.find(id);
    if (!study) throw notFound('This study');
    return study;
  }

  create(asked: StudyBody): Study {
    const body = complete(asked);
    this.checkReferences(body);
    this.checkOwnership('', body);
    return this.get(this.store.insert(body, this.now().toISOString()));
  }

  /**
   * Replaces a study as a whole.
   *
   * @param by initials of whoever changes it
   * @param renamed levels, parts and set-ups of measured variants are the same, called otherwise
   * @throws HttpProblem 412 where somebody else saved in between, 409 where runs rest on what would be removed or would become something else, 422 where a
   *   claim or prediction names a spot that is not there
   */
  replace(
    id: string,
    asked: StudyBody,
    expectedVersion: number,
    { renamed = false, by = '' }: { renamed?: boolean; by?: string } = {},
  ): Study {
    const body = complete(asked);
    const current = this.get(id);
    if (current.version !== expectedVersion) throw changedMeanwhile('This study');
    this.checkReferences(body, current.predictionLockedAt !== null);
    this.checkOwnership(id, body);
    const kept = new Set(body.variants.map((variant) => variant.id));
    const lost = current.variants.find((variant) => current.variantsWithRuns.includes(variant.id) && !kept.has(variant.id));
    if (lost) throw conflict(`${lost.name} has mounts or runs, so it cannot be removed.`);
    const spots = new Set(body.spots.map((spot) => spot.id));
    const read = this.store.spotsWithSamples(id);
    const lostSpot = current.spots.find((spot) => read.has(spot.id) && !spots.has(spot.id));
    if (lostSpot) throw conflict(`${lostSpot.name} has readings, so it cannot be removed.`);
    if (fixedPredictionsChange(current, body))
      throw conflict(
        'The predictions are fixed since the first run started; they can no longer be changed. Of a variant that has no runs yet more may be written down.',
      );
    const others = renamed ? [] : measuredChanges(current, body);
    if (others.length > 0)
      throw conflict(
        `${others[0]!.sentence} If that is only another name for it, say so; if it is another thing, add it as a variant of its own and leave the old one.`,
        others.map(({ index, field, sentence }) => ({ pointer: `/variants/${index}/${field}`, sentence })),
      );
    const changed = whatChanged(current, body);
    const before = current.predictionLockedAt ? (this.judge?.figures(current) ?? null) : null;
    const at = this.now().toISOString();
    const entry = this.store.atomically(() => {
      if (!this.store.update(id, body, expectedVersion, at, current)) throw changedMeanwhile('This study');
      return this.historyStore.add({ entity: 'study', entityId: id, at, before: current, by, changed });
    });
    const study = this.get(id);
    this.keepMoved(entry, study, before);
    return study;
  }

  /** Does something outside the study that its results rest on, and keeps with the study what it moved. */
  withHistory<T>(ids: readonly string[], changed: (study: Study) => string, work: () => T): T {
    const before = ids.map((id) => ({ study: this.get(id), figures: this.judge?.figures(this.get(id)) ?? null }));
    const { result, entries } = this.store.atomically(() => ({
      result: work(),
      entries: before.map(({ study }) =>
        this.historyStore.add({
          entity: 'study',
          entityId: study.id,
          at: this.now().toISOString(),
          before: null,
          changed: [changed(study)],
        }),
      ),
    }));
    before.forEach(({ study, figures }, i) => this.keepMoved(entries[i]!, study, figures));
    return result;
  }

  /**
   * What a change does to results is kept with it: months later nobody could tell any more. Worked out after the change is written,
   * since judging takes its time, and nobody else could write meanwhile.
   */
  private keepMoved(entry: string, study: Study, before: JudgedFigures | null): void {
    const moved = before === null ? [] : this.moved(study, before);
    if (moved.length > 0) this.historyStore.setMoved(entry, moved);
  }

  private moved(study: Study, before: JudgedFigures): MovedResult[] {
    return this.judge?.moved(study, before, this.judge.figures(study)) ?? [];
  }

  history(id: string): HistoryEntry[] {
    this.get(id);
    return this.historyStore.of('study', id);
  }

  /** A study after another one: everything written down, under new ids, without runs; predictions are open again. */
  copy(id: string, title: string): Study {
    const body = bodyOf(this.get(id));
    const ids = new Map([...body.spots, ...body.variants].map((part) => [part.id, newId()]));
    return this.create({ ...withIds(body, ids), title });
  }

  trash(id: string): void {
    const study = this.store.list(false).find((entry) => entry.id === id);
    if (study?.live) throw conflict('A run of this study is going on; stop it first.');
    if (!this.store.setDeleted(id, this.now().toISOString())) throw notFound('This study');
  }

  bringBack(id: string): Study {
    if (!this.store.setDeleted(id, null)) throw notFound('This study');
    return this.get(id);
  }

  emptyOldTrash(): number {
    return this.store.emptyTrash(new Date(this.now().getTime() - TRASH_DAYS * 86_400_000).toISOString());
  }

  /** Parts are upserted by id: an id of another study must not carry its spot or variant over. */
  private checkOwnership(studyId: string, body: StudyBody): void {
    const ids = [...body.spots, ...body.variants].map((part) => part.id);
    const taken = new Set(ids).size < ids.length || this.store.foreignIds(studyId, ids).length > 0;
    if (taken) throw unprocessable('An id of a spot or variant is used twice, or belongs to another study.');
  }

  /** @param fixed predictions stand as they were written */
  private checkReferences(body: StudyBody, fixed = false): void {
    const spots = new Set(body.spots.map((spot) => spot.id));
    const subjects = new Set(body.subjects.map((subject) => subject.id));
    const errors: FieldProblem[] = [];
    const need = (there: boolean, pointer: string, sentence: string) => {
      if (!there) errors.push({ pointer, sentence });
    };
    body.claims.forEach((claim, i) =>
      need(claim.spotId === null || spots.has(claim.spotId), `/claims/${i}/spotId`, 'The claim names a spot that is not in this study.'),
    );
    body.predictions.forEach(({ outcome = 'temperature', spotId }, i) => {
      const id = ownIdOf(outcome);
      if (outcome === 'temperature')
        need(spots.has(spotId), `/predictions/${i}/spotId`, 'The prediction names a spot that is not in this study.');
      // It is fixed by the first run and may outlive its figure; until then it must not.
      const there = id === null || fixed || ownFiguresOf(body).some((figure) => figure.id === id);
      need(there, `/predictions/${i}/outcome`, 'The prediction is about a figure that is not in this study.');
    });
    body.variants.forEach((variant, i) =>
      need(subjects.has(variant.subjectId), `/variants/${i}/subjectId`, 'The variant names a part that is not in this study.'),
    );
    body.spots.forEach((spot, i) => {
      need(spot.twinOf === null || spots.has(spot.twinOf), `/spots/${i}/twinOf`, 'The spot on the same place is not in this study.');
      need(spot.twinOf !== spot.id, `/spots/${i}/twinOf`, 'A spot cannot be compared with itself.');
    });
    const figures = new Set(ownFiguresOf(body).map(({ id }) => id));
    need(figures.size === ownFiguresOf(body).length, '/figures', 'An id of a figure is used twice.');
    body.claims.forEach(({ outcome }, i) => {
      const id = ownIdOf(outcome);
      need(id === null || figures.has(id), `/claims/${i}/outcome`, 'The claim is about a figure that is not in this study.');
    });
    const variants = new Set(body.variants.map((variant) => variant.id));
    // A prediction is fixed by the first run and may outlive its variant; a claim follows what there is.
    body.claims.forEach(({ variantId }, i) =>
      need(
        variantId == null || variants.has(variantId),
        `/claims/${i}/variantId`,
        'The claim is about a variant that is not in this study.',
      ),
    );
    need(
      body.plan.order.every((id) => variants.has(id)),
      '/plan/order',
      'The plan names a variant that is not in this study.',
    );
    need(
      body.plan.firstVariantId === null || variants.has(body.plan.firstVariantId),
      '/plan/firstVariantId',
      'This variant is not in this study.',
    );
    need(
      body.plan.lastVariantId === null || variants.has(body.plan.lastVariantId),
      '/plan/lastVariantId',
      'This variant is not in this study.',
    );
    need(
      body.plan.firstVariantId === null || body.plan.firstVariantId !== body.plan.lastVariantId,
      '/plan/lastVariantId',
      'One variant cannot be both first and last.',
    );
    body.variants.forEach((variant, i) =>
      need(
        !variant.retest || (variant.retest.variantId !== variant.id && variants.has(variant.retest.variantId)),
        `/variants/${i}/retest`,
        `${variant.name} is said to retest a variant that is not in this study.`,
      ),
    );
    const known = (choice: { factor: string; level: string }) =>
      body.factors.some((factor) => factor.name === choice.factor && factor.levels.includes(choice.level));
    body.variants.forEach((variant, i) =>
      need((variant.levels ?? []).every(known), `/variants/${i}/levels`, `${variant.name} stands at a level that no factor has.`),
    );
    body.factors.forEach(({ name, under = '' }, i) =>
      need(
        under === '' || (under !== name && body.factors.some((factor) => factor.name === under)),
        `/factors/${i}/under`,
        `${name} is said to lie under a factor that is not in this study.`,
      ),
    );
    for (const list of ['parts', 'steps'] as const)
      body[list].forEach(({ level, variantId }, i) => {
        need(level === null || known(level), `/${list}/${i}/level`, 'It belongs to a level that no factor has.');
        need(
          variantId === null || variants.has(variantId),
          `/${list}/${i}/variantId`,
          'It belongs to a variant that is not in this study.',
        );
      });
    body.impossible.forEach((rule, i) => need(rule.levels.every(known), `/impossible/${i}`, 'It names a level that no factor has.'));
    body.locks.forEach((lock, i) =>
      lock.overrides.forEach((override, j) =>
        need(subjects.has(override.subjectId), `/locks/${i}/overrides/${j}/subjectId`, 'The part is not in this study.'),
      ),
    );
    const channels = body.spots.map((spot) => spot.channel);
    const twice = body.spots.findIndex((spot, i) => channels.indexOf(spot.channel) !== i);
    need(twice < 0, `/spots/${twice}/channel`, `Two spots are read by channel ${channels[twice]}.`);
    if (errors.length > 0) throw unprocessable(errors[0]!.sentence, errors);
  }
}
