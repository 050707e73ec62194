// Speed figures of the computation, medians of several rounds: npm run bench. Compare ratios of one run, not runs of two machines.
import { spawnSync } from 'node:child_process';
import { ensureDependencies, root } from './prepare.mjs';

ensureDependencies();
process.exit(spawnSync(process.execPath, ['--import', 'tsx', 'demo/src/bench.ts'], { cwd: root, stdio: 'inherit' }).status ?? 1);
