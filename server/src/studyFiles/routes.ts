import { createReadStream, rmSync } from 'node:fs';
import multer from 'multer';
import { unprocessable } from '../http/problems.ts';
import type { Handlers } from '../http/serve.ts';
import type { StudyFileService } from './service.ts';

/** A study of a hundred long runs. */
const MOST_BYTES = 4 * 1024 ** 3;

export const studyFileUpload = (files: StudyFileService) =>
  multer({
    storage: multer.diskStorage({
      destination: (_req, _file, give) => {
        files.tidy();
        give(null, files.folder);
      },
    }),
    limits: { fileSize: MOST_BYTES, files: 1, fields: 1 },
  }).single('studyFile');

export const studyFileHandlers = (files: StudyFileService) =>
  ({
    studyFile: async ({ params }) => {
      const { path, name } = await files.pack(params.id);
      const content = createReadStream(path);
      content.on('close', () => rmSync(path, { force: true }));
      return { content, name };
    },
    benchFile: () => files.packAll(),
    readStudyIn: ({ file }) => {
      if (!file) throw unprocessable('Choose a study file.');
      return files.readIn(file.path);
    },
  }) satisfies Partial<Handlers>;
