import { spawnSync } from 'node:child_process';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { DataProblem } from '@red-ember/server';
import { openBench, Refused } from './bench.ts';
import { COMMANDS, EXIT, type Flags } from './commands.ts';

const root = join(import.meta.dirname, '../..');
const text = { type: 'string' } as const;
const OPTIONS = {
  data: text,
  url: text,
  json: { type: 'boolean' },
  title: text,
  into: text,
  zone: text,
  a: text,
  b: text,
  load: text,
  restate: text,
  out: text,
} as const;

function usage(): string {
  return [
    'npx red-ember COMMAND [--json] [--data FOLDER | --url http://127.0.0.1:4500]',
    '',
    ...Object.entries(COMMANDS).map(([name, { does }]) => `  ${name.padEnd(8)} ${does}`),
    '  prove    what is claimed of readings and verdicts, simulated',
    '',
    'A server that runs over the data is asked by --url, its passphrase taken from RED_EMBER_PASSPHRASE. Ends with 0 when done, 1 when refused,',
    '2 when asked wrongly, 3 when a verdict was asked for and nothing can be called.',
  ].join('\n');
}

async function main(): Promise<number> {
  let parsed;
  try {
    parsed = parseArgs({ options: OPTIONS, allowPositionals: true });
  } catch (error) {
    console.error(`${(error as Error).message}\n\n${usage()}`);
    return EXIT.usage;
  }
  const [name = '', ...rest] = parsed.positionals;
  if (name === 'help') {
    console.log(usage());
    return EXIT.done;
  }
  if (name === 'prove') return spawnSync('npm', ['run', '--silent', 'prove'], { cwd: root, stdio: 'inherit' }).status ?? EXIT.refused;
  const command = Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
  if (!command) {
    console.error(`${name === '' ? 'Say what to do.' : `There is no command ${name}.`}\n\n${usage()}`);
    return EXIT.usage;
  }
  const { data, url, json, ...flags } = parsed.values;
  const bench = await openBench(url ? { url } : { folder: resolve(data ?? join(root, 'data')) }, process.env.RED_EMBER_PASSPHRASE ?? null);
  try {
    const outcome = await command.run(bench, rest, flags as Flags);
    console.log(json ? JSON.stringify(outcome.json, null, 2) : outcome.lines.join('\n'));
    return outcome.exit;
  } finally {
    await bench.close();
  }
}

try {
  process.exitCode = await main();
} catch (error) {
  if (!(error instanceof Refused || error instanceof DataProblem)) throw error;
  console.error(error.message);
  process.exitCode = EXIT.refused;
}
