// Makes the schemas of everything the server answers out of its types: node scripts/schemas.mjs [--check]
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createGenerator } from 'ts-json-schema-generator';
import { root } from './sources.mjs';

const FILE = join(root, 'server/src/openapi/answers.schema.json');

const { definitions } = createGenerator({
  path: join(root, 'contract/src/answers.ts'),
  tsconfig: join(root, 'tsconfig.base.json'),
  type: 'Answers',
  skipTypeCheck: true,
  topRef: true,
  additionalProperties: false,
}).createSchema('Answers');

/** Degrees of freedom without end are Infinity in the core, and null in JSON. */
function onTheWire(value, key = '') {
  if (Array.isArray(value)) return value.map((inner) => onTheWire(inner));
  if (value === null || typeof value !== 'object') return value;
  if ((key === 'dof' || key === 'k') && value.type === 'number') return { ...value, type: ['number', 'null'] };
  return Object.fromEntries(Object.entries(value).map(([name, inner]) => [name, onTheWire(inner, name)]));
}

/** Bodies have schemas of their own, made of their checks: what is answered has other names. Generic types lose the signs that a reference cannot hold. */
const nameOf = (name) => name.replace(/Body\b/g, 'Answer').replace(/[^\w.-]/g, '_');
const named = Object.fromEntries(Object.entries(definitions).map(([name, schema]) => [nameOf(name), schema]));
const text = `${JSON.stringify(onTheWire(named), null, 1).replace(
  /"#\/definitions\/([^"]+)"/g,
  (_, name) => `"#/components/schemas/${nameOf(decodeURIComponent(name))}"`,
)}\n`;

if (process.argv.includes('--check')) {
  const fresh = readFileSync(FILE, 'utf8') === text;
  console.log(fresh ? 'Schemas of the answers are fresh.' : 'Schemas of the answers are older than their types: run npm run schemas.');
  process.exit(fresh ? 0 : 1);
}
writeFileSync(FILE, text);
