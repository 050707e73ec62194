import type { Handlers } from '../http/serve.ts';
import type { PreflightService } from './service.ts';

export const preflightHandlers = (preflights: PreflightService) =>
  ({ lookBefore: ({ params, body }) => preflights.look(params.id, body) }) satisfies Partial<Handlers>;
