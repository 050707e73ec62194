import { Router } from 'express';
import { HandReadingsBody } from '@red-ember/contract';
import { body } from '../http/problems.ts';
import type { HandService } from './service.ts';

export function handRoutes(hand: HandService): Router {
  const router = Router();
  router.post('/runs/:id/hand-readings', (req, res) => {
    res.status(201).json(hand.write(req.params.id, body(HandReadingsBody, req)));
  });
  router.delete('/runs/:id/hand-readings/:reading', (req, res) => {
    res.json(hand.takeBack(req.params.id, req.params.reading));
  });
  return router;
}
