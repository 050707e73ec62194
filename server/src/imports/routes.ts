import multer from 'multer';
import { notFound, unprocessable } from '../http/problems.ts';
import type { Handlers } from '../http/serve.ts';
import type { ImportService } from './service.ts';

const MOST_BYTES = 200 * 1024 * 1024;

/** The id under which an import may be watched and cancelled. */
const jobOf = (value: string | undefined): string | null => (value !== undefined && /^[\w-]{1,64}$/.test(value) ? value : null);
const nameOf = (value: string | undefined, fallback: string): string => value?.slice(0, 120) ?? fallback;

export const logUpload = (imports: ImportService) =>
  multer({ dest: imports.folder, limits: { fileSize: MOST_BYTES, files: 1, fields: 2 } }).single('log');

export const importHandlers = (imports: ImportService) =>
  ({
    stageLog: ({ params, query, file }) => {
      if (!file) throw unprocessable('Choose a file to import.');
      const name = Buffer.from(file.originalname, 'latin1').toString('utf8').slice(0, 120);
      return imports.stage(params.id, file.path, name, jobOf(query.job));
    },
    makeRunOfLog: ({ params, query, body }) =>
      imports.makeRun(params.id, params.logId, nameOf(query.name, 'recorded log'), body, jobOf(query.job)),
    alignLog: ({ params, body }) => imports.align(params.id, params.logId, body),
    joinLog: ({ params, query, body }) =>
      imports.join(params.id, params.logId, nameOf(query.name, 'A recorded log'), body, jobOf(query.job)),
    importJob: ({ params }) => {
      const share = imports.jobs.share(params.job);
      if (share === null) throw notFound('This import');
      return { share };
    },
    cancelImport: ({ params }) => {
      if (!imports.jobs.cancel(params.job)) throw notFound('This import');
    },
  }) satisfies Partial<Handlers>;
