import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup, openPitch, pitchAt, stringNumbers, type Setup } from '../instrument';
import { makeEvent, makeNote, makePlace, makeRiff, type Riff } from '../score';
import { quarter, ZERO } from '../time';
import {
  carryOver,
  counterpart,
  equalStrings,
  movePhrase,
  type CarriedRiff,
  type CarryMode,
  type PhraseMove,
} from './index';

const setupOf = (instrument: string, tuning?: string, capo = 0): Setup =>
  must(makeSetup({ instrument, tuning, capo })).setup;
const GUITAR = setupOf('guitar-6');
const TEMPO = [{ at: ZERO, bpm: 100 }];

/** Strokes as "string.fret" with + between the notes of one, in eighths. */
function riffOf(setup: Setup, text: string): Riff {
  return makeRiff('r', 'Riff', {
    bars: 8,
    events: text.split(' ').map((stroke, i) =>
      makeEvent(
        `e${i}`,
        quarter(i, 2),
        quarter(1, 2),
        stroke.split('+').map((at, k) => {
          const [string = 1, fret = 0] = at.split('.').map(Number);
          return makeNote(`n${i}x${k}`, must(pitchAt(setup, { string, fret })), 'instructor', {
            place: makePlace(string, fret, 'solver', { locked: false }),
          });
        }),
      ),
    ),
  });
}

const carry = (riff: Riff, from: Setup, to: Setup, keep: CarryMode = 'sound', more: object = {}): CarriedRiff =>
  carryOver({ riff, from, to, keep, tempo: TEMPO, key: { tonic: 'E', mode: 'minor' }, ...more });
const pitches = (riff: Riff): number[] => riff.events.flatMap((event) => event.notes.map((note) => note.pitch.midi));
const places = (riff: Riff): string[] =>
  riff.events.flatMap((event) =>
    event.notes.map((note) => (note.place ? `${note.place.string}.${note.place.fret}` : '-')),
  );

describe('carrying over', () => {
  it('there and back with the sound kept gives the same pitches, and drops nothing', () => {
    const targets = ['drop-d', 'open-g', 'modal-dadgad', 'down-2', 'all-fourths'].map((id) => setupOf('guitar-6', id));
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 2, max: 9 })), {
          minLength: 1,
          maxLength: 6,
        }),
        fc.constantFrom(...targets),
        (strokes, to) => {
          const riff = riffOf(GUITAR, strokes.map((stroke) => stroke.join('.')).join(' '));
          const there = carry(riff, GUITAR, to);
          const back = carry(there.riff, to, GUITAR);
          expect(there.octaves).toBe(0);
          expect(pitches(back.riff)).toEqual(pitches(riff));
          for (const event of there.riff.events)
            for (const note of event.notes) if (note.place) expect(must(pitchAt(to, note.place))).toBe(note.pitch.midi);
        },
      ),
      { numRuns: 25 },
    );
  });

  it('keeps grips on strings that are tuned alike, and says which those are', () => {
    const riff = riffOf(GUITAR, '5.3+4.5 4.5 3.2 5.5+4.7 3.4 4.7');
    const made = carry(riff, GUITAR, setupOf('guitar-6', 'drop-d'));
    expect(made.equal).toEqual([5, 4, 3, 2, 1]);
    expect(places(made.riff)).toEqual(places(riff));
    expect(made.losses).toEqual([]);
    expect(equalStrings(GUITAR, setupOf('guitar-6', 'open-g'))).toEqual([4, 3, 2]);
  });

  it('tells open strings that are gone, with the bar, and it is true', () => {
    const riff = riffOf(GUITAR, '6.0 6.3 6.0 5.2 6.0 6.3 6.0 5.2 6.0');
    const made = carry(riff, GUITAR, setupOf('guitar-6', 'drop-d'));
    const open = made.losses.filter((loss) => loss.what === 'open');
    expect(open.map((loss) => loss.bar)).toEqual([0, 0, 0, 0, 1]);
    expect(open.every((loss) => loss.words.includes('E2'))).toBe(true);
    expect(made.kept.wasOpen).toBe(5);
    expect(made.kept.open).toBe(0);
  });

  it('keeps the shape: the same frets, and names what sounds instead', () => {
    const riff = riffOf(GUITAR, '6.0 5.2 4.2 3.0');
    const made = carry(riff, GUITAR, setupOf('guitar-6', 'down-2'), 'shape');
    expect(places(made.riff)).toEqual(places(riff));
    expect(pitches(made.riff)).toEqual(pitches(riff).map((midi) => midi - 2));
    expect(made.losses.every((loss) => loss.what === 'pitch' && loss.by === -2)).toBe(true);
    expect(made.keys.sounding.after).toEqual({ tonic: 'D', mode: 'minor' });
    expect(made.keys.shape.after).toEqual({ tonic: 'E', mode: 'minor' });
  });

  it('makes a bass edition of a guitar line: strings 6 to 3 are the bass’s 4 to 1', () => {
    const bass = setupOf('bass-4');
    expect([6, 5, 4, 3, 2, 1].map((string) => counterpart(GUITAR, bass, string))).toEqual([4, 3, 2, 1, null, null]);
    expect(counterpart(setupOf('guitar-7'), GUITAR, 7)).toBe(null);
    expect(counterpart(setupOf('guitar-7'), GUITAR, 1)).toBe(1);
    const riff = riffOf(GUITAR, '6.0 6.3 5.2 5.5 4.2');
    const shape = carry(riff, GUITAR, bass, 'shape');
    expect(places(shape.riff)).toEqual(['4.0', '4.3', '3.2', '3.5', '2.2']);
    expect(pitches(shape.riff)).toEqual(pitches(riff).map((midi) => midi - 12));
    const sound = carry(riff, GUITAR, bass, 'sound', { octaves: -1 });
    expect(pitches(sound.riff)).toEqual(pitches(riff).map((midi) => midi - 12));
    expect(sound.losses.filter((loss) => loss.what === 'pitch')).toEqual([]);
  });

  it('keeps what can’t be played, marked, and offers another octave for it', () => {
    const riff = riffOf(GUITAR, '6.0 6.1 1.5');
    const to = setupOf('tenor-4');
    const made = carry(riff, GUITAR, to, 'sound', { octaves: 0 });
    expect(pitches(made.riff)).toEqual(pitches(riff));
    expect(made.riff.events[0]?.notes[0]?.place).toBe(null);
    expect(made.losses.some((loss) => loss.event === 'e0' && loss.what === 'range')).toBe(true);
    expect(made.substitutions.map((one) => [one.event, one.octaves])).toEqual([
      ['e0', 1],
      ['e1', 1],
    ]);
    const taken = carry(riff, GUITAR, to, 'sound', { octaves: 0, substitute: true });
    expect(taken.riff.events[0]?.notes[0]?.pitch.midi).toBe((riff.events[0]?.notes[0]?.pitch.midi ?? 0) + 12);
    expect(taken.riff.events[0]?.notes[0]?.place).not.toBe(null);
  });

  it('chooses the octave that loses least', () => {
    const bassline = riffOf(setupOf('bass-4'), '4.0 4.3 3.0 3.2');
    expect(carry(bassline, setupOf('bass-4'), GUITAR).octaves).toBe(1);
  });
});

describe('moving a phrase', () => {
  const move = (riff: Riff, how: PhraseMove, root: string | null = 'E') =>
    movePhrase({ setup: GUITAR, events: riff.events, move: how, meters: riff.meters, tempo: TEMPO, root });

  it('by frets stops open strings, or keeps them and says what they have become', () => {
    const riff = riffOf(GUITAR, '6.0+5.2 4.2 3.0');
    const closed = must(move(riff, { by: 'frets', steps: 5 }));
    expect(closed.shape).toBe(true);
    expect(closed.opens.map((one) => [one.string, one.closed])).toEqual([
      [6, 5],
      [3, 5],
    ]);
    const kept = must(move(riff, { by: 'frets', steps: 5, opens: 'keep' }));
    expect(kept.events[0]?.notes.map((note) => note.place?.fret)).toEqual([0, 7]);
    // E was the root of E and is the fifth of A.
    expect(kept.opens[0]).toMatchObject({ string: 6, closed: null, was: '1', now: '5' });
  });

  it('to a chord goes root to root, in shape where the neck allows', () => {
    const riff = riffOf(GUITAR, '5.7+4.9 5.7 4.9 5.10');
    const to = must(move(riff, { by: 'chord', from: 'E', to: 'A' }));
    expect(to.shape).toBe(true);
    expect(to.by).toBe(5);
    expect(must(move(riff, { by: 'chord', from: 'E', to: 'B' })).by).toBe(-5);
    expect(move(riff, { by: 'chord', from: 'E', to: 'nonsense' }).ok).toBe(false);
  });

  it('to a key changes degrees where the mode does', () => {
    const riff = riffOf(GUITAR, '5.7 5.10 4.9');
    const to = must(move(riff, { by: 'key', from: { tonic: 'E', mode: 'minor' }, to: { tonic: 'A', mode: 'major' } }));
    // E G B become A C# E.
    expect(to.events.map((event) => (event.notes[0]?.pitch.midi ?? 0) % 12)).toEqual([9, 1, 4]);
    expect(to.events.every((event) => event.notes.every((note) => note.place !== null))).toBe(true);
  });

  it('the hand elsewhere keeps every pitch, and what leaves the neck is refused by name', () => {
    const riff = riffOf(GUITAR, '4.2 3.0 3.2 2.1');
    const to = must(move(riff, { by: 'hand', fret: 7 }));
    expect(to.events.map((event) => event.notes[0]?.pitch.midi)).toEqual(pitches(riff));
    expect(Math.max(...to.events.map((event) => event.notes[0]?.place?.fret ?? 0))).toBeGreaterThanOrEqual(5);
    const off = move(riff, { by: 'frets', steps: -5 });
    expect(off.ok).toBe(false);
    expect(stringNumbers(GUITAR).map((string) => openPitch(GUITAR, string))).toHaveLength(6);
  });

  it('by any frets and back is what it was, where nothing was open', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 6 }), fc.integer({ min: 3, max: 9 })), {
          minLength: 1,
          maxLength: 5,
        }),
        fc.integer({ min: -2, max: 6 }),
        (strokes, by) => {
          const riff = riffOf(GUITAR, strokes.map((stroke) => stroke.join('.')).join(' '));
          const there = must(move(riff, { by: 'frets', steps: by }));
          const back = must(move({ ...riff, events: there.events }, { by: 'frets', steps: -by }));
          expect(places({ ...riff, events: back.events })).toEqual(places(riff));
        },
      ),
      { numRuns: 30 },
    );
  });
});
