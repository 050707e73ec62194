import { Router } from 'express';
import { InterventionBody, MarkBody, MoreTimeBody, StartRunBody, StopRunBody } from '@red-ember/contract';
import { body } from '../http/problems.ts';
import type { PreflightService } from '../preflight/service.ts';
import type { ConductService } from './service.ts';

export function conductRoutes(conduct: ConductService, preflights: PreflightService): Router {
  const router = Router();
  router.post('/studies/:id/runs', (req, res) => {
    const start = body(StartRunBody, req);
    res.status(201).json(conduct.start(req.params.id, start, start.preflightId ? preflights.take(start.preflightId, start) : null));
  });
  router.post('/runs/:id/stop', (req, res) => {
    res.json(conduct.stop(req.params.id, body(StopRunBody, req).reason));
  });
  router.post('/runs/:id/events', (req, res) => {
    res.status(201).json(conduct.mark(req.params.id, body(MarkBody, req)));
  });
  router.post('/runs/:id/interventions', (req, res) => {
    res.status(201).json(conduct.intervene(req.params.id, body(InterventionBody, req)));
  });
  router.post('/runs/:id/pause', (req, res) => {
    res.json(conduct.pause(req.params.id));
  });
  router.post('/runs/:id/go-on', (req, res) => {
    res.json(conduct.goOn(req.params.id));
  });
  router.post('/runs/:id/more-time', (req, res) => {
    res.json(conduct.moreTime(req.params.id, body(MoreTimeBody, req).minutes));
  });
  return router;
}
