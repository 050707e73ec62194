import { execFileSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Makes the demo data once; every journey works on a copy of its own. */
export default function seedOnce(): void {
  const folder = mkdtempSync(join(tmpdir(), 'red-ember-seed-'));
  execFileSync(process.execPath, ['--import', 'tsx', 'demo/src/main.ts', '--data', folder], {
    cwd: join(import.meta.dirname, '../..'),
    stdio: 'inherit',
  });
  process.env.RED_EMBER_SEED = folder;
}
