import multer from 'multer';
import { unprocessable } from '../http/problems.ts';

const MOST_BYTES = 30 * 1024 * 1024;

export const photoUpload = () =>
  multer({ storage: multer.memoryStorage(), limits: { fileSize: MOST_BYTES, files: 1, fields: 1 } }).single('photo');

type Sent = Express.Multer.File | undefined;

/** What was sent as a photograph. @throws HttpProblem 422 where nothing was */
export function photographSent(file: Sent): { name: string; content: Buffer } {
  if (!file) throw unprocessable('Choose a photograph.');
  return { name: Buffer.from(file.originalname, 'latin1').toString('utf8').slice(0, 120), content: file.buffer };
}

/** A photograph as it is answered: never changed once it is there. */
export const photographAnswer = (content: Buffer) => ({
  content,
  headers: { 'Cache-Control': 'private, max-age=31536000, immutable' },
});
