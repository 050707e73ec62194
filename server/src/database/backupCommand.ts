// npm run backup -- [--data FOLDER] [--to FILE]      npm run restore -- FILE [--data FOLDER]
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { backUp, restore } from './backup.ts';

const root = join(import.meta.dirname, '../../..');
const { values, positionals } = parseArgs({ allowPositionals: true, options: { data: { type: 'string' }, to: { type: 'string' } } });
const [command, file] = positionals;
const here = process.env.INIT_CWD ?? process.cwd();
const data = values.data ? resolve(here, values.data) : join(root, 'data');

try {
  if (command === 'backup') {
    const stamp = new Date().toISOString().slice(0, 19).replace(/[:T]/g, '-');
    const to = values.to ? resolve(here, values.to) : join(data, 'backups', `bench-${stamp}.sqlite`);
    const { studies, schema } = await backUp(data, to);
    console.log(`${to}: ${studies} studies, schema ${schema}, checked.`);
  } else if (command === 'restore' && file) {
    const { studies, aside } = await restore(resolve(here, file), data);
    console.log(`The bench in ${data} holds ${studies} studies now.${aside ? ` What was there lies in ${aside}.` : ''}`);
  } else {
    console.error('npm run backup -- [--data FOLDER] [--to FILE], or npm run restore -- FILE [--data FOLDER]');
    process.exitCode = 1;
  }
} catch (error) {
  console.error((error as Error).message);
  process.exitCode = 1;
}
