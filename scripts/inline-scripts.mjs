// After the build: the fingerprints of the scripts within each built page, for the policy that says which may run
// (`src/proxy.ts`). Built pages are the same for everyone, so no nonce can stand in them.
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from './lib/system.mjs';

const built = path.join(ROOT, '.next', 'server', 'app');
const pages = {};
for (const file of readdirSync(built, { recursive: true })) {
  if (!file.endsWith('.html')) continue;
  const found = new Set();
  const html = readFileSync(path.join(built, file), 'utf8');
  for (const [, attributes, script] of html.matchAll(/<script([^>]*)>([\s\S]*?)<\/script>/g))
    if (!/\ssrc=/.test(attributes) && script !== '')
      found.add(`sha256-${createHash('sha256').update(script).digest('base64')}`);
  const address = `/${file
    .replace(/\.html$/, '')
    .split(path.sep)
    .join('/')}`;
  pages[address === '/index' ? '/' : address] = [...found];
}
if (!pages['/']?.length) throw new Error('the build holds no page: run it with npm run build');
writeFileSync(path.join(ROOT, '.next', 'inline-scripts.json'), JSON.stringify(pages));
