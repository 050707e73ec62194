import type { Handlers } from '../http/serve.ts';
import type { AgreementService } from './service.ts';

export const agreementHandlers = (agreements: AgreementService) =>
  ({ agreements: ({ params }) => agreements.ofStudy(params.id) }) satisfies Partial<Handlers>;
