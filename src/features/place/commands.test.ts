import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must, type Result } from '@/core/base';
import { applyEdit, type Edit } from '@/core/edit';
import { checkPiece, makePart, makePiece, makeRiff, type Piece, type Riff } from '@/core/score';
import { makeSetup } from '@/core/instrument';
import { calledToEvents, FIRST_LENGTH, printCalls, readCalls } from '@/core/shorthand';
import { ZERO, type Quarter } from '@/core/time';
import { commandsFor, keepChosen, typedCommands, type BenchContext } from './commands';
import type { Chosen } from './selection';
import { zoomed, ZOOMS } from './zoom';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));

/** A bench without a page: what is chosen is given, edits are applied, what is said is kept. */
class TestBench {
  piece: Piece;
  readonly said: string[] = [];
  picked: string[] = [];
  /** The note of a chord in focus, if one is. */
  single: string | null = null;

  constructor(calls: string) {
    const called = readCalls(calls, {
      setup,
      meters: [{ bar: 0, beats: 4, unit: 4 }],
      at: ZERO,
      length: FIRST_LENGTH,
      string: null,
    });
    expect(called.faults, calls).toEqual([]);
    this.piece = makePiece('p', 'P', {
      parts: [
        makePart('p0', 'Guitar', setup, {
          riffs: [makeRiff('r', 'Riff', { bars: 2, events: calledToEvents(called, new Set()) })],
        }),
      ],
    });
  }

  get riff(): Riff {
    return this.piece.parts[0]?.riffs[0] as Riff;
  }

  get text(): string {
    return printCalls(this.riff, ZERO, { setup, frets: 'capo' });
  }

  desk(from: number, to = from): BenchContext {
    const part = this.piece.parts[0];
    if (!part) throw new Error('no part');
    const events = this.riff.events.slice(from, to + 1);
    const focus = events.at(-1) ?? null;
    const chosen: Chosen = {
      selection: {
        anchor: null,
        focus: focus?.id ?? null,
        note: focus?.notes[0]?.id ?? null,
        caret: null,
        picked: null,
      },
      events,
      focus,
      focusIndex: to,
      noteIndex: 0,
      single: this.single,
      insertAt: focus ? focus.at : ZERO,
      choose: () => undefined,
      chooseAll: () => undefined,
      pick: (all) => {
        this.picked = all.map((event) => event.id);
      },
      toggle: () => undefined,
      setCaret: (_: Quarter) => undefined,
    };
    return {
      piece: this.piece,
      part,
      riff: this.riff,
      chosen,
      say: (text) => this.said.push(text),
      edit: (made: Result<Edit>) => {
        const next = made.ok ? applyEdit(this.piece, made.value) : made;
        if (next.ok) this.piece = next.value;
        else this.said.push(next.error.words);
        return next.ok;
      },
    };
  }

  run(name: string, from: number, to = from): string {
    const command = commandsFor(this.desk(from, to)).find((command) => command.name === name);
    if (!command) throw new Error(`no command "${name}"`);
    command.run();
    return this.text;
  }

  type(typed: string, from: number, to = from): string[] {
    const found = typedCommands(this.desk(from, to), typed);
    found[0]?.run();
    return found.map((command) => command.name);
  }
}

describe('commands', () => {
  it('have names and keys of their own', () => {
    const all = commandsFor(new TestBench('on 5 3').desk(0));
    expect(new Set(all.map((command) => command.name)).size).toBe(all.length);
    const keys = all.flatMap((command) => (command.key ? [command.key] : []));
    expect(new Set(keys).size).toBe(keys.length);
    expect(all.length).toBeGreaterThan(80);
  });

  it('toggle what is there, on one note or a stretch', () => {
    const bench = new TestBench('eighths on 5 3 5 7 8');
    expect(bench.run('Palm mute, or not', 0, 2)).toBe('on 5 3 palm 5 palm 7 palm 8');
    expect(bench.run('Palm mute, or not', 0, 2)).toBe('on 5 3 5 7 8');
    expect(bench.run('Bend a whole tone, or not', 3)).toBe('on 5 3 5 7 8 bend whole');
    expect(bench.run('Bend and release', 3)).toBe('on 5 3 5 7 8 bend whole released');
    expect(bench.run('Bend a whole tone, or not', 3)).toBe('on 5 3 5 7 8');
    expect(bench.run('Hammer on to the next, or not', 0)).toBe('on 5 3 hammer 5 7 8');
    expect(bench.run('Accent, heavy, none', 2)).toContain('7 accent');
    expect(bench.run('Accent, heavy, none', 2)).toContain('7 heavy');
    expect(bench.run('Accent, heavy, none', 2)).toBe('on 5 3 hammer 5 7 8');
    expect(bench.run('Sure, likely, a guess', 3)).toContain('8 likely');
    expect(bench.run('Sure, likely, a guess', 3)).toContain('8 guess');
    expect(bench.run('Seen live', 3)).toContain('8 guess seen');
  });

  it('mark the note of a chord in focus, or without a focus all of them; a mixed stretch is set first', () => {
    const bench = new TestBench('on 4 2 + on 3 2');
    bench.single = bench.riff.events[0]?.notes[1]?.id ?? null;
    expect(bench.run('Dead note, or not', 0)).toBe('on 4 2 + on 3 dead 2');
    bench.single = null;
    expect(bench.run('Dead note, or not', 0)).toBe('on 4 dead 2 + on 3 dead 2');
    expect(bench.run('Dead note, or not', 0)).toBe('on 4 2 + on 3 2');
    const stretch = new TestBench('on 5 3 palm 5 7 palm');
    expect(stretch.run('Palm mute, or not', 0, 2)).toBe('on 5 3 palm 5 palm 7 palm');
    expect(stretch.run('Palm mute, or not', 0, 2)).toBe('on 5 3 5 7');
    const ring = new TestBench('on 5 3 ring 5');
    expect(ring.run('Let ring, or not', 0, 1)).toBe('on 5 3 ring 5 ring');
  });

  it('join one note of a chord, or each that leads somewhere', () => {
    const bench = new TestBench('on 4 9 + on 3 9 + on 2 9 on 4 11 + on 2 10');
    expect(bench.run('Hammer on to the next, or not', 0)).toBe(
      'on 4 9 + on 3 9 ends + on 2 9 hammer on 4 11 + on 2 10',
    );
    expect(bench.run('Hammer on to the next, or not', 0)).not.toContain('hammer');
    bench.single = bench.riff.events[0]?.notes[2]?.id ?? null;
    expect(bench.run('Hammer on to the next, or not', 0)).toContain('on 4 11 + hammer on 2 10');
  });

  it('move in shape and in sound, and tell what was lost', () => {
    const bench = new TestBench('eighths on 5 open on 4 2');
    expect(bench.run('Up a fret, in shape', 0, 1)).toBe('on 5 1 on 4 3');
    expect(bench.said).toEqual(['An open string has become stopped.']);
    expect(bench.run('A semitone up', 0, 1)).toBe('note B2 note F#3');
    expect(bench.said.at(-1)).toBe('2 places of yours were given up.');
  });

  it('put holes where the note stands and keep readings', () => {
    const bench = new TestBench('quarters on 5 3 5 7');
    keepChosen(bench.desk(1, 2));
    expect(bench.riff.alternatives?.[0]).toMatchObject({ from: '1', to: '3' });
    expect(bench.run('Played here, not yet written (a hole)', 1)).toBe('quarters on 5 3 hole 7');
  });

  it('take numbers and words from what is typed', () => {
    const bench = new TestBench('eighths on 5 3 5 on 3 14 bend half on 2 open');
    expect(bench.type('tempo 84', 0)[0]).toBe('Tempo of this riff: 84');
    expect(bench.riff.tempo).toEqual([{ at: '0', bpm: 84 }]);
    bench.type('swing 66', 0);
    bench.type('plays 4', 0);
    bench.type('bars 6', 0);
    bench.type('meter 3/4', 0);
    expect(bench.riff).toMatchObject({
      feel: [{ at: '0', swing: 66, unit: '1/2' }],
      plays: 4,
      bars: 6,
      meters: [{ bar: 0, beats: 3, unit: 4 }],
    });
    bench.type('move 2 frets', 0, 1);
    expect(bench.text).toContain('on 5 5 7');
    expect(bench.type('find every bend above fret 12', 0)).toEqual(['Choose the 1 place: every bend above fret 12']);
    expect(bench.picked).toEqual([bench.riff.events[2]?.id]);
    expect(bench.type('open', 0)).toEqual(['Choose the 1 place: open']);
    expect(bench.type('find wobble', 0)[0]).toContain('"wobble" is nothing');
    bench.type('why it answers the bass', 0);
    expect(bench.riff.events[0]?.remark).toBe('it answers the bass');
    expect(
      ['tempo 9', 'tempo 900', 'swing 90', 'plays 0', 'meter 4/5', 'gibberish'].flatMap((text) => bench.type(text, 0)),
    ).toEqual([]);
  });

  it('every one of them, on anything, leaves a document that holds, or says why not', () => {
    const names = commandsFor(new TestBench('on 5 3').desk(0)).map((command) => command.name);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(...names), fc.nat({ max: 5 }), fc.nat({ max: 2 })), { maxLength: 25 }),
        (runs) => {
          const bench = new TestBench('eighths on 5 open 3 hammer 5 on 3 7 + on 2 8 ring note E4 on 1 12 tapped');
          for (const [name, from, more] of runs) {
            if (bench.riff.events.length === 0) return;
            const first = Math.min(from, bench.riff.events.length - 1);
            const before = bench.piece;
            const spec = bench.said.length;
            bench.run(name, first, Math.min(bench.riff.events.length - 1, first + more));
            if (bench.piece === before) continue;
            expect(must(checkPiece(bench.piece))).toBe(bench.piece);
            expect(bench.said.length).toBeLessThanOrEqual(spec + 1);
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('bars in a row', () => {
  it('step from close to far and stop at the ends', () => {
    expect(zoomed(null, 1)).toBe(3);
    expect(zoomed(null, -1)).toBe(2);
    expect(zoomed(ZOOMS.at(-1) ?? null, 1)).toBe(8);
    expect(zoomed(1, -1)).toBe(1);
  });
});
