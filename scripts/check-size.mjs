// The first screen must work with under 350 kB of compressed script: index.html's script and all it loads before drawing.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';

const LIMIT = 350_000;
const dist = join(import.meta.dirname, '../web/dist');
const seen = new Set();

function load(path) {
  if (seen.has(path)) return 0;
  seen.add(path);
  const text = readFileSync(join(dist, path));
  let bytes = gzipSync(text).length;
  for (const [, file] of text.toString('utf8').matchAll(/(?:from|import)\s*["']\.\/([\w.-]+\.js)["']/g)) bytes += load(`assets/${file}`);
  return bytes;
}

const html = readFileSync(join(dist, 'index.html'), 'utf8');
const entries = [...html.matchAll(/(?:src|href)="\/(assets\/[\w.-]+\.js)"/g)].map((match) => match[1]);
const bytes = entries.reduce((sum, entry) => sum + load(entry), 0);
console.log(`First screen: ${(bytes / 1000).toFixed(0)} kB of compressed script in ${seen.size} files (limit ${LIMIT / 1000} kB).`);
process.exit(entries.length > 0 && bytes < LIMIT ? 0 : 1);
