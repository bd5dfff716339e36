import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { migrateStep, type Edit } from '../edit';
import { eventFrom4, readPiece, SCHEMA_VERSION, type Json } from './index';
import { makeSetup, openPitch } from '../instrument';

const fixture = (file: string): Json => JSON.parse(readFileSync(new URL(file, import.meta.url), 'utf8')) as Json;
const old = fixture('./fixtures/piece-v1.json') as Json & { parts: { setup: Json }[] };

/** The same document with evidence as version 4 has it, for comparing what else became of it. */
const withoutEvidence = (piece: Json): unknown =>
  JSON.parse(JSON.stringify(piece.parts), (key, value: unknown) =>
    key === 'evidence' && typeof value === 'string' ? { on: null, at: null, say: value } : value,
  );

describe('documents of version 1', () => {
  const piece = must(readPiece(old));

  it('are lifted: the capo, the kinds of strings, and every note as it was', () => {
    expect(piece.schemaVersion).toBe(SCHEMA_VERSION);
    const { setup, riffs } = piece.parts[0] ?? {};
    expect(setup?.capos).toEqual([{ fret: 3, strings: null }]);
    expect(setup?.instrument.strings.map((one) => one.kind)).toEqual([
      'wound',
      'wound',
      'wound',
      'wound',
      'plain',
      'plain',
    ]);
    expect(setup?.instrument.handed).toBe('right');
    expect(setup && openPitch(setup, 1)).toBe(67);
    const before = (old.parts as unknown as { riffs: { events: unknown[] }[] }[])[0]?.riffs[0]?.events;
    expect(riffs?.[0]?.events).toEqual(before?.map((event) => eventFrom4(event as Json)));
  });

  it('are the same read a second time', () => {
    expect(must(readPiece(JSON.parse(JSON.stringify(piece))))).toEqual(piece);
  });

  it('give nylon its kinds and courses a second string', () => {
    const setup = {
      ...old.parts[0]?.setup,
      instrument: {
        ...(old.parts[0]?.setup.instrument as object),
        kind: 'classical',
        strings: [
          { pitch: 40, gaugeMm: 1.1, wound: true, course: 12 },
          ...(old.parts[0]?.setup.instrument as { strings: object[] }).strings.slice(1),
        ],
      },
    };
    const lifted = must(readPiece({ ...old, parts: [{ ...old.parts[0], setup, riffs: [] }] })).parts[0]?.setup
      .instrument.strings;
    expect(lifted?.[0]).toMatchObject({
      kind: 'nylon-wound',
      course: { semitones: 12, gaugeMm: 0.55, kind: 'nylon-wound' },
    });
    expect(lifted?.[5]?.kind).toBe('nylon');
  });

  it('have their edits lifted too, inside batches as well', () => {
    const setup = old.parts[0]?.setup as never;
    const edit = {
      type: 'batch',
      what: 'x',
      edits: [
        { type: 'setSetup', part: 'p0', setup, riffs: [] },
        { type: 'addPart', at: 0, part: old.parts[0] as never },
        { type: 'setTitle', title: 't' },
      ],
    } as Edit;
    const step = migrateStep({
      edit,
      inverse: { type: 'setSetup', part: 'p0', setup, riffs: [] },
    });
    const set = step.edit.type === 'batch' ? step.edit.edits[0] : null;
    expect(set && set.type === 'setSetup' ? set.setup.capos : null).toEqual([{ fret: 3, strings: null }]);
    expect(step.inverse.type === 'setSetup' ? step.inverse.setup.capos : null).toEqual([{ fret: 3, strings: null }]);
    expect(migrateStep(step)).toEqual(step);
  });
});

describe('documents of version 2', () => {
  const second = fixture('./fixtures/piece-v2.json');
  it('are read as they are: nothing had techniques, wishes, hands or weights of its own', () => {
    expect(must(readPiece(second))).toEqual(must(readPiece({ ...second, schemaVersion: 4 })));
  });
});

describe('documents of version 3', () => {
  const third = fixture('./fixtures/piece-v3.json');
  it('keep their evidence as what was said, and everything else as it was', () => {
    const lifted = must(readPiece(third));
    const phrase = (piece: unknown): unknown[] =>
      (piece as { parts: { riffs: { events: { notes: { evidence: unknown }[] }[] }[] }[] }).parts.flatMap((one) =>
        one.riffs.flatMap((one) => one.events.flatMap((one) => one.notes.map((one) => one.evidence))),
      );
    expect(phrase(lifted)).toEqual(
      phrase(third).map((one) => (one === null ? null : { basis: null, at: null, remark: one })),
    );
    expect(phrase(third).some((one) => one !== null)).toBe(true);
    const bare = (piece: unknown): string =>
      JSON.stringify(piece, (key, value: unknown) =>
        key === 'evidence' || key === 'schemaVersion' ? undefined : value,
      );
    expect(JSON.parse(bare(lifted))).toEqual(
      JSON.parse(bare(must(readPiece({ ...third, schemaVersion: 4, parts: withoutEvidence(third) })))),
    );
  });

  it('have their edits lifted: events put, riffs added', () => {
    const riff = (third as { parts: { riffs: { events: unknown[] }[] }[] }).parts[0]?.riffs[0] as never as {
      events: never[];
    };
    const step = migrateStep({
      edit: { type: 'putEvents', part: 'p0', riff: 'r0', put: riff.events, remove: [] },
      inverse: { type: 'addRiff', part: 'p0', riff: riff as never, at: 0 },
    });
    const put =
      step.edit.type === 'putEvents' ? step.edit.put.flatMap((event) => event.notes.map((note) => note.evidence)) : [];
    const back =
      step.inverse.type === 'addRiff'
        ? step.inverse.riff.events.flatMap((event) => event.notes.map((note) => note.evidence))
        : [];
    expect(put).toContainEqual({ basis: null, at: null, remark: 'seen on the live take' });
    expect(back).toEqual(put);
  });
});

describe('documents of version 4', () => {
  const fourth = fixture('./fixtures/piece-v4.json');
  const piece = must(readPiece(fourth));
  const riff = piece.parts[0]?.riffs[0];

  it('have the names of the field, every joined note its own join, and lose nothing', () => {
    const old = fourth.parts as { riffs: { events: Json[]; readings: Json[] }[] }[];
    const events = old[0]?.riffs[0]?.events ?? [];
    expect(riff?.events.length).toBe(events.length);
    events.forEach((event, i) => {
      const now = riff?.events[i];
      expect(now?.notes.map((note) => note.join ?? null)).toEqual((event.notes as Json[]).map(() => event.link));
      expect([now?.letRing, now?.slideBar, now?.gate, now?.dynamic, now?.remark]).toEqual(
        [event.ring, event.bar, event.cut, event.volume, event.why].map((value) => value ?? undefined),
      );
    });
    const words = new Set(JSON.stringify(piece).match(/"[a-zA-Z]+":/g));
    for (const gone of ['link', 'ring', 'cut', 'tech', 'say', 'toward', 'unsaid', 'lanes', 'readings', 'or', 'keep'])
      expect(words.has(`"${gone}":`), gone).toBe(false);
    const values = (value: unknown): number =>
      JSON.stringify(value).match(/"(?:[^"\\\\]|\\\\.)*"|[0-9.]+/g)?.length ?? 0;
    expect(values(riff?.events)).toBeGreaterThan(values(events) * 0.9);
    expect(riff?.alternatives?.[0]).toMatchObject({ name: 'As on the record', remark: 'heard so' });
    expect(piece.unspecified).toEqual(['tempo']);
    expect(piece.parts[0]?.unspecified).toEqual(['tuning']);
  });

  it('count new ids from above every id they may ever have had', () => {
    expect(piece.lastId).toBeGreaterThanOrEqual(32 ** 4);
    expect(must(readPiece(JSON.parse(JSON.stringify(piece))))).toEqual(piece);
  });
});

describe('documents that can’t be read', () => {
  const why = (json: unknown): string => {
    const read = readPiece(json);
    return read.ok ? 'ok' : read.error.rule;
  };
  it('say why', () => {
    expect(why(null)).toBe('not-a-piece');
    expect(why([])).toBe('not-a-piece');
    expect(why({ schemaVersion: 0 })).toBe('not-a-piece');
    expect(why({ schemaVersion: 99 })).toBe('newer-version');
    expect(why({ ...old, parts: 'none' })).toBe('schema');
    expect(why({ ...old, parts: [{ ...old.parts[0], setup: null }] })).toBe('schema');
    const setup = must(makeSetup({ instrument: 'guitar-6' })).setup;
    const late = {
      ...setup,
      capos: [{ fret: 12, strings: null }],
      instrument: { ...setup.instrument, frets: 12, easyFrets: 12 },
    };
    expect(why({ ...old, schemaVersion: 2, parts: [{ ...old.parts[0], setup: late, riffs: [] }] })).toBe('bad-capo');
  });
});
