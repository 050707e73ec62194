import type { ErrorRequestHandler, Request, RequestHandler, Response } from 'express';
import { MulterError } from 'multer';
import { counted } from '@red-ember/core';
import { check, type FieldProblem, type Problem } from '@red-ember/contract';
import { storageTrouble } from '../database/storageTrouble.ts';

/** An error whose sentence is meant for the tester. */
export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
    readonly errors?: FieldProblem[],
  ) {
    super(detail);
  }
}

export const notFound = (what: string) => new HttpProblem(404, 'Not found', `${what} does not exist, or is in the trash.`);
export const conflict = (detail: string, errors?: FieldProblem[]) => new HttpProblem(409, 'Not now', detail, errors);
export const unprocessable = (detail: string, errors?: FieldProblem[]) => new HttpProblem(422, 'This cannot be read', detail, errors);

/** Somebody else saved in between; what was typed is still on the page. */
export const changedMeanwhile = (what: string) =>
  new HttpProblem(
    412,
    'Changed meanwhile',
    `${what} was saved in another window since you opened it. Your changes are still here; take over the other version or save yours on top.`,
  );

/** The version a change started from, by its If-Match. @throws HttpProblem 428 without one */
export function expectedVersion(req: Request): number {
  const match = /^(?:W\/)?"(\d+)"$/.exec(req.headers['if-match'] ?? '');
  if (!match)
    throw new HttpProblem(428, 'Version needed', "Send If-Match with the version you started from, so that nobody's work is overwritten.");
  return Number(match[1]);
}

/** More than these are counted. */
const SENTENCES = 3;

/** Checks a request body against a contract class. @throws HttpProblem 422 with a pointer per field */
export function body<T extends object>(type: new () => T, req: Request): T {
  // Nothing at all is an empty body: every field may be left out, or is asked for.
  const result = check(type, (req.body ?? {}) as unknown);
  if (result.ok) return result.value;
  const sentences = [...new Set(result.problems.map(({ sentence }) => sentence))];
  const more = sentences.length - SENTENCES;
  const said = [...sentences.slice(0, SENTENCES), ...(more > 0 ? [`And ${counted(more, 'more such thing')}.`] : [])].join(' ');
  const count = result.problems.length;
  throw unprocessable(count === 1 ? said : `${count} fields need attention. ${said}`, result.problems);
}

function send(res: Response, problem: Problem): void {
  res.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
}

export const unknownAddress: RequestHandler = (req, res) => {
  send(res, { type: 'about:blank', title: 'Not found', status: 404, detail: `There is nothing at ${req.path}.` });
};

/** The one place that turns errors into problem details. */
export function problemHandler(log: (error: unknown) => void): ErrorRequestHandler {
  return (error: unknown, _req, res, next) => {
    if (res.headersSent) {
      next(error);
      return;
    }
    if (error instanceof HttpProblem) {
      send(res, {
        type: 'about:blank',
        title: error.title,
        status: error.status,
        detail: error.message,
        ...(error.errors ? { errors: error.errors } : {}),
      });
      return;
    }
    const { status, code, type } = error as { status?: number; code?: string; type?: string };
    if (code === 'LIMIT_FILE_SIZE')
      send(res, {
        type: 'about:blank',
        title: 'Too large',
        status: 413,
        detail: 'The file is larger than can be taken: 200 MB for a log, 30 MB for a photograph.',
      });
    else if (type === 'entity.parse.failed')
      send(res, { type: 'about:blank', title: 'Not JSON', status: 400, detail: 'The request is not valid JSON.' });
    else if (type === 'entity.too.large')
      send(res, { type: 'about:blank', title: 'Too large', status: 413, detail: 'The request is larger than 1 MB.' });
    else if (
      error instanceof MulterError ||
      /^(Unexpected end of form|Malformed part header|Multipart: Boundary not found)/.test(String((error as Error).message))
    )
      send(res, {
        type: 'about:blank',
        title: 'No upload',
        status: 400,
        detail: 'The upload is not a form with one file in it, or was cut short.',
      });
    else if (storageTrouble(error))
      send(res, {
        type: 'about:blank',
        title: 'Not now',
        status: 503,
        detail: `Nothing was changed: ${storageTrouble(error)}. Try again.`,
      });
    else if (status && status >= 400 && status < 500)
      send(res, { type: 'about:blank', title: 'Refused', status, detail: 'The request was refused.' });
    else {
      log(error);
      send(res, {
        type: 'about:blank',
        title: 'Unexpected',
        status: 500,
        detail: 'Something went wrong on the server. Nothing was changed; the log has the details.',
      });
    }
  };
}
