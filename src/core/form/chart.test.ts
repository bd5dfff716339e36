import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import {
  makeEvent,
  makeNote,
  makePart,
  makePiece,
  makePlace,
  makeRiff,
  type Piece,
  type Riff,
  type RiffEvent,
  type Section,
} from '../score';
import { quarter, ZERO } from '../time';
import {
  changeBetween,
  chartOf,
  contextsOf,
  degreeAt,
  levelsOf,
  mapOf,
  playedWords,
  proposeChords,
  sheetOf,
  writtenChords,
  type ChartBlock,
} from './index';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const note = (id: string, at: number, midi: number, string: number, fret: number): RiffEvent =>
  makeEvent(id, quarter(at), quarter(1), [
    makeNote(`${id}n`, midi, 'instructor', { place: makePlace(string, fret, 'instructor') }),
  ]);
/** A triad broken over a bar. */
const broken = (id: string, root: number): Riff =>
  makeRiff(id, id.toUpperCase(), {
    events: [
      note(`${id}0`, 0, root, 5, root - 45),
      note(`${id}1`, 1, root + 7, 4, root - 43),
      note(`${id}2`, 2, root + 12, 3, root - 43),
      note(`${id}3`, 3, root + 15, 2, root - 44),
    ],
  });
const a = broken('a', 45);
const ending: Riff = {
  ...a,
  variants: [
    { id: 'x', name: 'last time', change: changeBetween(a, [...a.events.slice(0, 3), note('a3', 3, 62, 2, 3)]) },
  ],
};
const verse: Section = {
  ...{ id: 'v', name: 'Verse', kind: 'verse', bars: 2, cue: 'after the bell' },
  context: {
    chords: [
      { at: ZERO, dur: quarter(4), chord: 'Am' },
      { at: quarter(4), dur: quarter(2), chord: 'F' },
    ],
    bass: [{ at: quarter(6), dur: quarter(2), note: 'E' }],
  },
  rows: [{ part: 'g', uses: [{ id: 'u', riff: 'a', plays: 2 }], level: 40 }],
};
const piece: Piece = makePiece('p', 'P', {
  context: { tempo: [{ at: ZERO, bpm: 120 }], key: [{ at: ZERO, tonic: 'A', mode: 'minor' }] },
  parts: [makePart('g', 'Guitar', setup, { riffs: [ending, broken('b', 48)] }), makePart('h', 'Second', setup)],
  sections: [
    verse,
    {
      ...verse,
      id: 'r',
      name: 'Refrain',
      bars: 3,
      rows: [{ part: 'g', uses: [{ id: 'w', riff: 'b', plays: 1, move: { by: 'frets', steps: 2 } }] }],
    },
  ],
  form: [
    { id: 'f1', section: 'v', plays: 2, differences: [{ passes: ['last'], use: 'u', variant: 'x' }] },
    { id: 'f2', section: 'r', plays: 1, stop: { kind: 'fade', bars: 1 } },
    { id: 'f3', section: 'v', plays: 1 },
  ],
});
const [first, second] = chartOf(piece, { unfolded: false }) as unknown as readonly [ChartBlock, ChartBlock];

describe('the chart', () => {
  it('draws each section once, with its number, how often, what is said beside and its chords', () => {
    expect(first).toMatchObject({
      firstBar: 1,
      bars: 2,
      plays: '3 times in all: 2, then 1',
      remarks: ['after the bell'],
    });
    expect(second).toMatchObject({ firstBar: 5, plays: 'once', remarks: ['after the bell', 'fading over 1 bar'] });
    expect(first.chords.map((chord) => [chord.at, chord.name, chord.bass])).toEqual([
      [0, 'Am', null],
      [1, 'F', null],
      [1.5, '', 'E'],
    ]);
    expect(playedWords({ ...piece, form: [] }, verse)).toBe('once');
  });
  it('lays slips by bars, with a contour, what is done to the riff, and by how much a row misses its section', () => {
    const [row, silent] = first.rows;
    expect(row?.slips.map((slip) => [slip.name, slip.from, slip.to, slip.kind])).toEqual([
      ['A', 0, 1, 'riff'],
      ['A', 1, 2, 'riff'],
    ]);
    expect(row?.slips[0]?.contour.map((dash) => dash.from)).toEqual([0, 0.25, 0.5, 0.75]);
    expect(row?.slips[0]?.contour[0]?.height).toBe(0);
    expect(silent?.row).toBeNull();
    expect(second.rows[0]?.slips[0]).toMatchObject({ name: 'B', how: 'up 2 frets', kind: 'varied' });
    expect(second.rows[0]?.over).toBe('-8');
  });
  it('shows what differs where it differs, note by note; unfolded, where it is played', () => {
    expect(first.endings).toHaveLength(1);
    expect(first.endings[0]).toMatchObject({
      from: 0,
      to: 1,
      words: 'last time, at bar 1: last time (1 note differs)',
      detail: ['bar 1, beat 4: D instead of C'],
    });
    const passes = chartOf(piece, { unfolded: true });
    expect(passes.map((block) => [block.section.name, block.firstBar, block.plays])).toEqual([
      ['Verse', 1, '1 of 2'],
      ['Verse', 3, '2 of 2'],
      ['Refrain', 5, ''],
      ['Verse', 8, ''],
    ]);
    expect(passes.map((block) => block.rows[0]?.slips[0]?.how)).toEqual(['', 'last time', 'up 2 frets', '']);
  });
  it('keeps what a change elsewhere leaves alone', () => {
    const other = {
      ...piece,
      sections: piece.sections.map((one) => (one.id === 'v' ? { ...one, cue: 'later' } : one)),
    };
    const again = chartOf(other, { unfolded: false });
    expect(again[0]?.remarks).toEqual(['later']);
    expect(again[1]?.rows).toEqual(second.rows);
    expect(again[1]?.rows[0]?.slips[0]?.contour).toBe(second.rows[0]?.slips[0]?.contour);
  });
});

describe('a riff in its places', () => {
  it('has the chords of each, and its notes their degrees; a bass that changes under it changes them', () => {
    const contexts = contextsOf(piece, 'g', 'a');
    expect(contexts.map((one) => one.words)).toEqual(['Verse, bar 1', 'Verse, bar 2']);
    const [one, two] = contexts;
    const degrees = (of: typeof one): string =>
      a.events
        .map(
          (event) =>
            degreeAt(of ?? { chords: [], bass: [] }, event.at, event.notes[0] as RiffEvent['notes'][number]) ?? '-',
        )
        .join(' ');
    expect([degrees(one), degrees(two)]).toEqual(['1 5 1 ♭3', '3 7 4 ♭6']);
    expect(degreeAt({ chords: [], bass: [] }, ZERO, a.events[0]?.notes[0] as RiffEvent['notes'][number])).toBeNull();
    expect(contextsOf(piece, 'g', 'none')).toEqual([]);
  });
  it('is accompanied by what is written, the bass with it; chords are proposed where none are', () => {
    const chords = writtenChords(mapOf(piece), ZERO, quarter(8)).map((one) => [
      one.from,
      one.to,
      one.chord.root.letter,
      one.chord.bass?.letter ?? null,
    ]);
    expect(chords).toEqual([
      [0, 4, 'A', null],
      [4, 6, 'F', null],
    ]);
    const bare = { ...piece, sections: piece.sections.map((one) => (one.id === 'v' ? { ...one, context: {} } : one)) };
    expect(proposeChords(bare, bare.sections[0] as Section).map((one) => one.chord)).toEqual(['Am']);
    expect(proposeChords({ ...bare, form: [], sections: [] }, verse)).toEqual([]);
  });
  it('is as loud as its section says, and fades where the form does', () => {
    expect(
      levelsOf(mapOf(piece), 'g').map((step) => [step.at, Math.round(step.gain * 100) / 100, step.ramp ?? false]),
    ).toEqual([
      ['0', 0.25, false],
      ['16', 1, false],
      ['24', 1, true],
      ['2687/96', 0, false],
      ['28', 0.25, false],
    ]);
    expect(levelsOf(mapOf({ ...piece, form: [], sections: [{ ...verse, rows: [] }] }), 'g')).toEqual([]);
  });
});

describe('the sheet of a part', () => {
  it('prints a riff once, names it where it returns, and puts what differs under a bracket', () => {
    const { sections } = sheetOf(piece, 'g', { unfolded: false });
    expect(sections.map((one) => [one.title, one.words])).toEqual([
      ['Verse', 'bars 1 to 2, 3 times in all: 2, then 1'],
      ['Refrain', 'bars 5 to 7, once'],
    ]);
    const [music, bracket] = sections[0]?.blocks ?? [];
    expect(music).toMatchObject({ kind: 'music', label: 'A', words: '2 times in all', repeated: true, bar: 1 });
    expect(bracket).toMatchObject({
      kind: 'music',
      ending: true,
      words: '2nd time, instead of bar 1',
      label: 'A, last time',
    });
    const only = sheetOf(piece, 'g', { unfolded: true, sections: new Set(['r']) });
    expect(only.sections.map((one) => one.title)).toEqual(['Refrain']);
    expect(sheetOf(piece, 'none', { unfolded: false })).toEqual({ sections: [], covers: [] });
  });
});
