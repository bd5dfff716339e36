import type { Actor, StudioId } from './actor';
import type { PieceId, RefusedId } from './ids';
import { randomBytes } from 'node:crypto';
import { fail, ok, wellFormed, type Result } from '@/core/base';
import { applyEdit, MOST_EDITS, touchesOf, type Aspect, type SimpleEdit, type Step } from '@/core/edit';
import { readPiece, type Piece } from '@/core/score';
import { PATIENCE } from './db/connection';
import { RecentDocuments } from './recent-documents';
import { Turns } from './turns';
import type { Db } from './db/connection';
import {
  appendSteps,
  appendStepsAt,
  getRefused,
  keepRefused,
  lastDone,
  savedRevision,
  settleRefused,
  stepsAfter,
  type AppendedSteps,
  type LastDone,
} from './repositories/history';
import { enqueue, jobCall, type Job } from './jobs/queue';
import { askedFor, type AskedFor } from './repositories/desk';
import { getPiece, insertPiece, lockPiece, updatePiece } from './repositories/pieces';

/** The rules of keeping pieces: revisions, history, stale saves. Every function acts for one studio. */

/** A piece as a page opens it. Its history is asked for when it is wanted. */
export interface OpenPiece {
  readonly document: Piece;
  readonly revision: number;
  readonly last: LastDone | null;
  /** For whom it is made, where it was asked for. */
  readonly asked: AskedFor | null;
}

export type SaveAnswer =
  | { readonly status: 'saved'; readonly revision: number }
  /** Someone else saved first. Nothing was overwritten; the version refused is kept under `refusedId`. */
  | { readonly status: 'stale'; readonly current: OpenPiece; readonly refusedId: RefusedId }
  /** A step can't be kept, and none of them was: the one with index `step`; null where that is not known. */
  | { readonly status: 'rejected'; readonly message: string; readonly step: number | null }
  /** The piece is not on the shelf: nothing of it can be saved now. */
  | { readonly status: 'gone'; readonly message: string };

/** Seconds a piece rests before the choices in it are logged and its document is written: not after every key. */
const REST_SECONDS = 20;
/** A document is at most so many steps behind, so that reading it stays quick. */
const MOST_BEHIND = 32;
/** What the shelf and the rack read out of the stored document: a step that touches it writes the document at once. */
const WRITES: ReadonlySet<Aspect> = new Set(['title', 'parts', 'setup', 'riffs', 'player', 'form']);

const recent = new RecentDocuments(12);
const turns = new Turns(PATIENCE.lock);

/** What is to be done for a piece when it has rested. */
export const choicesJob = (studio: StudioId, piece: PieceId, delaySeconds = 0): Job => ({
  task: 'log-choices',
  payload: { studio, piece },
  key: `choices ${piece}`,
  delaySeconds,
});

export const newPieceId = (): PieceId => randomBytes(6).toString('hex') as PieceId;

export async function openPiece(db: Db, actor: Actor, id: PieceId): Promise<OpenPiece | null> {
  const piece = await getPiece(db, actor, id);
  if (!piece) return null;
  const [last, asked] = await Promise.all([lastDone(db, actor, id), askedFor(db, actor, id)]);
  return { ...piece, last, asked };
}

/** Puts a new piece on the shelf under a fresh id. */
export async function createPiece(db: Db, actor: Actor, document: Piece): Promise<Result<Piece>> {
  const id = newPieceId();
  // A name cut to its length may be cut within a sign.
  const checked = readPiece(wellFormed({ ...document, id }));
  if (!checked.ok) return checked;
  await insertPiece(db, actor, checked.value);
  await enqueue(db, choicesJob(actor.studio, id));
  return ok(checked.value);
}

export async function duplicatePiece(db: Db, actor: Actor, id: PieceId): Promise<Result<Piece>> {
  const piece = await getPiece(db, actor, id);
  if (!piece) return fail('no-piece', 'This piece is not on the shelf any more.', id);
  return createPiece(db, actor, { ...piece.document, title: `${piece.document.title} (copy)`.slice(0, 160) });
}

const GONE =
  'This piece is not on the shelf any more. What you changed is kept on this device; the piece can be put back from the shelf.';

/**
 * Saves steps made on a revision. All or nothing, in one transaction that holds the piece. A save
 * sent twice (the answer got lost) is known by its id and answered as the first time.
 */
export async function saveSteps(
  db: Db,
  actor: Actor,
  pieceId: PieceId,
  baseRevision: number,
  saveId: string,
  steps: readonly Step[],
): Promise<SaveAnswer> {
  const appended = { piece: pieceId, from: baseRevision, save: saveId, steps };
  const { answer, made } = await turns.take(
    pieceId,
    async () =>
      (await savedAtOnce(db, actor, appended)) ?? db.transaction().execute((tx) => savedWhole(tx, actor, appended)),
  );
  if (made && answer.status === 'saved') recent.keep(pieceId, answer.revision, made);
  return answer;
}

/** The whole way of a save, in a transaction that holds the piece. */
async function savedWhole(tx: Db, actor: Actor, appended: AppendedSteps): Promise<SaveOutcome> {
  const { piece: id, from, save, steps } = appended;
  const piece = await lockPiece(tx, actor, id);
  if (!piece) return { answer: { status: 'gone', message: GONE } };
  // A save that is known has moved the piece on: as long as it stands where it was, this one is new.
  if (piece.revision !== from) {
    // Its own revision, not that of now: what someone else saved since must not be written over.
    const known = await savedRevision(tx, actor, id, save);
    if (known !== null) return { answer: { status: 'saved', revision: known } };
    return { answer: await refuse(tx, actor, id, from, save, steps) };
  }
  const before = recent.at(id, from) ?? (await getPiece(tx, actor, id))?.document;
  if (!before) return { answer: { status: 'gone', message: GONE } };
  const made = applied(before, steps);
  if (!made.ok)
    return { answer: { status: 'rejected', message: made.error.words, step: Number(made.error.locus.path?.[0] ?? 0) } };
  const revision = from + steps.length;
  if (revision - piece.documentRevision > MOST_BEHIND || writesAtOnce(steps))
    await updatePiece(tx, actor, made.value, revision);
  await appendSteps(tx, actor, appended, jobCall(choicesJob(actor.studio, id, REST_SECONDS)));
  return { answer: { status: 'saved', revision }, made: made.value };
}

const writesAtOnce = (steps: readonly Step[]): boolean =>
  steps.some(({ edit }) => touchesOf(edit).some((touch) => touch.aspects.some((aspect) => WRITES.has(aspect))));

/**
 * The ordinary save: small, of a piece this process knows as it stands. One question to the database, which does
 * nothing unless the piece stands there still; most of what a save takes is going there and back. Null where the whole
 * way has to be gone, which alone says what is wrong.
 */
async function savedAtOnce(db: Db, actor: Actor, appended: AppendedSteps): Promise<SaveOutcome | null> {
  const { piece, from, steps } = appended;
  const before = recent.at(piece, from);
  const made = before && !writesAtOnce(steps) ? applied(before, steps) : null;
  if (!made?.ok) return null;
  const revision = from + steps.length;
  const rests = jobCall(choicesJob(actor.studio, piece, REST_SECONDS));
  const done = await appendStepsAt(db, actor, appended, revision - MOST_BEHIND, rests);
  return done ? { answer: { status: 'saved', revision }, made: made.value } : null;
}

interface SaveOutcome {
  readonly answer: SaveAnswer;
  /** The document that was saved, to be known once it is. */
  readonly made?: Piece;
}

/** A piece as it was after one of its steps, and what leads back there from now, the last step first. */
export interface PastPiece {
  readonly document: Piece;
  readonly back: readonly SimpleEdit[];
  /** The revision of now that `back` begins at. */
  readonly from: number;
}

/** A piece as it was after a revision; a fault where it is too long ago, or too many changes back for one step. */
export async function pastPiece(db: Db, actor: Actor, id: PieceId, revision: number): Promise<Result<PastPiece>> {
  const piece = await getPiece(db, actor, id);
  if (!piece) return fail('no-piece', 'This piece is not on the shelf any more.', id);
  const since = await stepsAfter(db, actor, id, revision);
  const back = since?.flatMap(({ inverse }) => (inverse.type === 'batch' ? inverse.edits : [inverse]));
  if (!back || revision > piece.revision)
    return fail('condensed', 'What was changed so long ago is kept in words only: it can’t be seen as it was.', id);
  if (back.length > MOST_EDITS)
    return fail('too-far', `That is ${back.length} changes back; ${MOST_EDITS} at most can be taken back at once.`, id);
  let document = piece.document;
  for (const edit of back) {
    const before = applyEdit(document, edit);
    if (!before.ok) return before;
    document = before.value;
  }
  return ok({ document, back, from: piece.revision });
}

/** Writes the document of a piece that rests, where steps stand beside it. */
export async function writeDocument(db: Db, actor: Actor, id: PieceId): Promise<void> {
  await db.transaction().execute(async (tx) => {
    const there = await lockPiece(tx, actor, id);
    if (!there || there.documentRevision === there.revision) return;
    const piece = await getPiece(tx, actor, id);
    if (piece) await updatePiece(tx, actor, piece.document, piece.revision, 'resting');
  });
}

/** The document after steps; the fault's path begins with the index of the step that can't be made. */
function applied(document: Piece, steps: readonly Step[]): Result<Piece> {
  let current = document;
  for (const [index, step] of steps.entries()) {
    const next = applyEdit(current, step.edit);
    if (!next.ok) return { ok: false, error: { ...next.error, locus: { ...next.error.locus, path: [index] } } };
    current = next.value;
  }
  return ok(current);
}

/** Keeps the version a save would have made, under the save's own id: sent again, it is kept once. */
async function refuse(
  tx: Db,
  actor: Actor,
  pieceId: PieceId,
  baseRevision: number,
  saveId: string,
  steps: readonly Step[],
): Promise<SaveAnswer> {
  const current = await openPiece(tx, actor, pieceId);
  if (!current) return { status: 'gone', message: GONE };
  // The refused version is rebuilt from the revision it was made on: what came after is taken back first.
  let then = current.document;
  const since = await stepsAfter(tx, actor, pieceId, baseRevision);
  for (const { inverse } of since ?? []) {
    const before = applyEdit(then, inverse);
    if (before.ok) then = before.value;
  }
  const theirs = applied(then, steps);
  if (since === null || !theirs.ok || baseRevision > current.revision)
    return { status: 'rejected', message: 'It does not fit any version that is kept.', step: null };
  const refusedId = saveId as RefusedId;
  await keepRefused(tx, actor, {
    id: refusedId,
    pieceId,
    baseRevision,
    foundRevision: current.revision,
    document: theirs.value,
  });
  return { status: 'stale', current, refusedId };
}

/**
 * Settles a refused save: its version becomes a piece of its own beside the other, or is left in the archive. `more`
 * is what was done on it before that was decided; nothing of it is lost either way.
 */
export async function settleStale(
  db: Db,
  actor: Actor,
  refusedId: RefusedId,
  keep: boolean,
  more: readonly Step[] = [],
): Promise<Result<Piece | null>> {
  const refused = await getRefused(db, actor, refusedId);
  if (!refused) return fail('no-refused', 'That version is not kept any more.', refusedId);
  let document = refused;
  for (const step of more) {
    const next = applyEdit(document, step.edit);
    if (next.ok) document = next.value;
  }
  const made = keep
    ? await createPiece(db, actor, { ...document, title: `${document.title} (my version)`.slice(0, 160) })
    : ok(null);
  if (made.ok) await settleRefused(db, actor, refusedId, document);
  return made;
}
