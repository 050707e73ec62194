#!/usr/bin/env node
// npx red-ember …, from the checkout: npx red-ember help
import { fileURLToPath } from 'node:url';

// It is called from wherever the logs lie; how the sources are read stands in the checkout. Threads and processes of the bench inherit it.
process.env.TSX_TSCONFIG_PATH ??= fileURLToPath(new URL('../../tsconfig.json', import.meta.url));
const { register } = await import('tsx/esm/api');
register();
await import('../src/main.ts');
