import type { Handlers } from '../http/serve.ts';
import type { SearchService } from './service.ts';

export const searchHandlers = (search: SearchService) =>
  ({ search: ({ query }) => search.find((query.q ?? '').slice(0, 200)) }) satisfies Partial<Handlers>;
