import type { Handlers } from '../http/serve.ts';
import type { HandService } from './service.ts';

export const handHandlers = (hand: HandService) =>
  ({
    readByHand: ({ params, body }) => hand.write(params.id, body),
    takeBackReading: ({ params }) => hand.takeBack(params.id, params.reading),
  }) satisfies Partial<Handlers>;
