// The sources of the workspaces and what they import, for the checks of the layout.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

export const root = join(import.meta.dirname, '..');
export const WORKSPACES = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')).workspaces;

/** Paths of the TypeScript files under a folder. */
export function* sources(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (['node_modules', 'dist', 'public'].includes(entry.name)) continue;
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* sources(path);
    else if (/\.(ts|tsx)$/.test(entry.name)) yield path;
  }
}

/** What a file imports, as it is written. */
export function importsOf(path) {
  const text = readFileSync(path, 'utf8').replace(/\/\*[\s\S]*?\*\//g, '');
  return [...text.matchAll(/\b(?:from|import)\s*\(?\s*['"]([^'"]+)['"]/g)].map(([, target]) => target);
}
