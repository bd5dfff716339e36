// Puts the piece of the form benches into the database of DATABASE_URL, and prints its id.
import { must } from '../../src/core/base';
import { programIn } from '../../src/server/actor';
import { connect } from '../../src/server/db/connection';
import { DEMO_STUDIO } from '../../src/server/demo';
import { createPiece } from '../../src/server/pieces';
import { bigPiece } from './big-form';

const db = connect(process.env.DATABASE_URL ?? '', 2, true);
const piece = must(await createPiece(db, programIn(DEMO_STUDIO.id), { ...bigPiece(), lastId: 100_000_000 }));
process.stdout.write(piece.id);
await db.destroy();
