import type { PieceId, PlayerId } from './ids';
import { programIn } from './actor';
import { runOnce } from 'graphile-worker';
import { sql } from 'kysely';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { applied, type Edit, type Step } from '@/core/edit';
import { makePart, makePiece, makeRiff, type Piece, SCHEMA_VERSION } from '@/core/score';
import { DEFAULT_COSTS, sizedHand } from '@/core/hand';
import { makeSetup } from '@/core/instrument';
import { calledToEvents, FIRST_LENGTH, readCalls } from '@/core/shorthand';
import { ZERO } from '@/core/time';
import type { Db } from './db/connection';
import { quiet } from './jobs/logger';
import { tasksFor } from './jobs/tasks';
import { acceptFit, askFit, FIT_LEAST, logChoices, recall, runFit, setFitAside } from './learning';
import { createPiece, saveSteps } from './pieces';
import {
  addCostTable,
  choiceCounts,
  currentCosts,
  findPlaced,
  getFit,
  latestFit,
  listPlayers,
  newestSamples,
  putPlayer,
  setPlayerDeleted,
} from './repositories/learning';
import { ensureStudio, studioView } from './repositories/studios';
import { freshDatabase } from './test-support/database';

let db: Db;
let url = '';
let close: () => Promise<void>;
const MINE = 'mine';
const OTHER = 'other';
const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const METERS = [{ bar: 0, beats: 4, unit: 4 }];

beforeAll(async () => {
  ({ db, url, close } = await freshDatabase());
  await ensureStudio(db, MINE, 'Mine');
  await ensureStudio(db, OTHER, 'Other');
});
afterAll(() => close());

const riffFrom = (id: string, calls: string) => {
  const read = readCalls(calls, { setup, meters: METERS, at: ZERO, length: FIRST_LENGTH, string: null });
  expect(read.faults).toEqual([]);
  return makeRiff(id, `Riff ${id}`, { meters: METERS, events: calledToEvents(read, new Set()) });
};
const pieceWith = async (title: string, riffs: readonly string[], studio = MINE): Promise<Piece> =>
  must(
    await createPiece(
      db,
      programIn(studio),
      makePiece('x', title, {
        parts: [makePart('p0', 'Guitar', setup, { riffs: riffs.map((letter, i) => riffFrom(`p0r${i}`, letter)) })],
      }),
    ),
  );
const work = (): Promise<void> =>
  runOnce({ connectionString: url, taskList: tasksFor(db), logger: quiet, noHandleSignals: true });
const waiting = async (task: string): Promise<number> =>
  Number(
    (
      await sql<{ n: string }>`select count(*) as n from graphile_worker.jobs where task_identifier = ${task}`.execute(
        db,
      )
    ).rows[0]?.n,
  );

const CELL = 'eighths on 5 5 7 on 4 5 on 5 7 on 4 7 5';

describe('choices', () => {
  it('are logged by the queue after a piece is made or saved: chosen places with every alternative', async () => {
    const piece = await pieceWith('Lantern walk', [CELL, 'eighths note A2 note C3 note D3']);
    expect(await waiting('log-choices')).toBeGreaterThan(0);
    await work();
    expect(await waiting('log-choices')).toBe(0);
    const { rows } = await sql<{
      notes: number;
      alternatives: {
        chosen: { string: number; fret: number };
        others: { string: number; fret: number; extra: number | null }[];
      }[];
      sample: { chosen: unknown[] };
    }>`select notes, alternatives, sample from choice where piece_id = ${piece.id}`.execute(db);
    expect(rows).toHaveLength(1);
    expect(rows[0]?.notes).toBe(6);
    expect(rows[0]?.alternatives[0]?.chosen).toEqual({ string: 5, fret: 5 });
    expect(rows[0]?.alternatives[0]?.others.map((place) => `${place.string}.${place.fret}`).sort()).toEqual([
      '4.0',
      '6.10',
    ]);
    expect(rows[0]?.sample.chosen).toHaveLength(6);
  });

  it('follow the piece: a lock given back is logged no more, and saving waits for a pause', async () => {
    const piece = await pieceWith('Short walk', ['eighths on 5 5 7 on 4 5']);
    await work();
    const count = async (): Promise<number> =>
      Number(
        (
          await sql<{
            n: number;
          }>`select coalesce(sum(notes), 0)::int as n from choice where piece_id = ${piece.id}`.execute(db)
        ).rows[0]?.n,
      );
    expect(await count()).toBe(3);
    const event = piece.parts[0]?.riffs[0]?.events[0];
    const note = event?.notes[0];
    if (!event || !note?.place) throw new Error('no note');
    const edit: Edit = {
      type: 'placeNote',
      part: 'p0',
      riff: 'p0r0',
      event: event.id,
      note: note.id,
      place: { ...note.place, locked: false, by: 'solver' },
    };
    const step: Step = {
      version: SCHEMA_VERSION,
      kind: 'do',
      edit,
      inverse: applied(piece, edit).inverse,
      what: 'gave back',
    };
    expect((await saveSteps(db, programIn(MINE), piece.id as PieceId, 0, 's1', [step])).status).toBe('saved');
    await work();
    // The job lies in the queue for some seconds more: keys that follow put it off.
    expect(await waiting('log-choices')).toBe(1);
    await logChoices(db, programIn(MINE), piece.id as PieceId);
    expect(await count()).toBe(0);
    await logChoices(db, programIn(MINE), piece.id as PieceId);
    expect(await count()).toBe(0);
  });

  it('belong to their studio', async () => {
    const piece = await pieceWith('Elsewhere', [CELL], OTHER);
    await work();
    const mine = await choiceCounts(db, programIn(MINE));
    await logChoices(db, programIn(MINE), piece.id as PieceId);
    expect(await choiceCounts(db, programIn(MINE))).toEqual(mine);
    expect((await choiceCounts(db, programIn(OTHER))).phrases).toBe(1);
    expect(await newestSamples(db, programIn(OTHER), 10)).toHaveLength(1);
  });
});

describe('a phrase placed before', () => {
  it('is offered in the same shape wherever it recurs, in another key too, and only in its studio', async () => {
    await pieceWith('First time', [CELL]);
    await work();
    const again = await pieceWith('Second time', ['eighths note E3 note F#3 note A3 note F#3 note B3 note A3']);
    const ids = again.parts[0]?.riffs[0]?.events.map((event) => event.id) ?? [];
    const found = await recall(db, programIn(MINE), again, 'p0r0', ids);
    expect(found[0]).toMatchObject({ whole: true, moved: 2 });
    expect(found[0]?.places.map((place) => [place.string, place.fret])).toEqual([
      [5, 7],
      [5, 9],
      [4, 7],
      [5, 9],
      [4, 9],
      [4, 7],
    ]);
    expect(await recall(db, programIn(OTHER), { ...again, id: 'not-there' }, 'p0r0', ids)).toHaveLength(1);
    expect(await findPlaced(db, programIn('nobody'), ';', 10)).toEqual([]);
    expect(await recall(db, programIn(MINE), again, 'p0r0', ids.slice(0, 3))).toEqual([]);
  });
});

describe('a fit of the weights', () => {
  it('wants enough phrases first, and says how many there are', async () => {
    const asked = await askFit(db, programIn('other'));
    expect(asked).toMatchObject({ ok: false, error: { rule: 'too-few' } });
    expect(asked.ok ? '' : asked.error.words).toContain(String(FIT_LEAST));
  });

  it('is worked off by the queue, reports, and is used only when accepted', async () => {
    // Somebody who plays everything in open position.
    const riffs = [
      'eighths on 5 open 2 3 on 4 open 2 3',
      'eighths on 4 open 2 on 3 open 2 on 2 open 1',
      'eighths on 6 open 2 3 on 5 open 2 3',
      'eighths on 3 open 2 on 2 open 1 3 on 1 open',
      'eighths on 5 3 on 4 open 2 3 on 3 open 2',
      'eighths on 2 3 1 open on 3 2 open on 4 3',
    ];
    await pieceWith('Open air', riffs);
    await work();
    const asked = must(await askFit(db, programIn(MINE)));
    expect(must(await askFit(db, programIn(MINE))).id).toBe(asked.id);
    await work();
    const fit = await getFit(db, programIn(MINE), asked.id);
    expect(fit?.state).toBe('done');
    expect(fit?.result?.after.same).toBeGreaterThanOrEqual(fit?.result?.before.same ?? Infinity);
    expect(fit?.result?.after.notes).toBe((await choiceCounts(db, programIn(MINE))).notes);
    expect(await currentCosts(db, programIn(MINE))).toBeNull();
    expect(await acceptFit(db, programIn(OTHER), asked.id)).toMatchObject({ ok: false });
    const kept = must(await acceptFit(db, programIn(MINE), asked.id));
    expect(await currentCosts(db, programIn(MINE))).toEqual(kept);
    expect(kept.weights).toEqual(fit?.result?.costs);
    expect(await acceptFit(db, programIn(MINE), asked.id)).toMatchObject({ ok: false });
  });

  it('can be stopped, and does not rise again', async () => {
    const asked = must(await askFit(db, programIn(MINE)));
    expect(await setFitAside(db, programIn(OTHER), asked.id)).toBe(false);
    expect(await setFitAside(db, programIn(MINE), asked.id)).toBe(true);
    await runFit(db, programIn(MINE), asked.id);
    expect((await latestFit(db, programIn(MINE)))?.state).toBe('set aside');
    expect(await latestFit(db, programIn(OTHER))).toBeNull();
  });
});

describe('hands and tables', () => {
  it('are kept, changed and taken away in one studio only', async () => {
    await putPlayer(db, programIn(MINE), { id: 'h1', name: 'Mira', profile: sizedHand(0.9) });
    await putPlayer(db, programIn(MINE), { id: 'h1', name: 'Mira the second', profile: sizedHand(0.92) });
    expect((await listPlayers(db, programIn(MINE))).map((one) => one.name)).toEqual(['Mira the second']);
    expect(await listPlayers(db, programIn(OTHER))).toEqual([]);
    expect(await setPlayerDeleted(db, programIn(OTHER), 'h1' as PlayerId, true)).toBe(false);
    expect(await setPlayerDeleted(db, programIn(MINE), 'h1' as PlayerId, true)).toBe(true);
    expect(await listPlayers(db, programIn(MINE))).toEqual([]);
  });

  it('grow by versions: none is ever changed, and the newest is in use', async () => {
    const first = await addCostTable(db, programIn(OTHER), 'One', DEFAULT_COSTS);
    const second = await addCostTable(db, programIn(OTHER), 'Two', { ...DEFAULT_COSTS, open: 1 });
    expect([first.version, second.version]).toEqual([1, 2]);
    expect((await studioView(db, programIn(OTHER))).tables.map((one) => one.name)).toEqual(['Two', 'One']);
    expect((await currentCosts(db, programIn(OTHER)))?.weights.open).toBe(1);
  });
});
