import { Router } from 'express';
import { PreflightBody } from '@red-ember/contract';
import { body } from '../http/problems.ts';
import type { PreflightService } from './service.ts';

export function preflightRoutes(preflights: PreflightService): Router {
  const router = Router();
  router.post('/studies/:id/preflight', async (req, res) => {
    res.status(201).json(await preflights.look(req.params.id, body(PreflightBody, req)));
  });
  return router;
}
