import type { Handlers } from '../http/serve.ts';
import type { SignatureService } from './service.ts';

export const signatureHandlers = (signatures: SignatureService) =>
  ({ signature: ({ params }) => signatures.ofRun(params.id) }) satisfies Partial<Handlers>;
