import type { Handlers } from '../http/serve.ts';
import type { ResponseService } from './service.ts';

export const responseHandlers = (responses: ResponseService) =>
  ({ responses: ({ params }) => responses.ofVariant(params.id, params.variantId) }) satisfies Partial<Handlers>;
