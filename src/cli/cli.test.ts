import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { pieceToMidi } from '@/core/formats/midi';
import { writeWav } from '@/core/formats/wav';
import { frequency } from '@/core/pitch';
import { renderPluck } from '@/core/tuner';
import { readPiece } from '@/core/score';
import { buildDemoPiece } from '@/server/demo';
import { commandLine, root } from './test-support/command';
import { DEMO_PIECES } from '../../demo/pieces';

const cli = commandLine();

const setup = { instrument: 'guitar-6', tuning: 'D A D G B E', capo: 2 };

describe('the command line', () => {
  it('lists positions of pitches', async () => {
    const { code, out } = await cli(['positions', '-'], JSON.stringify({ setup, pitches: [62, 20] }));
    expect(code).toBe(0);
    expect(out).toEqual({
      positions: [
        [
          { string: 2, fret: 1, fretFromNut: 3, open: false },
          { string: 3, fret: 5, fretFromNut: 7, open: false },
          { string: 4, fret: 10, fretFromNut: 12, open: false },
          { string: 5, fret: 15, fretFromNut: 17, open: false },
        ],
        [],
      ],
    });
  });

  it('places events in k ways, locks kept, and says what is blocked', async () => {
    const events = [
      { id: 'a', at: '0', dur: '1/2', notes: [{ string: 5, fret: 5, lock: true }], link: 'hammer' },
      { id: 'b', at: '1/2', dur: '1/2', notes: [{ pitch: 54 }] },
      { id: 'c', at: '1', dur: '1', notes: [{ pitch: 20 }] },
    ];
    const { code, out } = await cli(['place', '-'], JSON.stringify({ setup, tempo: 90, events, k: 3 }));
    expect(code).toBe(0);
    const ways = out.ways as {
      cost: number;
      events: { id: string; hand: number; notes: ({ string: number; fret: number; finger: number } | null)[] }[];
    }[];
    expect(ways).toHaveLength(3);
    for (const way of ways)
      expect(way.events.slice(0, 2).map((one) => [one.notes[0]?.string, one.notes[0]?.fret])).toEqual([
        [5, 5],
        [5, 7],
      ]);
    expect(out.blocked).toMatchObject([{ event: 'c', limit: 'range' }]);
  });

  it('writes out every state and move, so that the optimum can be checked outside; explains; gives ways', async () => {
    const events = [64, 67, 69, 67].map((pitch, i) => ({ id: `e${i}`, at: `${i}/2`, dur: '1/2', notes: [{ pitch }] }));
    const { code, out } = await cli(
      ['place', '--explain', '--table', '--ways', '2', '-'],
      JSON.stringify({ setup: { instrument: 'guitar-6' }, events }),
    );
    expect(code).toBe(0);
    const ways = out.ways as { cost: number; events: { why: string; hold: { words: string; cost: number }[] }[] }[];
    expect(ways).toHaveLength(2);
    expect(ways[0]?.events[1]?.why.length).toBeGreaterThan(5);
    // The cheapest path through the table, by a plain search over it, costs what the program says.
    const table = out.table as { states: { hold: number }[]; moves: [number, number, number][] }[];
    let least = (table[0]?.states ?? []).map((one) => one.hold);
    for (const one of table.slice(1)) {
      const next = one.states.map(() => Infinity);
      for (const [a, b, cost] of one.moves)
        next[b] = Math.min(next[b] ?? Infinity, (least[a] ?? Infinity) + cost + (one.states[b]?.hold ?? 0));
      least = next;
    }
    expect(Math.min(...least)).toBeCloseTo(ways[0]?.cost ?? 0, 8);
    expect(out.regions).toBeDefined();
    const many = Array.from({ length: 60 }, (_, i) => ({
      id: `e${i}`,
      at: String(i),
      dur: '1',
      notes: [{ pitch: 60 }],
    }));
    expect(
      (await cli(['place', '--table'], JSON.stringify({ setup: { instrument: 'guitar-6' }, events: many }))).err,
    ).toMatchObject({ code: 'too-long' });
  });

  it('takes a join on a note as well as on an event', async () => {
    const note = (string: number, fret: number, link?: string) => ({
      string,
      fret,
      lock: true,
      ...(link ? { link } : {}),
    });
    const events = [
      { id: 'a', at: '0', dur: '1', notes: [note(4, 9, 'hammer'), { ...note(3, 9), dur: '2' }, note(2, 9, 'hammer')] },
      { id: 'b', at: '1', dur: '1', notes: [note(4, 11), note(2, 10)] },
    ];
    const { code, out } = await cli(['place', '-'], JSON.stringify({ setup: { instrument: 'guitar-6' }, events }));
    expect([code, out.blocked]).toEqual([0, []]);
    const [way] = out.ways as { events: { notes: { finger: number }[] }[] }[];
    expect(way?.events.map((event) => event.notes.map((one) => one.finger))).toEqual([
      [1, 1, 1],
      [3, 2],
    ]);
  });

  it('places for another hand, with techniques, wishes and other weights, and tells ways out', async () => {
    const events = [
      { id: 'a', at: '0', dur: '1', notes: [{ pitch: 62, bend: 200 }], wish: { hand: 7 } },
      { id: 'b', at: '1', dur: '1', notes: [{ pitch: 57, dead: true }] },
      { id: 'c', at: '2', dur: '1', notes: [{ pitch: 62, harmonic: true }] },
      { id: 'd', at: '3', dur: '1', notes: [{ pitch: 40 }, { pitch: 41 }] },
    ];
    const { out } = await cli(
      ['place', '--explain', '-'],
      JSON.stringify({ setup: { instrument: 'guitar-6' }, events, costs: { openThin: 2 } }),
    );
    const [way] = out.ways as {
      events: { hand: number; notes: ({ string: number; fret: number; finger: number } | null)[] }[];
    }[];
    expect(way?.events[0]?.notes[0]?.fret).toBeGreaterThan(0);
    expect(way?.events[1]?.notes[0]?.finger).toBe(0);
    expect(way?.events[2]?.notes[0]).toMatchObject({ string: 4, fret: 12 });
    const [blocked] = out.blocked as { clash: { words: string }[]; mends: { kind: string }[] }[];
    expect(blocked?.clash.map((one) => one.words).sort()).toEqual(['E2', 'F2']);
    expect(blocked?.mends.map((one) => one.kind)).toContain('octave');
    expect(
      (
        await cli(
          ['place', '-'],
          JSON.stringify({ setup: { instrument: 'guitar-6' }, events, costs: { openThin: -1 } }),
        )
      ).err,
    ).toMatchObject({ code: 'bad-input', at: 'costs.openThin' });
  });

  it('prints every technique as it was read, and reads it again', async () => {
    const calls =
      'meter 4/4 tempo 104 ramp swing 58 fine eighths on 5 open palm accent grace 3 hammer 5 for half tied eighth vibrato wide likely seen at 41.2 "on \\"film\\"" | meter 3/4 hole for quarter on 3 7 bend whole pushed released + on 2 7 with 1 or 2 rolled thick-first stroke up why "it rings" scrape for quarter tempo 70';
    const setup = { instrument: 'guitar-6' };
    const first = await cli(['calls', 'parse'], JSON.stringify({ setup, calls }));
    expect(first.out.faults).toEqual([]);
    const { meters, tempo, feel } = first.out.frame as Record<string, unknown>;
    const riff = { id: 'r', name: 'r', bars: 2, pickup: '0', meters, tempo, feel, events: first.out.events };
    const printed = await cli(['calls', 'print'], JSON.stringify({ riff, setup, frame: true }));
    const again = await cli(['calls', 'parse'], JSON.stringify({ setup, calls: printed.out.calls }));
    expect(again.out.events).toEqual(first.out.events);
    expect(again.out.frame).toEqual(first.out.frame);
  });

  it('reads calls and prints them again', async () => {
    const { out } = await cli(
      ['calls', 'parse'],
      JSON.stringify({ setup: { instrument: 'guitar-6' }, calls: 'on 6 open 3 on 5 2 hammer 4' }),
    );
    expect(out.faults).toEqual([]);
    const riff = {
      id: 'r',
      name: 'R',
      bars: 1,
      pickup: '0',
      meters: [{ bar: 0, beats: 4, unit: 4 }],
      events: out.events,
    };
    expect((await cli(['calls', 'print'], JSON.stringify({ riff }))).out).toEqual({
      calls: 'on 6 open 3 on 5 2 hammer 4',
    });
  });

  it('imports a MIDI file and places a part of it', async () => {
    const midi = pieceToMidi(must(buildDemoPiece(DEMO_PIECES[6] as (typeof DEMO_PIECES)[number])));
    const { code, out } = await cli(
      ['import', '-', '--part', '1', '--setup', '{"instrument":"bass-4","tuning":"bass-drop-c"}'],
      midi,
    );
    expect(code).toBe(0);
    expect((out.parts as unknown[]).length).toBe(2);
    const piece = must(readPiece(out.piece));
    expect(
      piece.parts[0]?.riffs[0]?.events.every((event) => event.notes.every((note) => note.place?.by === 'solver')),
    ).toBe(true);
    expect(out.blocked).toEqual([]);
    const low = await cli(['import', '-', '--part', '1', '--octaves', '-1'], midi);
    expect(low.code).toBe(0);
    const lowest = (from: Record<string, unknown>): number =>
      Math.min(
        ...must(readPiece(from.piece)).parts.flatMap((part) =>
          part.riffs.flatMap((riff) => riff.events.flatMap((event) => event.notes.map((note) => note.pitch.midi))),
        ),
      );
    const asIs = await cli(['import', '-', '--part', '1', '--octaves', '0'], midi);
    expect(lowest(asIs.out) - lowest(low.out)).toBe(12);
    const wrong = await cli(['import', '-', '--octave', '1'], midi);
    expect(wrong.code).toBe(2);
    expect(String(wrong.err.message)).toContain('--octave');
  });

  it('counts frets from the nut where asked, in and out', async () => {
    const input = {
      setup,
      frets: 'nut',
      events: [{ id: 'a', at: '0', dur: '1', notes: [{ string: 5, fret: 5, lock: true }] }],
    };
    const { out } = await cli(['place', '-'], JSON.stringify(input));
    const [way] = out.ways as { events: { hand: number; notes: { fret: number; pitch: number }[] }[] }[];
    expect(way?.events[0]?.notes[0]).toMatchObject({ fret: 5, pitch: 50 });
    expect(way?.events[0]?.hand).toBeGreaterThan(2);
    const called = await cli(
      ['calls', 'parse', '-'],
      JSON.stringify({ setup, calls: 'on 5 5 on 4 open', frets: 'nut' }),
    );
    const events = called.out.events as { notes: { place: { fret: number } }[] }[];
    expect(events.map((one) => one.notes[0]?.place.fret)).toEqual([3, 0]);
    const riff = { id: 'r', name: 'r', bars: 1, pickup: '0', meters: [{ bar: 0, beats: 4, unit: 4 }], events };
    expect((await cli(['calls', 'print', '-'], JSON.stringify({ riff, setup, frets: 'nut' }))).out.calls).toBe(
      'on 5 5 on 4 open',
    );
    expect((await cli(['calls', 'print', '-'], JSON.stringify({ riff, frets: 'nut' }))).err).toMatchObject({
      code: 'bad-input',
      at: 'setup',
    });
  });

  it('describes a set-up and plans the way to it', async () => {
    const { code, out } = await cli(
      ['setup', '-'],
      JSON.stringify({
        setup: { instrument: 'guitar-6', tuning: 'dadgad', capo: [{ fret: 2, strings: [5, 4, 3] }] },
        from: 'drop-d',
      }),
    );
    expect(code).toBe(0);
    expect(out).toMatchObject({
      spelling: 'D A D G A D',
      capo: 'fret 2 on strings 5 4 3',
      shapeShift: 0,
      same: [6, 5, 4, 3],
    });
    expect(out.strings).toEqual(
      [
        [6, 'E', 'D2', 0, 38, -2],
        [5, 'A', 'A2', 2, 47, 0],
        [4, 'D', 'D3', 2, 52, 0],
        [3, 'G', 'G3', 2, 57, 0],
        [2, 'B', 'A3', 0, 57, -2],
        [1, 'E', 'D4', 0, 62, -2],
      ].map(([string, nominal, name, nut, sounds, change]) => ({
        string,
        nominal,
        open: Number(sounds) - Number(nut),
        name,
        nut,
        sounds,
        change,
      })),
    );
    expect(out.retune).toMatchObject({
      moved: 2,
      steps: [
        { string: 2, direction: 'down', semitones: -2 },
        { string: 1, direction: 'down', semitones: -2 },
      ],
    });
  });

  it('weighs strings, those given instead of the instrument’s own', async () => {
    const { out } = await cli(
      ['tension', '-'],
      JSON.stringify({
        setup: { instrument: 'guitar-6' },
        strings: [
          { string: 1, diameterMm: 0.254, kind: 'plain' },
          { string: 6, diameterMm: 1.17, kind: 'wound', unitWeightKgPerM: 0.0068 },
        ],
      }),
    );
    const strings = out.strings as { string: number; newtons: number; grade: string }[];
    expect(strings.map((one) => one.string)).toEqual([6, 5, 4, 3, 2, 1]);
    expect(strings[5]?.newtons).toBeCloseTo(72.6, 0);
    expect(strings[0]?.newtons).toBeCloseTo(4 * 0.0068 * 0.648 ** 2 * 82.407 ** 2, 1);
    expect(out.total).toBeCloseTo(
      strings.reduce((sum, one) => sum + one.newtons, 0),
      6,
    );
  });

  it('plans capos', async () => {
    const { out } = await cli(
      ['capo-plan', '-'],
      JSON.stringify({ setup: { instrument: 'acoustic-6' }, key: 'Bb', chords: ['Bb', 'F', 'Gm', 'Eb'] }),
    );
    const choices = out.choices as {
      capo: number;
      shapeKey: string;
      chords: { shape: string; open: boolean; frets: number[] }[];
      band: string;
    }[];
    expect(choices[0]).toMatchObject({
      capo: 3,
      shapeKey: 'G major',
      chords: [{ shape: 'G', open: true }, { shape: 'D' }, { shape: 'Em' }, { shape: 'C' }],
    });
    expect(choices[0]?.band).toContain('Everyone else plays what sounds');
  });

  it('tunes by a recording', async () => {
    const wav = writeWav({ rate: 44_100, channels: [renderPluck(frequency(45, -9), 0.8, 44_100)] });
    const { code, out } = await cli(['tune', '-', '--tuning', 'drop-d'], wav);
    expect(code).toBe(0);
    const readings = out.readings as { string: number; cents: number; verdict: string; steady: boolean }[];
    expect(readings.length).toBeGreaterThan(20);
    const last = readings.at(-1);
    expect(last).toMatchObject({ string: 5, verdict: 'flat', steady: true });
    expect(Math.abs((last?.cents ?? 0) + 9)).toBeLessThan(0.3);
  });

  it('renders a piece, and listens to it again', async () => {
    const piece = must(
      buildDemoPiece(DEMO_PIECES.find((piece) => piece.title === 'Cellar Stairs') as (typeof DEMO_PIECES)[number]),
    );
    const file = path.join(mkdtempSync(path.join(tmpdir(), 'render-')), 'stairs.wav');
    const made = await cli(['render', '-', file], JSON.stringify(piece));
    expect(made.code).toBe(0);
    expect(made.out).toMatchObject({ rate: 44_100, file });
    const { code, out } = await cli(['listen', file, '--setup', JSON.stringify({ instrument: 'bass-4' }), '--to', '4']);
    expect(code).toBe(0);
    expect(Math.abs((out.reference as { cents: number }).cents)).toBeLessThan(4);
    const hearing = (out.notes as { onset: number; midi: number }[]).map((one) => one.midi);
    const written =
      piece.parts[0]?.riffs[0]?.events.flatMap((event) => event.notes.map((note) => note.pitch.midi)) ?? [];
    expect(hearing.slice(0, 6)).toEqual(written.slice(0, 6));
    expect((await cli(['render', '-', file, '--part', 'none'], JSON.stringify(piece))).err).toMatchObject({
      code: 'nothing',
      at: '--part',
    });
    expect((await cli(['listen', '-'], 'no sound at all, only some words that are long enough')).err).toMatchObject({
      code: 'not-sound',
    });
    expect((await cli(['listen', file, '--from', '3', '--to', '2'])).err).toMatchObject({
      code: 'bad-range',
      at: '--to',
    });
  }, 60_000);

  it('publishes its schemas', async () => {
    const names = [
      ['positions'],
      ['place'],
      ['import'],
      ['calls', 'parse'],
      ['calls', 'print'],
      ['setup'],
      ['tension'],
      ['capo-plan'],
      ['tune'],
      ['listen'],
      ['render'],
    ];
    for (const { code, out } of await Promise.all(names.map((name) => cli(['schema', ...name])))) {
      expect([code, out.type]).toEqual([0, 'object']);
    }
  }, 120_000);

  it('ends with 2 and one JSON object on standard error for any bad input', async () => {
    const fault = async (args: string[], input = ''): Promise<unknown[]> => {
      const { code, err } = await cli(args, input);
      return [code, err.code, err.at];
    };
    expect(await fault(['positions', '-'], '{"setup"')).toEqual([2, 'bad-json', '-']);
    expect(await fault(['positions', '-'], '{}')).toEqual([2, 'bad-input', 'setup']);
    expect(
      await fault(['positions', '-'], JSON.stringify({ setup: { ...setup, tuning: 'E A' }, pitches: [] })),
    ).toEqual([2, 'string-count', 'setup.tuning']);
    expect(
      await fault(
        ['place', '-'],
        JSON.stringify({ setup, events: [{ id: 'a', at: 'soon', dur: '1', notes: [{ pitch: 50 }] }] }),
      ),
    ).toEqual([2, 'bad-input', 'events.0.at']);
    expect(await fault(['place', 'no-such-file.json'])).toEqual([2, 'unreadable', 'no-such-file.json']);
    expect((await fault(['import', '-'], 'not midi')).slice(0, 2)).toEqual([2, 'not-midi']);
    expect((await fault(['dance']))[1]).toBe('usage');
    const capo = (fret: number, strings: number[]) =>
      JSON.stringify({ setup: { instrument: 'guitar-6', capo: [{ fret, strings }] } });
    expect(await fault(['setup', '-'], capo(30, [1]))).toEqual([2, 'bad-capo', 'setup.capo']);
    expect(await fault(['setup', '-'], capo(2, []))).toEqual([2, 'bad-capo', 'setup.capo']);
    expect(await fault(['setup', '-'], JSON.stringify({ setup: { instrument: 'guitar-6', scaleMm: 25.5 } }))).toEqual([
      2,
      'inches',
      'setup.scaleMm',
    ]);
    expect(
      await fault(
        ['tension', '-'],
        JSON.stringify({ setup: { instrument: 'guitar-6' }, strings: [{ string: 1, diameterMm: 0, kind: 'plain' }] }),
      ),
    ).toEqual([2, 'bad-input', 'strings.0.diameterMm']);
    expect(
      await fault(
        ['tension', '-'],
        JSON.stringify({ setup: { instrument: 'guitar-6' }, strings: [{ string: 9, diameterMm: 1, kind: 'plain' }] }),
      ),
    ).toEqual([2, 'no-string', 'strings.0.string']);
    expect(await fault(['capo-plan', '-'], JSON.stringify({ setup: { instrument: 'guitar-6' } }))).toEqual([
      2,
      'no-chords',
      'chords',
    ]);
    expect(await fault(['capo-plan', '-'], JSON.stringify({ setup: { instrument: 'guitar-6' }, key: 'Q' }))).toEqual([
      2,
      'bad-key',
      'key',
    ]);
    expect((await fault(['tune', '-'], 'no sound at all, but long enough for a head')).slice(0, 2)).toEqual([
      2,
      'not-wav',
    ]);
  }, 120_000);

  it.each(['flac', 'mp3', 'ogg'])('listens to %s as to WAV', async (kind) => {
    const { code, out } = await cli(['listen', `e2e/fixtures/three-notes.${kind}`]);
    expect(code).toBe(0);
    const notes = out.notes as { onset: number; midi: number }[];
    expect(notes.map((one) => one.midi)).toEqual([45, 52, 57]);
    notes.forEach((one, i) => expect(Math.abs(one.onset - i)).toBeLessThan(0.1));
  });

  it('says what is no sound it reads, and what is cut short', async () => {
    expect((await cli(['listen', 'e2e/fixtures/three-notes.m4a'])).err).toMatchObject({ code: 'no-m4a' });
    expect((await cli(['listen', 'package.json'])).err).toMatchObject({ code: 'not-sound' });
    const cut = path.join(mkdtempSync(path.join(tmpdir(), 'sound-')), 'cut.flac');
    writeFileSync(cut, readFileSync(path.join(root, 'e2e/fixtures/three-notes.flac')).subarray(0, 60));
    expect((await cli(['listen', cut])).err).toMatchObject({ code: 'unreadable' });
  });
});

describe('convert', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'convert-'));
  const at = (name: string): string => path.join(folder, name);
  const cli = commandLine();

  it('goes between all formats, says what was asked, left out and not placed, and takes answers', async () => {
    const piece = must(buildDemoPiece(DEMO_PIECES[6] as (typeof DEMO_PIECES)[number]));
    writeFileSync(at('piece.json'), JSON.stringify(piece));
    for (const out of ['a.musicxml', 'a.mxl', 'a.mid', 'a.txt']) {
      const made = await cli(['convert', at('piece.json'), at(out)]);
      expect([made.code, made.err]).toEqual([0, {}]);
      expect(made.out).toMatchObject({ from: 'json', blocked: [] });
    }
    for (const out of ['a.pdf', 'a.svg'])
      expect((await cli(['convert', at('a.mid'), at(out), '--part', '0'])).out).toMatchObject({ from: 'midi' });
    const pdf = readFileSync(at('a.pdf'), 'latin1');
    expect(pdf.slice(0, 5)).toBe('%PDF-');
    expect(pdf).toMatch(/FontFile[23]/);
    expect(readFileSync(at('a.svg'), 'utf8')).toMatch(/@font-face.*data:font[^]*<text [^>]*>[A-G]\|[^<]*\d/);
    const back = await cli(['convert', at('a.mxl'), at('b.json'), '--part', '0']);
    expect(back.out).toMatchObject({ from: 'musicxml', to: 'json', questions: [], leftOut: [] });
    const read = must(readPiece(JSON.parse(readFileSync(at('b.json'), 'utf8'))));
    expect(read.parts).toHaveLength(1);
    expect(read.parts[0]?.setup.open).toEqual(piece.parts[0]?.setup.open);
    const onBass = await cli([
      'convert',
      at('a.mid'),
      at('c.txt'),
      '--part',
      '1',
      '--setup',
      '{"instrument":"bass-5"}',
    ]);
    expect(onBass.code).toBe(0);
    expect(readFileSync(at('c.txt'), 'utf8')).toMatch(/Tuning: B E A D G/);
  });

  it('tells wrong kinds, parts and options', async () => {
    const code = async (args: string[]): Promise<unknown> => (await cli(['convert', ...args])).err.code;
    writeFileSync(at('letter.txt'), 'Dear theatre');
    expect(await code([at('letter.txt'), at('x.mid')])).toBe('no-tab');
    expect(await code([at('a.mid'), at('x.doc')])).toBe('unknown-kind');
    expect(await code([at('a.mid'), at('x.json'), '--part', 'Owl'])).toBe('no-part');
    expect(await code([at('a.mid')])).toBe('usage');
    expect(await code([at('a.mid'), at('x.txt'), '--width', '3'])).toBe('bad-input');
  });
});
