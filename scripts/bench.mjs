// Speed figures: of the computation, of a log of eight hours and its page, of a live bench. Compare ratios of one run, not runs of two
// machines: npm run bench
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureDependencies, root } from './prepare.mjs';

ensureDependencies();
const folder = mkdtempSync(join(tmpdir(), 'red-ember-bench-'));
const node = (...args) => {
  const { status } = spawnSync(process.execPath, args, { cwd: root, stdio: 'inherit' });
  if (status !== 0) throw new Error(`${args.join(' ')} ended with ${status}`);
};
try {
  node('--import', 'tsx', 'demo/src/bench.ts');
  node('--import', 'tsx', 'demo/src/benchLong.ts', folder);
  node('scripts/bench-page.mjs', folder);
  node('--import', 'tsx', 'demo/src/benchLive.ts');
  node('--import', 'tsx', 'scripts/bench-live-page.mjs');
  node('--import', 'tsx', 'demo/src/benchWatch.ts');
  node('--import', 'tsx', 'demo/src/benchGrowth.ts');
} finally {
  rmSync(folder, { recursive: true, force: true });
}
