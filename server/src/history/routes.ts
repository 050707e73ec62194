import { Router } from 'express';
import type { StudyService } from '../studies/service.ts';

export function historyRoutes(studies: StudyService): Router {
  const router = Router();
  router.get('/studies/:id/history', (req, res) => {
    res.json(studies.history(req.params.id));
  });
  return router;
}
