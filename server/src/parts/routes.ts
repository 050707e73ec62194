import type { Handlers } from '../http/serve.ts';
import type { PartService } from './service.ts';

export const partHandlers = (parts: PartService) => ({ benchParts: () => parts.ofBench() }) satisfies Partial<Handlers>;
