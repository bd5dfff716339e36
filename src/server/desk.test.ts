import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { newRequest, type Request } from '@/core/desk';
import { applied, applyEdit, type Edit, type Step } from '@/core/edit';
import { makeSetup } from '@/core/instrument';
import { makePart, makePiece, makeRiff, SCHEMA_VERSION, type Piece } from '@/core/score';
import { calledToEvents, FIRST_LENGTH, readCalls } from '@/core/shorthand';
import { ZERO } from '@/core/time';
import { programIn } from './actor';
import type { Db } from './db/connection';
import {
  backgroundOf,
  handOver,
  keepRequest,
  keepSeries,
  linkPieces,
  makeRequested,
  makeVersion,
  openDesk,
} from './desk';
import type { HandoutId, LinkId, PieceId, RequestId, SeriesId } from './ids';
import { createPiece, openPiece, pastPiece, saveSteps } from './pieces';
import {
  askedFor,
  deleteHandout,
  deleteLink,
  deleteSeries,
  getRequest,
  insertHandout,
  insertLink,
  linksOf,
  putSeries,
  requestsOf,
  setRequestDeleted,
  updateRequest,
} from './repositories/desk';
import { historyLines } from './repositories/history';
import { setDeleted } from './repositories/pieces';
import { findMusic, findWords, replaceMusic, replaceSaid } from './repositories/search';
import { ensureStudio } from './repositories/studios';
import { indexPiece, searchMusic, searchWords } from './search';
import { freshDatabase } from './test-support/database';

let db: Db;
let close: () => Promise<void>;
const mine = programIn('mine');
const other = programIn('other');

beforeAll(async () => {
  ({ db, close } = await freshDatabase());
  await ensureStudio(db, 'mine', 'Mine');
  await ensureStudio(db, 'other', 'Other');
});
afterAll(() => close());

const request = (over: Partial<Request> = {}): Request => ({
  ...newRequest('2031-04-09'),
  title: 'Trapdoor March',
  asker: 'Odile',
  ...over,
});
const keep = async (over: Partial<Request> = {}) =>
  must(await keepRequest(db, mine, null, 0, { request: request(over), series: null, piece: null }));
const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const { setup: dropped } = must(makeSetup({ instrument: 'guitar-6', tuning: 'D A D G B E' }));
const riff = (calls: string, at = setup) =>
  calledToEvents(
    readCalls(calls, {
      setup: at,
      meters: [{ bar: 0, beats: 4, unit: 4 }],
      at: ZERO,
      length: FIRST_LENGTH,
      string: null,
    }),
    new Set(),
  );
const put = async (title: string, calls: string, at = setup, actor = mine): Promise<Piece> => {
  const made = must(
    await createPiece(
      db,
      actor,
      makePiece('new', title, {
        parts: [
          makePart('g', 'Guitar', at, {
            tone: 'bridge pickup',
            riffs: [makeRiff('a', 'Hinge', { events: riff(calls, at) })],
          }),
        ],
      }),
    ),
  );
  await indexPiece(db, actor, made.id as PieceId);
  return made;
};

describe('a request', () => {
  it('is kept, changed over its own revision only, and nothing that was written is written over', async () => {
    const first = await keep();
    const again = must(
      await keepRequest(db, mine, first.id, first.revision, {
        request: request({ asker: 'Bruno' }),
        series: null,
        piece: null,
      }),
    );
    expect([first.revision, again.revision, again.request.asker]).toEqual([0, 1, 'Bruno']);
    const late = await keepRequest(db, mine, first.id, 0, {
      request: request({ asker: 'Late' }),
      series: null,
      piece: null,
    });
    expect(late.ok ? null : late.error.rule).toBe('stale');
    expect((await getRequest(db, mine, first.id))?.request.asker).toBe('Bruno');
  });
  it('becomes a piece in one step, with its title and credit, once; and is shown where that piece is', async () => {
    const asked = await keep({ title: 'Lantern Waltz', credit: 'the pit band', state: 'accepted' });
    const made = must(await makeRequested(db, mine, asked.id));
    expect(made.piece?.title).toBe('Lantern Waltz');
    expect(made.request.state).toBe('working');
    const twice = must(await makeRequested(db, mine, asked.id));
    expect(twice.piece?.id).toBe(made.piece?.id);
    const piece = made.piece?.id as PieceId;
    expect((await requestsOf(db, mine, piece)).map((one) => one.id)).toEqual([asked.id]);
    // A piece that is off the shelf is not led to.
    await setDeleted(db, mine, piece, true);
    expect((await getRequest(db, mine, asked.id))?.piece).toBeNull();
  });
  it('belongs to a series while there is one, and leaves the desk and comes back', async () => {
    const series = must(await keepSeries(db, mine, null, { name: 'Autumn', note: '' }));
    const one = must(
      await keepRequest(db, mine, null, 0, { request: request({ release: '2031-05-01' }), series, piece: null }),
    );
    expect(one.series).toBe(series);
    expect(await deleteSeries(db, mine, series)).toBe(true);
    expect((await getRequest(db, mine, one.id))?.series).toBeNull();
    const gone = await keepRequest(db, mine, null, 0, { request: request(), series, piece: null });
    expect(gone.ok ? null : gone.error.rule).toBe('no-series');
    expect(await setRequestDeleted(db, mine, one.id, true)).toBe(true);
    expect((await openDesk(db, mine)).requests.map((kept) => kept.id)).not.toContain(one.id);
    await setRequestDeleted(db, mine, one.id, false);
    expect((await openDesk(db, mine)).requests.map((kept) => kept.id)).toContain(one.id);
  });
});

describe('what stands behind a piece', () => {
  it('links are seen from both sides, once each, and what was handed over stays in order', async () => {
    const [a, b] = [await put('Hinge song', 'on 5 3 3 5 3'), await put('Hinge again', 'on 5 3 3 5 3')];
    const link = { piece: a.id as PieceId, other: b.id as PieceId, kind: 'prerequisite' as const };
    must(await linkPieces(db, mine, link));
    expect(must(await linkPieces(db, mine, link))).toHaveLength(1);
    expect(await linksOf(db, mine, link.other)).toMatchObject([{ piece: a.id, back: true, title: 'Hinge song' }]);
    const self = await linkPieces(db, mine, { ...link, other: link.piece });
    expect(self.ok).toBe(false);
    must(await handOver(db, mine, link.piece, { to: 'Odile', what: 'the sheet', on: '2031-04-09' }));
    const all = must(
      await handOver(db, mine, link.piece, { to: 'Bruno', what: 'the sheet in large print', on: '2031-04-10' }),
    );
    expect(all.map((one) => one.to)).toEqual(['Bruno', 'Odile']);
    const background = await backgroundOf(db, mine, link.piece);
    expect([background.links.length, background.handouts.length, background.requests.length]).toEqual([1, 2, 0]);
    expect((await openDesk(db, mine)).handed.slice(0, 2).map((one) => [one.title, one.to])).toEqual([
      ['Hinge song', 'Bruno'],
      ['Hinge song', 'Odile'],
    ]);
    expect(await deleteLink(db, mine, background.links[0]?.id as LinkId)).toBe(true);
    expect(await deleteHandout(db, mine, background.handouts[0]?.id as HandoutId)).toBe(true);
  });
});

describe('versions of a piece', () => {
  it('are pieces of their own, linked, and nothing of one goes into the other', async () => {
    const first = await put('Storm piece', 'on 5 3 3 5 3');
    const id = first.id as PieceId;
    const made = must(await makeVersion(db, mine, id, 'live'));
    const live = await openPiece(db, mine, made);
    expect(live?.document).toMatchObject({
      title: 'Storm piece (live take)',
      source: { version: 'live', evidence: [] },
    });
    expect(await linksOf(db, mine, id)).toMatchObject([{ piece: made, kind: 'other version', back: true }]);
    const edit: Edit = { type: 'patchPiece', set: { title: 'Changed' }, clear: [] };
    const document = live?.document ?? first;
    const step: Step = {
      version: SCHEMA_VERSION,
      kind: 'do',
      edit,
      inverse: applied(document, edit).inverse,
      what: 'x',
    };
    expect((await saveSteps(db, mine, made, 0, 'save-of-version', [step])).status).toBe('saved');
    expect((await openPiece(db, mine, id))?.document).toEqual(first);
    expect((await makeVersion(db, other, id, 'cover')).ok).toBe(false);
  });
});

describe('search', () => {
  it('finds what is said, begun words and words with a slip in them; what is off the shelf is not found', async () => {
    const piece = await put('Copper Gallery', 'on 5 3 3 5 3');
    const kinds = async (words: string) =>
      (await searchWords(db, mine, words))
        .filter((one) => one.piece === piece.id)
        .map((one) => `${one.kind}: ${one.words}`);
    expect(await kinds('copper')).toEqual(['title: Copper Gallery']);
    expect(await kinds('gall')).toEqual(['title: Copper Gallery']);
    expect(await kinds('coper galery')).toEqual(['title: Copper Gallery']);
    expect(await kinds('bridge pick')).toContain('tone: bridge pickup');
    for (const odd of ['', '   ', "');drop", '% _ \\', '& | !', '😀'.repeat(100)]) await searchWords(db, mine, odd);
    await setDeleted(db, mine, piece.id as PieceId, true);
    expect(await kinds('copper')).toEqual([]);
    const asked = await keep({
      title: 'Ropewalk',
      items: [{ kind: 'later', what: 'the second half', due: null, done: null }],
    });
    expect((await searchWords(db, mine, 'second half')).map((one) => one.request)).toContain(asked.id);
  });
  it('finds music as it is called: the same, moved, in another tuning, the rhythm alone', async () => {
    const same = await put('One', 'on 4 0 2 3 | on 3 2 on 4 3');
    const moved = await put('Two', 'on 5 1 | on 4 3 5 6 | on 3 5 on 4 6');
    const elsewhere = await put('Three', 'on 4 0 2 3 | on 3 2 on 4 3', dropped);
    const hits = must(await searchMusic(db, mine, 'on 4 0 2 3 | on 3 2', setup));
    const of = (piece: Piece) => hits.find((hit) => hit.piece === piece.id);
    expect(of(same)?.words).toContain('the same notes, the same grips');
    expect(of(moved)?.words).toContain('the same line 3 semitones higher, the same grips 3 frets higher');
    expect(of(moved)?.match.event).toBe(1);
    expect(of(elsewhere)?.words).toContain('strings 4-3 are alike in both tunings');
    expect(hits[0]?.match.sound).toBe(true);
    const wrong = await searchMusic(db, mine, 'on 99', setup);
    expect(wrong.ok).toBe(false);
    const few = await searchMusic(db, mine, 'on 5 3', setup);
    expect(few.ok ? '' : few.error.rule).toBe('too-few');
  });
});

describe('the history of a piece', () => {
  const renamed = (piece: Piece, title: string): Step => {
    const edit: Edit = { type: 'patchPiece', set: { title }, clear: [] };
    return {
      version: SCHEMA_VERSION,
      kind: 'do',
      edit,
      inverse: applied(piece, edit).inverse,
      what: `named it ${title}`,
    };
  };
  it('is told in words, and any kept state is seen and leads back', async () => {
    let piece = await put('First name', 'on 5 3 3 5 3');
    const id = piece.id as PieceId;
    for (const [base, title] of ['Second name', 'Third name', 'Fourth name'].entries()) {
      const step = renamed(piece, title);
      expect((await saveSteps(db, mine, id, base, `save-of-title-${base}`, [step])).status).toBe('saved');
      piece = { ...piece, title };
    }
    const lines = await historyLines(db, mine, id);
    expect(lines.map((line) => [line.revision, line.what, line.kept])).toEqual([
      [3, 'named it Fourth name', true],
      [2, 'named it Third name', true],
      [1, 'named it Second name', true],
    ]);
    expect((await historyLines(db, mine, id, 2)).map((line) => line.revision)).toEqual([1]);
    const past = must(await pastPiece(db, mine, id, 1));
    expect(past.document.title).toBe('Second name');
    expect(past.from).toBe(3);
    const back = must(applyEdit(piece, { type: 'batch', what: '', edits: [...past.back] }));
    expect(back).toEqual(past.document);
    // What is condensed is told, and not to be seen any more.
    await db
      .updateTable('edit')
      .set({ condensed: true })
      .where('piece_id', '=', id)
      .where('revision', '=', 2)
      .execute();
    const left = await historyLines(db, mine, id);
    expect(left.map((line) => line.kept)).toEqual([true, true, false]);
    const gone = await pastPiece(db, mine, id, 1);
    expect(gone.ok ? '' : gone.error.rule).toBe('condensed');
    expect((await pastPiece(db, other, id, 2)).ok).toBe(false);
    expect(await historyLines(db, other, id)).toEqual([]);
  });
  it('says for whom a piece is made: the open request that is due first', async () => {
    const piece = await put('For somebody', 'on 5 3 3 5 3');
    const id = piece.id as PieceId;
    for (const over of [
      { asker: 'Late', due: '2031-06-01' },
      { asker: 'Soon', due: '2031-05-01' },
      { asker: 'Done', due: '2031-01-01', state: 'handed' as const },
    ])
      must(await keepRequest(db, mine, null, 0, { request: request(over), series: null, piece: id }));
    expect((await openPiece(db, mine, id))?.asked).toEqual({ asker: 'Soon', due: '2031-05-01' });
    expect(await askedFor(db, other, id)).toBeNull();
  });
});

describe('another studio', () => {
  it('neither reads nor writes a row of it', async () => {
    const asked = await keep({ title: 'Nobody else’s' });
    const piece = await put('Mine alone', 'on 5 3 5 6 8');
    const theirs = await put('Theirs', 'on 5 3 5 6 8', setup, other);
    const [id, series] = [piece.id as PieceId, must(await keepSeries(db, mine, null, { name: 'Mine', note: '' }))];
    const link = { piece: id, other: theirs.id as PieceId, kind: 'sister riff' as const };
    must(await handOver(db, mine, id, { to: 'Odile', what: 'the sheet', on: '2031-04-09' }));
    const [handout] = (await backgroundOf(db, mine, id)).handouts;
    expect(await getRequest(db, other, asked.id)).toBeNull();
    expect(await requestsOf(db, other, id)).toEqual([]);
    expect(await openDesk(db, other)).toEqual({ requests: [], series: [], handed: [] });
    expect(await backgroundOf(db, other, id)).toEqual({ requests: [], links: [], handouts: [] });
    expect((await makeRequested(db, other, asked.id)).ok).toBe(false);
    const write = { request: request({ title: 'Stolen' }), series: null, piece: null };
    expect((await keepRequest(db, other, asked.id, 0, write)).ok).toBe(false);
    expect((await keepRequest(db, other, null, 0, { ...write, piece: id })).ok).toBe(false);
    expect((await keepRequest(db, other, null, 0, { ...write, series })).ok).toBe(false);
    expect(await updateRequest(db, other, asked.id, 0, write)).toBe(false);
    expect(await setRequestDeleted(db, other, asked.id, true)).toBe(false);
    expect(await putSeries(db, other, series, { name: 'Stolen', note: '' })).toBe(false);
    expect(await deleteSeries(db, other, series)).toBe(false);
    for (const actor of [mine, other]) expect(await insertLink(db, actor, 'l1' as LinkId, link)).toBe(false);
    expect(await insertHandout(db, other, 'h1' as HandoutId, id, { to: 'x', what: 'y', on: '2031-04-09' })).toBe(false);
    expect(await deleteHandout(db, other, handout?.id as HandoutId)).toBe(false);
    await indexPiece(db, other, id);
    await replaceSaid(db, other, { piece: id }, []);
    await replaceMusic(db, other, id, []);
    expect((await findWords(db, other, 'Mine alone')).map((one) => one.piece)).not.toContain(id);
    expect((await findWords(db, mine, 'Mine alone')).map((one) => one.piece)).toContain(id);
    const found = must(await searchMusic(db, other, 'on 5 3 5 6 8', setup));
    expect(found.map((one) => one.piece)).toEqual([theirs.id]);
    expect(await findMusic(db, other, { high: ';2;1;', low: ';2;1;', shape: '?', rhythm: '' })).toHaveLength(1);
    expect((await getRequest(db, mine, asked.id as RequestId))?.request.title).toBe('Nobody else’s');
    expect((await openDesk(db, mine)).series.map((one) => one.id as SeriesId)).toContain(series);
  });
});
