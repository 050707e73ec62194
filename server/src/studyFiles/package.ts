import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { parse } from 'csv-parse/sync';
import yazl from 'yazl';

/** What a study file is told by, and what a bench reads it back from. */
export const DESCRIPTION = 'datapackage.json';
export const ROWS = 'study.sqlite';
export const SAID = 'verdict.json';

/** One file of a package; its content is made when its turn comes, so that a long study is never held at once. */
export interface Packed {
  path: string;
  title: string;
  mediatype: string;
  /** Of a table of text: what its columns hold, but for those named. */
  table?: { type: 'number' | 'string'; texts?: readonly string[] };
  content: () => string | Uint8Array | Iterable<string> | { file: string };
}

export interface PackageFacts {
  name: string;
  title: string;
  created: string;
}

interface Told {
  name: string;
  path: string;
  bytes: number;
  hash: string;
}

const nameOf = (path: string) => path.replace(/[^a-z0-9]+/gi, '-').toLowerCase();

/** Its columns, from the first lines of its text. */
function schemaOf(head: string, { type, texts = [] }: NonNullable<Packed['table']>) {
  const names = parse(head, { to: 1, comment: '#', comment_no_infix: true, relax_column_count: true })[0] ?? [];
  return {
    profile: 'tabular-data-resource',
    format: 'csv',
    encoding: 'utf-8',
    dialect: { commentChar: '#' },
    schema: { fields: names.map((name) => ({ name, type: texts.includes(name) ? 'string' : type })), missingValues: [''] },
  };
}

/**
 * Writes a study as one zip of files that need nothing of ours to be read. What describes them comes last, with length and hash of each: a file
 * without it was cut short.
 *
 * @see Data Package, Frictionless Data, specs.frictionlessdata.io
 */
export async function writePackage(to: string, facts: PackageFacts, files: readonly Packed[]): Promise<void> {
  const zip = new yazl.ZipFile();
  const mtime = new Date(facts.created);
  const resources: Told[] = [];
  let failed: (error: Error) => void = () => {};
  const broken = new Promise<never>((_, reject) => (failed = reject));
  for (const { path, title, mediatype, table, content } of files)
    zip.addReadStreamLazy(path, { mtime, compress: !/parquet$|webp$/.test(path) }, (give) => {
      try {
        give(null, told(content(), (bytes, hash, head) => {
          const about = { name: nameOf(path), path, title, mediatype, bytes, hash: `sha256:${hash}` };
          resources.push({ ...about, ...(table ? schemaOf(head, table) : { profile: 'data-resource' }) });
        })); // prettier-ignore
      } catch (error) {
        failed(error as Error);
      }
    });
  zip.addReadStreamLazy(DESCRIPTION, { mtime }, (give) =>
    give(null, Readable.from([`${JSON.stringify({ ...facts, profile: 'data-package', resources }, null, 2)}\n`])),
  );
  zip.end();
  await Promise.race([pipeline(zip.outputStream, createWriteStream(to, { mode: 0o600 })), broken]);
}

/** Enough of a text to hold remarks and names of columns. */
const HEAD = 1 << 16;

/** A stream of some content, which says what it was when it is over. */
function told(content: ReturnType<Packed['content']>, over: (bytes: number, hash: string, head: string) => void): Readable {
  const hash = createHash('sha256');
  let bytes = 0;
  let head = '';
  async function* pass(pieces: AsyncIterable<Uint8Array | string> | Iterable<Uint8Array | string>) {
    for await (const piece of pieces) {
      const part = typeof piece === 'string' ? Buffer.from(piece) : piece;
      if (head.length < HEAD && typeof piece === 'string') head += piece;
      hash.update(part);
      bytes += part.byteLength;
      yield part;
    }
    over(bytes, hash.digest('hex'), head);
  }
  const pieces =
    typeof content === 'string' || content instanceof Uint8Array ? [content] : 'file' in content ? createReadStream(content.file) : content;
  return Readable.from(pass(pieces), { objectMode: false });
}
