import { execFileSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Makes the demo data once; every journey works on a copy of its own. */
export default function seedOnce(): void {
  // A bench on its first morning, for journeys that run; and a shelf of measured studies, for those that judge.
  for (const [name, flags] of [
    ['RED_EMBER_SEED', ['--waiting']],
    ['RED_EMBER_SHELF', []],
  ] as const) {
    // One that is there already is taken: journeys that are being written need not wait for a new one.
    if (process.env[name]) continue;
    const folder = mkdtempSync(join(tmpdir(), 'red-ember-seed-'));
    execFileSync(process.execPath, ['--import', 'tsx', 'demo/src/main.ts', '--data', folder, ...flags], {
      cwd: join(import.meta.dirname, '../..'),
      stdio: 'inherit',
    });
    process.env[name] = folder;
  }
}
