import { existsSync } from 'node:fs';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express, type Request, type Response } from 'express';
import { agreementHandlers } from './agreements/routes.ts';
import { conductHandlers, liveHandlers } from './conduct/routes.ts';
import { handHandlers } from './hand/routes.ts';
import { problemHandler, unknownAddress } from './http/problems.ts';
import { guard, headers, type Access } from './http/security.ts';
import { serve, type Handlers } from './http/serve.ts';
import { importHandlers, logUpload } from './imports/routes.ts';
import { instrumentHandlers } from './instruments/routes.ts';
import { limitHandlers } from './limits/routes.ts';
import { mountHandlers, photoUpload } from './mounts/routes.ts';
import { openApiRoutes } from './openapi/routes.ts';
import { preflightHandlers } from './preflight/routes.ts';
import { readingHandlers } from './readings/routes.ts';
import { reportHandlers } from './reports/routes.ts';
import { runHandlers } from './runs/routes.ts';
import type { Services } from './services.ts';
import { studyHandlers } from './studies/routes.ts';
import { surveyHandlers } from './surveys/routes.ts';
import { verdictHandlers } from './verdicts/routes.ts';

export interface AppOptions {
  access: Access;
  /** Folder of the built web client; without it only the API is served. */
  webFolder: string | null;
  logError: (error: unknown) => void;
}

/** Every operation of the contract with what answers it. */
export function handlersOf(services: Services): Handlers {
  return {
    ...studyHandlers(services.studies),
    ...limitHandlers(services.limits),
    ...instrumentHandlers(services.instruments),
    ...surveyHandlers(services.surveys),
    ...mountHandlers(services.mounts, services.seats),
    ...importHandlers(services.imports),
    ...preflightHandlers(services.preflights),
    ...runHandlers(services.runs),
    ...conductHandlers(services.conduct, services.preflights),
    ...handHandlers(services.hand),
    ...readingHandlers(services.readings),
    ...agreementHandlers(services.agreements),
    ...verdictHandlers(services.verdicts),
    ...reportHandlers(services.reports),
    ...liveHandlers(services.live, services.runs, services.conductor, services.rigs),
  };
}

const isEventStream = (_req: Request, res: Response) => String(res.getHeader('Content-Type')).startsWith('text/event-stream');

export function createApp(services: Services, options: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  // JSON has no Infinity; the contract writes null for it.
  app.use(guard(options.access), headers());
  app.use(compression({ filter: (req, res) => !isEventStream(req, res) && compression.filter(req, res) }));
  const api = express.Router();
  // A camera picture as text is larger than anything else that is sent as JSON.
  api.use('/studies/:id/surveys', express.json({ limit: '8mb' }));
  api.use(express.json({ limit: '1mb' }));
  api.use((_req, res, next) => {
    res.setHeader('Cache-Control', 'no-store');
    next();
  });
  api.use(openApiRoutes(), serve(handlersOf(services), { log: logUpload(services.imports), photo: photoUpload() }));
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
