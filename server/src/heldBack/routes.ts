import type { Handlers } from '../http/serve.ts';
import type { HeldBackService } from './service.ts';

export const heldBackHandlers = (heldBack: HeldBackService) =>
  ({ heldBack: ({ params }) => heldBack.ofStudy(params.id) }) satisfies Partial<Handlers>;
