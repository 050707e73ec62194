import type { Handlers } from '../http/serve.ts';
import type { ReadingService } from './service.ts';

export const readingHandlers = (readings: ReadingService) =>
  ({
    readings: ({ params }) => readings.readings(params.id),
    reactions: ({ params }) => readings.reactions(params.id),
  }) satisfies Partial<Handlers>;
