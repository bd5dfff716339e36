import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../../base';
import { applyEdit } from '../../edit';
import { makeSetup, type Setup } from '../../instrument';
import { checkPiece, makeEvent, makeNote, makePiece, makePlace, type RiffEvent } from '../../score';
import { pieceArbitrary } from '../../score/test-support/arbitrary';
import { quarter, ZERO } from '../../time';
import { partQuestions } from '../registry';
import { told } from '../test-support/alike';
import { formedPiece } from '../test-support/formed';
import { foldBars } from './fold-bars';
import {
  agreement,
  bestShift,
  eventsOfNotes,
  fitEvents,
  foundNote,
  guessSetup,
  insertTaken,
  musicOf,
  orderOf,
  takeIn,
  usualTrust,
  type Music,
  type MusicPart,
} from './index';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const event = (at: number, midi: number, place: readonly [number, number] | null = null): RiffEvent =>
  makeEvent(`e${at}`, quarter(at), quarter(1), [
    makeNote(
      `n${at}`,
      midi,
      'import',
      place ? { place: makePlace(place[0], place[1], 'import', { locked: true }) } : {},
    ),
  ]);
const partOf = (events: readonly RiffEvent[], extra: Partial<MusicPart> = {}): MusicPart => ({
  ...{ name: 'Guitar', setup: null, tuning: null, capo: 0, kind: 'guitar', program: null },
  placed: events.some((one) => one.notes.some((note) => note.place)),
  events,
  ...extra,
});
const musicWith = (events: readonly RiffEvent[], bars: number, extra: Partial<Music> = {}): Music => ({
  ...{ title: 'Song', credit: null, bars, pickup: ZERO, meters: [{ bar: 0, beats: 4, unit: 4 }] },
  ...{ tempo: [{ at: ZERO, bpm: 100 }], keys: [], feel: [], chords: [], bass: [], marks: [], repeats: [] },
  order: [{ from: 0, to: bars }],
  parts: [partOf(events)],
  ...extra,
});
const choice = (own: Setup = setup) => ({ index: 0, name: 'Guitar', setup: own, shift: 0, trust: 'places' as const });

describe('the order of bars', () => {
  it('plays repeats with their endings, whatever passes those have', () => {
    const endings = [
      { from: 2, to: 3, passes: [1, 3] },
      { from: 3, to: 4, passes: [2, 4] },
    ];
    expect(orderOf(5, [{ from: 0, to: 4, times: 4, endings }]).map(({ from, to }) => [from, to])).toEqual([
      ...[
        [0, 3],
        [0, 2],
        [3, 4],
        [0, 3],
        [0, 2],
        [3, 5],
      ],
    ]);
    expect(orderOf(3, [])).toEqual([{ from: 0, to: 3 }]);
  });

  it('is found where bars come again, and left alone where they do not', () => {
    const again = [...'abcdabcdefghabcd'].map(String);
    expect(foldBars(again)?.map(({ from, to }) => to - from)).toEqual([4, 4, 4, 4]);
    expect(foldBars([...'abcdefghijkl'])).toBeNull();
  });
});

describe('music as a piece', () => {
  it('of one part and no marks stays one riff; with what comes again it is sections', () => {
    const plain = must(takeIn(musicWith([event(0, 52), event(5, 55)], 2), [choice()]));
    expect(plain.piece).toMatchObject({ sections: [], form: [], title: 'Song' });
    expect(plain.piece.parts[0]?.riffs).toHaveLength(1);
    const bars = [0, 1, 2, 3, 0, 1, 2, 3, 4, 5, 6, 7, 0, 1, 2, 3];
    const folded = must(
      takeIn(
        musicWith(
          bars.map((pitch, i) => event(4 * i, 50 + pitch)),
          16,
        ),
        [choice()],
      ),
    );
    expect(folded.piece.parts[0]?.riffs.map((riff) => riff.bars)).toEqual([4, 4]);
    expect(folded.piece.form.map((entry) => entry.plays)).toEqual([2, 1, 1]);
  });

  it('whatever it is, is a sound document that plays what was written', () => {
    fc.assert(
      fc.property(pieceArbitrary, (piece) => {
        const music = musicOf(piece);
        const choices = music.parts.flatMap((part, index) =>
          part.events.length > 0 && part.setup ? [{ ...choice(part.setup), index, name: part.name }] : [],
        );
        fc.pre(choices.length === music.parts.length && choices.length > 0);
        const taken = must(takeIn(music, choices));
        expect(checkPiece(taken.piece)).toMatchObject({ ok: true });
        const [before, after] = [musicOf(piece, { unfolded: true }), musicOf(taken.piece, { unfolded: true })];
        expect(after.parts.map((part) => told(part.events))).toEqual(before.parts.map((part) => told(part.events)));
      }),
      { numRuns: 60 },
    );
  });

  it('keeps a grace note that leads over the joint of sections that are otherwise alike', () => {
    const bar = (at: number) => [event(at, 52), event(at + 1, 55), event(at + 2, 57), event(at + 3, 59)];
    const grace = (at: number) => ({
      ...event(at, 50),
      at: quarter(at * 8 - 1, 8),
      dur: quarter(1, 8),
      grace: true as const,
    });
    // The first time nothing leads into it, then something does, each time from the bar before.
    const events = [...bar(0), grace(4), ...bar(4), grace(8), ...bar(8), ...bar(12)];
    const music = { ...musicWith(events, 4), marks: [0, 1, 2, 3].map((at) => ({ bar: at, name: 'Verse' })) };
    const taken = must(takeIn(music, [choice()]));
    const after = musicOf(taken.piece, { unfolded: true });
    expect(after.parts.map((part) => told(part.events))).toEqual([told(events)]);
  });

  it('goes into a piece as one step, its form only where the piece has none', () => {
    const music = musicOf(formedPiece());
    const target = makePiece('target', 'Target', { lastId: 77 });
    const choices = music.parts.map((part, index) => ({ ...choice(part.setup ?? setup), index, name: part.name }));
    const taken = must(takeIn(music, choices, target.lastId));
    const done = must(applyEdit(target, insertTaken(target, taken, 'a file')));
    expect(checkPiece(done)).toMatchObject({ ok: true });
    expect(done).toMatchObject({ title: 'Target', credit: 'the pit band' });
    expect([done.parts.length, done.sections.length, done.form.length]).toEqual([2, 3, 3]);
    const again = must(takeIn(music, choices, done.lastId));
    const twice = must(applyEdit(done, insertTaken(done, again, 'a file')));
    expect(checkPiece(twice)).toMatchObject({ ok: true });
    expect([twice.parts.length, twice.sections.length]).toEqual([4, 3]);
  });

  it('refuses no part, and parts of which nothing is left', () => {
    expect(takeIn(musicWith([event(0, 52)], 1), [])).toMatchObject({ ok: false, error: { rule: 'no-part' } });
    expect(takeIn(musicWith([event(0, 5)], 1), [{ ...choice(), shift: -24 }])).toMatchObject({
      ok: false,
      error: { rule: 'no-notes' },
    });
  });
});

describe('what a file says in two ways', () => {
  const wrong = partOf([event(0, 52, [6, 0]), event(1, 55, [6, 3]), event(2, 57, [6, 5])]);

  it('is asked, with where and how it differs', () => {
    const music = { ...musicWith([], 1), parts: [wrong] };
    const [question] = partQuestions(music, 0, setup);
    expect(question?.finding.words).toBe(
      'Guitar: 3 of 3 places sound an octave below the pitches beside them, first in bar 1.',
    );
    expect(agreement(wrong, setup)).toMatchObject({ placed: 3, differing: 3, by: -12, outside: 0 });
    // Nobody said for which strings, and all of it differs: then the pitches are likelier right.
    expect(usualTrust(wrong, agreement(wrong, setup))).toBe('pitches');
    expect(usualTrust({ ...wrong, tuning: setup.open }, agreement(wrong, setup))).toBe('places');
    expect(partQuestions({ ...music, parts: [partOf([event(0, 40, [6, 0])])] }, 0, setup)).toEqual([]);
    const beyond = partOf([event(0, 40, [7, 0])]);
    expect(partQuestions({ ...music, parts: [beyond] }, 0, setup)[0]?.finding.words).toContain(
      'strings or frets that 6 strings',
    );
  });

  it('is done as it is answered: pitches after places, or places after pitches', () => {
    const places = fitEvents(wrong.events, setup, 0, 'places');
    expect(places.events.map((one) => one.notes[0]?.pitch.midi)).toEqual([40, 43, 45]);
    expect(places.pitchesChanged).toBe(3);
    const pitches = fitEvents(wrong.events, setup, 0, 'pitches');
    expect(pitches.events.map((one) => one.notes[0]?.pitch.midi)).toEqual([52, 55, 57]);
    // The string stays, where the pitch lies on it.
    expect(pitches.events.map((one) => one.notes[0]?.place?.fret)).toEqual([12, 15, 17]);
  });

  it('loses no note to what no hand can do: the way of playing goes, and is counted', () => {
    const open = makeEvent('e', ZERO, quarter(1), [
      { ...makeNote('n', 40, 'import', { place: makePlace(6, 0, 'import') }), technique: { bend: 200 } },
      { ...makeNote('m', 40, 'import', { place: makePlace(6, 0, 'import') }) },
    ]);
    const fitted = fitEvents([open], setup, 0, 'places');
    expect(fitted.events[0]?.notes.map((note) => [note.place?.string ?? null, note.technique ?? null])).toEqual([
      [6, null],
      [null, null],
    ]);
    expect(fitted).toMatchObject({ techniquesLost: 1, placesLost: 1, notesLost: 0 });
  });
});

describe('set-ups of files', () => {
  it('are those the file tunes, on the instrument they fit; guessed by the lowest note where it says none', () => {
    const of = (tuning: number[] | null, events: RiffEvent[] = [], extra: Partial<MusicPart> = {}): Setup =>
      guessSetup(partOf(events, { tuning, ...extra })).setup;
    expect(of([38, 45, 50, 55, 59, 64])).toMatchObject({ instrument: { id: 'guitar-6' }, tuningId: 'drop-d' });
    expect(of([28, 33, 38, 43]).instrument.id).toBe('bass-4');
    expect(of([35, 40, 45, 50, 54, 59]).instrument.kind).toBe('baritone');
    expect(of([30, 35, 40, 45, 50, 55, 59, 64, 69]).instrument.strings).toHaveLength(9);
    expect(of(null, [event(0, 41, [6, 24])], { capo: 2 }).instrument.frets).toBe(26);
    expect(of(null, [event(0, 38)]).tuningId).toBe('drop-d');
    expect(of(null, [event(0, 33)], { kind: 'bass' }).instrument.id).toBe('bass-4');
    expect(of(null, [event(0, 25)], { program: 33, kind: 'other' }).instrument.id).toBe('bass-5');
    expect(guessSetup(partOf([])).assumed).toContain('names no tuning');
  });

  it('take the octave that puts most notes on the neck', () => {
    expect(bestShift(partOf([event(0, 28), event(1, 33)]), setup)).toBe(12);
    expect(bestShift(partOf([event(0, 28, [6, 0])]), setup)).toBe(0);
  });
});

describe('found notes as events', () => {
  it('join what begins together: voices by length, pitches once a string, graces before', () => {
    const events = eventsOfNotes([
      foundNote(ZERO, quarter(4), 40, { voice: 2, string: 6, fret: 0 }),
      foundNote(ZERO, quarter(1), 52, { voice: 1 }),
      foundNote(ZERO, quarter(1, 2), 52, { voice: 3, string: 4, fret: 2 }),
      foundNote(quarter(1), quarter(1), 53, { grace: 0 }),
      foundNote(quarter(1), quarter(1), 54),
    ]);
    expect(events.map((one) => [one.at, one.dur, one.grace ?? false])).toEqual([
      ['0', '1', false],
      ['7/8', '1/8', true],
      ['1', '1', false],
    ]);
    expect(events[0]?.notes.map((note) => [note.pitch.midi, note.place?.string ?? null, note.dur])).toEqual([
      [40, 6, '4'],
      [52, 4, null],
    ]);
  });
});
