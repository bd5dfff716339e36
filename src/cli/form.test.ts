import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { readPiece } from '@/core/score';
import { add, quarter } from '@/core/time';
import { buildDemoPiece } from '@/server/demo';
import { commandLine } from './test-support/command';
import { DEMO_PIECES } from '../../demo/pieces';

const cli = commandLine();

describe('the form on the command line', () => {
  const demoOf = (title: string) =>
    must(buildDemoPiece(DEMO_PIECES.find((one) => one.title === title) as (typeof DEMO_PIECES)[number]));
  const lanterns = demoOf('Twelve Lanterns');

  it('prints a form as text and reads it back, with a fault that names the characters', async () => {
    const printed = await cli(['form', 'print', '-'], JSON.stringify(lanterns));
    expect(printed.out.text).toContain('Round, 12 bars\n  chords: | E7 | E7 |');
    expect(printed.out.text).toContain('order: Intro, Round 3 times held');
    const bare = { ...lanterns, sections: [], form: [] };
    const read = await cli(['form', 'parse', '-'], JSON.stringify({ piece: bare, text: printed.out.text }));
    expect(read.code).toBe(0);
    const again = await cli(['form', 'print', '-'], JSON.stringify(read.out.piece));
    expect(again.out.text).toBe(printed.out.text);
    const wrong = await cli(
      ['form', 'parse', '-'],
      JSON.stringify({ piece: bare, text: 'Round, 12 bars\n  Guitar: Polka' }),
    );
    expect(wrong).toMatchObject({ code: 2, err: { code: 'no-riff', at: 'characters 15 to 30' } });
    expect((await cli(['form', 'sing'])).err.code).toBe('usage');
  });

  it('unfolds parts to events with bar, pass, riff and what they stand in', async () => {
    const { out } = await cli(['unfold', '-', '--part', 'p1'], JSON.stringify(lanterns));
    const [bass] = out.parts as { bars: number; events: Record<string, unknown>[]; spans: Record<string, unknown>[] }[];
    expect(bass).toMatchObject({ bars: 40 });
    expect(bass?.events).toHaveLength(164);
    expect(bass?.events[0]).toMatchObject({
      at: '0',
      bar: 1,
      riff: 'p1r0',
      section: 'Intro',
      pass: 1,
      context: { chord: 'B7', key: 'E major', tempo: 112 },
      notes: [{ pitch: 35 }],
    });
    expect(bass?.events.at(-1)).toMatchObject({ bar: 40, section: 'Round', pass: 3 });
    expect(bass?.spans[0]).toMatchObject({ riff: 'Walk', move: 'to B', bar: 1 });
    expect((await cli(['unfold', '-', '--part', 'none'], JSON.stringify(lanterns))).err).toMatchObject({
      code: 'no-part',
      at: '--part',
    });
  });

  it('renders the whole form', async () => {
    const file = path.join(mkdtempSync(path.join(tmpdir(), 'form-')), 'lanterns.wav');
    const { out } = await cli(['render', '-', file, '--part', 'p1', '--speed', '1.5'], JSON.stringify(lanterns));
    // 40 bars of four at 112, its last beat held at 40 percent, half as fast again.
    expect(out.seconds).toBeCloseTo(((159 + 1 / 0.4) * 60) / 112 / 1.5, 1);
    expect(out.parts).toEqual(['Bass']);
    rmSync(path.dirname(file), { recursive: true });
  });

  it('folds a long riff, and tells differences note by note', async () => {
    const [part] = lanterns.parts;
    const [shuffle] = part?.riffs ?? [];
    if (!part || !shuffle) throw new Error('the demo has lost a riff');
    const bars = [0, 1, 2].flatMap((bar) =>
      shuffle.events.map((event) => ({
        ...event,
        id: `${event.id}x${bar}`,
        at: add(event.at, quarter(4 * bar)),
        notes: event.notes.map((note) => ({ ...note, id: `${note.id}x${bar}` })),
      })),
    );
    const long = {
      ...lanterns,
      sections: [],
      form: [],
      parts: [{ ...part, riffs: [{ ...shuffle, id: 'long', name: 'Long', bars: 3, events: bars }] }],
    };
    const { out } = await cli(
      ['fold', '-', '--riff', 'long'],
      JSON.stringify(must(readPiece(JSON.parse(JSON.stringify(long))))),
    );
    expect((out.blocks as { kind: string; words: string }[]).map((block) => block.kind)).toEqual([
      'new',
      'exact',
      'exact',
    ]);
    const unfolded = await cli(['unfold', '-'], JSON.stringify(out.piece));
    expect((unfolded.out.parts as { events: unknown[] }[])[0]?.events).toHaveLength(24);
    const told = await cli(
      ['differences', '-'],
      JSON.stringify({ piece: lanterns, a: { riff: 'p0r1' }, b: { riff: 'p0r1', variant: 'end chord' } }),
    );
    expect(told.out.differences).toHaveLength(4);
    expect((told.out.differences as { words: string }[])[1]?.words).toBe(
      'bar 1, beat the second third of 3: D left out',
    );
    expect(
      (await cli(['differences', '-'], JSON.stringify({ piece: lanterns, a: { riff: 'x' }, b: { riff: 'x' } }))).err,
    ).toMatchObject({ code: 'no-riff', at: 'a.riff' });
  });
});
