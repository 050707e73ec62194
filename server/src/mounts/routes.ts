import multer from 'multer';
import { unprocessable } from '../http/problems.ts';
import type { Handlers } from '../http/serve.ts';
import type { SeatService } from './seat.ts';
import type { MountService } from './service.ts';

const MOST_BYTES = 30 * 1024 * 1024;

export const photoUpload = () =>
  multer({ storage: multer.memoryStorage(), limits: { fileSize: MOST_BYTES, files: 1, fields: 1 } }).single('photo');

export const mountHandlers = (mounts: MountService, seats: SeatService) =>
  ({
    benchMounts: () => mounts.ofBench(),
    listMounts: ({ params }) => mounts.ofStudy(params.id),
    makeMount: ({ params, body }) => mounts.make(params.id, body),
    changeOvers: () => mounts.learned(),
    takeMountBack: ({ params }) => mounts.takeBack(params.id),
    seat: ({ params }) => seats.of(params.id),
    addPhoto: ({ params, file }) => {
      if (!file) throw unprocessable('Choose a photograph.');
      return mounts.addPhoto(params.id, Buffer.from(file.originalname, 'latin1').toString('utf8').slice(0, 120), file.buffer);
    },
    // Never changed once it is there.
    photo: ({ params }) => ({
      content: mounts.image(params.id),
      headers: { 'Cache-Control': 'private, max-age=31536000, immutable' },
    }),
    removePhoto: ({ params }) => mounts.removePhoto(params.id),
  }) satisfies Partial<Handlers>;
