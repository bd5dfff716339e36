// Refuses import circles, those of types alone too: the lint rules at hand leave types out. Part of `npm run lint`.
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';
import { ROOT } from './lib/system.mjs';

const SOURCES = ['src', 'demo', 'bench', 'e2e'];
const ENDINGS = ['', '.ts', '.tsx', '/index.ts'];

function filesBelow(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const full = path.join(folder, entry.name);
    if (entry.isDirectory()) return filesBelow(full);
    return /\.tsx?$/.test(entry.name) ? [full] : [];
  });
}

/** The file of the project that an import names, or null for a package. */
function resolved(from, name) {
  if (!name.startsWith('.') && !name.startsWith('@/')) return null;
  const base = name.startsWith('@/') ? path.join(ROOT, 'src', name.slice(2)) : path.resolve(path.dirname(from), name);
  return ENDINGS.map((end) => base + end).find((file) => existsSync(file) && statSync(file).isFile()) ?? null;
}

const importsOf = (file) =>
  ts
    .preProcessFile(readFileSync(file, 'utf8'))
    .importedFiles.map(({ fileName }) => resolved(file, fileName))
    .filter((target) => target !== null);

/** Groups of files that lead back to themselves (Tarjan's strongly connected components of two files or more). */
export function circles(graph) {
  const order = new Map();
  const low = new Map();
  const stack = [];
  const found = [];
  const visit = (file) => {
    order.set(file, order.size);
    low.set(file, order.get(file));
    stack.push(file);
    for (const next of graph.get(file) ?? []) {
      if (!order.has(next)) visit(next);
      if (stack.includes(next)) low.set(file, Math.min(low.get(file), low.get(next)));
    }
    if (low.get(file) !== order.get(file)) return;
    const group = stack.splice(stack.indexOf(file));
    if (group.length > 1 || graph.get(file)?.includes(file)) found.push(group);
  };
  for (const file of graph.keys()) if (!order.has(file)) visit(file);
  return found;
}

const files = SOURCES.map((name) => path.join(ROOT, name))
  .filter(existsSync)
  .flatMap(filesBelow);
const found = circles(new Map(files.map((file) => [file, importsOf(file)])));
for (const group of found) {
  console.error(`These files import each other: ${group.map((file) => path.relative(ROOT, file)).join(', ')}`);
}
if (found.length > 0) process.exit(1);
