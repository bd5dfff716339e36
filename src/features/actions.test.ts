import type { PieceId } from '@/server/ids';
import { programIn } from '@/server/actor';
import { setTitle } from '@/core/command';
import { makePiece, type Piece, SCHEMA_VERSION } from '@/core/score';
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { must } from '@/core/base';
import { ADULT_HAND, DEFAULT_COSTS } from '@/core/hand';
import { DEFAULT_SCHOOLS } from '@/core/schools';
import type { Db } from '@/server/db/connection';
import { createPiece, openPiece, saveSteps } from '@/server/pieces';
import { listInstruments } from '@/server/repositories/rack';
import { ensureStudio } from '@/server/repositories/studios';
import { freshDatabase } from '@/server/test-support/database';

/** The server actions on a real database, called for a studio that the test chooses. */
const acting = { db: null as unknown as Db, studio: 'here' };
vi.mock('@/server/context', () => ({
  db: () => acting.db,
  currentActor: () => Promise.resolve(programIn(acting.studio)),
}));

const { deleteAction, duplicateAction, emptyPieceAction, listAction, newPieceAction } = await import('./shelf/actions');
const { historyAction, settleAction } = await import('./piece/actions');
const { save } = await import('@/server/saving');
const {
  copyInstrumentAction,
  deleteInstrumentAction,
  deleteTuningAction,
  importRackAction,
  keepTuningAction,
  saveInstrumentAction,
} = await import('./rack/actions');
const { deleteReadingAction, logReadingAction, readingsAction } = await import('./tune/actions');
const { saveSchoolsAction } = await import('./account/actions');
const {
  acceptFitAction,
  askFitAction,
  deletePlayerAction,
  latestFitAction,
  saveCostsAction,
  savePlayerAction,
  setFitAsideAction,
} = await import('./account/learning-actions');
const { recallAction } = await import('./place/actions');

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
const DRAFT = {
  title: 'Hedgehog waltz',
  instrument: 'guitar-6',
  tuning: 'D A D G B E',
  capo: [{ fret: 2, strings: null as number[] | null }],
  tempo: '90',
  meter: '3/4',
};
const piece = async (title: string): Promise<Piece> =>
  must(await createPiece(acting.db, programIn('here'), makePiece('x', title)));
const rename = (title: string) => ({
  version: SCHEMA_VERSION as typeof SCHEMA_VERSION,
  kind: 'do' as const,
  edit: setTitle(title),
  inverse: setTitle('before'),
  what: 'renamed',
});

describe('a new piece', () => {
  it('begins with a part in its set-up and an empty riff', async () => {
    const made = await newPieceAction(DRAFT);
    if (!made.ok) throw new Error(made.message);
    const id = made.path.split('/')[2] ?? '';
    const open = await openPiece(acting.db, programIn('here'), id as PieceId);
    expect(open?.document).toMatchObject({
      title: 'Hedgehog waltz',
      context: { tempo: [{ bpm: 90 }] },
      parts: [
        {
          setup: { capos: [{ fret: 2, strings: null }], open: [38, 45, 50, 55, 59, 64] },
          riffs: [{ meters: [{ beats: 3, unit: 4 }], events: [] }],
        },
      ],
    });
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
    expect(await save({ piece: start.id, base: 0, save: randomUUID(), steps: [rename('Acted')] })).toEqual({
      status: 'saved',
      revision: 1,
    });
    const broken = {
      kind: 'do',
      edit: { type: 'explode' },
      inverse: setTitle('x'),
      what: 'x',
    } as unknown as ReturnType<typeof rename>;
    const answer = await save({ piece: start.id, base: 1, save: randomUUID(), steps: [broken] });
    expect(answer.status).toBe('rejected');
    expect(answer).toMatchObject({ status: 'rejected', step: 0 });
    expect((await openPiece(acting.db, programIn('here'), start.id as PieceId))?.document.title).toBe('Acted');
  });

  it('gives the path of the version that was kept', async () => {
    const start = await piece('Kept');
    await save({ piece: start.id, base: 0, save: randomUUID(), steps: [rename('First')] });
    const late = await save({ piece: start.id, base: 0, save: randomUUID(), steps: [rename('Late')] });
    if (late.status !== 'stale') throw new Error(late.status);
    expect(must(await settleAction(late.refusedId, true, []))).toMatch(/^\/pieces\/[0-9a-f]+$/);
    expect((await settleAction('nothing', true, [])).ok).toBe(false);
    expect((await settleAction('../../etc', true, [])).ok).toBe(false);
  });
});

describe('another studio', () => {
  it('can neither see nor touch a piece through any action', async () => {
    const mine = await piece('Only here');
    await saveSteps(acting.db, programIn('here'), mine.id as PieceId, 0, 'first-save-here', [rename('Only ours')]);
    const stale = await save({ piece: mine.id, base: 0, save: randomUUID(), steps: [rename('Late')] });
    if (stale.status !== 'stale') throw new Error(stale.status);
    await asStudio('there', async () => {
      expect((await listAction({ search: 'ours', sort: 'work', from: 0 })).total).toBe(0);
      expect((await duplicateAction(mine.id)).ok).toBe(false);
      expect(await deleteAction(mine.id, true)).toBe(false);
      expect((await save({ piece: mine.id, base: 1, save: randomUUID(), steps: [rename('Stolen')] })).status).toBe(
        'gone',
      );
      expect(await historyAction(mine.id, 9)).toEqual([]);
      expect((await save({ piece: mine.id, base: 0, save: 'first-save-here', steps: [rename('Stolen')] })).status).toBe(
        'gone',
      );
      expect((await settleAction(stale.refusedId, true, [])).ok).toBe(false);
    });
    const open = await openPiece(acting.db, programIn('here'), mine.id as PieceId);
    expect([open?.document.title, open?.revision]).toEqual(['Only ours', 1]);
    expect((await listAction({ search: 'ours', sort: 'work', from: 0 })).entries.map((entry) => entry.id)).toEqual([
      mine.id,
    ]);
  });
});

describe('the rack through its actions', () => {
  const entry = async (id: string) =>
    (await listInstruments(acting.db, programIn('here'))).find((entry) => entry.instrument.id === id);

  it('copies, changes, takes off and puts back an instrument', async () => {
    const id = must(await copyInstrumentAction('bass-4', 'Cellar bass'));
    const kept = await entry(id);
    if (!kept) throw new Error('not kept');
    const saved = await saveInstrumentAction(
      { instrument: { ...kept.instrument, frets: 20 }, description: 'd', tones: [] },
      0,
    );
    expect(saved).toMatchObject({ status: 'saved', revision: 1 });
    expect(
      await saveInstrumentAction(
        { instrument: { ...kept.instrument, frets: 'many' as never }, description: '', tones: [] },
        1,
      ),
    ).toMatchObject({ status: 'refused', at: 'frets' });
    expect((await copyInstrumentAction('harp', '')).ok).toBe(false);
    await deleteInstrumentAction(id, true);
    expect(await entry(id)).toBeUndefined();
    await deleteInstrumentAction(id, false);
    await asStudio('there', async () => {
      expect((await copyInstrumentAction(id, 'x')).ok).toBe(false);
      expect(await deleteInstrumentAction(id, true)).toBe(false);
      expect(
        (await saveInstrumentAction({ instrument: kept.instrument, description: 'stolen', tones: [] }, 1)).status,
      ).toBe('refused');
    });
    expect((await entry(id))?.description).toBe('d');
    const made = await newPieceAction({ ...DRAFT, instrument: id, tuning: 'bass-drop-d' });
    const open = made.ok
      ? await openPiece(acting.db, programIn('here'), (made.path.split('/')[2] ?? '') as PieceId)
      : null;
    expect(open?.document.parts[0]?.setup.instrument).toMatchObject({ id, name: 'Cellar bass', frets: 20 });
  });

  it('keeps a tuning and brings in a file, each with its fault', async () => {
    const tuning = {
      name: 'Attic',
      family: 'modal' as const,
      spelling: 'C2 G2 D3 G3 A3 D4',
      instruments: [],
      source: '',
    };
    const kept = must(await keepTuningAction(tuning));
    expect(await keepTuningAction({ ...tuning, spelling: 'C G' })).toMatchObject({
      ok: false,
      error: { locus: { path: ['spelling'] } },
    });
    expect(await keepTuningAction({ ...tuning, name: '' })).toMatchObject({
      ok: false,
      error: { locus: { path: ['name'] } },
    });
    await asStudio('there', async () => expect(await deleteTuningAction(kept.id, true)).toBe(false));
    expect(await deleteTuningAction(kept.id, true)).toBe(true);
    expect(await importRackAction('{}')).toMatchObject({ ok: false, error: { rule: 'schema' } });
  });

  it('logs tuner readings and keeps the schools', async () => {
    const log = await logReadingAction('guitar-6', { string: 6, kind: 'open', capo: 0, cents: -2 });
    expect(log.map((reading) => reading.cents)).toEqual([-2]);
    await expect(logReadingAction('guitar-6', { string: 99, kind: 'open', capo: 0, cents: 0 })).rejects.toThrow();
    await asStudio('there', async () => {
      expect(await readingsAction('guitar-6')).toEqual([]);
      await deleteReadingAction('guitar-6', log[0]?.id ?? '');
    });
    expect(await readingsAction('guitar-6')).toHaveLength(1);
    await expect(deleteReadingAction('guitar-6', '1; drop table studio')).rejects.toThrow();
    expect(await deleteReadingAction('guitar-6', log[0]?.id ?? '')).toEqual([]);
    expect(await saveSchoolsAction({ ...DEFAULT_SCHOOLS, notes: 'german' })).toMatchObject({ notes: 'german' });
    expect(await saveSchoolsAction({ ...DEFAULT_SCHOOLS, a4: 5 })).toBeNull();
  });
});

describe('hands and weights', () => {
  it('are checked, kept for the studio that acts, and refused with the place and the mend', async () => {
    const made = must(await savePlayerAction({ id: null, name: 'Ilse', profile: ADULT_HAND }));
    expect(made.id).toMatch(/^h/);
    expect(await savePlayerAction({ id: null, name: ' ', profile: ADULT_HAND })).toMatchObject({
      ok: false,
      error: { locus: { path: ['name'] } },
    });
    const crooked = { ...ADULT_HAND, comfortable: { ...ADULT_HAND.comfortable, '14': 200 } };
    expect(await savePlayerAction({ id: null, name: 'Crooked', profile: crooked })).toMatchObject({
      ok: false,
      error: { rule: 'schema' },
    });
    expect(await asStudio('there', () => deletePlayerAction(made.id ?? '', true))).toBe(false);
    expect(await deletePlayerAction(made.id ?? '', true)).toBe(true);
    expect(await saveCostsAction({ name: 'Mine', weights: { ...DEFAULT_COSTS, open: -1 } })).toMatchObject({
      ok: false,
      error: { locus: { path: ['weights', 'open'] } },
    });
    expect(must(await saveCostsAction({ name: 'Mine', weights: DEFAULT_COSTS })).version).toBe(1);
    expect(
      must(await asStudio('there', () => saveCostsAction({ name: 'Theirs', weights: DEFAULT_COSTS }))).version,
    ).toBe(1);
  });

  it('new pieces are placed by the studio’s newest table and keep it', async () => {
    const made = await newPieceAction({ ...DRAFT, title: 'By own weights' });
    if (!made.ok) throw new Error(made.message);
    const open = await openPiece(acting.db, programIn('here'), (made.path.split('/')[2] ?? '') as PieceId);
    expect(open?.document.costs).toMatchObject({ name: 'Mine', version: 1 });
  });

  it('fits and recall stay within the studio', async () => {
    expect(await askFitAction()).toMatchObject({ ok: false, error: { rule: 'too-few' } });
    expect(await latestFitAction()).toBeNull();
    expect(await acceptFitAction('none')).toMatchObject({ ok: false });
    expect(await setFitAsideAction('none')).toBe(false);
    const there = await asStudio('there', () => piece('Theirs only').then((piece) => piece));
    expect(await recallAction(there.id, 'r0', ['a'])).toEqual([]);
  });
});
