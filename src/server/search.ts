import type { Actor } from './actor';
import type { PieceId, RequestId } from './ids';
import { fail, ok, type Result } from '@/core/base';
import type { Request } from '@/core/desk';
import type { Setup } from '@/core/instrument';
import { chainsOf, likeness, matchesOf, matchWords, saidIn, type MusicMatch, type SaidEntry } from '@/core/search';
import { calledToEvents, FIRST_LENGTH, readCalls } from '@/core/shorthand';
import { ZERO } from '@/core/time';
import { together, type Db } from './db/connection';
import { getPiece } from './repositories/pieces';
import {
  findMusic,
  findWords,
  replaceMusic,
  replaceSaid,
  type FoundWords,
  type RiffMusic,
} from './repositories/search';

/** Search: what a piece or a request says is read after it was saved, and looked through when somebody asks. */

/** Reads a piece for search, over what was read before; repeatable. */
export async function indexPiece(db: Db, actor: Actor, id: PieceId): Promise<void> {
  const piece = await getPiece(db, actor, id);
  if (!piece) return;
  const { document } = piece;
  const music = document.parts.flatMap((part) =>
    part.riffs.flatMap((riff): RiffMusic[] => {
      const entry = chainsOf(riff.events, riff.meters);
      return entry.anchors.length < 3
        ? []
        : [{ ...entry, part: part.id, partName: part.name, riff: riff.id, riffName: riff.name, setup: part.setup }];
    }),
  );
  await together(db, async (tx) => {
    await replaceSaid(tx, actor, { piece: id }, saidIn(document));
    await replaceMusic(tx, actor, id, music);
  });
}

/** Reads a request for search; within the caller's transaction. */
export async function indexRequest(db: Db, actor: Actor, id: RequestId, request: Request): Promise<void> {
  const said: SaidEntry[] = [request.title, request.asker, request.credit, request.audience, request.note]
    .concat(request.items.map((item) => item.what))
    .flatMap((words) => (words ? [{ kind: 'request' as const, words }] : []));
  await replaceSaid(db, actor, { request: id }, said);
}

/** A riff that holds what was sought, and how it is alike. */
export interface MusicHit {
  readonly piece: PieceId;
  readonly title: string;
  readonly part: string;
  readonly riff: string;
  readonly riffName: string;
  readonly match: MusicMatch;
  readonly words: string;
}

/** Hits shown at most. */
const HITS = 60;

/** Everything said that holds the words. */
export const searchWords = (db: Db, actor: Actor, words: string): Promise<FoundWords[]> => findWords(db, actor, words);

/**
 * Riffs that hold what is called, in the set-up it is called for: alike in sound, in the hand's grips or in rhythm,
 * also moved and in another tuning.
 */
export async function searchMusic(db: Db, actor: Actor, calls: string, setup: Setup): Promise<Result<MusicHit[]>> {
  const meters = [{ bar: 0, beats: 4, unit: 4 }];
  const called = readCalls(calls, { setup, meters, at: ZERO, length: FIRST_LENGTH, string: null });
  const [fault] = called.faults;
  if (fault) return { ok: false, error: fault };
  const events = calledToEvents(called, new Set());
  const sought = chainsOf(events, meters);
  if (sought.anchors.length < 3)
    return fail('too-few', 'Call three notes or more: two are in every riff. For instance: on 5 3 3 5 3.', 'calls');
  const strings = [...new Set(events.flatMap(({ notes }) => notes.flatMap((note) => note.place?.string ?? [])))];
  const found = await findMusic(db, actor, sought);
  const hits = found.flatMap((riff) => {
    const [match] = matchesOf(riff, sought);
    return match
      ? [
          {
            ...{ piece: riff.piece, title: riff.title, part: riff.partName, riff: riff.riff, riffName: riff.riffName },
            ...{ match, words: matchWords(match, riff.setup, setup, strings) },
          },
        ]
      : [];
  });
  return ok(hits.sort((a, b) => likeness(b.match) - likeness(a.match)).slice(0, HITS));
}
