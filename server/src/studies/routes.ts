import { Router } from 'express';
import { CopyStudyBody, StudyBody, type Study } from '@red-ember/contract';
import { body, expectedVersion } from '../http/problems.ts';
import type { StudyService } from './service.ts';

const tagOf = (study: Study) => `"${study.version}"`;

export function studyRoutes(studies: StudyService): Router {
  const router = Router();
  router.get('/studies', (req, res) => {
    res.json(studies.list(req.query.trash === 'true'));
  });
  router.post('/studies', (req, res) => {
    const study = studies.create(body(StudyBody, req));
    res.status(201).location(`/api/v1/studies/${study.id}`).setHeader('ETag', tagOf(study)).json(study);
  });
  router.get('/studies/:id', (req, res) => {
    const study = studies.get(req.params.id);
    res.setHeader('ETag', tagOf(study)).json(study);
  });
  router.put('/studies/:id', (req, res) => {
    const study = studies.replace(req.params.id, body(StudyBody, req), expectedVersion(req));
    res.setHeader('ETag', tagOf(study)).json(study);
  });
  router.delete('/studies/:id', (req, res) => {
    studies.trash(req.params.id);
    res.status(204).end();
  });
  router.post('/studies/:id/copy', (req, res) => {
    const study = studies.copy(req.params.id, body(CopyStudyBody, req).title);
    res.status(201).location(`/api/v1/studies/${study.id}`).setHeader('ETag', tagOf(study)).json(study);
  });
  router.post('/studies/:id/restore', (req, res) => {
    res.json(studies.bringBack(req.params.id));
  });
  router.get('/studies/:id/history', (req, res) => {
    res.json(studies.history(req.params.id));
  });
  return router;
}
