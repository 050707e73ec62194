import { parseArgs } from 'node:util';
import { createServices, DataProblem, holdFolder, openDatabase } from '@red-ember/server';
import { seedDemo } from './seed.ts';

const { values } = parseArgs({ options: { data: { type: 'string' }, waiting: { type: 'boolean' } } });
if (!values.data) throw new Error('Say where the data is to be kept: --data FOLDER');
try {
  const letGo = holdFolder(values.data, 'the demo, which is being made');
  const db = openDatabase(values.data);
  const services = createServices(db, values.data, () => {});
  const added = seedDemo(services, values.waiting ? 'waiting' : 'measured', (title, nth, of) =>
    console.log(`  ${nth} of ${of} · ${title}`),
  );
  if (added.length === 0) console.log('The demo studies are there already.');
  services.close();
  db.close();
  letGo();
} catch (error) {
  if (!(error instanceof DataProblem)) throw error;
  console.error(error.message);
  process.exitCode = 78;
}
