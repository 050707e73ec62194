import { Router } from 'express';
import type { ReadingService } from './service.ts';

export function readingRoutes(readings: ReadingService): Router {
  const router = Router();
  router.get('/runs/:id/readings', (req, res) => {
    res.json(readings.readings(req.params.id));
  });
  return router;
}
