import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import yauzl from 'yauzl';
import { unprocessable } from '../http/problems.ts';
import { DESCRIPTION, ROWS, SAID } from './package.ts';

/** A package that is longer than this when it is unpacked, or a description that is, is made to fill disk or memory, bytes. */
const MOST_ROWS = 8_000_000_000;
const MOST_TEXT = 20_000_000;
const MOST_FILES = 100_000;

const damaged = () => unprocessable('The study file cannot be unpacked: it is damaged or cut short.');
const changed = (path: string) => unprocessable(`The study file was changed since it was written: ${path} is another.`);

/** What is read of a package; the rest of it is for people. */
export interface Unpacked {
  title: string;
  created: string;
  /** What the bench that wrote it said. */
  said: string;
}

type Entry = yauzl.Entry;

/** Goes through a zip from end to end, one file at a time. */
export function eachEntry(path: string, take: (entry: Entry, open: () => Promise<Readable>) => Promise<void>): Promise<void> {
  return new Promise((resolve, reject) => {
    yauzl.open(path, { lazyEntries: true, validateEntrySizes: true }, (error, zip) => {
      if (error) return reject(damaged());
      let files = 0;
      zip.on('error', () => reject(damaged()));
      zip.on('end', () => resolve());
      zip.on('entry', (entry: Entry) => {
        const open = () =>
          new Promise<Readable>((give, fail) => zip.openReadStream(entry, (problem, stream) => (problem ? fail(damaged()) : give(stream))));
        if (++files > MOST_FILES) return reject(damaged());
        take(entry, open).then(
          () => zip.readEntry(),
          (problem: unknown) => {
            zip.close();
            reject(problem as Error);
          },
        );
      });
      zip.readEntry();
    });
  });
}

/** Reads a file of a package to its end. */
async function textOf(entry: Entry, open: () => Promise<Readable>): Promise<string> {
  if (entry.uncompressedSize > MOST_TEXT) throw damaged();
  const pieces: Buffer[] = [];
  for await (const piece of await open()) pieces.push(piece as Buffer);
  return Buffer.concat(pieces).toString('utf8');
}

const hashOf = (text: string) => createHash('sha256').update(text).digest('hex');

interface Description {
  title?: unknown;
  created?: unknown;
  resources?: { path?: unknown; hash?: unknown }[];
}

/**
 * Unpacks of a study file what a bench needs, and holds it against the file's own description.
 *
 * @param rowsTo where its database is put
 * @throws HttpProblem 422 no study file, damaged, cut short, or changed since it was written
 */
export async function unpack(path: string, rowsTo: string): Promise<Unpacked> {
  let description: Description | null = null;
  let said: string | null = null;
  let rows: string | null = null;
  try {
    await eachEntry(path, async (entry, open) => {
      if (entry.fileName === DESCRIPTION) description = JSON.parse(await textOf(entry, open)) as Description;
      else if (entry.fileName === SAID) said = await textOf(entry, open);
      else if (entry.fileName === ROWS) {
        if (entry.uncompressedSize > MOST_ROWS) throw damaged();
        const hash = createHash('sha256');
        const through = new Transform({
          transform(piece: Buffer, _encoding, done) {
            hash.update(piece);
            done(null, piece);
          },
        });
        await pipeline(await open(), through, createWriteStream(rowsTo, { mode: 0o600 }));
        rows = hash.digest('hex');
      }
    });
  } catch (error) {
    throw error instanceof Error && 'status' in error ? error : damaged();
  }
  const { title, created, resources } = (description ?? {}) as Description;
  if (description === null || rows === null || said === null || !Array.isArray(resources))
    throw unprocessable('This zip holds no study of Red Ember. Logs in a zip: unpack it, and put its files down together.');
  const hashes = new Map(resources.map((resource) => [resource?.path, resource?.hash]));
  if (hashes.get(ROWS) !== `sha256:${rows as string}`) throw changed(ROWS);
  if (hashes.get(SAID) !== `sha256:${hashOf(said)}`) throw changed(SAID);
  return { title: typeof title === 'string' ? title : '', created: typeof created === 'string' ? created : '', said };
}
