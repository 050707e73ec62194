// Server, simulated bench and pages with reload on change: npm run dev, then http://127.0.0.1:4501
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { assertNode, ensureDependencies, root, run } from './prepare.mjs';

assertNode();
ensureDependencies();
const data = join(root, 'data');
run(process.execPath, ['--import', 'tsx', 'demo/src/main.ts', '--data', data]);
const children = [
  ['node_modules/tsx/dist/cli.mjs', 'watch', 'server/src/main.ts', '--data', data],
  ['node_modules/tsx/dist/cli.mjs', 'watch', 'rig/src/main.ts'],
  ['node_modules/vite/bin/vite.js', 'web'],
].map((args) => spawn(process.execPath, args, { cwd: root, stdio: 'inherit' }));
for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM']))
  process.on(signal, () => children.forEach((child) => child.kill(signal)));
