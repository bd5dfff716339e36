import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { makeEvent, makeNote, makePart, makePiece, makePlace, makeRiff, type RiffEvent, type Section } from '../score';
import { quarter } from '../time';
import { alikeStrings, chainsOf, likeness, matchesOf, matchWords, MOST_ENTRIES, saidIn } from './index';

const FOUR = [{ bar: 0, beats: 4, unit: 4 }];
const { setup: standard } = must(makeSetup({ instrument: 'guitar-6' }));
const { setup: dropped } = must(makeSetup({ instrument: 'guitar-6', tuning: 'D A D G B E' }));

interface Played {
  readonly string: number;
  readonly fret: number;
  readonly half: number;
}
/** Single notes or pairs on neighbouring strings, in eighths and longer. */
const line = (notes: readonly (readonly Played[])[], setup = standard, moved = 0): RiffEvent[] => {
  let at = 0;
  return notes.map((chord, i) => {
    const half = chord[0]?.half ?? 1;
    const event = makeEvent(
      `e${i}`,
      quarter(at, 2),
      quarter(half, 2),
      chord.map(({ string, fret }, n) =>
        makeNote(`n${i}.${n}`, (setup.open[setup.open.length - string] ?? 0) + fret + moved, 'instructor', {
          place: makePlace(string, fret + moved, 'instructor'),
        }),
      ),
    );
    at += half;
    return event;
  });
};
const chord = fc
  .record({
    string: fc.integer({ min: 1, max: 5 }),
    fret: fc.integer({ min: 0, max: 12 }),
    half: fc.integer({ min: 1, max: 3 }),
    two: fc.boolean(),
  })
  .map(({ string, fret, half, two }): Played[] => [
    { string, fret, half },
    ...(two ? [{ string: string + 1, fret: fret + 1, half }] : []),
  ]);
const music = fc.array(chord, { minLength: 6, maxLength: 14 });

describe('music sought in a riff', () => {
  it('any stretch of four or more is found where it stands, also moved along the neck', () => {
    fc.assert(
      fc.property(
        music,
        fc.nat(5),
        fc.integer({ min: 4, max: 6 }),
        fc.integer({ min: 0, max: 5 }),
        (notes, from, count, moved) => {
          const events = line(notes);
          const begin = Math.min(from, notes.length - 4);
          const sought = chainsOf(line(notes.slice(begin, begin + count), standard, moved), FOUR);
          const match = matchesOf(chainsOf(events, FOUR), sought).find((one) => one.event === begin);
          expect(match).toMatchObject({
            sound: true,
            grips: true,
            rhythm: true,
            semitones: 0 - moved,
            frets: 0 - moved,
            strings: 0,
          });
        },
      ),
    );
  });
  it('what was found is alike: the steps, the grips or the gaps of the place are those of what was sought', () => {
    fc.assert(
      fc.property(music, fc.array(chord, { minLength: 3, maxLength: 4 }), (notes, other) => {
        const [events, wanted] = [line(notes), line(other)];
        const top = (event: RiffEvent | undefined): number =>
          Math.max(...(event?.notes.map((note) => note.pitch.midi) ?? [0]));
        for (const match of matchesOf(chainsOf(events, FOUR), chainsOf(wanted, FOUR)))
          if (match.semitones !== null)
            wanted.forEach((event, i) =>
              expect(top(events[match.event + i])).toBe(top(event) + (match.semitones ?? 0)),
            );
      }),
    );
  });
  const climb = [0, 2, 4, 5].map((fret) => [{ string: 4, fret, half: 1 }]);
  it('the same notes elsewhere on the neck, the same grips in another tuning, the rhythm alone: told apart', () => {
    const elsewhere = [5, 7, 9, 10].map((fret) => [{ string: 5, fret, half: 1 }]);
    const sought = chainsOf(line(climb), FOUR);
    const [same] = matchesOf(chainsOf(line(elsewhere), FOUR), sought);
    expect(same && matchWords(same, standard, standard, [4])).toBe(
      'the same notes, the same grips 1 string thicker and 5 frets higher, in the same rhythm',
    );
    const across = [
      [6, 0],
      [5, 2],
      [4, 2],
    ].map(([string, fret]) => [{ string: string ?? 0, fret: fret ?? 0, half: 1 }]);
    const [grip] = matchesOf(chainsOf(line(across, dropped), FOUR), chainsOf(line(across), FOUR));
    expect(grip && matchWords(grip, dropped, standard, [6, 5, 4])).toBe(
      'the same grips, it sounds otherwise: the strings are tuned otherwise',
    );
    const high = [
      [4, 0],
      [3, 2],
      [2, 3],
    ].map(([string, fret]) => [{ string: string ?? 0, fret: fret ?? 0, half: 1 }]);
    const [alike] = matchesOf(chainsOf(line(high, dropped), FOUR), chainsOf(line(high), FOUR));
    expect(alike && matchWords(alike, dropped, standard, [2, 3, 4])).toBe(
      'the same notes, the same grips, strings 4-3-2 are alike in both tunings',
    );
    const still = [3, 3, 3, 3].map((fret) => [{ string: 1, fret, half: 1 }]);
    const [rhythm] = matchesOf(chainsOf(line(still), FOUR), sought);
    expect(rhythm && matchWords(rhythm, standard, standard, [4])).toBe('the same rhythm alone');
    expect(same && rhythm && likeness(same) > likeness(rhythm)).toBe(true);
    const apart = [
      [5, 5],
      [4, 2],
      [4, 4],
      [4, 5],
    ].map(([string, fret]) => [{ string: string ?? 0, fret: fret ?? 0, half: 1 }]);
    const [moved] = matchesOf(chainsOf(line(apart), FOUR), chainsOf(line(climb), FOUR));
    expect(moved && matchWords(moved, standard, standard, [4])).toBe(
      'the same notes, in other places on the neck, in the same rhythm',
    );
    expect(alikeStrings(standard, standard, [3, 2])).toBeNull();
  });
  it('two notes are too few, and an unplaced note is no grip', () => {
    const entry = chainsOf(line(climb), FOUR);
    expect(matchesOf(entry, chainsOf(line(climb.slice(0, 2)), FOUR))).toEqual([]);
    const bare = line(climb).map((event) => ({
      ...event,
      notes: event.notes.map((note) => ({ ...note, place: null })),
    }));
    expect(matchesOf(entry, chainsOf(bare, FOUR))[0]).toMatchObject({ sound: true, grips: false });
  });
});

describe('what is said in a piece', () => {
  it('is found with its place, the same words in a riff once', () => {
    const events = line([0, 2, 4].map((fret) => [{ string: 4, fret, half: 1 }])).map((event) => ({
      ...event,
      remark: 'lean on it',
      notes: event.notes.map((note) => ({
        ...note,
        place: note.place && { ...note.place, reason: 'seen on the live take' },
      })),
    }));
    const piece = makePiece('p', 'Trapdoor', {
      parts: [
        makePart('g', 'Guitar', standard, {
          role: 'rhythm',
          tone: 'bridge pickup',
          riffs: [makeRiff('a', 'Hinge', { events })],
        }),
      ],
      sections: [
        {
          id: 's',
          name: 'Verse',
          kind: 'verse',
          bars: 2,
          cue: 'after the bell',
          rows: [{ part: 'g', uses: [{ id: 'u', riff: 'a', plays: 1, remark: 'softly' }] }],
        },
      ],
      credit: 'the pit band',
    });
    expect(saidIn(piece).map((one) => `${one.kind}: ${one.words}`)).toEqual([
      ...['title: Trapdoor', 'credit: the pit band', 'part: Guitar, rhythm', 'tone: bridge pickup', 'riff: Hinge'],
      ...[
        'section: Verse',
        'cue: after the bell',
        'remark: softly',
        'remark: lean on it',
        'reason: seen on the live take',
      ],
    ]);
    expect(saidIn(piece).find((one) => one.kind === 'reason')).toMatchObject({ part: 'g', riff: 'a' });
    const flood = {
      ...piece,
      sections: Array.from({ length: 900 }, (_, i) => ({ ...(piece.sections[0] as Section), id: `s${i}` })),
    };
    expect(saidIn(flood)).toHaveLength(MOST_ENTRIES);
  });
});
