import { Router } from 'express';
import type { AgreementService } from './service.ts';

export function agreementRoutes(agreements: AgreementService): Router {
  const router = Router();
  router.get('/studies/:id/agreements', (req, res) => {
    res.json(agreements.ofStudy(req.params.id));
  });
  return router;
}
