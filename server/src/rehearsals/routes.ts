import type { Handlers } from '../http/serve.ts';
import type { RehearsalService } from './service.ts';

export const rehearsalHandlers = (rehearsals: RehearsalService) =>
  ({
    rehearse: ({ params, body }) => rehearsals.start(params.rig, body),
    breakOffRehearsal: ({ params }) => rehearsals.breakOff(params.rig),
    listRehearsals: ({ params }) => rehearsals.ofRig(params.rig),
  }) satisfies Partial<Handlers>;
