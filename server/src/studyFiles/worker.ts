import { rmSync } from 'node:fs';
import { openNew, openToRead } from '../database/open.ts';
import { createDesk } from '../services.ts';
import type { PackTask } from './service.ts';
import { copyOut, photographsIn } from './store.ts';
import { writePackage, ROWS, type Packed } from './package.ts';
import { samplesParquet } from './parquet.ts';

/** Packs one study, over a connection of its own that cannot write: nobody waits for it, and a live run is not held up. */
export default async function work({ dataFolder, studyId, to, facts, documents }: PackTask): Promise<void> {
  const rows = `${to}.rows`;
  const bench = openToRead(dataFolder);
  try {
    const own = openNew(rows);
    try {
      copyOut(bench, studyId, own);
      own.pragma('journal_mode = DELETE');
      // What is written down of the samples is what the file itself holds: they stand at one moment.
      const { runs } = createDesk(own, dataFolder);
      const recorded = runs.ofStudy(studyId).filter((run) => run.figures === null && run.channels.some(({ role }) => role !== 'hand'));
      const files: Packed[] = [
        ...documents.map(({ text, ...file }) => ({ ...file, content: () => text })),
        ...recorded.flatMap((run): Packed[] => [
          {
            path: `samples/run-${run.number}.csv`,
            title: `Samples of run ${run.number} as they were read`,
            mediatype: 'text/csv',
            table: { type: 'number', texts: ['phase'] },
            content: () => runs.samplesCsv(run.id, 0, Infinity),
          },
          {
            path: `samples/run-${run.number}.parquet`,
            title: `The same samples of run ${run.number}, as columns`,
            mediatype: 'application/vnd.apache.parquet',
            content: () => samplesParquet(runs.recorded(run.id, 0, Infinity)),
          },
        ]),
        ...photographsIn(own).map(({ id, image }): Packed => ({
          path: `photographs/${id}.webp`,
          title: 'A photograph of a mount',
          mediatype: 'image/webp',
          content: () => image,
        })),
        {
          path: ROWS,
          title: 'All of it as a database, from which a bench reads the study back in',
          mediatype: 'application/vnd.sqlite3',
          content: () => ({ file: rows }),
        },
      ];
      await writePackage(to, facts, files);
    } finally {
      own.close();
    }
  } finally {
    bench.close();
    for (const rest of ['', '-wal', '-shm', '-journal']) rmSync(rows + rest, { force: true });
  }
}
