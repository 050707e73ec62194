import { existsSync } from 'node:fs';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express, type Request, type Response } from 'express';
import { agreementRoutes } from './agreements/routes.ts';
import { conductRoutes } from './conduct/routes.ts';
import { handRoutes } from './hand/routes.ts';
import { problemHandler, unknownAddress } from './http/problems.ts';
import { guard, headers, type Access } from './http/security.ts';
import { importRoutes } from './imports/routes.ts';
import { instrumentRoutes } from './instruments/routes.ts';
import { limitRoutes } from './limits/routes.ts';
import { liveRoutes } from './conduct/liveRoutes.ts';
import { mountRoutes } from './mounts/routes.ts';
import { openApiRoutes } from './openapi/routes.ts';
import { preflightRoutes } from './preflight/routes.ts';
import { readingRoutes } from './readings/routes.ts';
import { reportRoutes } from './reports/routes.ts';
import { runRoutes } from './runs/routes.ts';
import type { Services } from './services.ts';
import { studyRoutes } from './studies/routes.ts';
import { surveyRoutes } from './surveys/routes.ts';
import { verdictRoutes } from './verdicts/routes.ts';

export interface AppOptions {
  access: Access;
  /** Folder of the built web client; without it only the API is served. */
  webFolder: string | null;
  logError: (error: unknown) => void;
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
  api.use(
    openApiRoutes(),
    studyRoutes(services.studies),
    limitRoutes(services.limits),
    instrumentRoutes(services.instruments),
    surveyRoutes(services.surveys),
    mountRoutes(services.mounts, services.seats),
    importRoutes(services.imports),
    preflightRoutes(services.preflights),
    runRoutes(services.runs),
    conductRoutes(services.conduct, services.preflights),
    handRoutes(services.hand),
  );
  api.use(
    readingRoutes(services.readings),
    agreementRoutes(services.agreements),
    verdictRoutes(services.verdicts),
    reportRoutes(services.reports),
    liveRoutes(services.live, services.runs, services.conductor, services.rigs),
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
