// npm run bench: every benchmark prints its figures. Give names to run some: npm run bench -- place
import { readdirSync } from 'node:fs';
import path from 'node:path';
import { checkNode, ensureModules, ROOT, run, say, withEnd } from './lib/system.mjs';

const wanted = process.argv.slice(2).filter((a) => !a.startsWith('--'));
const flags = process.argv.slice(2).filter((a) => a.startsWith('--'));
await withEnd(
  async () => {
    checkNode();
    await ensureModules();
    const all = readdirSync(path.join(ROOT, 'bench')).filter(
      (f) => f.endsWith('.bench.ts') || f.endsWith('.bench.mjs'),
    );
    for (const file of all.filter((f) => wanted.length === 0 || wanted.some((w) => f.startsWith(w)))) {
      say(file);
      await run(process.execPath, ['--expose-gc', '--import', 'tsx', path.join('bench', file), ...flags]);
    }
  },
  async () => {},
);
