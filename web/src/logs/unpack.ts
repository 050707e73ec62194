import { unzip, type UnzipFileInfo } from 'fflate';
import { folderOf, placed } from '../data/folders.ts';

/** More files than a bench makes in a day. */
const MOST_FILES = 300;
/** What a zip may come to when it is unpacked, bytes: it is held in the page's memory. */
const MOST_BYTES = 500_000_000;
const LOGS = /\.(csv|tsv|txt|log|json|jsonl|ndjson|xlsx|gz)$/i;

/** What became of files that were dropped: those to read, and sentences on those that are not. */
export interface Unpacked {
  files: File[];
  refused: string[];
}

function membersOf(zip: File): Promise<Unpacked> {
  return zip.arrayBuffer().then(
    (bytes) =>
      new Promise((resolve) => {
        let total = 0;
        let left = 0;
        const filter = ({ name, originalSize }: UnzipFileInfo) => {
          if (!LOGS.test(name) || /(^|\/)(\.|__MACOSX)/.test(name)) return false;
          total += originalSize;
          if (total <= MOST_BYTES) return true;
          left++;
          return false;
        };
        unzip(new Uint8Array(bytes), { filter }, (error, members) => {
          if (error) {
            resolve({ files: [], refused: [`${zip.name} cannot be unpacked: it is damaged or locked with a password.`] });
            return;
          }
          const files = Object.entries(members).map(([path, data]) =>
            placed(new File([data as Uint8Array<ArrayBuffer>], path.split('/').at(-1)!), path),
          );
          resolve({
            files,
            refused: [
              ...(files.length === 0 ? [`${zip.name} holds no logs.`] : []),
              ...(left > 0 ? [`${left} files of ${zip.name} were left in it: unpacked, they are too much to be read at once.`] : []),
            ],
          });
        });
      }),
  );
}

/** The logs among dropped files, zips taken apart. */
export async function unpack(dropped: readonly File[]): Promise<Unpacked> {
  const parts = await Promise.all(
    // A folder holds other files too: pictures, notes of the system. Of what was dropped by itself the server says why it is none.
    dropped
      .filter((file) => folderOf(file) === '' || LOGS.test(file.name) || /\.zip$/i.test(file.name))
      .map((file): Unpacked | Promise<Unpacked> => (/\.zip$/i.test(file.name) ? membersOf(file) : { files: [file], refused: [] })),
  );
  const files = parts.flatMap((part) => part.files);
  const refused = parts.flatMap((part) => part.refused);
  if (files.length <= MOST_FILES) return { files, refused };
  return {
    files: files.slice(0, MOST_FILES),
    refused: [...refused, `${files.length - MOST_FILES} files were left aside: up to ${MOST_FILES} are read at once.`],
  };
}
