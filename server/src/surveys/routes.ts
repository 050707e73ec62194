import type { Handlers } from '../http/serve.ts';
import type { SurveyService } from './service.ts';

export const surveyHandlers = (surveys: SurveyService) =>
  ({
    listSurveys: ({ params, query }) => surveys.ofStudy(params.id, query.trash === 'true'),
    readSurvey: ({ params, body }) => surveys.create(params.id, body),
    survey: ({ params }) => surveys.get(params.id),
    saveSurvey: ({ params, body, version }) => surveys.replace(params.id, body, version),
    trashSurvey: ({ params }) => surveys.trash(params.id),
    restoreSurvey: ({ params }) => surveys.bringBack(params.id),
  }) satisfies Partial<Handlers>;
