import { Router } from 'express';
import type { Conductor } from '../rigs/conductor.ts';
import type { RigHub } from '../rigs/rigHub.ts';
import type { RunService } from '../runs/service.ts';
import type { LiveHub } from '../live/hub.ts';

export function liveRoutes(live: LiveHub, runs: RunService, conductor: Conductor, rigs: RigHub): Router {
  const router = Router();
  router.get('/rigs', (_req, res) => {
    res.json(rigs.list((id) => conductor.runOnRig(id)));
  });
  router.get('/runs/:id/live', (req, res) => {
    const run = runs.get(req.params.id);
    live.subscribe(run.id, res);
    res.write(`event: run\ndata: ${JSON.stringify(run)}\n\n`);
    const snapshot = conductor.snapshot(run.id);
    if (snapshot) res.write(`event: snapshot\ndata: ${JSON.stringify(snapshot)}\n\n`);
  });
  return router;
}
