import { Router } from 'express';
import { NewSurveyBody, SurveyBody } from '@red-ember/contract';
import { body, expectedVersion } from '../http/problems.ts';
import type { SurveyService } from './service.ts';

export function surveyRoutes(surveys: SurveyService): Router {
  const router = Router();
  router.get('/studies/:id/surveys', (req, res) => {
    res.json(surveys.ofStudy(req.params.id, req.query.trash === 'true'));
  });
  router.post('/studies/:id/surveys', (req, res) => {
    res.status(201).json(surveys.create(req.params.id, body(NewSurveyBody, req)));
  });
  router.get('/surveys/:id', (req, res) => {
    res.json(surveys.get(req.params.id));
  });
  router.put('/surveys/:id', (req, res) => {
    res.json(surveys.replace(req.params.id, body(SurveyBody, req), expectedVersion(req)));
  });
  router.delete('/surveys/:id', (req, res) => {
    surveys.trash(req.params.id);
    res.status(204).end();
  });
  router.post('/surveys/:id/restore', (req, res) => {
    res.json(surveys.bringBack(req.params.id));
  });
  return router;
}
