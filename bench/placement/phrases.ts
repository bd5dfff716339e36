/**
 * Phrases with the places a competent player agrees on, written down before the program was asked.
 * All composed for this. The calls say every place; the benchmark takes the places away, keeps
 * pitches, lengths, joins and rings, and compares what the program proposes.
 */
export interface Phrase {
  readonly name: string;
  readonly instrument: string;
  readonly tuning?: string;
  readonly capo?: number;
  readonly tempo: number;
  readonly calls: string;
}

const guitar = (name: string, tempo: number, calls: string, extra: Partial<Phrase> = {}): Phrase => ({
  name,
  instrument: 'guitar-6',
  tempo,
  calls,
  ...extra,
});

export const PHRASES: readonly Phrase[] = [
  guitar('five-note scale in the fifth position', 100, 'eighths on 6 5 8 on 5 5 7 on 4 5 7 on 3 5 7'),
  guitar('the same an octave on', 100, 'eighths on 3 7 5 on 4 7 5 on 5 7 5 on 6 8 5'),
  guitar('lick at the twelfth', 110, 'eighths on 2 15 12 on 3 14 12 14 on 2 12 15 12'),
  guitar('minor run, seventh position', 96, 'eighths on 5 7 9 10 on 4 7 9 10 on 3 7 9'),
  guitar('major scale, second position', 92, 'eighths on 5 5 on 4 2 4 5 on 3 2 4 on 2 2 3'),
  guitar(
    'low pedal under moving fifths',
    120,
    'eighths on 6 open open on 5 7 + on 4 9 on 6 open open on 5 5 + on 4 7 on 6 open',
  ),
  guitar(
    'power chords from the thickest string',
    120,
    'quarters on 6 3 + on 5 5 on 6 5 + on 5 7 on 6 8 + on 5 10 on 6 5 + on 5 7',
  ),
  guitar(
    'power chords from the fifth string',
    120,
    'quarters on 5 5 + on 4 7 on 5 3 + on 4 5 on 5 7 + on 4 9 on 5 5 + on 4 7',
  ),
  guitar(
    'three-note power chords',
    120,
    'quarters on 5 7 + on 4 9 + on 3 9 on 5 5 + on 4 7 + on 3 7 on 5 10 + on 4 12 + on 3 12',
  ),
  guitar('octaves up the neck', 100, 'quarters on 5 5 + on 3 7 on 5 7 + on 3 9 on 5 8 + on 3 10 on 5 10 + on 3 12'),
  guitar('thirds on two thin strings', 84, 'quarters on 2 5 + on 1 3 on 2 6 + on 1 5 on 2 8 + on 1 7 on 2 10 + on 1 8'),
  guitar(
    'sixths with a string between',
    84,
    'quarters on 3 4 + on 1 4 on 3 6 + on 1 5 on 3 7 + on 1 7 on 3 9 + on 1 9',
  ),
  guitar(
    'fourths on the middle strings',
    100,
    'eighths on 4 7 + on 3 7 on 4 5 + on 3 5 on 4 7 + on 3 7 on 4 9 + on 3 9',
  ),
  guitar(
    'open chords broken, G to C',
    80,
    'eighths on 6 3 ring on 4 open ring on 3 open ring on 2 open ring | on 5 3 ring on 4 2 ring on 3 open ring on 2 1 ring',
  ),
  guitar(
    'D and A broken',
    80,
    'eighths on 4 open ring on 3 2 ring on 2 3 ring on 1 2 ring | on 5 open ring on 4 2 ring on 3 2 ring on 2 2 ring',
  ),
  guitar(
    'E minor drone with a melody',
    90,
    'eighths on 6 open on 4 2 on 6 open on 4 4 on 6 open on 3 open on 6 open on 4 2',
  ),
  guitar('chromatic climb on one string', 100, 'eighths on 5 3 4 5 6 on 5 7 6 5 4'),
  guitar(
    'hammer-ons in the fifth position',
    110,
    'eighths on 5 5 hammer 7 on 4 5 hammer 7 on 3 5 hammer 7 on 4 7 pull 5',
  ),
  guitar('pull-offs to open', 120, 'eighths on 4 2 pull open on 5 2 pull open on 6 3 pull open on 6 open'),
  guitar('slide into the seventh', 96, 'eighths on 5 5 slide 7 on 4 5 7 on 5 7 on 4 7 on 5 7 5'),
  guitar('shape moved by three frets', 110, 'eighths on 6 5 7 on 5 5 7 | on 6 8 10 on 5 8 10'),
  guitar('shape moved by two strings', 110, 'eighths on 6 7 10 on 5 7 9 | on 4 7 10 on 3 7 9'),
  guitar(
    'mid-neck funk double stops',
    104,
    'sixteenths on 3 7 + on 2 8 on 3 7 + on 2 8 on 3 9 + on 2 10 on 3 7 + on 2 8 on 4 9 on 4 7 on 3 7 + on 2 8 on 4 9',
  ),
  guitar('spidery riff in the sixth position', 112, 'eighths on 5 6 on 4 8 on 5 9 on 4 6 on 3 8 on 4 9 on 5 8 on 5 6'),
  guitar('blues turn in E', 92, 'eighths on 6 open 3 on 5 open 1 2 on 4 open 2 on 5 2'),
  guitar('two-bar riff, ninth position', 108, 'eighths on 5 9 12 on 4 9 11 on 3 9 11 on 4 11 9'),
  guitar(
    'triads on three thin strings',
    84,
    'quarters on 3 5 + on 2 5 + on 1 5 on 3 7 + on 2 8 + on 1 7 on 3 9 + on 2 10 + on 1 9',
  ),
  guitar('barred minor and major', 84, 'halves on 5 3 + on 4 5 + on 3 5 + on 2 4 on 6 3 + on 5 5 + on 4 5 + on 3 4'),
  guitar(
    'dropped D, one-finger fifths',
    120,
    'eighths on 6 open + on 5 open on 6 open + on 5 open on 6 3 + on 5 3 on 6 5 + on 5 5 on 6 open + on 5 open on 6 7 + on 5 7 on 6 5 + on 5 5 on 6 3 + on 5 3',
    { tuning: 'drop-d' },
  ),
  guitar(
    'dropped C with a tail',
    120,
    'eighths on 6 open open on 6 3 + on 5 3 + on 4 3 on 6 open on 5 5 on 5 3 on 6 5 on 6 3',
    { tuning: 'drop-c' },
  ),
  guitar(
    'open G, straight finger',
    96,
    'quarters on 4 5 + on 3 5 + on 2 5 on 4 7 + on 3 7 + on 2 7 on 4 open + on 3 open + on 2 open',
    { tuning: 'open-g' },
  ),
  guitar(
    'D modal, drones above',
    88,
    'eighths on 6 open ring on 4 2 ring on 3 open ring on 2 open ring on 4 4 ring on 3 open ring on 2 open ring',
    { tuning: 'modal-dadgad' },
  ),
  guitar(
    'capo three, open shapes',
    84,
    'eighths on 5 3 ring on 4 2 ring on 3 open ring on 2 1 ring on 6 3 ring on 4 open ring on 3 open ring on 2 open ring',
    { capo: 3 },
  ),
  {
    name: 'baritone low riff',
    instrument: 'baritone-27',
    tempo: 100,
    calls: 'eighths on 6 open open on 6 3 5 on 5 open on 5 2 on 6 5 3',
  },
  {
    name: 'baritone in the fifth position',
    instrument: 'baritone-27',
    tempo: 92,
    calls: 'eighths on 6 5 8 on 5 5 7 on 4 5 7 on 5 7 5',
  },
  {
    name: 'bass, root, fifth, octave',
    instrument: 'bass-4',
    tempo: 100,
    calls: 'eighths on 3 3 on 2 5 on 1 5 on 2 5 on 3 3 on 2 5 on 1 5 on 2 5',
  },
  {
    name: 'bass walk',
    instrument: 'bass-4',
    tempo: 120,
    calls: 'quarters on 3 open 2 on 3 4 on 2 open on 2 2 on 1 open on 2 2 on 2 open',
  },
  {
    name: 'bass, fifth position line',
    instrument: 'bass-4',
    tempo: 96,
    calls: 'eighths on 4 5 on 4 8 on 3 5 7 on 2 5 on 2 7 on 3 7 5',
  },
  {
    name: 'bass octaves',
    instrument: 'bass-4',
    tempo: 118,
    calls: 'eighths on 4 3 on 2 5 on 4 3 on 2 5 on 4 5 on 2 7 on 4 5 on 2 7',
  },
  {
    name: 'bass pedal and fill',
    instrument: 'bass-4',
    tempo: 92,
    calls: 'eighths on 4 open open open open on 3 5 7 on 2 5 7',
  },
  {
    name: 'five-string bass, low B',
    instrument: 'bass-5',
    tempo: 90,
    calls: 'eighths on 5 open on 5 3 on 4 open on 4 2 on 5 3 on 5 open open open',
  },
  {
    name: 'seven strings, low riff',
    instrument: 'guitar-7',
    tempo: 120,
    calls: 'eighths on 7 open open on 7 3 on 6 open on 7 open on 7 5 on 6 3 on 6 open',
  },
];
