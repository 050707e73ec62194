import type { Handlers } from '../http/serve.ts';
import type { ReadingService } from './service.ts';

export const readingHandlers = (readings: ReadingService) =>
  ({
    beingRead: ({ params }) => readings.beingRead(params.id),
    readings: ({ params }) => readings.readings(params.id),
    reactions: ({ params }) => readings.reactions(params.id),
  }) satisfies Partial<Handlers>;
