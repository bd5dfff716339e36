import type { PieceId, ClipId } from './ids';
import { programIn } from './actor';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { CLIP_LIMITS, emptyClip } from '@/core/hearing';
import { makePiece } from '@/core/score';
import { beginClip, clipStream, complete, rangeOf, takeChunk } from './clips';
import type { Db } from './db/connection';
import { createPiece } from './pieces';
import {
  clipChunk,
  clipOverview,
  getClip,
  insertClip,
  keepClip,
  listClips,
  putChunk,
  putClipDocument,
  setClipDeleted,
} from './repositories/clips';
import { ensureStudio } from './repositories/studios';
import { freshDatabase } from './test-support/database';

let db: Db;
let close: () => Promise<void>;
let piece = '';
const MINE = 'mine';
const OTHER = 'other';

beforeAll(async () => {
  ({ db, close } = await freshDatabase());
  await ensureStudio(db, MINE, 'Mine');
  await ensureStudio(db, OTHER, 'Other');
  piece = must(await createPiece(db, programIn(MINE), makePiece('new', 'Piece'))).id;
});
afterAll(() => close());

/** Bytes that begin as a FLAC does, each different from its neighbours. */
const sound = (length: number): Uint8Array =>
  Uint8Array.from({ length }, (_, i) => 'fLaC'.charCodeAt(i) || (i * 31 + (i >> 8)) % 256);
const parts = (bytes: Uint8Array): Uint8Array[] =>
  Array.from({ length: Math.ceil(bytes.length / CLIP_LIMITS.chunk) }, (_, n) =>
    bytes.subarray(n * CLIP_LIMITS.chunk, (n + 1) * CLIP_LIMITS.chunk),
  );
async function read(stream: ReadableStream<Uint8Array>): Promise<Uint8Array> {
  return new Uint8Array(await new Response(stream).arrayBuffer());
}
async function brought(bytes: Uint8Array, studio = MINE): Promise<string> {
  const id = must(
    await beginClip(db, programIn(studio), { piece: piece as PieceId, name: 'Take', bytes: bytes.length }),
  );
  for (const [n, part] of parts(bytes).entries())
    expect(must(await takeChunk(db, programIn(studio), id, n, part))).toBe(n + 1);
  return id;
}

describe('a recording', () => {
  it('comes in by chunks and is read by any range, over their borders too', async () => {
    const bytes = sound(2.5 * CLIP_LIMITS.chunk);
    const id = await brought(bytes);
    const clip = await getClip(db, programIn(MINE), id as ClipId);
    expect(clip && complete(clip)).toBe(true);
    expect(clip).toMatchObject({ type: 'audio/flac', bytes: bytes.length, chunks: 3, state: 'arriving' });
    for (const [from, to] of [
      [0, bytes.length - 1],
      [0, 0],
      [CLIP_LIMITS.chunk - 3, CLIP_LIMITS.chunk + 3],
      [bytes.length - 5, bytes.length - 1],
    ] as const) {
      expect(
        Buffer.compare(
          await read(clipStream(db, programIn(MINE), id as ClipId, from, to)),
          bytes.subarray(from, to + 1),
        ),
      ).toBe(0);
    }
  });

  it('goes on where it stopped: chunks in turn, each taken once', async () => {
    const bytes = sound(CLIP_LIMITS.chunk + 10);
    const id = must(
      await beginClip(db, programIn(MINE), { piece: piece as PieceId, name: 'Take', bytes: bytes.length }),
    );
    const [first, second] = parts(bytes) as [Uint8Array, Uint8Array];
    expect(await takeChunk(db, programIn(MINE), id, 1, second)).toMatchObject({
      ok: false,
      error: { rule: 'out-of-turn', locus: { path: ['0'] } },
    });
    expect(must(await takeChunk(db, programIn(MINE), id, 0, first))).toBe(1);
    expect(must(await takeChunk(db, programIn(MINE), id, 0, first))).toBe(1);
    const clip = await getClip(db, programIn(MINE), id);
    expect(clip && complete(clip)).toBe(false);
    expect(
      await Promise.all([takeChunk(db, programIn(MINE), id, 1, second), takeChunk(db, programIn(MINE), id, 1, second)]),
    ).toEqual([
      { ok: true, value: 2 },
      { ok: true, value: 2 },
    ]);
    expect(Buffer.compare(await read(clipStream(db, programIn(MINE), id, 0, bytes.length - 1)), bytes)).toBe(0);
  });

  it('is refused with the reason when it is no sound, too large, empty, cut, or of no piece', async () => {
    const code = (made: { ok: boolean; error?: { rule: string } }): string | undefined => made.error?.rule;
    const id = must(await beginClip(db, programIn(MINE), { piece: piece as PieceId, name: 'x', bytes: 100 }));
    expect(code((await takeChunk(db, programIn(MINE), id, 0, new Uint8Array(100))) as never)).toBe('not-sound');
    expect(code((await takeChunk(db, programIn(MINE), id, 0, sound(99))) as never)).toBe('bad-chunk');
    expect(code((await takeChunk(db, programIn(MINE), id, -1, sound(100))) as never)).toBe('bad-chunk');
    expect(code((await takeChunk(db, programIn(MINE), 'nowhere' as ClipId, 0, sound(100))) as never)).toBe('no-clip');
    expect(
      code((await beginClip(db, programIn(MINE), { piece: piece as PieceId, name: 'x', bytes: 0 })) as never),
    ).toBe('empty');
    expect(
      code(
        (await beginClip(db, programIn(MINE), {
          piece: piece as PieceId,
          name: 'x',
          bytes: CLIP_LIMITS.bytes + 1,
        })) as never,
      ),
    ).toBe('too-large');
    expect(
      code((await beginClip(db, programIn(MINE), { piece: 'none' as PieceId, name: 'x', bytes: 10 })) as never),
    ).toBe('no-piece');
  });

  it('keeps its measures and what was laid on it, and never over another window’s work', async () => {
    const id = await brought(sound(400));
    expect(
      await keepClip(db, programIn(MINE), id as ClipId, {
        seconds: 2,
        rate: 44_100,
        channels: 2,
        overview: new Uint8Array([1, 2, 3]),
      }),
    ).toBe(true);
    expect([...((await clipOverview(db, programIn(MINE), id as ClipId)) ?? [])]).toEqual([1, 2, 3]);
    const marked = {
      ...emptyClip('Take'),
      marks: [
        { bar: 0, at: 0.5 },
        { bar: 1, at: 2.5 },
      ],
    };
    expect(await putClipDocument(db, programIn(MINE), id as ClipId, 0, marked)).toBe(1);
    expect(await putClipDocument(db, programIn(MINE), id as ClipId, 0, emptyClip('Other window'))).toBeNull();
    expect(await getClip(db, programIn(MINE), id as ClipId)).toMatchObject({
      state: 'kept',
      seconds: 2,
      revision: 1,
      document: marked,
    });
    expect(await setClipDeleted(db, programIn(MINE), id as ClipId, true)).toBe(true);
    expect(await getClip(db, programIn(MINE), id as ClipId)).toBeNull();
    expect(await setClipDeleted(db, programIn(MINE), id as ClipId, false)).toBe(true);
    expect((await listClips(db, programIn(MINE), piece as PieceId)).map((clip) => clip.id)).toContain(id);
  });
});

describe('ranges', () => {
  it('are read as browsers ask for them', () => {
    expect(rangeOf(null, 10)).toEqual({ from: 0, to: 9 });
    expect(['bytes=0-', 'bytes=2-4', 'bytes=-3', 'bytes=5-99'].map((h) => rangeOf(h, 10))).toEqual([
      { from: 0, to: 9 },
      { from: 2, to: 4 },
      { from: 7, to: 9 },
      { from: 5, to: 9 },
    ]);
    expect(
      ['bytes=10-', 'bytes=5-2', 'bytes=-', 'lines=1-2', 'bytes=a-b', 'bytes=0-1,3-4'].map((h) => rangeOf(h, 10)),
    ).toEqual([null, null, null, null, null, null]);
  });
});

describe('another studio', () => {
  it('neither hears nor changes a recording of this one', async () => {
    const bytes = sound(300);
    const id = await brought(bytes);
    await keepClip(db, programIn(MINE), id as ClipId, {
      seconds: 1,
      rate: 44_100,
      channels: 1,
      overview: new Uint8Array([9]),
    });
    const before = await getClip(db, programIn(MINE), id as ClipId);
    expect(await getClip(db, programIn(OTHER), id as ClipId)).toBeNull();
    expect(await listClips(db, programIn(OTHER), piece as PieceId)).toEqual([]);
    expect(await clipChunk(db, programIn(OTHER), id as ClipId, 0)).toBeNull();
    expect(await clipOverview(db, programIn(OTHER), id as ClipId)).toBeNull();
    expect(await putChunk(db, programIn(OTHER), id as ClipId, 0, bytes)).toBeNull();
    expect(
      await keepClip(db, programIn(OTHER), id as ClipId, {
        seconds: 9,
        rate: 1,
        channels: 9,
        overview: new Uint8Array(),
      }),
    ).toBe(false);
    expect(await putClipDocument(db, programIn(OTHER), id as ClipId, 0, emptyClip('Stolen'))).toBeNull();
    expect(await setClipDeleted(db, programIn(OTHER), id as ClipId, true)).toBe(false);
    expect(
      await insertClip(db, programIn(OTHER), {
        id: 'theirs' as ClipId,
        piece: piece as PieceId,
        type: 'audio/wav',
        bytes: 1,
        document: emptyClip('x'),
      }),
    ).toBe(false);
    expect((await beginClip(db, programIn(OTHER), { piece: piece as PieceId, name: 'x', bytes: 10 })).ok).toBe(false);
    await expect(read(clipStream(db, programIn(OTHER), id as ClipId, 0, 10))).rejects.toThrow();
    expect(await getClip(db, programIn(MINE), id as ClipId)).toEqual(before);
  });
});
