import multer from 'multer';
import { withoutUnseen } from '@red-ember/contract';
import { notFound, unprocessable } from '../http/problems.ts';
import type { Handlers } from '../http/serve.ts';
import type { GlanceService } from './glance.ts';
import type { LogStudyService } from './logStudies.ts';
import type { ImportService } from './service.ts';

const MOST_BYTES = 200 * 1024 * 1024;

/** Signs of a file's name with its folders, and of those how many may be the folders': what a disk takes, since what is cut off could tell two apart. */
const MOST_NAME = 320;
const MOST_FOLDERS = 60;

/** The id under which an import may be watched and cancelled. */
const jobOf = (value: string | undefined): string | null => (value !== undefined && /^[\w-]{1,64}$/.test(value) ? value : null);
const nameOf = (value: string | undefined, fallback: string): string => value?.slice(0, MOST_NAME) ?? fallback;

export const logUpload = (imports: ImportService) =>
  multer({ dest: imports.staging.folder, limits: { fileSize: MOST_BYTES, files: 1, fields: 2 } }).single('log');

/**
 * An uploaded file and what it is called, the folders that it lay in among it: browsers write names in UTF-8, where the form's rules
 * say Latin-1. The name is a label; nothing is stored under it.
 */
function uploaded(file: Express.Multer.File | undefined, folder = ''): { path: string; name: string } {
  if (!file) throw unprocessable('Choose a file to import.');
  const within = withoutUnseen(folder).split(/[/\\]/).filter((part) => part.trim() !== '' && !/^\.+$/.test(part)).join('/'); // prettier-ignore
  const name = withoutUnseen(Buffer.from(file.originalname, 'latin1').toString('utf8'));
  return { path: file.path, name: (within === '' ? name : `${within.slice(0, MOST_FOLDERS)}/${name}`).slice(0, MOST_NAME) };
}

export const importHandlers = (imports: ImportService, logStudies: LogStudyService, glances: GlanceService) =>
  ({
    putLogDown: ({ query, file }) => {
      const { path, name } = uploaded(file, query.folder);
      return imports.stage(null, path, name, query.zone ?? '', jobOf(query.job));
    },
    listLogs: () => imports.putDown(),
    logTrace: ({ params }) => imports.staging.trace(params.logId),
    takeLogUp: ({ params }) => {
      imports.staging.path(params.logId);
      imports.staging.remove(params.logId);
    },
    glanceAtLogs: ({ body }) => glances.look(body),
    studyOfLogs: ({ body, query }) => logStudies.make(body, jobOf(query.job)),
    stageLog: ({ params, query, file }) => {
      const { path, name } = uploaded(file, query.folder);
      return imports.stage(params.id, path, name, query.zone ?? '', jobOf(query.job));
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
