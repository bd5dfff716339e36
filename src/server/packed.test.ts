import { randomUUID } from 'node:crypto';
import { gunzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { applied, type Step } from '@/core/edit';
import { makePart, makePiece, makeRiff, SCHEMA_VERSION, type Piece } from '@/core/score';
import { makeSetup } from '@/core/instrument';
import { programIn } from './actor';
import type { Db } from './db/connection';
import type { PieceId } from './ids';
import { packedPiece } from './packed';
import { createPiece, openPiece, saveSteps } from './pieces';
import { firstRiff, pieceHead, setDeleted } from './repositories/pieces';
import { ensureStudio } from './repositories/studios';
import { freshDatabase } from './test-support/database';

let db: Db;
let close: () => Promise<void>;
const MINE = programIn('mine');
const OTHER = programIn('other');

beforeAll(async () => {
  ({ db, close } = await freshDatabase());
  await ensureStudio(db, 'mine', 'Mine');
  await ensureStudio(db, 'other', 'Other');
});
afterAll(() => close());

const put = async (piece: Piece): Promise<{ readonly id: PieceId; readonly document: Piece }> => {
  const document = must(await createPiece(db, MINE, piece));
  return { id: document.id as PieceId, document };
};
const unpacked = (bytes: Uint8Array | null): unknown => bytes && JSON.parse(gunzipSync(bytes).toString('utf8'));
const renamed = async (id: PieceId, document: Piece, revision: number, title: string): Promise<void> => {
  const edit = { type: 'patchPiece' as const, set: { title }, clear: [] };
  const { inverse } = applied(document, edit);
  const step: Step = { version: SCHEMA_VERSION, kind: 'do', edit, inverse, what: 'a name' };
  expect(await saveSteps(db, MINE, id, revision, randomUUID(), [step])).toMatchObject({ status: 'saved' });
};

describe('a piece as it is sent', () => {
  it('is what it is opened as, packed once a revision, and anew after a save', async () => {
    const { id, document } = await put(makePiece('new', 'Packed'));
    const first = await packedPiece(db, MINE, id);
    expect(unpacked(first)).toEqual(await openPiece(db, MINE, id));
    expect(await packedPiece(db, MINE, id)).toBe(first);
    await renamed(id, document, 0, 'Packed anew');
    const second = await packedPiece(db, MINE, id);
    expect(second).not.toBe(first);
    expect(unpacked(second)).toMatchObject({ revision: 1, document: { title: 'Packed anew' } });
    expect(unpacked(second)).toEqual(JSON.parse(JSON.stringify(await openPiece(db, MINE, id))));
  });

  it('is nobody else’s, and not there while it is off the shelf, however well it is remembered', async () => {
    const { id } = await put(makePiece('new', 'Mine alone'));
    expect(await packedPiece(db, MINE, id)).not.toBeNull();
    expect(await packedPiece(db, OTHER, id)).toBeNull();
    expect(await pieceHead(db, OTHER, id)).toBeNull();
    expect(await firstRiff(db, OTHER, id)).toBeUndefined();
    await setDeleted(db, MINE, id, true);
    expect(await packedPiece(db, MINE, id)).toBeNull();
    expect(await pieceHead(db, MINE, id)).toBeNull();
  });
});

describe('what a page says before the piece has come', () => {
  it('is its name as last saved, and which riff it begins with', async () => {
    const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
    const empty = await put(makePiece('new', 'No riff'));
    expect(await firstRiff(db, MINE, empty.id)).toBeNull();
    const parts = [makePart('p0', 'Lamp', setup), makePart('p1', 'Wing', setup, { riffs: [makeRiff('r7', 'Wing')] })];
    const { id, document } = await put(makePiece('new', 'Two parts', { lastId: 100, parts }));
    expect(await firstRiff(db, MINE, id)).toBe('r7');
    expect(await pieceHead(db, MINE, id)).toEqual({ title: 'Two parts', revision: 0 });
    await renamed(id, document, 0, 'Three');
    expect(await pieceHead(db, MINE, id)).toEqual({ title: 'Three', revision: 1 });
  });
});
