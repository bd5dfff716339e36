import { randomUUID } from 'node:crypto';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { must } from '@/core/base';
import { changeEvents, setTitle } from '@/core/command';
import { applied, type Edit, type Step } from '@/core/edit';
import { makeSetup } from '@/core/instrument';
import { makeEvent, makeNote, makePart, makePiece, makeRiff, SCHEMA_VERSION, type Piece } from '@/core/score';
import { quarter } from '@/core/time';
import { programIn } from '@/server/actor';
import type { Db } from '@/server/db/connection';
import type { PieceId } from '@/server/ids';
import { createPiece, openPiece } from '@/server/pieces';
import { ensureStudio } from '@/server/repositories/studios';
import { freshDatabase } from '@/server/test-support/database';

/** A window's saves on their whole way: the page's call, the route, a real database. */
const acting = { db: null as unknown as Db, studio: 'here' };
vi.mock('@/server/context', () => ({
  db: () => acting.db,
  currentActor: () => Promise.resolve(programIn(acting.studio)),
}));
const { sendSave } = await import('./send-save');
const { NewVersion } = await import('./outbox');
const route = await import('@/app/api/pieces/[piece]/steps/route');

const toRoute = (address: string, init: RequestInit): Promise<Response> =>
  route.POST(new Request(`http://x${address}`, init), {
    params: Promise.resolve({ piece: address.split('/')[3] ?? '' }),
  });

let close: () => Promise<void>;
beforeAll(async () => {
  const made = await freshDatabase();
  acting.db = made.db;
  close = made.close;
  await ensureStudio(made.db, 'here', 'Here');
  await ensureStudio(made.db, 'there', 'There');
});
afterAll(() => close());
beforeEach(() => vi.stubGlobal('fetch', vi.fn(toRoute)));
afterEach(() => {
  vi.unstubAllGlobals();
  acting.studio = 'here';
});

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const newPiece = async (): Promise<Piece> =>
  must(
    await createPiece(
      acting.db,
      programIn('here'),
      makePiece('x', 'Ladder Song', {
        lastId: 1000,
        parts: [
          makePart('p0', 'Guitar', setup, {
            riffs: [
              makeRiff('r0', 'Riff', {
                bars: 2,
                events: Array.from({ length: 8 }, (_, i) =>
                  makeEvent(`e${i}`, quarter(i), quarter(1), [makeNote(`n${i}`, 45 + i, 'instructor')]),
                ),
              }),
            ],
          }),
        ],
      }),
    ),
  );
const stepOf = (before: Piece, edit: Edit): Step => ({
  version: SCHEMA_VERSION,
  kind: 'do',
  edit,
  inverse: applied(before, edit).inverse,
  what: 'a change',
});
/** A small edit that writes no document: an accent on one event, or off it. */
const accent = (before: Piece, event: string, on: boolean): Edit =>
  must(changeEvents(before, 'r0', [event], ({ accent: _, ...rest }) => (on ? { ...rest, accent: 'accent' } : rest)));
const opened = async (id: string) => {
  const open = await openPiece(acting.db, programIn('here'), id as PieceId);
  if (!open) throw new Error('gone');
  return open;
};
const writtenAt = async (id: string): Promise<number | undefined> =>
  (
    await acting.db
      .selectFrom('piece')
      .select('document_revision')
      .where('id', '=', id as PieceId)
      .executeTakeFirst()
  )?.document_revision;

describe('a save', () => {
  it('of one small edit after another writes steps alone, and the document before it is too far behind', async () => {
    let document = await newPiece();
    const { id } = document;
    let farthest = 0;
    for (let i = 0; i < 80; i++) {
      const step = stepOf(document, accent(document, `e${i % 8}`, i % 16 < 8));
      document = applied(document, step.edit).piece;
      expect(await sendSave({ piece: id, base: i, save: randomUUID(), steps: [step] })).toEqual({
        status: 'saved',
        revision: i + 1,
      });
      farthest = Math.max(farthest, i + 1 - ((await writtenAt(id)) ?? 0));
    }
    expect(farthest).toBeGreaterThan(10);
    expect(farthest).toBeLessThanOrEqual(32);
    const open = await opened(id);
    expect([open.revision, open.document.parts]).toEqual([80, document.parts]);
  });

  it('sent again is the same one, also while it is under way, and whatever came after it', async () => {
    const document = await newPiece();
    const { id } = document;
    const first = { piece: id, base: 0, save: randomUUID(), steps: [stepOf(document, accent(document, 'e0', true))] };
    const answers = await Promise.all([sendSave(first), sendSave(first), sendSave(first)]);
    expect(answers).toEqual(Array(3).fill({ status: 'saved', revision: 1 }));
    const after = applied(document, accent(document, 'e0', true)).piece;
    const second = { piece: id, base: 1, save: randomUUID(), steps: [stepOf(after, accent(after, 'e1', true))] };
    expect(await sendSave(second)).toEqual({ status: 'saved', revision: 2 });
    expect(await sendSave(first)).toEqual({ status: 'saved', revision: 1 });
    expect((await opened(id)).revision).toBe(2);
  });

  it('made on what another has moved on is refused with both versions, one of two at once', async () => {
    const document = await newPiece();
    const { id } = document;
    const on = (event: string) => ({
      ...{ piece: id, base: 0, save: randomUUID() },
      steps: [stepOf(document, accent(document, event, true))],
    });
    const answers = await Promise.all([sendSave(on('e0')), sendSave(on('e1'))]);
    expect(answers.map((one) => one.status).sort()).toEqual(['saved', 'stale']);
    const stale = answers.find((one) => one.status === 'stale');
    expect(stale?.status === 'stale' && stale.current.revision).toBe(1);
  });

  it('that can’t be made is rejected with its step, and nothing of it is kept', async () => {
    const document = await newPiece();
    const { id } = document;
    const good = stepOf(document, accent(document, 'e0', true));
    const gone = { ...good, edit: { ...good.edit, part: 'p9' } as Edit };
    expect(await sendSave({ piece: id, base: 0, save: randomUUID(), steps: [good, gone] })).toMatchObject({
      status: 'rejected',
      step: 1,
    });
    expect((await opened(id)).revision).toBe(0);
    expect(await sendSave({ piece: id, base: 0, save: 'x', steps: [good] })).toMatchObject({ status: 'rejected' });
    expect(await sendSave({ piece: '../x', base: 0, save: randomUUID(), steps: [good] })).toMatchObject({
      status: 'rejected',
    });
  });

  it('of another studio finds nothing, though this process knows the piece', async () => {
    const document = await newPiece();
    const { id } = document;
    const step = stepOf(document, accent(document, 'e0', true));
    expect((await sendSave({ piece: id, base: 0, save: randomUUID(), steps: [step] })).status).toBe('saved');
    acting.studio = 'there';
    const after = applied(document, step.edit).piece;
    const more = stepOf(after, accent(after, 'e1', true));
    expect((await sendSave({ piece: id, base: 1, save: randomUUID(), steps: [more] })).status).toBe('gone');
    const wrong = { ...more, edit: { ...more.edit, part: 'p9' } as Edit };
    expect((await sendSave({ piece: id, base: 1, save: randomUUID(), steps: [wrong] })).status).toBe('gone');
    acting.studio = 'here';
    expect((await opened(id)).revision).toBe(1);
  });
});

describe('an answer that is none of these', () => {
  const step = (version: number = SCHEMA_VERSION): Step => ({
    version: version as typeof SCHEMA_VERSION,
    ...{ kind: 'do', edit: setTitle('Late'), inverse: setTitle('Ladder Song'), what: 'a name' },
  });
  const sent = (steps: readonly Step[]) => sendSave({ piece: 'abc123', base: 0, save: randomUUID(), steps });

  it('of a server older than the page is told apart: nothing is set aside for it', async () => {
    await expect(sent([step(), step(SCHEMA_VERSION + 1)])).rejects.toBeInstanceOf(NewVersion);
  });

  it('by silence, or by a server that stumbles, is thrown: it is tried again', async () => {
    vi.stubGlobal('fetch', () => Promise.resolve(new Response('', { status: 500 })));
    await expect(sent([step()])).rejects.toThrow('500');
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('broken off')));
    await expect(sent([step()])).rejects.toThrow('broken off');
  });

  it('to what can’t be read is a refusal in words', async () => {
    for (const [body, status] of [
      ['{', 400],
      ['\u{1f3b8}'.repeat(7_000_000), 413],
    ] as const) {
      const answer = await toRoute('/api/pieces/abc123/steps', { method: 'POST', body });
      expect(answer.status).toBe(status);
      vi.stubGlobal('fetch', () => Promise.resolve(answer));
      const told = await sent([step()]);
      expect(told.status === 'rejected' && told.message.length).toBeGreaterThan(10);
    }
  });

  it('goes out with a closing window where it is small enough for that', async () => {
    const kept: (boolean | undefined)[] = [];
    vi.stubGlobal('fetch', (_: string, init: RequestInit) => {
      kept.push(init.keepalive);
      return Promise.resolve(Response.json({ status: 'saved', revision: 1 }));
    });
    await sent([step()]);
    await sent(Array.from({ length: 400 }, () => step()));
    expect(kept).toEqual([true, false]);
  });
});
