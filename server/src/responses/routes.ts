import type { Handlers } from '../http/serve.ts';
import type { ResponseService } from './service.ts';

export const responseHandlers = (responses: ResponseService) =>
  ({ responses: ({ params, query }) => responses.ofVariant(params.id, params.variantId, query.air) }) satisfies Partial<Handlers>;
