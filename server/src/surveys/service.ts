import { MatrixProblem, parseMatrix } from '@red-ember/core';
import type { NewSurveyBody, Survey, SurveyBody, SurveySummary } from '@red-ember/contract';
import type { HistoryStore } from '../history/store.ts';
import { changedMeanwhile, notFound, unprocessable } from '../http/problems.ts';
import type { StudyService } from '../studies/service.ts';
import type { SurveyStore } from './store.ts';

/** Camera pictures of a study's parts. */
export class SurveyService {
  constructor(
    private readonly store: SurveyStore,
    private readonly studies: StudyService,
    private readonly history: HistoryStore,
    private readonly now: () => Date = () => new Date(),
  ) {}

  ofStudy(studyId: string, trash = false): SurveySummary[] {
    this.studies.get(studyId);
    return this.store.ofStudy(studyId, trash);
  }

  get(id: string): Survey {
    const survey = this.store.find(id);
    if (!survey || survey.deletedAt) throw notFound('This picture');
    return survey;
  }

  /** Reads a picture. @throws HttpProblem 422 saying which line cannot be read and why; nothing is kept then */
  create(studyId: string, body: NewSurveyBody): Survey {
    const study = this.studies.get(studyId);
    if (!study.subjects.some((subject) => subject.id === body.subjectId)) throw notFound('This part');
    let matrix: number[][];
    try {
      matrix = parseMatrix(body.text, body.unit);
    } catch (error) {
      if (error instanceof MatrixProblem) throw unprocessable(`${body.name} was not read. ${error.message}`);
      throw error;
    }
    const said: SurveyBody = {
      name: body.name,
      subjectId: body.subjectId,
      face: body.face,
      emissivitySet: body.emissivitySet ?? 0.95,
      emissivity: 0.93,
      reflectedC: 22,
      minProminenceK: 2,
      regions: [],
      references: [],
      mirrored: false,
    };
    return this.get(this.store.insert(studyId, said, matrix, this.now().toISOString()));
  }

  /** @throws HttpProblem 412 where somebody else saved in between, 422 where a region lies outside the picture */
  replace(id: string, body: SurveyBody, expectedVersion: number): Survey {
    const before = this.get(id);
    const errors = body.regions.flatMap((region, i) => {
      if (region.toRow < region.fromRow || region.toColumn < region.fromColumn)
        return [{ pointer: `/regions/${i}`, sentence: `${region.name} ends before it begins.` }];
      return region.toRow >= before.rows || region.toColumn >= before.columns
        ? [{ pointer: `/regions/${i}`, sentence: `${region.name} reaches outside the picture.` }]
        : [];
    });
    if (errors.length > 0) throw unprocessable(errors[0]!.sentence, errors);
    if (!this.store.update(id, body, expectedVersion)) throw changedMeanwhile('This picture');
    const { matrix: _matrix, ...said } = before;
    this.history.add({ entity: 'survey', entityId: id, at: this.now().toISOString(), before: said });
    return this.get(id);
  }

  trash(id: string): void {
    this.get(id);
    this.store.setDeleted(id, this.now().toISOString());
  }

  bringBack(id: string): Survey {
    if (!this.store.setDeleted(id, null)) throw notFound('This picture');
    return this.get(id);
  }
}
