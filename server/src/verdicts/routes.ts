import { Router } from 'express';
import type { VerdictService } from './service.ts';

const text = (value: unknown) => (typeof value === 'string' && value !== '' ? value : undefined);

export function verdictRoutes(verdicts: VerdictService): Router {
  const router = Router();
  router.get('/studies/:id/verdict', (req, res) => {
    res.json(verdicts.pair(req.params.id, text(req.query.a), text(req.query.b)));
  });
  router.get('/studies/:id/scatter', (req, res) => {
    res.json(verdicts.scatter(req.params.id));
  });
  router.get('/record', (_req, res) => {
    res.json(verdicts.record());
  });
  return router;
}
