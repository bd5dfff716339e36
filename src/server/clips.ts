import type { ClipId, PieceId } from './ids';
import type { Actor } from './actor';
import { randomBytes } from 'node:crypto';
import { fail, ok, type Result } from '@/core/base';
import { CLIP_LIMITS, CLIP_TYPES, clipKind, emptyClip } from '@/core/hearing';
import type { Db } from './db/connection';
import { clipChunk, getClip, insertClip, putChunk, type ClipEntry } from './repositories/clips';

/** The rules of keeping recordings: how they come in, how they are read. Every function acts for one studio. */

const megabytes = (bytes: number): string => `${Math.round(bytes / 1048576)} MB`;

/** Announces a clip that is about to come in. */
export async function beginClip(
  db: Db,
  actor: Actor,
  clip: { readonly piece: PieceId; readonly name: string; readonly bytes: number },
): Promise<Result<ClipId>> {
  if (!(clip.bytes > 0)) return fail('empty', 'The file is empty. Save the recording again.', 'file');
  if (clip.bytes > CLIP_LIMITS.bytes)
    return fail(
      'too-large',
      `The file has ${megabytes(clip.bytes)}; ${megabytes(CLIP_LIMITS.bytes)} at most. Cut out the part you work on, or save it as FLAC.`,
      'file',
    );
  const id = randomBytes(9).toString('hex') as ClipId;
  // What it is shows with its first chunk.
  const there = await insertClip(db, actor, {
    id,
    piece: clip.piece,
    type: 'application/octet-stream',
    bytes: clip.bytes,
    document: emptyClip(clip.name),
  });
  return there ? ok(id) : fail('no-piece', 'This piece is not on the shelf any more.', clip.piece);
}

/** Takes a chunk of a clip that is coming in; gives the number of the next one. A chunk sent twice is taken once. */
export async function takeChunk(
  db: Db,
  actor: Actor,
  id: ClipId,
  number: number,
  bytes: Uint8Array,
): Promise<Result<number>> {
  const clip = await getClip(db, actor, id);
  if (!clip) return fail('no-clip', 'This recording is not here. Begin again.', id);
  const last = Math.ceil(clip.bytes / CLIP_LIMITS.chunk) - 1;
  const size = number < last ? CLIP_LIMITS.chunk : clip.bytes - last * CLIP_LIMITS.chunk;
  if (number < 0 || number > last)
    return fail('bad-chunk', `The recording has chunks 0 to ${last}; this is ${number}.`, String(number));
  if (bytes.length !== size)
    return fail('bad-chunk', `Chunk ${number} has ${bytes.length} bytes, not ${size}. Send it again.`, String(number));
  if (number === 0) {
    const kind = clipKind(bytes);
    if (!kind)
      return fail(
        'not-sound',
        'The file is no WAV, FLAC, MP3, Ogg or M4A. Save the recording as one of these.',
        'file',
      );
    await db
      .updateTable('clip')
      .set({ type: CLIP_TYPES[kind] })
      .where('studio_id', '=', actor.studio)
      .where('id', '=', id)
      // Sent again it can't become something else.
      .where('chunks', '=', 0)
      .execute();
  }
  const next = await putChunk(db, actor, id, number, bytes);
  return next === null
    ? fail(
        'out-of-turn',
        `Chunk ${number} came before chunk ${clip.chunks}. Go on from ${clip.chunks}.`,
        String(clip.chunks),
      )
    : ok(next);
}

/** Whether all of a clip has come in. */
export const complete = (clip: ClipEntry): boolean => clip.chunks === Math.ceil(clip.bytes / CLIP_LIMITS.chunk);

/** Chunks read ahead of the one that is sent: the database reads while the line sends. */
const READ_AHEAD = 3;

/** The bytes `from` to `to` (both within) of a clip, chunk by chunk as they are asked for. */
export function clipStream(db: Db, actor: Actor, id: ClipId, from: number, to: number): ReadableStream<Uint8Array> {
  const last = Math.floor(to / CLIP_LIMITS.chunk);
  let number = Math.floor(from / CLIP_LIMITS.chunk);
  const ahead: Promise<Buffer | null>[] = [];
  return new ReadableStream({
    async pull(controller) {
      if (number > last) return controller.close();
      while (ahead.length < READ_AHEAD && number + ahead.length <= last) {
        const reading = clipChunk(db, actor, id, number + ahead.length);
        // Told where its turn comes; nobody waits for it when the line is cut before.
        reading.catch(() => undefined);
        ahead.push(reading);
      }
      const chunk = await ahead.shift();
      if (!chunk) return controller.error(new Error(`chunk ${number} of clip ${id} is missing`));
      const start = number * CLIP_LIMITS.chunk;
      number++;
      controller.enqueue(chunk.subarray(Math.max(0, from - start), to - start + 1));
    },
  });
}

/** "bytes=0-99" as first and last byte within a length; null where it asks for nothing that is there. */
export function rangeOf(header: string | null, length: number): { readonly from: number; readonly to: number } | null {
  if (!header) return { from: 0, to: length - 1 };
  const match = /^bytes=(\d*)-(\d*)$/.exec(header.trim());
  if (!match || (match[1] === '' && match[2] === '')) return null;
  const from = match[1] === '' ? Math.max(0, length - Number(match[2])) : Number(match[1]);
  const to = match[1] === '' || match[2] === '' ? length - 1 : Math.min(length - 1, Number(match[2]));
  return from <= to && from < length ? { from, to } : null;
}
