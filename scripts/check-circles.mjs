// No file and no folder may come back to itself by its imports. A folder is a feature: core/src/judge, server/src/runs, web/src/read.
import { dirname, join, relative } from 'node:path';
import { importsOf, root, sources, WORKSPACES } from './sources.mjs';

const isTest = (name) => /\.test\.|\.spec\.|\/tests?\//.test(name);
const folderOf = (name) => name.split('/').slice(0, 3).join('/');

/** Strongly connected parts of more than one node (Tarjan 1972), as sorted lists. */
function circles(graph) {
  const [index, low, open, stack, found] = [new Map(), new Map(), new Set(), [], []];
  const visit = (node) => {
    index.set(node, index.size);
    low.set(node, index.get(node));
    open.add(node);
    stack.push(node);
    for (const next of graph.get(node) ?? []) {
      if (!index.has(next)) visit(next);
      if (open.has(next)) low.set(node, Math.min(low.get(node), low.get(next)));
    }
    if (low.get(node) !== index.get(node)) return;
    const part = stack.splice(stack.indexOf(node));
    for (const member of part) open.delete(member);
    if (part.length > 1) found.push(part.sort());
  };
  for (const node of graph.keys()) if (!index.has(node)) visit(node);
  return found;
}

const files = new Map();
const folders = new Map();
for (const workspace of WORKSPACES)
  for (const path of sources(join(root, workspace))) {
    const name = relative(root, path);
    if (isTest(name)) continue;
    const targets = importsOf(path)
      .filter((target) => target.startsWith('.'))
      .map((target) => relative(root, join(dirname(path), target)));
    files.set(name, targets);
    // What lies beside the folders, such as index.ts or services.ts, wires them together and ties nothing by itself.
    if (name.split('/').length <= 3) continue;
    const others = targets.filter((target) => target.split('/').length > 3 && folderOf(target) !== folderOf(name)).map(folderOf);
    folders.set(folderOf(name), [...(folders.get(folderOf(name)) ?? []), ...others]);
  }

const [inFiles, inFolders] = [circles(files), circles(folders)];
for (const part of inFiles) console.error(`files: ${part.join(' ')}`);
for (const part of inFolders) console.error(`folders: ${part.join(' ')}`);
console.log(`${inFiles.length} circles of files, ${inFolders.length} of folders`);
process.exit(inFiles.length + inFolders.length === 0 ? 0 : 1);
