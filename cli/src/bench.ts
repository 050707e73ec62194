import { createWriteStream, readFileSync, renameSync, rmSync } from 'node:fs';
import { basename } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Problem } from '@red-ember/contract';
import {
  addressOf,
  OPERATIONS,
  type AnswerOf,
  type BodyOf,
  type OperationKey,
  type ParamsOf,
  type QueryOf,
} from '@red-ember/contract/operations';
import { startBench } from '@red-ember/server';

/** What the bench refused, in its own sentence. */
export class Refused extends Error {}

interface Asking<K extends OperationKey> {
  params: ParamsOf<K>;
  query?: QueryOf<K>;
  body?: BodyOf<K>;
  /** Sent as an upload under the name it has. */
  file?: string;
}

/** A bench that can be asked whatever its pages ask: one that runs already, or one that is opened over a folder for as long as it takes. */
export interface AskedBench {
  ask<K extends OperationKey>(key: K, asking: Asking<K>): Promise<AnswerOf<K>>;
  /** The text of a file that the bench answers. */
  text<K extends OperationKey>(key: K, asking: Asking<K>): Promise<string>;
  /** Puts a file that the bench answers under a path; nothing half is left there. */
  save<K extends OperationKey>(key: K, asking: Asking<K>, path: string): Promise<void>;
  close(): Promise<void>;
}

/**
 * @param at address of a server that runs, or the folder of the data
 * @throws DataProblem a folder that another server holds, or that is none
 */
export async function openBench(at: { url: string } | { folder: string }, passphrase: string | null): Promise<AskedBench> {
  const opened =
    'url' in at
      ? null
      : await startBench({
          dataFolder: at.folder,
          webFolder: null,
          access: { host: '127.0.0.1', passphrase: null },
          port: 0,
          log: () => {},
          logError: (error) => console.error(error),
        });
  const origin = 'url' in at ? at.url.replace(/\/+$/, '') : `http://127.0.0.1:${opened!.port}`;
  const send = async <K extends OperationKey>(key: K, { params, query, body, file }: Asking<K>): Promise<Response> => {
    const { method, upload } = OPERATIONS[key] as { method: string; upload?: string };
    const form = new FormData();
    if (upload && file) form.append(upload, new Blob([new Uint8Array(readFileSync(file))]), basename(file));
    const response = await fetch(`${origin}/api/v1${addressOf(key, params, query)}`, {
      method: method.toUpperCase(),
      headers: {
        origin,
        ...(passphrase === null ? {} : { 'x-passphrase': passphrase }),
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
      },
      ...(upload ? { body: form } : body === undefined ? {} : { body: JSON.stringify(body) }),
    }).catch((error: Error) => {
      throw new Refused(`${origin} does not answer: ${error.message}.`);
    });
    if (response.ok) return response;
    const problem = (await response.json().catch(() => null)) as Problem | null;
    const fields = (problem?.errors ?? []).map(({ sentence }) => sentence).filter((sentence) => sentence !== problem?.detail);
    throw new Refused([problem?.detail ?? `The bench answered ${response.status}.`, ...fields].join(' '));
  };
  return {
    async ask(key, asking) {
      const response = await send(key, asking);
      return (response.status === 204 ? null : await response.json()) as never;
    },
    text: async (key, asking) => (await send(key, asking)).text(),
    async save(key, asking, path) {
      const { body } = await send(key, asking);
      const arriving = `${path}.arriving`;
      try {
        await pipeline(body!, createWriteStream(arriving));
        renameSync(arriving, path);
      } finally {
        rmSync(arriving, { force: true });
      }
    },
    close: async () => opened?.close(),
  };
}
