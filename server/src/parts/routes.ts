import type { Handlers } from '../http/serve.ts';
import { photographAnswer, photographSent } from '../photographs/routes.ts';
import type { PartService } from './service.ts';

export const partHandlers = (parts: PartService) =>
  ({
    benchParts: () => parts.ofBench(),
    keepPart: ({ body }) => parts.keep(body),
    saveKeptPart: ({ params, body, version }) => parts.change(params.id, body, version),
    removeKeptPart: ({ params }) => parts.remove(params.id),
    addPartPhoto: ({ params, file }) => {
      const { name, content } = photographSent(file);
      return parts.addPhoto(params.id, name, content);
    },
    partPhoto: ({ params }) => photographAnswer(parts.image(params.id)),
    removePartPhoto: ({ params }) => parts.photographs.remove(params.id),
  }) satisfies Partial<Handlers>;
