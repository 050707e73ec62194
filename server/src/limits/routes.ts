import type { Handlers } from '../http/serve.ts';
import type { LimitService } from './service.ts';

export const limitHandlers = (limits: LimitService) =>
  ({
    listLimits: () => limits.list(),
    putLimit: ({ body, version }) => limits.put(body, version),
  }) satisfies Partial<Handlers>;
