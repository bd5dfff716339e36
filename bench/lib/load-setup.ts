// Puts into the database of DATABASE_URL what the load bench reads and edits: a piece of 300 bars, and pieces to edit.
import { must } from '../../src/core/base';
import { makeSetup } from '../../src/core/instrument';
import { makeEvent, makeNote, makePart, makePiece, makeRiff } from '../../src/core/score';
import { quarter } from '../../src/core/time';
import { programIn } from '../../src/server/actor';
import { connect } from '../../src/server/db/connection';
import { DEMO_STUDIO } from '../../src/server/demo';
import { createPiece } from '../../src/server/pieces';

const db = connect(process.env.DATABASE_URL ?? '', 2, true);
const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const long = (title: string, bars: number) =>
  makePiece('new', title, {
    lastId: 100_000_000,
    parts: [
      makePart('p0', 'Guitar', setup, {
        riffs: [
          makeRiff('r0', 'Riff', {
            bars,
            events: Array.from({ length: bars * 8 }, (_, i) =>
              makeEvent(`e${i}`, quarter(i, 2), quarter(1, 2), [makeNote(`n${i}`, 45 + ((i * 7) % 24), 'instructor')]),
            ),
          }),
        ],
      }),
    ],
  });
const pieces: string[] = [];
for (let i = 0; i < 21; i++)
  pieces.push(must(await createPiece(db, programIn(DEMO_STUDIO.id), long(`Load ${i}`, 300))).id);
process.stdout.write(JSON.stringify(pieces));
await db.destroy();
