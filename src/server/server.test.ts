import type { PieceId, RefusedId } from './ids';
import { programIn } from './actor';
import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { applied, compactEdit, undoStep, replayed, type Edit, type Step } from '@/core/edit';
import { changeEvents } from '@/core/command';
import { makeSetup } from '@/core/instrument';
import {
  makeEvent,
  makeNote,
  makePart,
  makePiece,
  makeRiff,
  readPiece,
  type Piece,
  SCHEMA_VERSION,
} from '@/core/score';
import { quarter } from '@/core/time';
import { DEMO_PIECES } from '../../demo/pieces';
import type { Db } from './db/connection';
import { migrate } from './db/migrate';
import { buildDemoPiece, DEMO_STUDIO, loadDemo } from './demo';
import { createPiece, duplicatePiece, openPiece, saveSteps, settleStale, writeDocument } from './pieces';
import {
  appendSteps,
  condenseHistory,
  editsBetween,
  getRefused,
  HISTORY_PAGE,
  keepRefused,
  lastDone,
  lastSteps,
  savedRevision,
  settleRefused,
  stepsAfter,
} from './repositories/history';
import {
  getPiece,
  listPieces,
  listSetups,
  lockPiece,
  setDeleted,
  SHELF_PAGE,
  updatePiece,
} from './repositories/pieces';
import { ensureStudio, studioView } from './repositories/studios';
import { freshDatabase } from './test-support/database';

let db: Db;
let close: () => Promise<void>;
let url = '';
const MINE = 'mine';
const OTHER = 'other';

beforeAll(async () => {
  ({ db, url, close } = await freshDatabase());
  await ensureStudio(db, MINE, 'Mine');
  await ensureStudio(db, OTHER, 'Other');
});
afterAll(() => close());

const newPiece = async (title = 'Piece', studio = MINE): Promise<Piece> =>
  must(await createPiece(db, programIn(studio), makePiece('new', title)));
const step = (piece: Piece, edit: Edit, kind: Step['kind'] = 'do'): Step => ({
  version: SCHEMA_VERSION,
  kind,
  edit,
  inverse: applied(piece, edit).inverse,
  what: 'a step',
});
const title = (text: string): Edit => ({ type: 'patchPiece', set: { title: text }, clear: [] });

describe('the database', () => {
  it('migrates once, however often and by however many it is asked', async () => {
    expect(await migrate(db, url)).toEqual([]);
    expect(await Promise.all([migrate(db, url), migrate(db, url)])).toEqual([[], []]);
  });

  it('carries the studio in every table but the list of studios', async () => {
    const { rows } = await sql<{
      table_name: string;
    }>`select table_name from information_schema.tables where table_schema = 'public' and table_name not like 'kysely%'`.execute(
      db,
    );
    const tables = rows.map((one) => one.table_name).filter((text) => text !== 'studio');
    expect(tables.length).toBeGreaterThanOrEqual(3);
    for (const table of tables) {
      const { rows: columns } =
        await sql`select 1 from information_schema.columns where table_name = ${table} and column_name = 'studio_id' and is_nullable = 'NO'`.execute(
          db,
        );
      expect(columns.length, table).toBe(1);
    }
  });
});

describe('the shelf', () => {
  it('lists by last work, finds by words in title, part or tuning, and takes off and puts back', async () => {
    const demo = must(buildDemoPiece(DEMO_PIECES[6] as (typeof DEMO_PIECES)[number]));
    const a = must(await createPiece(db, programIn(MINE), demo));
    const b = await newPiece('Second on the shelf');
    const ids = async (search = ''): Promise<string[]> =>
      (await listPieces(db, programIn(MINE), { search })).entries.map((entry) => entry.id);
    expect((await ids()).slice(0, 2)).toEqual([b.id, a.id]);
    expect(await ids('lantern')).toEqual([a.id]);
    expect(await ids('bass c g c f')).toEqual([a.id]);
    expect(await ids('100%_\\')).toEqual([]);
    await saveSteps(db, programIn(MINE), a.id as PieceId, 0, randomUUID(), [step(a, title('Worked on'))]);
    expect((await ids())[0]).toBe(a.id);
    expect(await setDeleted(db, programIn(MINE), a.id as PieceId, true)).toBe(true);
    expect(await ids()).not.toContain(a.id);
    expect(await openPiece(db, programIn(MINE), a.id as PieceId)).toBeNull();
    await setDeleted(db, programIn(MINE), a.id as PieceId, false);
    expect(await ids()).toContain(a.id);
  });

  it('holds five thousand pieces: found, sorted and counted by the database, a page at a time', async () => {
    await ensureStudio(db, 'full', 'Full');
    await sql`
      insert into piece (id, studio_id, title, summary, document, revision)
      select 'full' || n, 'full', 'Riff ' || lpad((n * 37 % 5000)::text, 4, '0'), 'Guitar · Electric guitar · E A D G B E', '{}', 0
      from generate_series(0, 4999) as n`.execute(db);
    const actor = programIn('full');
    const first = await listPieces(db, actor, { sort: 'title' });
    expect([first.total, first.entries.length, first.entries[0]?.title]).toEqual([5000, SHELF_PAGE, 'Riff 0000']);
    const later = await listPieces(db, actor, { sort: 'title', from: 4980 });
    expect(later.entries.map((entry) => entry.title).at(-1)).toBe('Riff 4999');
    const found = await listPieces(db, actor, { search: 'riff 0042' });
    expect([found.total, found.entries[0]?.title]).toEqual([1, 'Riff 0042']);
    const began = performance.now();
    for (let i = 0; i < 10; i++) await listPieces(db, actor, { search: '12 guitar', from: i * 10 });
    process.stdout.write(`a page of a shelf of 5,000: ${((performance.now() - began) / 10).toFixed(0)} ms\n`);
  });

  it('duplicates under another id and name', async () => {
    const a = await newPiece('Original');
    const copy = must(await duplicatePiece(db, programIn(MINE), a.id as PieceId));
    expect([copy.title, copy.id === a.id]).toEqual(['Original (copy)', false]);
    expect((await duplicatePiece(db, programIn(MINE), 'nothing' as PieceId)).ok).toBe(false);
    // A long name is cut, and not within a sign.
    const long = await newPiece('🦉'.repeat(80));
    expect(must(await duplicatePiece(db, programIn(MINE), long.id as PieceId)).title.isWellFormed()).toBe(true);
    const odd = await newPiece(`x${'🦉'.repeat(79)}`);
    expect(must(await duplicatePiece(db, programIn(MINE), odd.id as PieceId)).title.isWellFormed()).toBe(true);
  });
});

describe('saving', () => {
  it('appends to the history, and what is read back undoes to the start', async () => {
    const start = await newPiece();
    const first = step(start, title('One'));
    const one = applied(start, first.edit).piece;
    const second = step(one, {
      type: 'patchContext',
      set: { tempo: [{ at: start.context.tempo[0]?.at ?? ('0' as never), bpm: 77 }] },
      clear: [],
    });
    expect(await saveSteps(db, programIn(MINE), start.id as PieceId, 0, randomUUID(), [first, second])).toEqual({
      status: 'saved',
      revision: 2,
    });
    const open = await openPiece(db, programIn(MINE), start.id as PieceId);
    expect(open?.document.title).toBe('One');
    expect(open?.last).toEqual({ what: 'a step', kind: 'do' });
    const steps = await lastSteps(db, programIn(MINE), start.id as PieceId);
    expect(steps.map((step) => [step.revision, step.kind])).toEqual([
      [1, 'do'],
      [2, 'do'],
    ]);
    const history = replayed(steps);
    expect(history.undo).toHaveLength(2);
    const back = undoStep(history);
    expect(back && (await saveSteps(db, programIn(MINE), start.id as PieceId, 2, randomUUID(), [back]))).toEqual({
      status: 'saved',
      revision: 3,
    });
    expect((await openPiece(db, programIn(MINE), start.id as PieceId))?.document.context.tempo[0]?.bpm).toBe(96);
  });

  it('sent twice is done once', async () => {
    const start = await newPiece();
    const save = randomUUID();
    const steps = [step(start, title('Once'))];
    expect(await saveSteps(db, programIn(MINE), start.id as PieceId, 0, save, steps)).toEqual({
      status: 'saved',
      revision: 1,
    });
    expect(await saveSteps(db, programIn(MINE), start.id as PieceId, 0, save, steps)).toEqual({
      status: 'saved',
      revision: 1,
    });
    expect((await lastSteps(db, programIn(MINE), start.id as PieceId)).length).toBe(1);
  });

  it('sent again after another window saved answers with its own revision, so that the other save is not written over', async () => {
    const start = await newPiece();
    const save = randomUUID();
    const mine = [step(start, title('Mine'))];
    await saveSteps(db, programIn(MINE), start.id as PieceId, 0, save, mine);
    await saveSteps(db, programIn(MINE), start.id as PieceId, 1, randomUUID(), [step(start, title('Theirs'))]);
    const again = await saveSteps(db, programIn(MINE), start.id as PieceId, 0, save, mine);
    expect(again).toEqual({ status: 'saved', revision: 1 });
    const next = await saveSteps(db, programIn(MINE), start.id as PieceId, 1, randomUUID(), [
      step(start, title('Mine, later')),
    ]);
    expect(next.status).toBe('stale');
    expect((await openPiece(db, programIn(MINE), start.id as PieceId))?.document.title).toBe('Theirs');
  });

  it('refuses a stale save, overwrites nothing, and keeps both versions', async () => {
    const start = await newPiece('Shared');
    await saveSteps(db, programIn(MINE), start.id as PieceId, 0, randomUUID(), [step(start, title('Theirs'))]);
    const answer = await saveSteps(db, programIn(MINE), start.id as PieceId, 0, randomUUID(), [
      step(start, { type: 'patchContext', set: { key: [{ at: '0' as never, tonic: 'D', mode: 'minor' }] }, clear: [] }),
    ]);
    if (answer.status !== 'stale') throw new Error(answer.status);
    expect(answer.current.document.title).toBe('Theirs');
    expect((await openPiece(db, programIn(MINE), start.id as PieceId))?.document).toMatchObject({
      title: 'Theirs',
      context: { key: [] },
    });
    const kept = await getRefused(db, programIn(MINE), answer.refusedId);
    expect(kept).toMatchObject({ title: 'Shared', context: { key: [{ tonic: 'D' }] } });
    const mine = must(await settleStale(db, programIn(MINE), answer.refusedId, true));
    expect(mine).toMatchObject({ title: 'Shared (my version)', context: { key: [{ tonic: 'D' }] } });
  });

  it('lets exactly one of many simultaneous saves on one revision through', async () => {
    const start = await newPiece('Race');
    const answers = await Promise.all(
      Array.from({ length: 6 }, (_, i) =>
        saveSteps(db, programIn(MINE), start.id as PieceId, 0, randomUUID(), [step(start, title(`Racer ${i}`))]),
      ),
    );
    expect(answers.filter((a) => a.status === 'saved')).toHaveLength(1);
    expect(answers.filter((a) => a.status === 'stale')).toHaveLength(5);
    expect((await openPiece(db, programIn(MINE), start.id as PieceId))?.revision).toBe(1);
  });

  it('rejects steps that do not apply, all or nothing', async () => {
    const start = await newPiece('Whole');
    const bad: Step = {
      version: SCHEMA_VERSION,
      kind: 'do',
      edit: { type: 'removePart', part: 'nobody' },
      inverse: title('x'),
      what: 'bad',
    };
    expect(
      (await saveSteps(db, programIn(MINE), start.id as PieceId, 0, randomUUID(), [step(start, title('Half')), bad]))
        .status,
    ).toBe('rejected');
    expect((await openPiece(db, programIn(MINE), start.id as PieceId))?.document.title).toBe('Whole');
  });

  it('names the step that can’t be kept, and says of a piece off the shelf that it is gone', async () => {
    const start = await newPiece('Named');
    const bad: Step = { ...step(start, title('Fine')), edit: { type: 'removePart', part: 'nobody' } };
    const id = start.id as PieceId;
    const good = step(start, title('Good'));
    const answer = await saveSteps(db, programIn(MINE), id, 0, randomUUID(), [good, good, bad, good]);
    expect(answer).toMatchObject({ status: 'rejected', step: 2, message: 'There is no part "nobody".' });
    await setDeleted(db, programIn(MINE), id, true);
    expect((await saveSteps(db, programIn(MINE), id, 0, randomUUID(), [good])).status).toBe('gone');
  });

  it('keeps a refused version with what was typed after it was sent, once however often it is sent', async () => {
    const start = await newPiece('Asked twice');
    const id = start.id as PieceId;
    await saveSteps(db, programIn(MINE), id, 0, randomUUID(), [step(start, title('Theirs'))]);
    const save = randomUUID();
    const mine = [step(start, title('Mine'))];
    const [one, two] = [
      await saveSteps(db, programIn(MINE), id, 0, save, mine),
      await saveSteps(db, programIn(MINE), id, 0, save, mine),
    ];
    if (one.status !== 'stale' || two.status !== 'stale') throw new Error('both are stale');
    expect(two.refusedId).toBe(one.refusedId);
    const made = must(
      await settleStale(db, programIn(MINE), one.refusedId, true, [
        step(start, { type: 'patchContext', set: { tempo: [{ at: '0' as never, bpm: 51 }] }, clear: [] }),
      ]),
    );
    expect(made).toMatchObject({ title: 'Mine (my version)', context: { tempo: [{ bpm: 51 }] } });
  });
});

/** A note of a piece a step higher or lower. */
const shifted = (piece: Piece, i: number): Edit =>
  compactEdit(piece, must(changeEvents(piece, 'r0', [`e${i}`], (event) => ({ ...event, accent: 'heavy' }))));

describe('a long life', () => {
  const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
  const long = (bars: number): Piece =>
    makePiece('new', 'Long', {
      lastId: 10_000_000,
      parts: [
        makePart('p0', 'Guitar', setup, {
          riffs: [
            makeRiff('r0', 'Long riff', {
              bars,
              events: Array.from({ length: bars * 8 }, (_, i) =>
                makeEvent(`e${i}`, quarter(i, 2), quarter(1, 2), [makeNote(`n${i}`, 45 + (i % 20), 'instructor')]),
              ),
            }),
          ],
        }),
      ],
    });
  const muted = (piece: Piece, i: number): Edit =>
    compactEdit(
      piece,
      must(
        changeEvents(piece, 'r0', piece.parts[0]?.riffs[0]?.events.map((event) => event.id) ?? [], (event) => ({
          ...event,
          mute: i % 2 === 0 ? 'palm' : undefined,
        })),
      ),
    );

  it('of a small save writes its steps alone, and what is read is always the newest', async () => {
    const start = must(await createPiece(db, programIn(MINE), long(20)));
    const id = start.id as PieceId;
    let now = start;
    const behind: number[] = [];
    for (let i = 0; i < 40; i++) {
      const one = step(now, shifted(now, i));
      now = applied(now, one.edit).piece;
      expect(await saveSteps(db, programIn(MINE), id, i, randomUUID(), [one])).toEqual({
        status: 'saved',
        revision: i + 1,
      });
      const row = await db
        .selectFrom('piece')
        .select(['revision', 'document_revision'])
        .where('id', '=', id)
        .executeTakeFirstOrThrow();
      behind.push(row.revision - row.document_revision);
      if (i % 7 === 0) expect((await openPiece(db, programIn(MINE), id))?.document).toEqual(now);
    }
    expect(Math.max(...behind)).toBe(32);
    expect(behind.filter((count) => count === 0)).toHaveLength(1);
    await writeDocument(db, programIn(MINE), id);
    expect((await getPiece(db, programIn(MINE), id))?.document).toEqual(now);
    // What the shelf shows of it is written at once.
    await saveSteps(db, programIn(MINE), id, 40, randomUUID(), [step(now, title('Renamed'))]);
    expect((await listPieces(db, programIn(MINE), { search: 'renamed' })).entries[0]?.title).toBe('Renamed');
  });

  it('does not make the page heavier: history comes in pages of a megabyte, and a mark on everything is a line of it', async () => {
    const start = must(await createPiece(db, programIn(MINE), long(300)));
    const id = start.id as PieceId;
    let now = start;
    let bytes = 0;
    for (let i = 0; i < 20; i++) {
      const one = step(now, muted(now, i));
      bytes += JSON.stringify([one.edit, one.inverse]).length;
      now = applied(now, one.edit).piece;
      await saveSteps(db, programIn(MINE), id, i, randomUUID(), [one]);
    }
    const whole = JSON.stringify(now).length;
    expect(bytes).toBeLessThan(20 * whole * 0.1);
    const open = await openPiece(db, programIn(MINE), id);
    expect(open?.document).toEqual(now);
    expect(JSON.stringify(open).length).toBeLessThan(whole * 1.01);
    const page = await lastSteps(db, programIn(MINE), id);
    expect(JSON.stringify(page).length).toBeLessThan(HISTORY_PAGE.bytes * 4);
    const before = await lastSteps(db, programIn(MINE), id, (page[0]?.revision ?? 1) - 1);
    expect(before.at(-1)?.revision ?? 0).toBe((page[0]?.revision ?? 1) - 1);
  });

  it('loses of its oldest steps what they changed, keeps their words, and still refuses a stale save', async () => {
    const start = await newPiece('Old');
    const id = start.id as PieceId;
    let now = start;
    for (let batch = 0; batch < 7; batch++) {
      const steps: Step[] = [];
      for (let i = 0; i < 100; i++) {
        const one = { ...step(now, title(`Name ${batch * 100 + i}`)), what: `name ${batch * 100 + i}` };
        now = applied(now, one.edit).piece;
        steps.push(one);
      }
      await saveSteps(db, programIn(MINE), id, batch * 100, randomUUID(), steps);
    }
    expect(await condenseHistory(db)).toBe(0);
    await sql`update edit set made_at = now() - interval '31 days' where piece_id = ${id}`.execute(db);
    expect(await condenseHistory(db)).toBe(99);
    const { rows } = await sql<{
      what: string;
    }>`select what from edit where piece_id = ${id} and condensed order by revision`.execute(db);
    expect(rows[0]?.what).toBe('name 0');
    expect((await lastSteps(db, programIn(MINE), id, 150)).map((one) => one.revision)[0]).toBe(100);
    expect((await openPiece(db, programIn(MINE), id))?.document.title).toBe('Name 699');
    const late = await saveSteps(db, programIn(MINE), id, 20, randomUUID(), [step(start, title('Very late'))]);
    expect(late).toMatchObject({ status: 'rejected', step: null });
  });
});

describe('another studio', () => {
  it('can neither read nor write anything of this one, through any repository function', async () => {
    const mine = await newPiece('Secret');
    const one = step(mine, title('Stolen'));
    await saveSteps(db, programIn(MINE), mine.id as PieceId, 0, 'a-save-of-mine', [one]);
    await keepRefused(db, programIn(MINE), {
      id: 'refused-of-mine' as RefusedId,
      pieceId: mine.id as PieceId,
      baseRevision: 0,
      foundRevision: 1,
      document: mine,
    });
    const before = await openPiece(db, programIn(MINE), mine.id as PieceId);

    expect(await getPiece(db, programIn(OTHER), mine.id as PieceId)).toBeNull();
    expect(await openPiece(db, programIn(OTHER), mine.id as PieceId)).toBeNull();
    expect(await db.transaction().execute((tx) => lockPiece(tx, programIn(OTHER), mine.id as PieceId))).toBeNull();
    expect((await listPieces(db, programIn(OTHER))).entries.map((entry) => entry.id)).not.toContain(mine.id);
    expect(await lastSteps(db, programIn(OTHER), mine.id as PieceId)).toEqual([]);
    expect(await stepsAfter(db, programIn(OTHER), mine.id as PieceId, 0)).toEqual([]);
    expect(await savedRevision(db, programIn(OTHER), mine.id as PieceId, 'a-save-of-mine')).toBeNull();
    expect(await getRefused(db, programIn(OTHER), 'refused-of-mine' as RefusedId)).toBeNull();
    expect((await duplicatePiece(db, programIn(OTHER), mine.id as PieceId)).ok).toBe(false);
    expect((await settleStale(db, programIn(OTHER), 'refused-of-mine' as RefusedId, true)).ok).toBe(false);

    expect(await setDeleted(db, programIn(OTHER), mine.id as PieceId, true)).toBe(false);
    await updatePiece(db, programIn(OTHER), { ...mine, title: 'Stolen' }, 9);
    expect((await saveSteps(db, programIn(OTHER), mine.id as PieceId, 1, randomUUID(), [one])).status).toBe('gone');
    expect(await lastDone(db, programIn(OTHER), mine.id as PieceId)).toBeNull();
    expect(await editsBetween(db, programIn(OTHER), mine.id as PieceId, 0, 9)).toEqual([]);
    await settleRefused(db, programIn(OTHER), 'refused-of-mine' as RefusedId, { ...mine, title: 'Stolen' });
    await expect(
      appendSteps(db, programIn(OTHER), { piece: mine.id as PieceId, from: 0, save: 'x', steps: [one] }),
    ).rejects.toThrow();
    expect(await openPiece(db, programIn(MINE), mine.id as PieceId)).toEqual(before);
    const { rows } = await sql<{
      settled_at: Date | null;
    }>`select settled_at from refused_save where id = 'refused-of-mine'`.execute(db);
    expect(rows[0]?.settled_at).toBeNull();
    expect((await listSetups(db, programIn(OTHER))).map((entry) => entry.piece)).not.toContain(mine.id);
    expect((await studioView(db, programIn(OTHER))).name).toBe('Other');
  });
});

describe('the demo studio', () => {
  it('is loaded once, in set-ups of every kind asked for, every note placed', async () => {
    expect(await loadDemo(db)).toBe(DEMO_PIECES.length);
    expect(await loadDemo(db)).toBe(0);
    const { entries } = await listPieces(db, programIn(DEMO_STUDIO.id));
    expect(entries).toHaveLength(DEMO_PIECES.length);
    const setups = new Set<string>();
    for (const entry of entries) {
      const open = await openPiece(db, programIn(DEMO_STUDIO.id), entry.id as PieceId);
      const document = must(readPiece(open?.document));
      for (const part of document.parts) {
        setups.add(
          `${part.setup.instrument.kind} ${part.setup.open.join(' ')} ${part.setup.absent.join()} ${JSON.stringify(part.setup.capos)}`,
        );
        expect(
          part.riffs.every(
            (riff) => riff.events.length > 0 && riff.events.every((event) => event.notes.every((note) => note.place)),
          ),
        ).toBe(true);
      }
    }
    expect(setups.size).toBeGreaterThanOrEqual(7);
  });
});
