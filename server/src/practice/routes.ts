import type { Handlers } from '../http/serve.ts';
import type { PracticeService } from './service.ts';

export const practiceHandlers = (practice: PracticeService) =>
  ({
    practice: () => practice.shelf(),
    beginPractice: ({ body }) => practice.begin(body),
    practiceSheet: ({ params }) => practice.sheet(params.id),
    practiceHint: ({ params }) => practice.hint(params.id),
    handIn: ({ params, body }) => practice.handIn(params.id, body),
    putPracticeAway: ({ params }) => practice.putAway(params.id),
  }) satisfies Partial<Handlers>;
