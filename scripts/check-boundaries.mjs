// Holds the layout to its rules: imports flow core <- contract <- {server, rig, web}; SQL in stores, HTTP in routes.
import { readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { importsOf, root, sources } from './sources.mjs';

const ALLOWED = {
  core: [],
  study: ['core'],
  contract: ['core', 'study'],
  testing: ['core', 'study', 'contract'],
  rig: ['core', 'study', 'contract'],
  practice: ['core', 'study', 'contract', 'rig'],
  server: ['core', 'study', 'contract', 'practice'],
  web: ['core', 'study', 'contract'],
  cli: ['core', 'contract', 'server'],
  demo: ['core', 'study', 'contract', 'server', 'rig'],
  e2e: ['study', 'contract'],
};
const problems = [];

for (const [workspace, allowed] of Object.entries(ALLOWED)) {
  for (const path of sources(join(root, workspace))) {
    const name = relative(root, path);
    const text = readFileSync(path, 'utf8');
    const isTest = /\.test\.tsx?$|\/tests\//.test(name);
    for (const target of importsOf(path)) {
      const other = /^@red-ember\/(\w+)/.exec(target)?.[1];
      if (other && other !== workspace && !allowed.includes(other) && !(other === 'testing' && isTest))
        problems.push(`${name} imports ${target}; ${workspace} may use only ${allowed.join(', ') || 'nothing of the others'}`);
      if (target.startsWith('.')) {
        const reached = relative(root, join(path, '..', target)).split('/')[0];
        if (reached !== workspace) problems.push(`${name} reaches into ${reached} by a relative path`);
      }
      if (workspace === 'core' && (target.startsWith('node:') || ['react', 'express'].includes(target)) && !isTest)
        problems.push(`${name} imports ${target}; the core is pure`);
      if (target === 'express' && !/(routes|app|problems|security|serve|forward|hub)\.ts$/i.test(name) && !isTest)
        problems.push(`${name} imports express; HTTP belongs in routes.ts and http/`);
    }
    if (isTest) continue;
    if (/\.prepare\(/.test(text) && !/store\.ts$/i.test(name) && !/\/database\//.test(name))
      problems.push(`${name} holds SQL, which belongs in store.ts or database/`);
    if (
      workspace === 'core' &&
      /\b(Date\.now|new Date\(\)|Math\.random|process\.|document\.|localStorage|globalThis)/.test(
        text.replace(/\/\*[\s\S]*?\*\/|\/\/.*$/gm, ''),
      )
    )
      problems.push(`${name} asks the world for something; the core is pure`);
    if (workspace === 'web' && /\bfetch\(/.test(text)) problems.push(`${name} fetches by itself; go through data/api.ts`);
  }
}

for (const problem of problems) console.error(problem);
console.log(problems.length === 0 ? 'Imports and layers are as they should be.' : `${problems.length} crossings.`);
process.exit(problems.length === 0 ? 0 : 1);
