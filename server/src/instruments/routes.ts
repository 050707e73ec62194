import type { Handlers } from '../http/serve.ts';
import type { InstrumentService } from './service.ts';

export const instrumentHandlers = (instruments: InstrumentService) =>
  ({
    listInstruments: ({ query }) => instruments.list(query.trash === 'true'),
    createInstrument: ({ body }) => instruments.create(body),
    saveInstrument: ({ params, body, version }) => instruments.replace(params.id, body, version),
    trashInstrument: ({ params }) => instruments.trash(params.id),
    restoreInstrument: ({ params }) => instruments.bringBack(params.id),
    calibrate: ({ params, body }) => instruments.calibrate(params.id, body),
    runsOfChannel: ({ params }) => instruments.runsOf(params.id),
  }) satisfies Partial<Handlers>;
