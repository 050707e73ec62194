import { Router } from 'express';
import { PutLimitBody } from '@red-ember/contract';
import { body, expectedVersion } from '../http/problems.ts';
import type { LimitService } from './service.ts';

export function limitRoutes(limits: LimitService): Router {
  const router = Router();
  router.get('/limits', (_req, res) => {
    res.json(limits.list());
  });
  router.put('/limits', (req, res) => {
    res.json(limits.put(body(PutLimitBody, req), expectedVersion(req)));
  });
  return router;
}
