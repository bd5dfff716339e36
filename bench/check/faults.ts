import { must } from '../../src/core/base';
import { addClaim } from '../../src/core/command';
import { add, quarter, ZERO } from '../../src/core/time';
import { type Fault, run, content } from './planting';
import {
  wrongFret,
  lost,
  early,
  tooLong,
  emptyBar,
  wrongWay,
  slideNowhere,
  slideSaid,
  bendOff,
  unisonBend,
  voiceOff,
} from './note-faults';
import { otherRoot, otherThird, otherBass, keyAsShape, otherKey, oddNote } from './harmony-faults';
import { fingersCrossed, fingerTwice, ringTaken, tooFast, strokeOff } from './hand-faults';
import {
  labelTwice,
  repeatWords,
  rowOff,
  twoPlaces,
  looseJoin,
  wordsOff,
  heardOff,
  claimed,
  letter,
} from './said-faults';

export const FAULTS: Readonly<Record<string, Fault>> = {
  'wrong fret in a copy': wrongFret,
  'note lost in a copy, gap left': lost(false),
  'note lost in a copy, closed up': lost(true),
  'note lost, all after it early': early,
  'length that runs over': tooLong,
  'one bar over': emptyBar,
  'hammer and pull exchanged': wrongWay,
  'slide to where it is': slideNowhere,
  'slide said the other way': slideSaid,
  'bend misses, pattern': bendOff,
  'unison bend misses': unisonBend,
  'second voice off by a fret': voiceOff,
  'chord with another root': otherRoot,
  'chord with the other third': otherThird,
  'chord over a bass nobody plays': otherBass,
  'key of the shapes, capo forgotten': keyAsShape,
  'another key': otherKey,
  'note outside the key, leads nowhere': oddNote,
  'fingers crossed': fingersCrossed,
  'finger wanted twice': fingerTwice,
  'finger taken from a ringing note': ringTaken,
  'strokes too fast': tooFast,
  'stroke against the pattern': strokeOff,
  'label used twice': labelTwice,
  '"repeat twice" over so many': repeatWords('repeat twice'),
  '"7 times" where it is not': repeatWords('7 times'),
  'row over': rowOff(1),
  'row short': rowOff(-1),
  'same note at two places': twoPlaces,
  'join into the loop that leads nowhere': looseJoin,
  'words beside a note': wordsOff,
  'heard otherwise': heardOff,
  'claim: scale': claimed(
    (piece) => `${letter(piece)} ${piece.context.key[0]?.mode === 'minor' ? 'major' : 'minor'} pentatonic`,
    'claim-scale',
  ),
  'claim: mode': claimed((piece) => `all ${letter(piece)} Locrian`, 'claim-scale'),
  'claim: chord wider than its notes': (piece, random) => {
    const riff = piece.parts[1]?.riffs[0];
    const [event] = riff?.events ?? [];
    if (!riff || event?.notes.length !== 3) return null;
    const name = must(
      addClaim(piece, `${letter(piece)}m7`, { part: 'p1', riff: riff.id, from: ZERO, to: add(ZERO, quarter(4)) }),
    );
    void random;
    return { piece: run(piece, name), hit: (found) => found.rule === 'claim-chord' };
  },
  'claim: inverted power chord': (piece) => {
    const riff = piece.parts[1]?.riffs[0];
    if (riff?.name !== 'Chords') return null;
    return {
      piece: run(piece, must(addClaim(piece, 'inverted power chords', { part: 'p1', riff: riff.id }))),
      hit: (found) => found.rule === 'claim-chord',
    };
  },
  'claim: copy': claimed(
    (piece, riff) => (content(riff, 0) === content(riff, 3) ? null : 'same as bar 4'),
    'claim-copy',
  ),
  'claim: copy an octave up': claimed(() => 'same as bar 1 an octave up', 'claim-copy'),
  'claim: interval': (piece) => {
    const voice = piece.parts[1]?.riffs.find((one) => one.name.endsWith('above'));
    return voice
      ? {
          piece: run(piece, must(addClaim(piece, 'a perfect fifth above Guitar 1', { part: 'p1', riff: voice.id }))),
          hit: (found) => found.rule === 'claim-interval',
        }
      : null;
  },
  'claim: played so often': claimed(() => 'played 5 times', 'repeat'),
  'claim: all upstrokes': claimed(() => 'all upstrokes', 'claim-strokes'),
  'claim: letters out of order': claimed((_, riff) => {
    const names = ['C', 'C#', 'D', 'D#', 'E', 'F', 'F#', 'G', 'G#', 'A', 'A#', 'B'];
    const letters = riff.events.flatMap((event) => event.notes.map((note) => names[note.pitch.midi % 12] ?? 'C'));
    const i = letters.findIndex((one, k) => one !== letters[k + 1] && k + 1 < letters.length);
    if (i < 0 || letters.length < 3 || letters.length > 40) return null;
    [letters[i], letters[i + 1]] = [letters[i + 1] ?? 'C', letters[i] ?? 'C'];
    return letters.join(' ');
  }, 'letters-frets'),
  'claim: one fret too many': claimed(() => 'E G A, frets 0 3 5 7 on string 6', 'letters-frets'),
  'claim: letters against frets': claimed(() => 'C E G, frets 1 2 3 on string 2', 'letters-frets'),
  'claim: degree': claimed((piece) => `the flat second of ${letter(piece)}`, 'claim-degree'),
  'claim: capo': claimed(() => 'capo 5', 'claim-setup'),
  'claim: position': claimed(() => 'in position 14', 'claim-position'),
  'claim: tempo': claimed(() => 'felt at 61', 'claim-tempo'),
  'claim: bend': claimed(
    (_, riff) => (riff.events.some((event) => event.notes[0]?.technique?.bend) ? 'bent to C#' : 'bend to E'),
    'claim-bend',
  ),
  'claim against a claim': (piece) => {
    const riff = piece.parts[0]?.riffs[0];
    if (!riff) return null;
    const one = run(piece, must(addClaim(piece, 'played twice', { part: 'p0', riff: riff.id })));
    return {
      piece: run(one, must(addClaim(one, 'played 3 times', { part: 'p0', riff: riff.id }))),
      hit: (found) => found.rule === 'claims-differ',
    };
  },
};
