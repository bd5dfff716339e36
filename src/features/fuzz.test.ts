import { readFileSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { must } from '@/core/base';
import { readEdit } from '@/core/edit';
import { pieceToMidi } from '@/core/formats/midi';
import { guessSetup, takeIn } from '@/core/formats/music';
import { packScore } from '@/core/formats/musicxml';
import { FORMATS, readMusic, type MusicFormat } from '@/core/formats/registry';
import { readWav, writeWav } from '@/core/formats/wav';
import { makeSetup, readRack } from '@/core/instrument';
import { readPiece } from '@/core/score';
import { printCalls, readCalls, type CallContext } from '@/core/shorthand';
import { quarter, ZERO } from '@/core/time';
import { programIn } from '@/server/actor';
import { Refused } from '@/server/action';
import { buildDemoPiece } from '@/server/demo';
import type { Db } from '@/server/db/connection';
import { createPiece } from '@/server/pieces';
import { ensureStudio } from '@/server/repositories/studios';
import { freshDatabase } from '@/server/test-support/database';
import { DEMO_PIECES } from '../../demo/pieces';

/**
 * Every door with what nobody sends on purpose: real things with pieces knocked out of them, and things that are none.
 * An answer, a refusal with words, never a stumble and never a hang.
 */
const acting = { db: null as unknown as Db };
vi.mock('@/server/context', () => ({ db: () => acting.db, currentActor: () => Promise.resolve(programIn('here')) }));

/** FUZZ=20 asks everything twenty times as often: after a reader was changed. */
const TIMES = Number(process.env.FUZZ ?? 1);
vi.setConfig({ testTimeout: 60_000 * TIMES });

const LONGEST_MS = 2000;
/** Runs it in time. What was late once may have waited for the machine: a hang is late again. */
function timed<T>(does: () => T): T {
  const began = performance.now();
  const answer = does();
  if (performance.now() - began < LONGEST_MS) return answer;
  const again = performance.now();
  does();
  expect(performance.now() - again).toBeLessThan(LONGEST_MS);
  return answer;
}
const answered = (result: { readonly ok: boolean; readonly error?: { readonly words: string } }): void => {
  if (!result.ok) expect(result.error?.words.length).toBeGreaterThan(5);
};

const pieces = DEMO_PIECES.slice(0, 6).map((demo) => must(buildDemoPiece(demo)));
const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const context: CallContext = {
  setup,
  meters: [{ bar: 0, beats: 4, unit: 4 }],
  at: ZERO,
  length: quarter(1),
  string: null,
};

/** A text with stretches cut, doubled, swapped, or something strange put in. */
const mutatedText = (texts: readonly string[]) =>
  fc
    .tuple(
      fc.constantFrom(...texts),
      fc.array(
        fc.record({
          how: fc.constantFrom('cut', 'double', 'put', 'move'),
          at: fc.nat({ max: 100_000 }),
          length: fc.nat({ max: 12 }),
          what: fc.oneof(
            fc.string({ maxLength: 6 }),
            fc.constantFrom('dotted ', '[', ']', ' 500 times', '999999', '\u0000', '\ud83c', '1/0', '-'),
          ),
        }),
        { maxLength: 8 },
      ),
    )
    .map(([text, changes]) =>
      changes.reduce((now, { how, at, length, what }) => {
        const i = at % (now.length + 1);
        const bit = now.slice(i, i + length);
        if (how === 'cut') return now.slice(0, i) + now.slice(i + length);
        if (how === 'double') return now.slice(0, i) + bit + bit + now.slice(i + length);
        if (how === 'put') return now.slice(0, i) + what + now.slice(i);
        return now.slice(0, i) + now.slice(i + length) + bit;
      }, text),
    );

const mutatedBytes = (files: readonly Uint8Array[]) =>
  fc
    .tuple(
      fc.constantFrom(...files),
      fc.array(fc.tuple(fc.nat(), fc.nat({ max: 255 })), { maxLength: 30 }),
      fc.option(fc.nat(), { nil: null }),
    )
    .map(([file, changes, cut]) => {
      const bytes = file.slice(0, cut === null ? file.length : cut % (file.length + 1));
      for (const [at, byte] of changes) if (bytes.length > 0) bytes[at % bytes.length] = byte;
      return bytes;
    });

/** A JSON value with a few of its leaves or branches replaced by something else. */
const mutatedJson = (values: readonly unknown[]) =>
  fc
    .tuple(
      fc.constantFrom(...values),
      fc.array(fc.tuple(fc.array(fc.nat({ max: 40 }), { maxLength: 9 }), fc.anything({ maxDepth: 2 })), {
        maxLength: 4,
      }),
    )
    .map(([value, changes]) => {
      const copy = structuredClone(value);
      for (const [steps, by] of changes) {
        let here = copy as Record<string, unknown>;
        for (const step of steps) {
          const keys = Object.keys(here);
          const key = keys[step % Math.max(1, keys.length)];
          const next = key === undefined ? null : here[key];
          if (key !== undefined && (typeof next !== 'object' || next === null)) {
            here[key] = by;
            break;
          }
          if (typeof next !== 'object' || next === null) break;
          here = next as Record<string, unknown>;
        }
      }
      return copy;
    });

describe('what is read', () => {
  it('calls: any line is understood or told where it is not', () => {
    const lines = pieces.flatMap((piece) => piece.parts.flatMap((part) => part.riffs.map((riff) => printCalls(riff))));
    fc.assert(
      fc.property(mutatedText([...lines, 'dotted '.repeat(60) + 'quarter on 6 3', '[on 6 3] 3 times']), (line) => {
        const read = timed(() => readCalls(line, context));
        for (const fault of read.faults) expect(fault.words.length).toBeGreaterThan(3);
      }),
      { numRuns: 400 * TIMES },
    );
  });

  it('pieces, edits and racks as JSON', () => {
    const edits = pieces.map((piece) => ({ type: 'addPart', at: 0, part: piece.parts[0] }));
    fc.assert(
      fc.property(mutatedJson([...pieces, ...edits]), (value) => {
        answered(timed(() => readPiece(value)));
        answered(timed(() => readEdit(value)));
      }),
      { numRuns: 150 * TIMES },
    );
    fc.assert(
      fc.property(mutatedText(['{"format":"intonazione-rack","version":1,"instruments":[],"tunings":[]}']), (text) => {
        answered(timed(() => readRack(text)));
      }),
    );
  });

  /** What every reader of music is asked of any bytes: an answer, and parts that hold on the set-up they are for. */
  const readAnyhow = (format: MusicFormat, bytes: Uint8Array): void => {
    const read = timed(() => readMusic(format, bytes));
    answered(read);
    if (!read.ok) return;
    const { music } = read.value;
    const choices = music.parts.flatMap((part, index) =>
      part.events.length > 0
        ? [{ index, name: part.name, setup: guessSetup(part).setup, shift: 0, trust: 'places' as const }]
        : [],
    );
    const taken = timed(() => takeIn(music, choices));
    answered(taken);
    if (taken.ok) expect(readPiece(JSON.parse(JSON.stringify(taken.value.piece)))).toMatchObject({ ok: true });
  };

  it('MIDI files', () => {
    const files = pieces.slice(0, 4).map((piece) => pieceToMidi(piece, { channels: 'strings' }));
    fc.assert(
      fc.property(mutatedBytes(files), (bytes) => readAnyhow('midi', bytes)),
      { numRuns: 200 * TIMES },
    );
  });

  it('MusicXML, plain and compressed, by letters, bytes and numbers', () => {
    const files = pieces.slice(0, 4).map((piece) => FORMATS.musicxml.write(piece, {}, 'musicxml'));
    const encode = (text: string): Uint8Array => new TextEncoder().encode(text);
    const texts = files.map((file) => new TextDecoder().decode(file).slice(0, 20_000));
    fc.assert(
      fc.property(mutatedText(texts), (text) => readAnyhow('musicxml', encode(text))),
      { numRuns: 120 * TIMES },
    );
    fc.assert(
      fc.property(mutatedBytes(files.map(packScore)), (bytes) => readAnyhow('musicxml', bytes)),
      { numRuns: 120 * TIMES },
    );
    // Well-formed, and absurd: any number may stand anywhere.
    const number = fc.constantFrom('0', '-1', '-7', '1e9', '99999999999', 'NaN', '', '0.333', '255', '4096', 'x');
    fc.assert(
      fc.property(
        fc.constantFrom(...texts.map((_, i) => i)),
        fc.nat(),
        fc.array(number, { minLength: 1, maxLength: 9 }),
        (i, from, put) => {
          let k = 0;
          const text = new TextDecoder().decode(files[i]).replace(/>(-?[\d.]+)</g, (whole) => {
            const at = k++ - (from % 400);
            return at >= 0 && at < put.length ? `>${put[at]}<` : whole;
          });
          readAnyhow('musicxml', encode(text));
        },
      ),
      { numRuns: 150 * TIMES },
    );
  });

  it('MusicXML: every kind of number it holds, absurd in its first place', () => {
    // Once a number of staff lines was a size of memory, once a third of an octave a pitch that could not be kept.
    const texts = pieces.map((piece) => new TextDecoder().decode(FORMATS.musicxml.write(piece, {}, 'musicxml')));
    const kinds = new Map<string, { readonly text: string; readonly at: number; readonly was: string }>();
    for (const text of texts)
      for (const found of text.matchAll(/<([a-z-]+)(?: [^>]*)?>(-?[\d.]+)<|([a-z-]+)="(-?[\d.]+)"/g)) {
        const [whole, element, inside, attribute, quoted] = found;
        const was = inside ?? quoted ?? '';
        const at = found.index + (inside === undefined ? whole.lastIndexOf(was) : whole.length - 1 - was.length);
        const name = element ?? `${attribute}=`;
        if (!kinds.has(name)) kinds.set(name, { text, at, was });
      }
    expect([...kinds.keys()]).toEqual(
      expect.arrayContaining(['octave', 'staff-lines', 'fret', 'divisions', 'number=']),
    );
    for (const { text, at, was } of kinds.values())
      for (const put of ['0', '-7', '1e9', '200000000', '0.333', 'NaN', ''])
        readAnyhow('musicxml', new TextEncoder().encode(text.slice(0, at) + put + text.slice(at + was.length)));
  });

  it('text tab', () => {
    const texts = pieces.slice(0, 4).map((piece) => new TextDecoder().decode(FORMATS.texttab.write(piece, {}, 'txt')));
    fc.assert(
      fc.property(mutatedText(texts), (text) => readAnyhow('texttab', new TextEncoder().encode(text))),
      { numRuns: 150 * TIMES },
    );
    const tabby = fc.array(fc.constantFrom(...'-|0123456789hpbr/\\~x()<>[]eEADG :*\n\nPM.'), { maxLength: 600 });
    fc.assert(
      fc.property(tabby, (letters) => readAnyhow('texttab', new TextEncoder().encode(letters.join('')))),
      { numRuns: 200 * TIMES },
    );
  });

  it('sound files', () => {
    const wav = writeWav({ rate: 8000, channels: [new Float32Array(400), new Float32Array(400)] });
    fc.assert(
      fc.property(mutatedBytes([wav]), (bytes) => answered(timed(() => readWav(bytes)))),
      { numRuns: 300 * TIMES },
    );
  });
});

describe('what is asked of the server', () => {
  let close: () => Promise<void>;
  let piece = '';
  beforeAll(async () => {
    const made = await freshDatabase();
    ({ close } = made);
    acting.db = made.db;
    await ensureStudio(made.db, 'here', 'Here');
    piece = must(await createPiece(made.db, programIn('here'), pieces[0] as (typeof pieces)[number])).id;
  });
  afterAll(() => close());

  const strange = fc.oneof(
    { weight: 3, arbitrary: fc.anything({ maxDepth: 2, withNullPrototype: false }) },
    fc.constantFrom<unknown>(
      '\u0000',
      '../../etc/passwd',
      "'; drop table piece; --",
      'x'.repeat(300),
      -1,
      2 ** 53,
      NaN,
      null,
      [],
      {},
    ),
  );

  it('every action answers or refuses anything at all', async () => {
    const rooms = await Promise.all([
      import('./shelf/actions'),
      import('./piece/actions'),
      import('./rack/actions'),
      import('./tune/actions'),
      import('./account/actions'),
      import('./account/learning-actions'),
      import('./place/actions'),
      import('./hear/actions'),
    ]);
    const actions = rooms.flatMap((room) =>
      Object.entries(room).filter(
        (entry): entry is [string, (...args: unknown[]) => Promise<unknown>] => typeof entry[1] === 'function',
      ),
    );
    expect(actions.length).toBeGreaterThan(25);
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...actions),
        fc.array(fc.oneof(strange, fc.constant(piece), fc.constant(true)), { maxLength: 4 }),
        async ([name, action], args) => {
          const once = async (): Promise<number> => {
            const began = performance.now();
            await action(...args).catch((reason: unknown) => {
              if (!(reason instanceof Refused)) throw new Error(`${name}: ${String(reason)}`);
            });
            return performance.now() - began;
          };
          if ((await once()) > LONGEST_MS) expect(await once()).toBeLessThan(LONGEST_MS);
        },
      ),
      { numRuns: 600 * TIMES },
    );
  });

  it('every route answers anything with an answer of its own, never a stumble', async () => {
    const clips = await import('@/app/api/clips/route');
    const clip = await import('@/app/api/clips/[clip]/route');
    const chunk = await import('@/app/api/clips/[clip]/chunks/[number]/route');
    const views = await import('@/app/api/views/[view]/route');
    const open = await import('@/app/api/pieces/[piece]/open/route');
    const steps = await import('@/app/api/pieces/[piece]/steps/route');
    const names = fc.constantFrom('shelf', 'desk', 'tune', 'instrument', 'about', 'clips', 'files', 'weights', 'x');
    const text = fc.oneof(
      fc.string({ unit: 'binary', maxLength: 40 }),
      fc.constantFrom('a'.repeat(18), '0', '999999', '-1'),
    );
    const of = <T>(params: T) => ({ params: Promise.resolve(params) });
    const body = fc.oneof(
      fc.uint8Array({ maxLength: 4000 }),
      fc.jsonValue().map((value) => new TextEncoder().encode(JSON.stringify(value))),
      fc.constant(new TextEncoder().encode(JSON.stringify({ piece, name: 'x', bytes: 3000 }))),
    );
    const kept = (await (
      await clips.POST(
        new Request('http://x/', { method: 'POST', body: JSON.stringify({ piece, name: 'x', bytes: 3000 }) }),
      )
    ).json()) as { id: string };
    await fc.assert(
      fc.asyncProperty(
        text,
        text,
        body,
        fc.constantFrom('bytes=0-', 'bytes=-1', 'bytes=9-2', 'x', null),
        names,
        async (id, number, bytes, range, view) => {
          const ids = [id, kept.id];
          const answers: Response[] = [];
          answers.push(await clips.POST(new Request('http://x/', { method: 'POST', body: bytes })));
          for (const one of ids) {
            const headers: Record<string, string> = range === null ? {} : { range };
            answers.push(await clip.GET(new Request('http://x/', { headers }), of({ clip: one })));
            answers.push(await clip.HEAD(new Request('http://x/'), of({ clip: one })));
            answers.push(
              await chunk.PUT(new Request('http://x/', { method: 'PUT', body: bytes }), of({ clip: one, number })),
            );
          }
          const asked = new URLSearchParams({ studio: '', piece: id, part: number, instrument: id }).toString();
          answers.push(await views.GET(new Request(`http://x/?${asked}`), of({ view })));
          answers.push(await views.GET(new Request(`http://x/?${asked}`), of({ view: id })));
          answers.push(await open.GET(new Request('http://x/'), of({ piece: id })));
          for (const one of [id, piece])
            answers.push(
              await steps.POST(new Request('http://x/', { method: 'POST', body: bytes }), of({ piece: one })),
            );
          for (const answer of answers) {
            expect(answer.status).toBeLessThan(500);
            await answer.arrayBuffer();
          }
        },
      ),
      { numRuns: 120 * TIMES },
    );
  });

  it('a body without a length is read no further than it may be', async () => {
    const chunk = await import('@/app/api/clips/[clip]/chunks/[number]/route');
    let given = 0;
    const endless = new ReadableStream<Uint8Array>({
      pull(controller) {
        given += 65_536;
        controller.enqueue(new Uint8Array(65_536));
      },
    });
    const request = new Request('http://x/', { method: 'PUT', body: endless, duplex: 'half' } as RequestInit);
    const answer = await chunk.PUT(request, { params: Promise.resolve({ clip: 'a'.repeat(18), number: '0' }) });
    expect(answer.status).toBe(413);
    expect(given).toBeLessThan(3 * 1024 * 1024);
  });

  it('fixtures of every packed kind with pieces knocked out come in as bytes or are refused', async () => {
    const chunk = await import('@/app/api/clips/[clip]/chunks/[number]/route');
    const clips = await import('@/app/api/clips/route');
    for (const kind of ['flac', 'mp3', 'ogg', 'm4a']) {
      const file = new Uint8Array(
        readFileSync(path.resolve(import.meta.dirname, `../../e2e/fixtures/three-notes.${kind}`)),
      );
      const begun = (await (
        await clips.POST(
          new Request('http://x/', { method: 'POST', body: JSON.stringify({ piece, name: kind, bytes: file.length }) }),
        )
      ).json()) as { id: string };
      const put = (bytes: Uint8Array<ArrayBuffer>): Promise<Response> =>
        chunk.PUT(new Request('http://x/', { method: 'PUT', body: bytes }), {
          params: Promise.resolve({ clip: begun.id, number: '0' }),
        });
      expect((await put(new Uint8Array(file.length))).status).toBe(422);
      expect((await put(file)).status).toBe(200);
      // Sent again it is taken once, and does not become something else.
      const other = file.slice();
      other.set(new TextEncoder().encode('RIFF    WAVE'), 0);
      await put(other);
      const row = await acting.db
        .selectFrom('clip')
        .select('type')
        .where('id', '=', begun.id as never)
        .executeTakeFirstOrThrow();
      expect(row.type).toBe({ flac: 'audio/flac', mp3: 'audio/mpeg', ogg: 'audio/ogg', m4a: 'audio/mp4' }[kind]);
    }
  });
});
