import { createReadStream, createWriteStream } from 'node:fs';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { programIn } from '../actor';
import { connect } from '../db/connection';
import { migrate } from '../db/migrate';
import { DEMO_STUDIO } from '../demo';
import { ensureStudio } from '../repositories/studios';
import { readArchive } from './read';
import { writeArchive } from './write';

/** Run by scripts/archive.mjs: `make FILE` or `restore FILE`, on the database of DATABASE_URL. */
const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set');
const [verb, file] = process.argv.slice(2);
if (file === undefined || (verb !== 'make' && verb !== 'restore')) throw new Error('make FILE or restore FILE');
const db = connect(url, 2, true);
try {
  await migrate(db, url);
  await ensureStudio(db, DEMO_STUDIO.id, DEMO_STUDIO.name);
  const actor = programIn(DEMO_STUDIO.id);
  if (verb === 'make') {
    await pipeline(Readable.from(writeArchive(db, actor, new Date())), createWriteStream(file));
    console.log(`· archive written to ${file}`);
  } else {
    const done = await readArchive(db, actor, createReadStream(file));
    if (!done.ok) {
      console.error(done.error.words);
      process.exitCode = 1;
    } else {
      const { pieces, clips, kept } = done.value;
      console.log(`· put back: ${pieces} pieces, ${clips} recordings; ${kept} pieces were here already`);
    }
  }
} finally {
  await db.destroy();
}
