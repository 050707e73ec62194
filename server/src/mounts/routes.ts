import { Router } from 'express';
import multer from 'multer';
import { MountBody } from '@red-ember/contract';
import { body, unprocessable } from '../http/problems.ts';
import type { SeatService } from './seat.ts';
import type { MountService } from './service.ts';

const MOST_BYTES = 30 * 1024 * 1024;

export function mountRoutes(mounts: MountService, seats: SeatService): Router {
  const router = Router();
  const upload = multer({ storage: multer.memoryStorage(), limits: { fileSize: MOST_BYTES, files: 1, fields: 1 } });
  router.get('/studies/:id/mounts', (req, res) => {
    res.json(mounts.ofStudy(req.params.id));
  });
  router.post('/studies/:id/mounts', (req, res) => {
    res.status(201).json(mounts.make(req.params.id, body(MountBody, req)));
  });
  router.get('/change-overs', (_req, res) => {
    res.json(mounts.learned());
  });
  router.delete('/mounts/:id', (req, res) => {
    mounts.takeBack(req.params.id);
    res.status(204).end();
  });
  router.get('/mounts/:id/seat', (req, res) => {
    res.json(seats.of(req.params.id));
  });
  router.post('/mounts/:id/photos', upload.single('photo'), async (req, res) => {
    if (!req.file) throw unprocessable('Choose a photograph.');
    const name = Buffer.from(req.file.originalname, 'latin1').toString('utf8').slice(0, 120);
    res.status(201).json(await mounts.addPhoto(String(req.params.id), name, req.file.buffer));
  });
  router.get('/mount-photos/:id', (req, res) => {
    const image = mounts.image(req.params.id);
    // Never changed once it is there.
    res.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
    res.type('image/webp').send(image);
  });
  router.delete('/mount-photos/:id', (req, res) => {
    mounts.removePhoto(req.params.id);
    res.status(204).end();
  });
  return router;
}
