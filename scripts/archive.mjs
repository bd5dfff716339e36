// npm run archive -- FILE.zip   everything of the studio into one file
// npm run restore -- FILE.zip   an archive back into the studio, on any machine
// Of the database DATABASE_URL names, or where it is not set, of the demo's.
import path from 'node:path';
import { checkNode, ensureModules, ensureSystem, run, Stop, withEnd } from './lib/system.mjs';
import { ensureDatabase, startPostgres } from './lib/postgres.mjs';

const [verb, file] = process.argv.slice(2);
await withEnd(
  async () => {
    if (!file) throw new Stop(`Say which file: npm run ${verb === 'make' ? 'archive' : 'restore'} -- FILE.zip`);
    checkNode();
    await ensureModules();
    let url = process.env.DATABASE_URL;
    if (!url) {
      ensureSystem({ browser: false });
      const server = await startPostgres('demo');
      ensureDatabase(server, 'intonazione');
      url = server.url('intonazione');
    }
    await run(process.execPath, ['--import', 'tsx', 'src/server/archive/main.ts', verb, path.resolve(file)], {
      env: { ...process.env, DATABASE_URL: url },
    });
  },
  async () => undefined,
);
