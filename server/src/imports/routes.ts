import { Router } from 'express';
import multer from 'multer';
import { ImportRunBody } from '@red-ember/contract';
import { body, unprocessable } from '../http/problems.ts';
import type { ImportService } from './service.ts';

const MOST_BYTES = 200 * 1024 * 1024;

export function importRoutes(imports: ImportService): Router {
  const router = Router();
  const upload = multer({ dest: imports.folder, limits: { fileSize: MOST_BYTES, files: 1, fields: 2 } });
  router.post('/studies/:id/logs', upload.single('log'), async (req, res) => {
    if (!req.file) throw unprocessable('Choose a file to import.');
    const name = Buffer.from(req.file.originalname, 'latin1').toString('utf8').slice(0, 120);
    res.status(201).json(await imports.stage(String(req.params.id), req.file.path, name));
  });
  router.post('/studies/:id/logs/:logId/run', async (req, res) => {
    const fileName = typeof req.query.name === 'string' ? req.query.name.slice(0, 120) : 'recorded log';
    res.status(201).json(await imports.makeRun(req.params.id, req.params.logId, fileName, body(ImportRunBody, req)));
  });
  return router;
}
