import { existsSync } from 'node:fs';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express, type Request, type RequestHandler, type Response } from 'express';
import { agreementHandlers } from './agreements/routes.ts';
import { heldBackHandlers } from './heldBack/routes.ts';
import { backupHandlers, restoreHandlers } from './backups/routes.ts';
import { networkHandlers } from './network/routes.ts';
import { conductHandlers, liveHandlers } from './conduct/routes.ts';
import { deskRoutes } from './desk/routes.ts';
import { handHandlers } from './hand/routes.ts';
import { problemHandler, unknownAddress } from './http/problems.ts';
import { guard, headers, type Access, type Guesses } from './http/security.ts';
import { handOn, serve, type Handlers } from './http/serve.ts';
import { importHandlers, logUpload } from './imports/routes.ts';
import { instrumentHandlers } from './instruments/routes.ts';
import { limitHandlers } from './limits/routes.ts';
import { mountHandlers } from './mounts/routes.ts';
import { openApiRoutes } from './openapi/routes.ts';
import { practiceHandlers } from './practice/routes.ts';
import { preflightHandlers } from './preflight/routes.ts';
import { readFirst } from './readings/beside/readFirst.ts';
import { readingHandlers } from './readings/routes.ts';
import { rehearsalHandlers } from './rehearsals/routes.ts';
import { reportHandlers } from './reports/routes.ts';
import { responseHandlers } from './responses/routes.ts';
import { signatureHandlers } from './signatures/routes.ts';
import { runHandlers } from './runs/routes.ts';
import { partHandlers } from './parts/routes.ts';
import { photoUpload } from './photographs/routes.ts';
import { searchHandlers } from './search/routes.ts';
import type { Desk, Services } from './services.ts';
import { studyFileHandlers, studyFileUpload } from './studyFiles/routes.ts';
import { studyHandlers } from './studies/routes.ts';
import { surveyHandlers } from './surveys/routes.ts';
import { verdictHandlers } from './verdicts/routes.ts';

export interface AppOptions {
  access: Access;
  guesses: Guesses;
  /** Folder of the built web client; without it only the API is served. */
  webFolder: string | null;
  logError: (error: unknown) => void;
  /** Answers every operation that has no handler here. */
  forward?: RequestHandler;
  /** What the process that watches the load asks of the desk; on the desk alone. */
  desk?: Desk;
}

/** Operations that need no rig, with what answers them: the desk's. */
export function deskHandlers(desk: Desk) {
  const handlers = {
    ...studyHandlers(desk.studies),
    ...limitHandlers(desk.limits),
    ...instrumentHandlers(desk.instruments),
    ...surveyHandlers(desk.surveys),
    ...mountHandlers(desk.mounts, desk.seats),
    ...importHandlers(desk.imports, desk.logStudies, desk.glances),
    ...runHandlers(desk.runs),
    ...readingHandlers(desk.readings),
    ...agreementHandlers(desk.agreements),
    ...heldBackHandlers(desk.heldBack),
    ...responseHandlers(desk.responses),
    ...signatureHandlers(desk.signatures),
    ...verdictHandlers(desk.verdicts),
    ...reportHandlers(desk.reports),
    ...searchHandlers(desk.search),
    ...partHandlers(desk.parts),
    ...practiceHandlers(desk.practice),
    ...studyFileHandlers(desk.studyFiles),
    ...backupHandlers(desk.backups),
  };
  return readFirst(handlers, desk.readings);
}

/** Operations by which rigs are looked at and runs are led, and the little that the page of a run needs besides: the watch's. */
export function watchHandlers(services: Services) {
  const { run } = runHandlers(services.runs);
  const { study } = studyHandlers(services.studies);
  return {
    run,
    study,
    ...restoreHandlers(services.restores),
    ...networkHandlers(services.host),
    ...preflightHandlers(services.preflights),
    ...rehearsalHandlers(services.rehearsals),
    ...conductHandlers(services.conduct, services.preflights),
    ...handHandlers(services.hand),
    ...liveHandlers(services.live, services.runs, services.conductor, services.rigs, services.rehearsals),
  };
}

/** Every operation of the contract with what answers it. */
export const handlersOf = (services: Services): Handlers => ({ ...deskHandlers(services), ...watchHandlers(services) });

const isEventStream = (_req: Request, res: Response) => String(res.getHeader('Content-Type')).startsWith('text/event-stream');

/** @param handlers of the operations that are answered here; the others are forwarded */
export function createApp(services: Desk, handlers: Partial<Handlers>, options: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  // JSON has no Infinity; the contract writes null for it.
  app.use(guard(options.access, options.guesses), headers());
  app.use(compression({ filter: (req, res) => !isEventStream(req, res) && compression.filter(req, res) }));
  const { desk, forward } = options;
  if (desk) app.use(deskRoutes(desk));
  const api = express.Router();
  // Before a body is read: it goes on as it came.
  if (forward) api.use(handOn(handlers, forward));
  // A camera picture as text is larger than anything else that is sent as JSON.
  api.use('/studies/:id/surveys', express.json({ limit: '8mb' }));
  api.use('/logs/study', express.json({ limit: '4mb' }));
  api.use(express.json({ limit: '1mb' }));
  api.use((_req, res, next) => {
    res.setHeader('Cache-Control', 'no-store');
    next();
  });
  api.use(
    openApiRoutes(),
    serve(handlers, { log: logUpload(services.imports), photo: photoUpload(), studyFile: studyFileUpload(services.studyFiles) }),
  );
  api.use(unknownAddress);
  app.use('/api/v1', api);
  if (options.webFolder && existsSync(join(options.webFolder, 'index.html'))) {
    app.use('/assets', express.static(join(options.webFolder, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }));
    app.use(express.static(options.webFolder, { index: false }));
    // Every other address is a page of the client.
    app.get(/^\/(?!api\/|rig$)/, (_req, res) =>
      res.sendFile(join(options.webFolder!, 'index.html'), { headers: { 'Cache-Control': 'no-cache' } }),
    );
  }
  app.use(unknownAddress);
  app.use(problemHandler(options.logError));
  return app;
}
