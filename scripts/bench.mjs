// Speed figures: of the computation, and of a log of eight hours. Compare ratios of one run, not runs of two machines: npm run bench
import { spawnSync } from 'node:child_process';
import { ensureDependencies, root } from './prepare.mjs';

ensureDependencies();
for (const part of ['bench', 'benchLong', 'benchLive']) {
  const { status } = spawnSync(process.execPath, ['--import', 'tsx', `demo/src/${part}.ts`], { cwd: root, stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}
