import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { must } from '@/core/base';
import { makePiece, type Piece } from '@/core/score';
import type { Db } from '@/server/db/connection';
import { createPiece, openPiece, saveSteps } from '@/server/pieces';
import { ensureStudio } from '@/server/repositories/studios';
import { freshDatabase } from '@/server/test-support/database';

/** The server actions on a real database, called for a studio that the test chooses. */
const acting = { db: null as unknown as Db, studio: 'here' };
vi.mock('@/server/context', () => ({ db: () => acting.db, currentStudio: () => acting.studio }));

const { deleteAction, duplicateAction, emptyPieceAction, listAction, newPieceAction } = await import('./shelf/actions');
const { saveAction, settleAction } = await import('./piece/actions');

let close: () => Promise<void>;
beforeAll(async () => {
  const made = await freshDatabase();
  acting.db = made.db;
  close = made.close;
  await ensureStudio(made.db, 'here', 'Here');
  await ensureStudio(made.db, 'there', 'There');
});
afterAll(() => close());

const asStudio = async <T>(studio: string, body: () => Promise<T>): Promise<T> => {
  acting.studio = studio;
  try {
    return await body();
  } finally {
    acting.studio = 'here';
  }
};
const DRAFT = { title: 'Hedgehog waltz', instrument: 'guitar-6', tuning: 'D A D G B E', capo: [{ fret: 2, strings: null as number[] | null }], tempo: '90', meter: '3/4' };
const piece = async (title: string): Promise<Piece> => must(await createPiece(acting.db, 'here', makePiece('x', title)));
const rename = (title: string) => ({ kind: 'do' as const, edit: { type: 'setTitle' as const, title }, inverse: { type: 'setTitle' as const, title: 'before' }, what: 'renamed' });

describe('a new piece', () => {
  it('begins with a part in its set-up and an empty riff', async () => {
    const made = await newPieceAction(DRAFT);
    if (!made.ok) throw new Error(made.message);
    const id = made.path.split('/')[2] ?? '';
    const open = await openPiece(acting.db, 'here', id);
    expect(open?.document).toMatchObject({ title: 'Hedgehog waltz', lanes: { tempo: [{ bpm: 90 }] }, parts: [{ setup: { capos: [{ fret: 2, strings: null }], open: [38, 45, 50, 55, 59, 64] }, riffs: [{ meters: [{ beats: 3, unit: 4 }], events: [] }] }] });
    expect((await emptyPieceAction('From a file')).ok).toBe(true);
  });

  it('is refused with the field and the mend', async () => {
    const at = async (change: Partial<typeof DRAFT>): Promise<string> => {
      const made = await newPieceAction({ ...DRAFT, ...change });
      return made.ok ? 'ok' : made.at;
    };
    expect(await at({ title: '  ' })).toBe('title');
    expect(await at({ tuning: 'E A D' })).toBe('tuning');
    expect(await at({ capo: [{ fret: 99, strings: null }] })).toBe('capo');
    expect(await at({ tempo: '0' })).toBe('tempo');
    expect(await at({ tempo: 'fast' })).toBe('tempo');
    expect(await at({ meter: 'waltz' })).toBe('meter');
    expect(await at({ instrument: 'harp' })).toBe('instrument');
    expect((await emptyPieceAction('')).ok).toBe(false);
  });
});

describe('saving through the action', () => {
  it('keeps steps, and rejects what is no step with a message', async () => {
    const start = await piece('Action');
    expect(await saveAction({ piece: start.id, base: 0, save: randomUUID(), steps: [rename('Acted')] })).toEqual({ status: 'saved', revision: 1 });
    const broken = { kind: 'do', edit: { type: 'explode' }, inverse: { type: 'setTitle', title: 'x' }, what: 'x' } as unknown as ReturnType<typeof rename>;
    const answer = await saveAction({ piece: start.id, base: 1, save: randomUUID(), steps: [broken] });
    expect(answer.status).toBe('rejected');
    expect(answer.status === 'rejected' && answer.message).toContain('steps.0');
    expect((await openPiece(acting.db, 'here', start.id))?.document.title).toBe('Acted');
  });

  it('gives the path of the version that was kept', async () => {
    const start = await piece('Kept');
    await saveAction({ piece: start.id, base: 0, save: randomUUID(), steps: [rename('First')] });
    const late = await saveAction({ piece: start.id, base: 0, save: randomUUID(), steps: [rename('Late')] });
    if (late.status !== 'stale') throw new Error(late.status);
    expect(await settleAction(late.refusedId, true)).toMatch(/^\/pieces\/[0-9a-f]+$/);
    expect(await settleAction('nothing', true)).toBeNull();
  });
});

describe('another studio', () => {
  it('can neither see nor touch a piece through any action', async () => {
    const mine = await piece('Only here');
    await saveSteps(acting.db, 'here', mine.id, 0, 'first-save-here', [rename('Only ours')]);
    const stale = await saveAction({ piece: mine.id, base: 0, save: randomUUID(), steps: [rename('Late')] });
    if (stale.status !== 'stale') throw new Error(stale.status);
    await asStudio('there', async () => {
      expect((await listAction('ours')).length).toBe(0);
      expect((await duplicateAction(mine.id)).ok).toBe(false);
      expect(await deleteAction(mine.id, true)).toBe(false);
      expect((await saveAction({ piece: mine.id, base: 1, save: randomUUID(), steps: [rename('Stolen')] })).status).toBe('rejected');
      expect((await saveAction({ piece: mine.id, base: 0, save: 'first-save-here', steps: [rename('Stolen')] })).status).toBe('rejected');
      expect(await settleAction(stale.refusedId, true)).toBeNull();
    });
    const open = await openPiece(acting.db, 'here', mine.id);
    expect([open?.document.title, open?.revision]).toEqual(['Only ours', 1]);
    expect((await listAction('ours')).map((p) => p.id)).toEqual([mine.id]);
  });
});
