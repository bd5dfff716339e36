import Papa from 'papaparse';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { must } from '@/core/base';
import { FORMATS } from '@/core/formats/registry';
import { formedPiece } from '@/core/formats/test-support/formed';
import type { PaperLayout } from '@/core/paper';
import { programIn } from './actor';
import { csvOf } from './csv';
import type { Db } from './db/connection';
import { DEMO_STUDIO } from './demo';
import type { InstrumentId, OriginalId, PieceId } from './ids';
import { keepOriginal, MOST_ORIGINAL } from './originals';
import { pdfOf } from './paper/pdf';
import { createPiece, openPiece } from './pieces';
import { historyLog, requestLog, tunerLog } from './repositories/logs';
import { getOriginal, listOriginals } from './repositories/originals';
import { addReadings, putInstrument } from './repositories/rack';
import { ensureStudio } from './repositories/studios';
import { freshDatabase } from './test-support/database';
import { buildDemoInstrument } from './demo';
import { DEMO_INSTRUMENTS } from '../../demo/rack';

const acting = vi.hoisted(() => ({ db: null as unknown }));
vi.mock('./context', () => ({
  db: () => acting.db,
  currentActor: () => Promise.resolve(programIn('wicker-street')),
}));

let db: Db;
let close: () => Promise<void>;
let piece: PieceId;
const actor = programIn(DEMO_STUDIO.id);
const other = programIn('other');
beforeAll(async () => {
  ({ db, close } = await freshDatabase());
  acting.db = db;
  await ensureStudio(db, DEMO_STUDIO.id, DEMO_STUDIO.name);
  await ensureStudio(db, 'other', 'Other');
  piece = must(await createPiece(db, actor, formedPiece())).id as PieceId;
});
afterAll(() => close());

const midi = FORMATS.midi.write(formedPiece(), {}, 'mid');

describe('files a piece came from', () => {
  it('are kept as they came, once, under a plain name, and read by no other studio', async () => {
    const id = must(await keepOriginal(db, actor, { piece, name: '../../etc/"owl"\n.mid', bytes: midi }));
    must(await keepOriginal(db, actor, { piece, name: 'again.mid', bytes: midi }));
    const kept = await listOriginals(db, actor, piece);
    expect(kept).toMatchObject([{ id, name: '.. .. etc owl .mid', type: 'audio/midi', size: midi.length }]);
    expect(Buffer.compare(Buffer.from((await getOriginal(db, actor, id))?.bytes ?? []), Buffer.from(midi))).toBe(0);
    expect(await getOriginal(db, other, id)).toBeNull();
    expect(await listOriginals(db, other, piece)).toEqual([]);
    expect(await keepOriginal(db, other, { piece, name: 'x', bytes: midi })).toMatchObject({
      ok: false,
      error: { rule: 'no-piece' },
    });
  });

  it('are only what the program reads, and no larger than is kept', async () => {
    const keep = async (bytes: Uint8Array): Promise<string> => {
      const kept = await keepOriginal(db, actor, { piece, name: 'x', bytes });
      return kept.ok ? 'ok' : kept.error.rule;
    };
    expect(await keep(new Uint8Array())).toBe('empty');
    expect(await keep(new TextEncoder().encode('<script>alert(1)</script>'))).toBe('unknown-kind');
    expect(await keep(new Uint8Array(MOST_ORIGINAL + 1))).toBe('too-large');
  });

  it('come and go through the routes', async () => {
    const { POST } = await import('@/app/api/originals/route');
    const { GET } = await import('@/app/api/originals/[original]/route');
    const text = new TextEncoder().encode('G|--0--|\nD|-----|\nA|-----|\nE|-----|\n');
    const post = (query: string, body: Uint8Array): Promise<Response> =>
      POST(new Request(`http://localhost/api/originals?${query}`, { method: 'POST', body: body.slice() }));
    const made = await post(`piece=${piece}&name=${encodeURIComponent('Gîtarre.txt')}`, text);
    expect(made.status).toBe(201);
    const { id } = (await made.json()) as { id: OriginalId };
    const got = await GET(new Request('http://localhost/'), { params: Promise.resolve({ original: id }) });
    expect(got.headers.get('content-disposition')).toBe(
      `attachment; filename="G_tarre.txt"; filename*=UTF-8''G%C3%AEtarre.txt`,
    );
    expect(Buffer.from(await got.arrayBuffer())).toEqual(Buffer.from(text));
    expect((await post('piece=a%27b&name=x', text)).status).toBe(400);
    expect((await post(`piece=${piece}&name=x`, new Uint8Array([1, 2]))).status).toBe(422);
    expect(
      (await GET(new Request('http://localhost/'), { params: Promise.resolve({ original: 'none' }) })).status,
    ).toBe(404);
  });
});

describe('a piece file', () => {
  it('goes on the shelf under an id of its own; a wrong one is told by its place', async () => {
    const { POST } = await import('@/app/api/pieces/route');
    const post = (body: Uint8Array): Promise<Response> =>
      POST(new Request('http://localhost/api/pieces', { method: 'POST', body: body.slice() }));
    const made = await post(FORMATS.json.write(formedPiece(), {}, 'json'));
    expect(made.status).toBe(201);
    const { id } = (await made.json()) as { id: PieceId };
    expect((await openPiece(db, actor, id))?.document).toEqual({ ...formedPiece(), id });
    const wrong = await post(new TextEncoder().encode(JSON.stringify({ ...formedPiece(), parts: 7 })));
    expect(wrong.status).toBe(422);
    expect(await wrong.json()).toMatchObject({ error: { at: expect.stringContaining('parts') as string } });
  });
});

describe('logs as CSV', () => {
  it('have a line of names, every row, and nothing a spreadsheet would run', async () => {
    const [instrument] = DEMO_INSTRUMENTS;
    if (instrument) await putInstrument(db, actor, must(buildDemoInstrument(instrument)), 0, 'put on the rack');
    const id = must(buildDemoInstrument(instrument as NonNullable<typeof instrument>)).instrument.id as InstrumentId;
    await addReadings(db, actor, id, [{ string: 6, kind: 'open', capo: 0, cents: -4 } as never]);
    const rows = await tunerLog(db, actor);
    expect(rows).toMatchObject([{ string: 6, capo: 0, cents: -4 }]);
    expect(await tunerLog(db, other)).toEqual([]);
    expect(await requestLog(db, actor)).toEqual([]);
    expect(await historyLog(db, actor, piece)).toEqual([]);
    const text = csvOf(
      [
        { what: '=1+1', who: 'Wilma, "lights"\nup' },
        { what: '-4', who: null },
      ],
      ['what', 'who'],
    );
    expect(text.startsWith('\ufeffwhat,who\r\n')).toBe(true);
    const read = Papa.parse<string[]>(text.slice(1).trimEnd());
    expect(read.data).toEqual([
      ['what', 'who'],
      ["'=1+1", 'Wilma, "lights"\nup'],
      ["'-4", ''],
    ]);
  });

  it('are answered by their routes', async () => {
    const { GET } = await import('@/app/api/logs/history/route');
    expect((await GET(new Request('http://localhost/api/logs/history?piece=%00'))).status).toBe(400);
    const got = await GET(new Request(`http://localhost/api/logs/history?piece=${piece}`));
    expect(got.headers.get('content-type')).toBe('text/csv; charset=utf-8');
    expect(await got.text()).toContain('revision,made_at,kind,what');
  });
});

describe('a PDF', () => {
  const layout: PaperLayout = {
    ...{ title: 'Moth at the Lamp', author: 'the pit band', footer: 'Moth at the Lamp' },
    page: { width: 794, height: 1123, margin: 53 },
    ...{ width: 688, height: 1400, whole: [], breaks: [1000] },
    headings: [{ text: 'Intro', y: 10, level: 3 }],
    items: [
      {
        kind: 'text',
        text: 'Intro',
        x: 0,
        y: 24,
        matrix: [1, 0, 0, 1, 0, 0],
        family: 'display',
        size: 22,
        weight: 600,
        italic: false,
        fill: '#000000',
        opacity: 1,
      },
      {
        kind: 'text',
        text: 'F♯m, łódź, \ue050',
        x: 0,
        y: 60,
        matrix: [1, 0, 0, 1, 0, 0],
        family: 'text',
        size: 12,
        weight: 400,
        italic: true,
        fill: '#333333',
        opacity: 0.8,
      },
      {
        kind: 'shape',
        d: 'M0 80h688',
        matrix: [1, 0, 0, 1, 0, 0],
        fill: null,
        stroke: '#000000',
        width: 1,
        dash: [4, 2],
        round: true,
        opacity: 1,
      },
      {
        kind: 'text',
        text: '12',
        x: 40,
        y: 1300,
        matrix: [1, 0, 0, 1, 0, 0],
        family: 'figures',
        size: 11,
        weight: 700,
        italic: false,
        fill: '#000000',
        opacity: 1,
      },
    ],
  };

  it('has its pages, title, tags and faces', async () => {
    const pdf = Buffer.from(await pdfOf(layout, new Date('2026-11-29T12:00:00Z'))).toString('latin1');
    expect(pdf.startsWith('%PDF-1.7')).toBe(true);
    expect(pdf.match(/\/Type \/Page\b/g)?.length).toBe(2);
    for (const part of [
      '/MarkInfo',
      '/StructTreeRoot',
      '/Lang (en)',
      '/DisplayDocTitle true',
      '/FontFile',
      'Fraunces',
      'Bravura',
      'Atkinson',
    ])
      expect(pdf, part).toContain(part);
  });

  it('is made of what can be drawn only', async () => {
    const { POST } = await import('@/app/api/paper/route');
    const post = (body: string): Promise<Response> =>
      POST(new Request('http://localhost/api/paper', { method: 'POST', body }));
    const made = await post(JSON.stringify(layout));
    expect([made.status, made.headers.get('content-type')]).toEqual([200, 'application/pdf']);
    expect((await post('{')).status).toBe(400);
    expect((await post(JSON.stringify({ ...layout, items: [{ kind: 'image' }] }))).status).toBe(422);
  });
});
