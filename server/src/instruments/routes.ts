import { Router } from 'express';
import { CalibrationBody, InstrumentBody } from '@red-ember/contract';
import { body, expectedVersion } from '../http/problems.ts';
import type { InstrumentService } from './service.ts';

export function instrumentRoutes(instruments: InstrumentService): Router {
  const router = Router();
  router.get('/instruments', (req, res) => {
    res.json(instruments.list(req.query.trash === 'true'));
  });
  router.post('/instruments', (req, res) => {
    res.status(201).json(instruments.create(body(InstrumentBody, req)));
  });
  router.put('/instruments/:id', (req, res) => {
    res.json(instruments.replace(req.params.id, body(InstrumentBody, req), expectedVersion(req)));
  });
  router.delete('/instruments/:id', (req, res) => {
    instruments.trash(req.params.id);
    res.status(204).end();
  });
  router.post('/instruments/:id/restore', (req, res) => {
    res.json(instruments.bringBack(req.params.id));
  });
  router.post('/instruments/:id/calibrations', (req, res) => {
    res.status(201).json(instruments.calibrate(req.params.id, body(CalibrationBody, req)));
  });
  router.get('/instrument-channels/:id/runs', (req, res) => {
    res.json(instruments.runsOf(req.params.id));
  });
  return router;
}
