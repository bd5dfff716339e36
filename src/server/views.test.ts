import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { makeSetup } from '@/core/instrument';
import { DEFAULT_SCHOOLS } from '@/core/schools';
import { makePart, makePiece } from '@/core/score';
import { programIn } from './actor';
import type { Db } from './db/connection';
import { createPiece } from './pieces';
import { copyInstrument } from './rack';
import { putSchools } from './repositories/rack';
import { ensureStudio } from './repositories/studios';
import { freshDatabase } from './test-support/database';
import { answerView, VIEWS, type ViewAnswer, type ViewName } from './views';

const MINE = programIn('mine');
const OTHER = programIn('other');
let db: Db;
let close: () => Promise<void>;
let piece = '';
let instrument = '';
beforeAll(async () => {
  ({ db, close } = await freshDatabase());
  await ensureStudio(db, 'mine', 'Mine');
  await ensureStudio(db, 'other', 'Other');
  const { setup } = must(makeSetup({ instrument: 'guitar-6', tuning: 'drop-d' }));
  const document = makePiece('x', 'Lantern Song', { parts: [makePart('p0', 'Guitar', setup)] });
  piece = must(await createPiece(db, MINE, document)).id;
  instrument = must(await copyInstrument(db, MINE, 'guitar-6', 'Loft guitar')).instrument.id;
  await putSchools(db, MINE, { ...DEFAULT_SCHOOLS, notes: 'german' });
});
afterAll(() => close());

const of = (name: string, asked: Readonly<Record<string, string>> = {}, actor = MINE) =>
  answerView(db, actor, name, new URLSearchParams(asked));
const data = async <Name extends ViewName>(name: Name, asked: Readonly<Record<string, string>> = {}, actor = MINE) =>
  ((await of(name, asked, actor)) as ViewAnswer<Name> | null)?.data;

describe('what a page shows', () => {
  it('is answered by every view, with the studio where it is wanted', async () => {
    for (const name of Object.keys(VIEWS)) {
      const bare = await of(name, { piece, instrument });
      expect(bare, name).not.toBeNull();
      expect(bare?.studio, name).toBeUndefined();
      const whole = await of(name, { piece, instrument, studio: '' });
      expect(whole?.studio, name).toMatchObject({ name: 'Mine', schools: { notes: 'german' } });
      expect(
        whole?.studio?.instruments.map((one) => one.instrument.name),
        name,
      ).toEqual(['Loft guitar']);
    }
  });

  it('is what is there', async () => {
    expect((await data('shelf'))?.page.entries.map((entry) => entry.title)).toEqual(['Lantern Song']);
    expect((await data('setups'))?.parts.map((part) => part.title)).toEqual(['Lantern Song']);
    expect((await data('tune', { piece, part: 'p0' }))?.setup?.tuningId).toBe('drop-d');
    expect((await data('tune', { piece }))?.setup?.tuningId).toBe('drop-d');
    expect((await data('tune', { piece, part: 'p9' }))?.setup).toBeNull();
    expect((await data('instrument', { instrument }))?.entry.instrument.name).toBe('Loft guitar');
    expect((await data('about', { piece }))?.history).toEqual([]);
    expect((await data('weights'))?.counts).toEqual({ phrases: 0, notes: 0 });
  });

  it('is nothing where there is no such view, thing or id', async () => {
    for (const name of ['', 'nothing', 'constructor', '__proto__', 'toString', '../studio'])
      expect(await of(name), name).toBeNull();
    expect(await of('instrument', { instrument: 'not-there' })).toBeNull();
    for (const id of ['', '../etc', 'a b', 'x'.repeat(65), "'; drop table piece; --", '\u0000']) {
      expect(await of('instrument', { instrument: id })).toBeNull();
      for (const name of ['about', 'files', 'clips', 'tune']) expect(await of(name, { piece: id }), name).toBeNull();
    }
  });

  it('is never another studio’s', async () => {
    expect((await data('shelf', {}, OTHER))?.page).toMatchObject({ entries: [], total: 0 });
    expect((await data('setups', {}, OTHER))?.parts).toEqual([]);
    expect((await data('tune', { piece, part: 'p0' }, OTHER))?.setup).toBeNull();
    expect(await of('instrument', { instrument }, OTHER)).toBeNull();
    expect(await data('about', { piece }, OTHER)).toMatchObject({ background: { requests: [] }, history: [] });
    expect(await data('files', { piece }, OTHER)).toEqual({ originals: [] });
    expect(await data('clips', { piece }, OTHER)).toEqual({ clips: [] });
    expect((await of('studio', { studio: '' }, OTHER))?.studio).toMatchObject({
      ...{ name: 'Other', instruments: [], tunings: [], players: [] },
      schools: DEFAULT_SCHOOLS,
    });
  });
});
