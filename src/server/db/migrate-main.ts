import { connect } from './connection';
import { migrate } from './migrate';
import { loadDemo } from '../demo';

/** Run by the scripts: migrate the database of DATABASE_URL, and with --demo load the demo studio once. */
const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set');
const db = connect(url, 2, true);
try {
  const done = await migrate(db, url);
  if (done.length > 0) console.log(`· database brought to ${done.at(-1)}`);
  if (process.argv.includes('--demo')) {
    const loaded = await loadDemo(db);
    if (loaded > 0) console.log(`· demo studio loaded: ${loaded} pieces`);
  }
} finally {
  await db.destroy();
}
