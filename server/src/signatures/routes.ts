import type { Handlers } from '../http/serve.ts';
import type { SignatureService } from './service.ts';

export const signatureHandlers = (signatures: SignatureService) =>
  ({
    signature: ({ params }) => signatures.ofRun(params.id),
    normal: ({ params, query }) => signatures.ofVariant(params.id, query.variant),
  }) satisfies Partial<Handlers>;
