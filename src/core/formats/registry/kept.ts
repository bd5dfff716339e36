/**
 * What each format keeps, in one table: the tests hold every "kept" against a round trip, and docs/formats.md is
 * written from it. `written`: out and in again by us. `n`: some; the words say which.
 */

export const FORMAT_NAMES = ['json', 'musicxml', 'midi', 'texttab'] as const;
export type MusicFormat = (typeof FORMAT_NAMES)[number];

export type Kept = 'kept' | 'part' | 'lost';

export interface KeptRow {
  readonly what: string;
  readonly json: Kept;
  readonly musicxml: Kept;
  readonly midi: Kept;
  readonly texttab: Kept;
  /** What "part" means, and what is made of what is lost. */
  readonly remark: string;
}

const row = (what: string, marks: string, remark = ''): KeptRow => {
  const [musicxml, midi, texttab] = [...marks].map((mark): Kept =>
    mark === '+' ? 'kept' : mark === '~' ? 'part' : 'lost',
  );
  return { what, json: 'kept', musicxml: musicxml ?? 'lost', midi: midi ?? 'lost', texttab: texttab ?? 'lost', remark };
};

/** Marks in the order MusicXML, MIDI, text tab: "+" kept, "~" in part, "-" lost. JSON keeps all. */
export const KEPT: readonly KeptRow[] = [
  row('Pitches', '+++', 'in text tab those of the places'),
  row('Times of notes', '++~', 'in text tab by spacing and counts: exact where a bar is divided evenly'),
  row('Lengths of notes', '++-', 'text tab: to the next note; MIDI: to the next note of its string'),
  row('String and fret', '+~+', 'MIDI: with a channel for each string'),
  row('Finger, and another that would do', '+--'),
  row('Tuning', '+~~', 'MIDI: guessed from the strings; text tab: letters, octaves nearest to the instrument'),
  row('Capo', '+-+', 'a capo on some strings: MusicXML as their tuning'),
  row('Bars and meters', '+++', 'text tab and MIDI: a pickup becomes a bar'),
  row('Tempo', '++~', 'changing evenly: MusicXML as "rit." and "accel.", MIDI in steps; text tab: the first'),
  row('Key', '++-'),
  row('Swing', '+--'),
  row('Chords', '+-+', 'a chord goes on to the next one'),
  row('Bass notes under chords', '---'),
  row('Section marks', '+++'),
  row('Cues', '+--'),
  row('Repeats', '+-+', 'MIDI plays them out'),
  row('Endings', '+--', 'MIDI and text tab write them out'),
  row('Several parts', '+++', 'text tab: one after the other; read back, the first'),
  row('Grace notes', '+~~', 'MIDI: as short notes; text tab: close before their note'),
  row('Hammer-on, pull-off', '+-+'),
  row('Slides between notes', '+~+', 'MIDI: on the pitch wheel; that it is struck again is lost there'),
  row(
    'Slides from and to nowhere',
    '+-~',
    'text tab: from nowhere behind another note reads as a slide between the two',
  ),
  row(
    'Bends with their way',
    '+~~',
    'MIDI: on the wheel, of a chord with a channel for each string; text tab: whole semitones, its named ways',
  ),
  row('Vibrato', '+~~', 'MIDI: on the wheel; text tab: how wide is lost'),
  row('Trills', '+-+'),
  row('Dead notes', '+-+', 'MIDI: as plain notes'),
  row('Natural and pinched harmonics', '+-~', 'MIDI: as they sound; text tab: pinched at the octave'),
  row('Tapped notes', '+-+'),
  row('Palm mute', '+-+'),
  row('Choked by the fretting hand', '+--'),
  row('Ringing on', '+--', 'a ring of every note of a stroke is one ring'),
  row('Accents, ghost notes', '+~~', 'MIDI: as loudness, read as none; text tab: ghost notes'),
  row('Loudness', '+~-', 'MIDI: as loudness, read as none'),
  row('Strokes, slap and pop', '+--'),
  row('Staccato and shorter', '+--'),
  row('Rolled, raked, tremolo, pick slap', '+--'),
  row('Slide bar and its tilt', '+--'),
  row('Holes, hits and scrapes', '+--'),
  row('Free spots and remarks of a note', '+--'),
  row('Quarter tones', '++-', 'MIDI: of single notes, or with a channel for each string'),
  row('Who decided, how sure, on what evidence, why', '---', 'what comes from a file was decided by the file'),
  row('Riffs, variants, uses, moves', '---', 'written out; found again by what repeats'),
  row('Wishes, alternatives, claims, answers, tones, player', '---'),
];

/** The table as Markdown. */
export const keptTable = (): string =>
  [
    '| | JSON | MusicXML | MIDI | text tab | |',
    '|---|---|---|---|---|---|',
    ...KEPT.map(
      (one) =>
        `| ${one.what} | ${[one.json, one.musicxml, one.midi, one.texttab].map((kept) => WORDS[kept]).join(' | ')} | ${one.remark} |`,
    ),
  ].join('\n');

const WORDS: Readonly<Record<Kept, string>> = { kept: 'yes', part: 'in part', lost: 'no' };
