import { Router } from 'express';
import { MountBody } from '@red-ember/contract';
import { body } from '../http/problems.ts';
import type { MountService } from './service.ts';

export function mountRoutes(mounts: MountService): Router {
  const router = Router();
  router.get('/studies/:id/mounts', (req, res) => {
    res.json(mounts.ofStudy(req.params.id));
  });
  router.post('/studies/:id/mounts', (req, res) => {
    res.status(201).json(mounts.make(req.params.id, body(MountBody, req)));
  });
  return router;
}
