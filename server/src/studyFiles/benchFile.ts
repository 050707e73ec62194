import { createReadStream, createWriteStream, rmSync } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { asFileName } from '@red-ember/core';
import yazl from 'yazl';
import { eachEntry } from './unpack.ts';

/** What a file of a whole bench is told by: which study lies in which file. */
const CONTENTS = 'bench.json';

/** Names of their own for the files of studies, though two have one title. */
function fileNames(titles: readonly string[]): string[] {
  const taken = new Set<string>();
  return titles.map((title) => {
    const stem = asFileName(title, 'study');
    let name = `${stem}.zip`;
    for (let k = 2; taken.has(name.toLowerCase()); k++) name = `${stem} ${k}.zip`;
    taken.add(name.toLowerCase());
    return name;
  });
}

/**
 * Every study of a bench as one zip of study files. Each is packed when its turn comes and thrown away when it was sent, so that no more
 * than one lies on the disk.
 *
 * @param pack writes a study's file, and says where
 * @returns the bytes of the zip; where a study cannot be packed they break off
 */
export function benchFile(
  studies: readonly { id: string; title: string }[],
  pack: (id: string) => Promise<{ path: string }>,
  created: string,
): Readable {
  const zip = new yazl.ZipFile();
  const mtime = new Date(created);
  const names = fileNames(studies.map(({ title }) => title));
  const contents = { created, studies: studies.map(({ title }, i) => ({ title, file: names[i] })) };
  zip.addBuffer(Buffer.from(`${JSON.stringify(contents, null, 2)}\n`), CONTENTS, { mtime });
  studies.forEach(({ id }, i) =>
    zip.addReadStreamLazy(names[i]!, { mtime, compress: false }, (give) => {
      pack(id).then(
        ({ path }) => {
          const file = createReadStream(path);
          file.on('close', () => rmSync(path, { force: true }));
          give(null, file);
        },
        (error: Error) => give(error, Readable.from([])),
      );
    }),
  );
  zip.end();
  const sent = Readable.from(zip.outputStream, { objectMode: false });
  zip.on('error', (error: Error) => sent.destroy(error));
  return sent;
}

/**
 * Goes through the study files of a bench's file, one on the disk at a time.
 *
 * @param folder where each lies while it is taken
 * @returns how many there were; null where it is no file of a bench
 * @throws HttpProblem 422 a damaged file, or one that was cut short
 */
export async function eachStudyFile(
  path: string,
  folder: string,
  take: (path: string, name: string) => Promise<void>,
): Promise<number | null> {
  let isBench = false;
  let count = 0;
  await eachEntry(path, async ({ fileName }, open) => {
    if (fileName === CONTENTS) isBench = true;
    if (!isBench || !/^[^/\\]+\.zip$/i.test(fileName)) return;
    const to = join(folder, `${++count}.zip`);
    try {
      await pipeline(await open(), createWriteStream(to, { mode: 0o600 }));
      await take(to, fileName);
    } finally {
      rmSync(to, { force: true });
    }
  });
  return isBench ? count : null;
}
