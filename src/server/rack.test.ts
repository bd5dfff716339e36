import type { InstrumentId, TuningId, PieceId } from './ids';
import { programIn } from './actor';
import { setTitle } from '@/core/command';
import { makePart, makePiece, type Piece, SCHEMA_VERSION } from '@/core/score';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readFileSync } from 'node:fs';
import { must } from '@/core/base';
import { makeSetup, type RackInstrument } from '@/core/instrument';
import { DEFAULT_SCHOOLS } from '@/core/schools';
import type { Db } from './db/connection';
import { createPiece, openPiece, saveSteps } from './pieces';
import { copyInstrument, importRack, keepTuning, makeStudioSetup, openRack, saveInstrument } from './rack';
import { listPieces, listSetups } from './repositories/pieces';
import {
  addReadings,
  deleteReading,
  getInstrumentForUpdate,
  instrumentChanges,
  listInstruments,
  listReadings,
  listTunings,
  putInstrument,
  putSchools,
  putTuning,
  setInstrumentDeleted,
  setTuningDeleted,
} from './repositories/rack';
import { ensureStudio, studioView } from './repositories/studios';
import { freshDatabase } from './test-support/database';

let db: Db;
let close: () => Promise<void>;
const MINE = 'mine';
const OTHER = 'other';
beforeAll(async () => {
  ({ db, close } = await freshDatabase());
  await ensureStudio(db, MINE, 'Mine');
  await ensureStudio(db, OTHER, 'Other');
});
afterAll(() => close());

const copy = async (name: string): Promise<RackInstrument> =>
  must(await copyInstrument(db, programIn(MINE), 'guitar-6', name));
const TUNING = {
  name: 'Loft',
  family: 'altered' as const,
  spelling: 'E2 A2 D3 G3 B3 D4',
  instruments: [],
  source: 'ours',
};

describe('instruments', () => {
  it('begin as a copy, change with a history in words, and refuse a stale save', async () => {
    const guitar = await copy('Loft guitar');
    const { id } = guitar.instrument;
    const longer: RackInstrument = {
      ...guitar,
      instrument: { ...guitar.instrument, scaleMm: 660 },
      description: 'buzzes',
    };
    expect(await saveInstrument(db, programIn(MINE), longer, 0)).toMatchObject({ status: 'saved', revision: 1 });
    expect(await saveInstrument(db, programIn(MINE), longer, 1)).toMatchObject({ status: 'saved', revision: 1 });
    expect(await saveInstrument(db, programIn(MINE), guitar, 0)).toMatchObject({ status: 'stale' });
    expect((await instrumentChanges(db, programIn(MINE), id as InstrumentId)).map((one) => one.what)).toEqual([
      'scale from 648 to 660; description changed',
      'put on the rack, from Electric guitar, 6 strings',
    ]);
    expect(
      await saveInstrument(db, programIn(MINE), { ...longer, instrument: { ...longer.instrument, strings: [] } }, 1),
    ).toMatchObject({ status: 'refused', at: 'strings' });
    expect(
      await saveInstrument(db, programIn(MINE), { ...longer, instrument: { ...longer.instrument, id: 'r-gone' } }, 1),
    ).toMatchObject({ status: 'refused' });
    expect((await listInstruments(db, programIn(MINE))).find((entry) => entry.instrument.id === id)).toMatchObject({
      revision: 1,
      description: 'buzzes',
      instrument: { scaleMm: 660 },
    });
    const again = must(await copyInstrument(db, programIn(MINE), id, ''));
    expect(again.instrument).toMatchObject({ name: 'Loft guitar, copy', scaleMm: 660 });
    expect((await copyInstrument(db, programIn(MINE), 'harp', 'x')).ok).toBe(false);
  });

  it('come off the rack and go back on, with their history', async () => {
    const { instrument } = await copy('Spare');
    expect(await setInstrumentDeleted(db, programIn(MINE), instrument.id as InstrumentId, true)).toBe(true);
    expect((await listInstruments(db, programIn(MINE))).some((entry) => entry.instrument.id === instrument.id)).toBe(
      false,
    );
    await setInstrumentDeleted(db, programIn(MINE), instrument.id as InstrumentId, false);
    expect((await listInstruments(db, programIn(MINE))).some((entry) => entry.instrument.id === instrument.id)).toBe(
      true,
    );
  });

  it('and tunings of one’s own make set-ups', async () => {
    const { instrument } = await copy('For set-ups');
    const kept = must(await keepTuning(db, programIn(MINE), TUNING));
    expect(kept.id).toBe('own-e2-a2-d3-g3-b3-d4');
    const made = must(
      await makeStudioSetup(db, programIn(MINE), {
        instrument: instrument.id,
        tuning: kept.id,
        capo: [{ fret: 2, strings: [3, 2, 1] }],
      }),
    );
    expect(made.setup).toMatchObject({
      tuningId: kept.id,
      open: [40, 45, 50, 55, 59, 62],
      capos: [{ fret: 2, strings: [3, 2, 1] }],
    });
    expect((await makeStudioSetup(db, programIn(OTHER), { instrument: instrument.id })).ok).toBe(false);
    expect(await keepTuning(db, programIn(MINE), { ...TUNING, spelling: 'E2 A2 D3 G3 B3 E4' })).toMatchObject({
      ok: false,
      error: { rule: 'known-tuning' },
    });
    await keepTuning(db, programIn(MINE), { ...TUNING, name: 'Renamed' });
    expect((await listTunings(db, programIn(MINE))).map((tuning) => tuning.name)).toEqual(['Renamed']);
    await setTuningDeleted(db, programIn(MINE), kept.id as TuningId, true);
    expect(await listTunings(db, programIn(MINE))).toEqual([]);
    await setTuningDeleted(db, programIn(MINE), kept.id as TuningId, false);
    expect((await openRack(db, programIn(MINE))).tunings).toHaveLength(1);
  });

  it('come in from a file, all or nothing', async () => {
    const { instrument, ...rest } = await copy('From file');
    const file = (change: object): string =>
      JSON.stringify({
        format: 'intonazione-rack',
        version: 1,
        instruments: [{ ...rest, instrument: { ...instrument, name: 'Brought in', ...change } }],
        tunings: [{ ...TUNING, id: 'own-file' }],
      });
    const before = (await listInstruments(db, programIn(MINE))).length;
    expect(await importRack(db, programIn(MINE), file({ frets: 99 }))).toMatchObject({ ok: false });
    expect((await listInstruments(db, programIn(MINE))).length).toBe(before);
    expect(must(await importRack(db, programIn(MINE), file({ scaleMm: 760 })))).toMatchObject({
      instruments: 1,
      tunings: 1,
      questions: [expect.stringContaining('unusual scale')],
    });
    const brought = (await listInstruments(db, programIn(MINE))).find(
      (entry) => entry.instrument.name === 'Brought in',
    );
    expect(brought?.instrument.id).not.toBe(instrument.id);
  });
});

describe('the tuner log', () => {
  it('keeps readings in order and strikes those that can’t be', async () => {
    await addReadings(db, programIn(MINE), 'guitar-6' as InstrumentId, []);
    await addReadings(db, programIn(MINE), 'guitar-6' as InstrumentId, [
      { string: 6, kind: 'open', capo: 0, cents: -3.25 },
    ]);
    await addReadings(db, programIn(MINE), 'guitar-6' as InstrumentId, [
      { string: 6, kind: 'capo', capo: 3, cents: 5 },
    ]);
    const readings = await listReadings(db, programIn(MINE), 'guitar-6' as InstrumentId);
    expect(readings.map(({ string, kind, capo, cents }) => ({ string, kind, capo, cents }))).toEqual([
      { string: 6, kind: 'open', capo: 0, cents: -3.25 },
      { string: 6, kind: 'capo', capo: 3, cents: 5 },
    ]);
    expect(readings[0]?.at).toBeLessThanOrEqual(readings[1]?.at ?? 0);
    expect(await deleteReading(db, programIn(OTHER), readings[0]?.id ?? '')).toBe(false);
    expect(await deleteReading(db, programIn(MINE), readings[0]?.id ?? '')).toBe(true);
    expect(await listReadings(db, programIn(MINE), 'guitar-6' as InstrumentId)).toHaveLength(1);
    await expect(
      addReadings(db, programIn(MINE), 'guitar-6' as InstrumentId, [
        { string: 6, kind: 'hummed' as never, capo: 0, cents: 0 },
      ]),
    ).rejects.toThrow();
  });
});

describe('schools', () => {
  it('are the usual until set, and fall back to it where a stored value is none', async () => {
    expect((await studioView(db, programIn(MINE))).schools).toEqual(DEFAULT_SCHOOLS);
    await putSchools(db, programIn(MINE), { ...DEFAULT_SCHOOLS, notes: 'german', a4: 442 });
    await putSchools(db, programIn(MINE), { ...DEFAULT_SCHOOLS, notes: 'solfege', a4: 442 });
    expect((await studioView(db, programIn(MINE))).schools).toMatchObject({ notes: 'solfege', a4: 442 });
    await putSchools(db, programIn(MINE), { notes: 'runes' } as never);
    expect((await studioView(db, programIn(MINE))).schools).toEqual(DEFAULT_SCHOOLS);
  });
});

describe('pieces written by an older program', () => {
  it('open, list their set-ups, are worked on and saved', async () => {
    const old = JSON.parse(
      readFileSync(new URL('../core/score/fixtures/piece-v1.json', import.meta.url), 'utf8'),
    ) as Piece;
    const id = 'oldpiece';
    await db
      .insertInto('piece')
      .values({ id, studio_id: MINE, title: 'Old', summary: '', document: JSON.stringify({ ...old, id }), revision: 0 })
      .execute();
    expect((await openPiece(db, programIn(MINE), id as PieceId))?.document.parts[0]?.setup.capos).toEqual([
      { fret: 3, strings: null },
    ]);
    expect((await listSetups(db, programIn(MINE))).find((entry) => entry.piece === id)).toMatchObject({
      part: 'Acoustic guitar',
      setup: { capos: [{ fret: 3, strings: null }] },
    });
    const step = {
      version: SCHEMA_VERSION as typeof SCHEMA_VERSION,
      kind: 'do' as const,
      edit: setTitle('New life'),
      inverse: setTitle('Old'),
      what: 'renamed',
    };
    expect(await saveSteps(db, programIn(MINE), id as PieceId, 0, 'save-on-old', [step])).toEqual({
      status: 'saved',
      revision: 1,
    });
    expect((await listPieces(db, programIn(MINE), { search: 'new life' })).entries[0]?.summary).toContain(
      'capo fret 3',
    );
  });
});

describe('another studio', () => {
  it('can neither read nor write the rack, the log, or the schools', async () => {
    const guitar = await copy('Only mine');
    const { id } = guitar.instrument;
    await putTuning(db, programIn(MINE), { ...TUNING, id: 'own-mine' });
    await addReadings(db, programIn(MINE), id as InstrumentId, [{ string: 1, kind: 'open', capo: 0, cents: 1 }]);
    await createPiece(
      db,
      programIn(MINE),
      makePiece('x', 'Mine', { parts: [makePart('p0', 'G', must(makeSetup({ instrument: 'guitar-6' })).setup)] }),
    );
    await putSchools(db, programIn(MINE), { ...DEFAULT_SCHOOLS, notes: 'german' });
    expect(await listInstruments(db, programIn(OTHER))).toEqual([]);
    expect(await listTunings(db, programIn(OTHER))).toEqual([]);
    expect(await listReadings(db, programIn(OTHER), id as InstrumentId)).toEqual([]);
    expect(await instrumentChanges(db, programIn(OTHER), id as InstrumentId)).toEqual([]);
    expect(await listSetups(db, programIn(OTHER))).toEqual([]);
    expect((await studioView(db, programIn(OTHER))).schools).toEqual(DEFAULT_SCHOOLS);
    expect(
      await db.transaction().execute((tx) => getInstrumentForUpdate(tx, programIn(OTHER), id as InstrumentId)),
    ).toBeNull();
    expect((await copyInstrument(db, programIn(OTHER), id, 'stolen')).ok).toBe(false);
    expect((await saveInstrument(db, programIn(OTHER), { ...guitar, description: 'stolen' }, 0)).status).toBe(
      'refused',
    );
    expect(await setInstrumentDeleted(db, programIn(OTHER), id as InstrumentId, true)).toBe(false);
    expect(await setTuningDeleted(db, programIn(OTHER), 'own-mine' as TuningId, true)).toBe(false);
    await expect(
      putInstrument(db, programIn(OTHER), { ...guitar, description: 'stolen' }, 5, 'stolen'),
    ).rejects.toThrow('not on this studio');
    await expect(putInstrument(db, programIn(OTHER), guitar, 0, 'stolen')).rejects.toThrow();
    await putTuning(db, programIn(OTHER), { ...TUNING, id: 'own-mine', name: 'Theirs' });
    await putSchools(db, programIn(OTHER), { ...DEFAULT_SCHOOLS, notes: 'solfege' });
    expect((await listInstruments(db, programIn(MINE))).find((entry) => entry.instrument.id === id)).toMatchObject({
      description: '',
      revision: 0,
    });
    expect((await listTunings(db, programIn(MINE))).find((tuning) => tuning.id === 'own-mine')?.name).toBe('Loft');
    expect((await studioView(db, programIn(MINE))).schools.notes).toBe('german');
    expect((await instrumentChanges(db, programIn(MINE), id as InstrumentId)).length).toBe(1);
  });
});
