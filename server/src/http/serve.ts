import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Router, type Request, type RequestHandler, type Response } from 'express';
import {
  BODIES,
  OPERATION_KEYS,
  OPERATIONS,
  type AnswerOf,
  type BodyOf,
  type Operation,
  type OperationKey,
  type Operations,
  type ParamsOf,
  type QueryOf,
} from '@red-ember/contract';
import { body, expectedVersion } from './problems.ts';

/** What an operation was asked, checked: what its handler may rest on. */
interface Asked<K extends OperationKey> {
  params: ParamsOf<K>;
  /** What stood in the query and belongs there; what was empty is left out. */
  query: QueryOf<K>;
  body: BodyOf<K>;
  /** The version that the change started from; 0 for an operation that needs none. */
  version: number;
  /** What was uploaded; undefined where nothing was. */
  file: Express.Multer.File | undefined;
  res: Response;
}

/** A file that is answered. */
interface AnsweredFile {
  content: string | Buffer | Iterable<string> | Readable;
  /** Under which it is saved; shown in the page where there is none, or where it is not to be downloaded. */
  name?: string;
  inline?: boolean;
  headers?: Readonly<Record<string, string>>;
}

type HandlerAnswer<K extends OperationKey> = Operations[K]['answer'] extends `file ${string}`
  ? AnsweredFile
  : Operations[K]['answer'] extends 'events'
    ? void
    : AnswerOf<K>;

type Handler<K extends OperationKey> = (asked: Asked<K>) => HandlerAnswer<K> | Promise<HandlerAnswer<K>>;

/** One handler for every operation: one that is missing, or answers something else, does not compile. */
export type Handlers = { [K in OperationKey]: Handler<K> };
/** Takes the one file of an upload. */
export type Uploads = Record<Extract<Operations[OperationKey], { upload: string }>['upload'], RequestHandler>;

function queryOf({ query = {} }: Operation, req: Request): Record<string, string> {
  return Object.fromEntries(
    Object.keys(query).flatMap((name) => {
      const value = req.query[name];
      return typeof value === 'string' && value !== '' ? [[name, value]] : [];
    }),
  );
}

async function sendFile(res: Response, type: string, { content, name, inline = false, headers = {} }: AnsweredFile): Promise<void> {
  if (name) res.setHeader('Content-Disposition', `${inline ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(name)}`);
  for (const [header, value] of Object.entries(headers)) res.setHeader(header, value);
  res.type(type.startsWith('text/') ? `${type}; charset=utf-8` : type);
  if (typeof content === 'string' || Buffer.isBuffer(content)) res.send(content);
  else await pipeline(Readable.from(content), res);
}

const routeOf = (operation: Operation) => operation.path.replace(/\{(\w+)\}/g, ':$1');

/** Hands on every operation of the table that has no handler here. */
export function handOn(handlers: Partial<Handlers>, forward: RequestHandler): Router {
  const router = Router();
  for (const key of OPERATION_KEYS) {
    const operation: Operation = OPERATIONS[key];
    if (!handlers[key]) router[operation.method](routeOf(operation), forward);
  }
  return router;
}

/** Answers the operations of the table by their handlers. */
export function serve(handlers: Partial<Handlers>, uploads: Uploads): Router {
  const router = Router();
  for (const key of OPERATION_KEYS) {
    if (!handlers[key]) continue;
    const operation: Operation = OPERATIONS[key];
    const before = operation.upload ? [uploads[operation.upload as keyof Uploads]] : [];
    router[operation.method](routeOf(operation), ...before, async (req: Request, res: Response) => {
      const answer = await (handlers[key] as Handler<never>)({
        params: req.params,
        query: queryOf(operation, req),
        body: operation.body ? body<object>(BODIES[operation.body], req) : undefined,
        version: operation.versioned ? expectedVersion(req) : 0,
        file: req.file,
        res,
      } as never);
      if (operation.answer === 'events') return;
      if (operation.answer === 'nothing') res.status(204).end();
      else if (operation.answer.startsWith('file ')) await sendFile(res, operation.answer.slice(5), answer as AnsweredFile);
      else {
        const { version } = answer as { version?: unknown };
        if (typeof version === 'number') res.setHeader('ETag', `"${version}"`);
        res.status(operation.status ?? 200).json(answer);
      }
    });
  }
  return router;
}
