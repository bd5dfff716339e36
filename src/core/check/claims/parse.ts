import { parseChord, parseScale, type ChordSymbol, type ScaleClaim } from '../../harmony';
import { parseName, type Spelled } from '../../pitch';
import { saidPlays } from '../rules/words';

/** Claims in the instructor's words, read as something that can be held against the notes. */

export type ParsedClaim =
  | { readonly kind: 'scale'; readonly claim: ScaleClaim }
  | { readonly kind: 'chord'; readonly chord: ChordSymbol; readonly name: string }
  | { readonly kind: 'grip'; readonly grip: 'power' | 'inverted' | 'no-third' }
  | { readonly kind: 'interval'; readonly interval: SaidInterval; readonly to: string }
  | {
      readonly kind: 'copy';
      readonly bar: number;
      readonly bars: number;
      readonly riff: string | null;
      readonly move: SaidMove | null;
    }
  | { readonly kind: 'plays'; readonly times: number; readonly repeat: boolean }
  | { readonly kind: 'strokes'; readonly stroke: 'down' | 'up' | 'alternate' }
  | {
      readonly kind: 'list';
      readonly letters: readonly Spelled[];
      readonly frets: readonly number[];
      readonly strings: readonly number[];
    }
  | { readonly kind: 'degree'; readonly semitones: number; readonly name: string; readonly root: Spelled }
  | { readonly kind: 'tempo'; readonly bpm: number; readonly click: number | null }
  | { readonly kind: 'position'; readonly fret: number }
  | { readonly kind: 'capo'; readonly fret: number }
  | { readonly kind: 'bend'; readonly to: Spelled }
  | { readonly kind: 'direction'; readonly what: 'slide' | 'line'; readonly up: boolean };

export interface SaidInterval {
  readonly name: string;
  /** Exactly so many semitones, or null where only the size is said ("a third"). */
  readonly semitones: number | null;
  readonly steps: number;
}

export interface SaidMove {
  readonly by: 'semitones' | 'frets' | 'strings';
  readonly steps: number;
}

const NUMBERS: Readonly<Record<string, number>> = {
  ...{
    a: 1,
    an: 1,
    one: 1,
    two: 2,
    three: 3,
    four: 4,
    five: 5,
    six: 6,
    seven: 7,
    eight: 8,
    nine: 9,
    ten: 10,
    twelve: 12,
  },
};
const POSITIONS = [
  '',
  'first',
  'second',
  'third',
  'fourth',
  'fifth',
  'sixth',
  'seventh',
  'eighth',
  'ninth',
  'tenth',
  'eleventh',
  'twelfth',
];
const SIZES = ['unison', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'octave', 'ninth', 'tenth'];
const EXACT: Readonly<Record<string, number>> = {
  ...{ 'minor second': 1, 'major second': 2, 'minor third': 3, 'major third': 4, 'perfect fourth': 5, tritone: 6 },
  ...{ 'diminished fifth': 6, 'augmented fourth': 6, 'perfect fifth': 7, 'minor sixth': 8, 'major sixth': 9 },
  ...{ 'minor seventh': 10, 'major seventh': 11, octave: 12, unison: 0, 'minor ninth': 13, 'major ninth': 14 },
  ...{ 'minor tenth': 15, 'major tenth': 16 },
};
const DEGREES: Readonly<Record<string, number>> = {
  ...{
    root: 0,
    tonic: 0,
    'flat second': 1,
    'minor second': 1,
    second: 2,
    'major second': 2,
    'minor third': 3,
    'flat third': 3,
  },
  ...{
    'major third': 4,
    fourth: 5,
    'flat fifth': 6,
    'diminished fifth': 6,
    'sharp fourth': 6,
    fifth: 7,
    'minor sixth': 8,
  },
  ...{
    'flat sixth': 8,
    sixth: 9,
    'major sixth': 9,
    'minor seventh': 10,
    'flat seventh': 10,
    'major seventh': 11,
    ninth: 2,
  },
};

const count = (word: string): number => NUMBERS[word.toLowerCase()] ?? Number.parseInt(word, 10);

/** Reads one claim; null where it is nothing that can be checked. It is kept as it was said all the same. */
export function parseClaim(text: string): ParsedClaim | null {
  const words = text.trim().replace(/[.!]$/, '').replace(/\s+/g, ' ');
  for (const read of READERS) {
    const found = read(words);
    if (found) return found;
  }
  return null;
}

/** What is tried in order: what names its kind first, bare names of chords and scales last. */
const READERS: readonly ((words: string) => ParsedClaim | null)[] = [
  interval,
  sameAs,
  grip,
  degree,
  bend,
  strokes,
  tempo,
  capo,
  position,
  list,
  direction,
  plays,
  scale,
  chord,
];

function intervalOf(name: string): SaidInterval | null {
  const plain = name.toLowerCase();
  const size = SIZES.findIndex((one) => plain.endsWith(one));
  if (size < 0 && plain !== 'tritone') return null;
  const exact = EXACT[plain] ?? null;
  return { name: plain, semitones: exact, steps: size < 0 ? 3 : size };
}

function interval(words: string): ParsedClaim | null {
  const match =
    /^(?:an? |in )?((?:minor |major |perfect |diminished |augmented )?(?:second|third|fourth|fifth|sixth|seventh|octave|ninth|tenth|unison|tritone))s? (above|below|over|under|with|higher than|lower than) (.+)$/i.exec(
      words,
    );
  const found = match ? intervalOf(match[1] ?? '') : null;
  if (!match || !found) return null;
  const sign = /below|under|lower/i.test(match[2] ?? '') ? -1 : 1;
  return {
    kind: 'interval',
    interval: {
      name: found.name,
      semitones: found.semitones === null ? null : sign * found.semitones,
      steps: sign * found.steps,
    },
    to: (match[3] ?? '').trim(),
  };
}

function sameAs(words: string): ParsedClaim | null {
  const match =
    /^(?:the )?(?:same|identical|a copy|a repeat)(?: as| of| to)? bars? (\d{1,3})(?: ?(?:to|-|–) ?(\d{1,3}))?(?: of "?([^",]+?)"?)?(?:,? (.+))?$/i.exec(
      words,
    );
  if (!match) return null;
  const bar = Number(match[1]) - 1;
  const bars = match[2] ? Number(match[2]) - bar : 1;
  const how = (match[4] ?? '').trim();
  const moved = moveOf(how);
  if (bar < 0 || bars < 1 || (how !== '' && !moved)) return null;
  return { kind: 'copy', bar, bars, riff: match[3]?.trim() ?? null, move: moved };
}

function moveOf(how: string): SaidMove | null {
  const octave =
    /^(?:but )?(?:an|one|two)? ?octaves? (up|down|higher|lower)$/i.exec(how) ??
    /^(?:but )?(?:up|down) an octave$/i.exec(how);
  if (octave) return { by: 'semitones', steps: (/two/i.test(how) ? 24 : 12) * (/down|lower/i.test(how) ? -1 : 1) };
  const steps = /^(?:but )?(?:moved )?(up|down) (\w+) (frets?|semitones?|strings?)$/i.exec(how) ?? null;
  const other = /^(?:but )?(?:moved )?(\w+) (frets?|semitones?|strings?) (up|down|higher|lower)$/i.exec(how);
  const [way, number, unit] = steps ? [steps[1], steps[2], steps[3]] : other ? [other[3], other[1], other[2]] : [];
  if (!way || !number || !unit || !Number.isInteger(count(number))) return null;
  const by = /^fret/i.test(unit) ? 'frets' : /^semi/i.test(unit) ? 'semitones' : 'strings';
  return { by, steps: count(number) * (/down|lower/i.test(way) ? -1 : 1) };
}

function grip(words: string): ParsedClaim | null {
  if (/\b(?:inverted power chord|fourth with its root on top)/i.test(words)) return { kind: 'grip', grip: 'inverted' };
  if (/\bpower chords?\b/i.test(words)) return { kind: 'grip', grip: 'power' };
  return /\b(?:no third|without (?:its |a )?third)/i.test(words) ? { kind: 'grip', grip: 'no-third' } : null;
}

function degree(words: string): ParsedClaim | null {
  const match =
    /^(?:it is |that is |this is )?the ((?:flat |sharp |minor |major |diminished )?(?:root|tonic|second|third|fourth|fifth|sixth|seventh|ninth)) of ([A-G](?:#|b|♯|♭)?)(?![\w#♯♭])/i.exec(
      words,
    );
  const root = match ? parseName(match[2] ?? '') : null;
  const name = (match?.[1] ?? '').toLowerCase();
  // "The third" alone is either: the notes say which.
  const semitones = name === 'third' || name === 'seventh' ? -1 : DEGREES[name];
  return root && semitones !== undefined ? { kind: 'degree', semitones, name, root } : null;
}

function bend(words: string): ParsedClaim | null {
  const match =
    /^(?:it |he |she )?(?:is )?be(?:nd|nds|nt)(?: it)?(?: up)? to (?:the )?([A-G](?:#|b|♯|♭)?)(?![\w#♯♭])/i.exec(words);
  const to = match ? parseName(match[1] ?? '') : null;
  return to ? { kind: 'bend', to } : null;
}

function strokes(words: string): ParsedClaim | null {
  if (/^all up(?:strokes?|picked)?$/i.test(words) || /^all (?:of it )?upstrokes$/i.test(words))
    return { kind: 'strokes', stroke: 'up' };
  if (/^all down(?:strokes?|picked)?$/i.test(words)) return { kind: 'strokes', stroke: 'down' };
  return /^(?:strict(?:ly)? )?alternate(?: picking| picked| strokes)?$/i.test(words)
    ? { kind: 'strokes', stroke: 'alternate' }
    : null;
}

function tempo(words: string): ParsedClaim | null {
  const match =
    /^(?:felt (?:at|in)|tempo(?: is)?|the pulse is) (\d{2,3})(?:,? (?:the )?click (?:at |is )?(\d{2,3}))?$/i.exec(
      words,
    );
  return match ? { kind: 'tempo', bpm: Number(match[1]), click: match[2] ? Number(match[2]) : null } : null;
}

function capo(words: string): ParsedClaim | null {
  if (/^(?:no capo|without (?:a )?capo)$/i.test(words)) return { kind: 'capo', fret: 0 };
  const match = /^capo (?:at |on |in )?(?:the )?(?:fret )?(\d{1,2})/i.exec(words);
  return match ? { kind: 'capo', fret: Number(match[1]) } : null;
}

function position(words: string): ParsedClaim | null {
  const match =
    /^(?:in |all in |stays in )?(?:the )?(?:(\d{1,2})(?:st|nd|rd|th)?|([a-z]+)) position$/i.exec(words) ??
    /^(?:in )?position (\d{1,2})$/i.exec(words);
  if (!match) return null;
  const fret = match[1] ? Number(match[1]) : POSITIONS.indexOf((match[2] ?? '').toLowerCase());
  return fret > 0 ? { kind: 'position', fret } : null;
}

const NUMBER_LIST = /(\d{1,2}(?:[ ,–-]+\d{1,2})*)/.source;

/** "E G A, frets 0 3 5, string 6": letters, frets and strings told one after the other. */
function list(words: string): ParsedClaim | null {
  const numbers = (text: string | undefined): number[] =>
    (text ?? '')
      .split(/[ ,–-]+/)
      .filter(Boolean)
      .map(Number);
  const letters = /^(?:notes? )?([A-G](?:#|b|♯|♭)?(?:[ ,–-]+[A-G](?:#|b|♯|♭)?(?![\w#♯♭]))+)/.exec(words);
  const frets = new RegExp(`\\bfrets? ${NUMBER_LIST}`, 'i').exec(words);
  const strings = new RegExp(`\\bstrings? ${NUMBER_LIST}`, 'i').exec(words);
  const named = (letters?.[1] ?? '').split(/[ ,–-]+/).flatMap((name) => parseName(name) ?? []);
  const told = { letters: named, frets: numbers(frets?.[1]), strings: numbers(strings?.[1]) };
  if (told.letters.length + told.frets.length + told.strings.length === 0) return null;
  return told.letters.length > 1 || told.frets.length > 1 || (told.frets.length > 0 && told.strings.length > 0)
    ? { kind: 'list', ...told }
    : null;
}

function direction(words: string): ParsedClaim | null {
  const match = /^(?:it )?(slides?|goes|runs|walks)(?: all)? (up|down)\b/i.exec(words);
  return match
    ? { kind: 'direction', what: /^slide/i.test(match[1] ?? '') ? 'slide' : 'line', up: /up/i.test(match[2] ?? '') }
    : null;
}

function plays(words: string): ParsedClaim | null {
  const said = saidPlays(words);
  return said && words.length <= said.words.length + 12
    ? { kind: 'plays', times: said.times, repeat: said.repeat }
    : null;
}

function scale(words: string): ParsedClaim | null {
  const read = parseScale(words);
  // "A major" is a chord as well as a scale: "in A major" and "A major scale" are not.
  return read.ok ? { kind: 'scale', claim: read.value } : null;
}

function chord(words: string): ParsedClaim | null {
  const plain = words
    .replace(/^(?:it is |it['’]s |this is |that['’]s )?(?:an? |the )?(?:chord )?/i, '')
    .replace(/ (?:chord|triad|shape|grip)$/i, '')
    .replace(/ minor$/i, 'm')
    .replace(/ major$/i, '');
  const read = parseChord(plain);
  return read.ok ? { kind: 'chord', chord: read.value, name: plain } : null;
}
