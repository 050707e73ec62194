import { Router } from 'express';
import multer from 'multer';
import { AlignLogBody, ImportRunBody, JoinLogBody } from '@red-ember/contract';
import { body, notFound, unprocessable } from '../http/problems.ts';
import type { ImportService } from './service.ts';

const MOST_BYTES = 200 * 1024 * 1024;

/** The id under which an import may be watched and cancelled. */
const jobOf = (value: unknown): string | null => (typeof value === 'string' && /^[\w-]{1,64}$/.test(value) ? value : null);

export function importRoutes(imports: ImportService): Router {
  const router = Router();
  const upload = multer({ dest: imports.folder, limits: { fileSize: MOST_BYTES, files: 1, fields: 2 } });
  router.post('/studies/:id/logs', upload.single('log'), async (req, res) => {
    if (!req.file) throw unprocessable('Choose a file to import.');
    const name = Buffer.from(req.file.originalname, 'latin1').toString('utf8').slice(0, 120);
    res.status(201).json(await imports.stage(String(req.params.id), req.file.path, name, jobOf(req.query.job)));
  });
  router.post('/studies/:id/logs/:logId/run', async (req, res) => {
    const fileName = typeof req.query.name === 'string' ? req.query.name.slice(0, 120) : 'recorded log';
    res.status(201).json(await imports.makeRun(req.params.id, req.params.logId, fileName, body(ImportRunBody, req), jobOf(req.query.job)));
  });
  router.post('/studies/:id/logs/:logId/align', async (req, res) => {
    res.json(await imports.align(req.params.id, req.params.logId, body(AlignLogBody, req)));
  });
  router.post('/studies/:id/logs/:logId/join', async (req, res) => {
    const fileName = typeof req.query.name === 'string' ? req.query.name.slice(0, 120) : 'A recorded log';
    res.json(await imports.join(req.params.id, req.params.logId, fileName, body(JoinLogBody, req), jobOf(req.query.job)));
  });
  router.get('/import-jobs/:job', (req, res) => {
    const share = imports.jobs.share(req.params.job);
    if (share === null) throw notFound('This import');
    res.json({ share });
  });
  router.delete('/import-jobs/:job', (req, res) => {
    if (!imports.jobs.cancel(req.params.job)) throw notFound('This import');
    res.status(204).end();
  });
  return router;
}
