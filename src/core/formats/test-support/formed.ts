import { must } from '../../base';
import { addVariant } from '../../command';
import { applyEdit } from '../../edit';
import { makeSetup } from '../../instrument';
import { makeEvent, makeNote, makePart, makePiece, makePlace, makeRiff, type Piece, type RiffEvent } from '../../score';
import { quarter, ZERO } from '../../time';

/** A small piece with everything a form can say: two parts, repeats, a second ending, chords, a slowing. */

const guitar = must(makeSetup({ instrument: 'guitar-6', tuning: 'drop-d', capo: 2 })).setup;
const bass = must(makeSetup({ instrument: 'bass-4' })).setup;

const OPEN = { guitar: [0, 66, 61, 57, 52, 47, 40], bass: [0, 43, 38, 33, 28] } as const;

/** Eighths on strings and frets, thick strings counted as printed. */
const line = (instrument: 'guitar' | 'bass', id: string, places: readonly (readonly [number, number])[]): RiffEvent[] =>
  places.map(([string, fret], i) =>
    makeEvent(`${id}e${i}`, quarter(i, 2), quarter(1, 2), [
      makeNote(`${id}n${i}`, (OPEN[instrument][string] ?? 0) + fret, 'instructor', {
        place: makePlace(string, fret, 'instructor', { finger: fret === 0 ? 0 : 1 }),
      }),
    ]),
  );

const twice = <T>(list: readonly T[]): T[] => [...list, ...list];

export function formedPiece(): Piece {
  const verse = line(
    'guitar',
    'a',
    twice([
      [6, 0],
      [6, 3],
      [5, 2],
      [4, 0],
      [6, 5],
      [5, 0],
      [4, 2],
      [3, 1],
    ]),
  );
  const refrain = line('guitar', 'b', [
    [4, 0],
    [4, 2],
    [3, 2],
    [2, 3],
    [3, 2],
    [4, 2],
    [4, 0],
    [5, 2],
  ]);
  const low = line(
    'bass',
    'c',
    twice([
      [4, 0],
      [4, 0],
      [4, 3],
      [4, 3],
      [3, 0],
      [3, 0],
      [3, 2],
      [3, 2],
    ]),
  );
  const base = makePiece('formed', 'The hatch below', {
    credit: 'the pit band',
    lastId: 5000,
    context: { tempo: [{ at: ZERO, bpm: 96 }], key: [{ at: ZERO, tonic: 'F#', mode: 'minor' }] },
    parts: [
      makePart('p0', 'Guitar', guitar, {
        riffs: [
          makeRiff('r0', 'Hatch', { bars: 2, events: verse }),
          makeRiff('r1', 'Rope', { bars: 1, events: refrain }),
        ],
      }),
      makePart('p1', 'Bass', bass, { riffs: [makeRiff('r2', 'Cellar', { bars: 2, events: low })] }),
    ],
    sections: [
      {
        ...{ id: 's0', name: 'Verse', kind: 'verse', bars: 2, cue: 'after the bell' },
        context: {
          feel: [{ at: ZERO, swing: 62, unit: '1/2' }],
          chords: [
            { at: ZERO, dur: quarter(4), chord: 'F#m' },
            { at: quarter(4), dur: quarter(4), chord: 'Bm7/D' },
          ],
        },
        rows: [
          { part: 'p0', uses: [{ id: 'u0', riff: 'r0', plays: 1 }] },
          { part: 'p1', uses: [{ id: 'u1', riff: 'r2', plays: 1 }] },
        ],
      },
      {
        ...{ id: 's1', name: 'Refrain', kind: 'refrain', bars: 1 },
        rows: [{ part: 'p0', uses: [{ id: 'u2', riff: 'r1', plays: 1 }] }],
      },
      {
        ...{ id: 's2', name: 'Ending', kind: 'ending', bars: 2 },
        context: {
          tempo: [
            { at: ZERO, bpm: 96, ramp: true },
            { at: quarter(7), bpm: 60 },
          ],
        },
        rows: [{ part: 'p1', uses: [{ id: 'u3', riff: 'r2', plays: 1 }] }],
      },
    ],
    form: [],
  } as Partial<Piece>);
  // The second time the last bar is played an octave higher on the thin strings.
  const other = verse.map((event, i) =>
    i < 8
      ? event
      : {
          ...event,
          notes: event.notes.map((note) => ({
            ...note,
            pitch: { ...note.pitch, midi: (OPEN.guitar[1] ?? 0) + (i % 4) },
            place: makePlace(1, i % 4, 'instructor', { finger: i % 4 === 0 ? 0 : 1 }),
          })),
        },
  );
  const varied = must(addVariant(base, 'r0', '2nd ending', other));
  const piece = must(applyEdit(base, varied.edit));
  return {
    ...piece,
    form: [
      { id: 'f0', section: 's0', plays: 2, differences: [{ passes: [2], use: 'u0', variant: varied.id }] },
      { id: 'f1', section: 's1', plays: 3 },
      { id: 'f2', section: 's2', plays: 1 },
    ],
  };
}
