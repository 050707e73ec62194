import { asInitials, INITIALS, INITIALS_SENTENCE } from '@red-ember/contract';
import { unprocessable } from '../http/problems.ts';
import type { Handlers } from '../http/serve.ts';
import type { StudyService } from './service.ts';

const at = (id: string) => `/api/v1/studies/${id}`;

function signedBy(by = ''): string {
  if (!INITIALS.test(by)) throw unprocessable(INITIALS_SENTENCE);
  return asInitials(by);
}

export const studyHandlers = (studies: StudyService) =>
  ({
    listStudies: ({ query }) => studies.list(query.trash === 'true'),
    createStudy: ({ body, res }) => {
      const study = studies.create(body);
      res.location(at(study.id));
      return study;
    },
    study: ({ params }) => studies.get(params.id),
    saveStudy: ({ params, body, version, query }) =>
      studies.replace(params.id, body, version, { renamed: query.measured === 'renamed', by: signedBy(query.by) }),
    trashStudy: ({ params }) => studies.trash(params.id),
    restoreStudy: ({ params }) => studies.bringBack(params.id),
    copyStudy: ({ params, body, res }) => {
      const study = studies.copy(params.id, body.title);
      res.location(at(study.id));
      return study;
    },
    studyHistory: ({ params }) => studies.history(params.id),
  }) satisfies Partial<Handlers>;
