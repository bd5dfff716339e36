import { must } from '../../src/core/base';
import { setContext, setKey } from '../../src/core/command';
import { shapeShift } from '../../src/core/instrument';
import { parseName, pitchClass, shiftKey } from '../../src/core/pitch';
import type { Piece } from '../../src/core/score';
import { ZERO } from '../../src/core/time';
import { pick, type Random } from '../lib/random';
import { barOfEvent } from './compose';
import { type Fault, run, withEvent, fretted, spots, content, atNote } from './planting';

/** Slips in chords, keys and scales. */

export const wrongChord =
  (change: (name: string, random: Random) => string): Fault =>
  (piece, random) => {
    const section = pick(random, piece.sections);
    const lane = section.context?.chords ?? [];
    const index = Math.floor(random() * lane.length);
    const step = lane[index];
    if (!step) return null;
    const chord = change(step.chord, random);
    const next = run(
      piece,
      must(setContext(piece, section.id, { chords: lane.map((one, i) => (i === index ? { ...one, chord } : one)) })),
    );
    return { piece: next, hit: (found) => found.rule === 'chord' && found.locus.path?.[1] === section.id };
  };
export const otherRoot = wrongChord((name, random) =>
  pick(
    random,
    ['C', 'C#m', 'D', 'Ebm', 'E', 'F#m', 'G', 'Abm', 'Bb', 'Bm'].filter((one) => one.charAt(0) !== name.charAt(0)),
  ),
);
/** Where a guitar plays whole grips: a third that nobody plays can't be missed by anyone. */
export const otherThird: Fault = (piece, random) =>
  piece.parts[1]?.riffs.some((riff) => riff.events.some((event) => event.notes.length === 4))
    ? wrongChord((name) =>
        name.endsWith('m') ? name.slice(0, -1) : name.endsWith('dim') ? `${name.slice(0, -3)}` : `${name}m`,
      )(piece, random)
    : null;
export const LETTERS = ['C', 'C#', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'];
/** A bass a half tone over the root, which no chord of these has. */
export const otherBass = wrongChord((name) => {
  const root = /^[A-G][#b]?/.exec(name)?.[0] ?? 'C';
  const flat: Readonly<Record<string, string>> = {
    Db: 'C#',
    'D#': 'Eb',
    Gb: 'F#',
    'G#': 'Ab',
    'A#': 'Bb',
    Cb: 'B',
    'E#': 'F',
    'B#': 'C',
    Fb: 'E',
  };
  return `${name.replace('dim', 'm')}/${LETTERS[(LETTERS.indexOf(flat[root] ?? root) + 1) % 12] ?? 'C'}`;
});

export const keyAsShape: Fault = (piece) => {
  const [part] = piece.parts;
  const [said] = piece.context.key;
  const shift = part ? shapeShift(part.setup) : 0;
  if (!part || !said || shift === 0) return null;
  return { piece: run(piece, setKey([{ at: ZERO, ...shiftKey(said, -shift) }])), hit: (found) => found.rule === 'key' };
};
export const otherKey: Fault = (piece, random) => {
  const [said] = piece.context.key;
  if (!said) return null;
  return {
    piece: run(piece, setKey([{ at: ZERO, ...shiftKey(said, pick(random, [1, 2, 3, 4, 6, 8, 9])) }])),
    hit: (found) => found.rule === 'key',
  };
};

/** One note outside the key where nothing comes again. */
export const oddNote: Fault = (piece, random) => {
  const [said] = piece.context.key;
  if (!said) return null;
  const all = spots(
    piece,
    ({ riff, event, note }) =>
      event.notes.length === 1 &&
      note.place !== null &&
      !note.join &&
      content(riff, barOfEvent(event)) !== content(riff, 0),
  );
  if (all.length === 0) return null;
  const { part, riff, event, note } = pick(random, all);
  const out = [1, -1]
    .flatMap((by) => fretted(part, note, by) ?? [])
    .filter(
      (one) =>
        outside(piece, one.pitch.midi) &&
        Math.abs((riff.events[riff.events.indexOf(event) + 1]?.notes[0]?.pitch.midi ?? 0) - one.pitch.midi) > 1,
    );
  const next = out.length > 0 ? pick(random, out) : null;
  return next
    ? { piece: withEvent(piece, part, riff, event, { ...event, notes: [next] }), hit: atNote(note, event) }
    : null;
};
/** Outside the key of a piece, and no blue note of it. */
export function outside(piece: Piece, midi: number): boolean {
  const [said] = piece.context.key;
  const tonic = said ? parseName(said.tonic) : null;
  if (!said || !tonic) return false;
  const step = (midi - pitchClass(tonic) + 120) % 12;
  return !(said.mode === 'minor' ? [0, 2, 3, 5, 7, 8, 10, 11, 4, 6, 9] : [0, 2, 4, 5, 7, 9, 11, 3, 6, 10]).includes(
    step,
  );
}
