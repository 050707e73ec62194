import { parseArgs } from 'node:util';
import { createDesk, DataProblem, holdFolder, openDatabase } from '@red-ember/server';
import { seedDemo } from './seed.ts';

/**
 * Makes the demo studies in a folder: all of them, or with --first the one that a first look begins with. With --beside a server has the
 * folder already, and what is made appears on its shelf, study by study.
 */
const { values } = parseArgs({
  options: {
    data: { type: 'string' },
    waiting: { type: 'boolean' },
    first: { type: 'boolean' },
    beside: { type: 'boolean' },
  },
});
if (!values.data) throw new Error('Say where the data is to be kept: --data FOLDER');
/** The server writes too: what is made here waits for it rather than fail, ms. */
const PATIENT_MS = 20_000;
try {
  const letGo = values.beside ? () => {} : holdFolder(values.data, 'the demo, which is being made');
  const db = openDatabase(values.data);
  if (values.beside) db.pragma(`busy_timeout = ${PATIENT_MS}`);
  const desk = createDesk(db, values.data);
  const added = seedDemo(
    desk,
    values.waiting ? 'waiting' : 'measured',
    (title, nth, of) => console.log(`  ${nth} of ${of} · ${title}`),
    values.first ? 'first' : 'all',
  );
  if (added.length === 0 && !values.first && !values.beside) console.log('The demo studies are there already.');
  if (added.length > 0 && values.beside) console.log('All demo studies are there.');
  db.close();
  letGo();
} catch (error) {
  if (!(error instanceof DataProblem)) throw error;
  console.error(error.message);
  process.exitCode = 78;
}
