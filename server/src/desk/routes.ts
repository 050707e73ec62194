import { Router } from 'express';
import type { Desk } from '../services.ts';
import { DESK_PATHS } from './deskProcess.ts';

/** What the watch asks of the desk; nobody else reaches it. */
export function deskRoutes({ knowledge, readings, stores }: Desk): Router {
  const router = Router();
  router.get(DESK_PATHS.knowledge, async (req, res) => void res.json(await knowledge.ofMount(String(req.params.id))));
  router.post(DESK_PATHS.tidy, (req, res) => {
    stores.samples.compact(String(req.params.id));
    // Whoever opens it finds it read.
    void readings.readRun(String(req.params.id));
    res.json({});
  });
  return router;
}
