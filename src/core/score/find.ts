import { fail, ok, type Result } from '../base';
import { parseName, parsePitch, pitchClass } from '../pitch';
import { joinOf } from './join';
import type { Note, Riff, RiffEvent } from './schema';

/** What is looked for, as one test of a note in its event; `before` is the event before. */
type Test = (note: Note | null, event: RiffEvent, before: RiffEvent | undefined) => boolean;

const tech =
  (key: keyof NonNullable<Note['technique']>): Test =>
  (n) =>
    n?.technique?.[key] !== undefined;

/** Words that name one thing about a note. A plural or "every" before it changes nothing. */
const WORDS: Readonly<Record<string, Test>> = {
  bend: (n) => n?.technique?.bend !== undefined || n?.technique?.unspecified?.includes('bend') === true,
  'pre-bend': (n) => n?.technique?.bendCurve?.[0] !== undefined && n.technique.bendCurve[0].cents > 0,
  vibrato: tech('vibrato'),
  trill: (n) => n?.technique?.trill !== undefined || n?.technique?.unspecified?.includes('trill') === true,
  dead: tech('dead'),
  harmonic: (n) => n?.technique?.harmonic === true || n?.technique?.pinched !== undefined,
  pinched: tech('pinched'),
  tapped: tech('tapped'),
  tap: tech('tapped'),
  anchor: tech('anchor'),
  hammer: (_, __, b) => joinOf(b) === 'hammer',
  'hammer-on': (_, __, b) => joinOf(b) === 'hammer',
  pull: (_, __, b) => joinOf(b) === 'pull',
  'pull-off': (_, __, b) => joinOf(b) === 'pull',
  slide: (n, _, b) =>
    joinOf(b) === 'slide' ||
    joinOf(b) === 'shift' ||
    n?.technique?.slideIn !== undefined ||
    n?.technique?.slideOut !== undefined,
  shift: (_, __, b) => joinOf(b) === 'shift',
  slur: (_, __, b) => joinOf(b) !== undefined && joinOf(b) !== null && joinOf(b) !== 'shift',
  ring: (n, e) => e.letRing || n?.technique?.letRing === true,
  palm: (_, e) => e.mute === 'palm',
  mute: (n, e) => e.mute !== undefined || n?.technique?.dead === true,
  choked: (_, e) => e.mute === 'choked',
  staccato: (_, e) => e.gate !== undefined,
  short: (_, e) => e.gate !== undefined,
  grace: (_, e) => e.grace === true,
  accent: (_, e) => e.accent === 'accent' || e.accent === 'heavy',
  ghost: (_, e) => e.accent === 'ghost',
  ahead: (_, e) => e.anticipated === true,
  anticipation: (_, e) => e.anticipated === true,
  tremolo: (_, e) => e.tremolo !== undefined,
  rake: (_, e) => e.rake === true,
  rolled: (_, e) => e.roll !== undefined,
  hole: (_, e) => e.kind === 'hole',
  hit: (_, e) => e.kind === 'hit',
  scrape: (_, e) => e.kind === 'scrape',
  free: (_, e) => e.free !== undefined,
  slap: (_, e) => e.stroke === 'slap',
  pop: (_, e) => e.stroke === 'pop',
  downstroke: (_, e) => e.stroke === 'down',
  upstroke: (_, e) => e.stroke === 'up',
  open: (n) => n?.place?.fret === 0,
  chord: (_, e) => e.notes.length > 1,
  locked: (n) => n?.place?.locked === true,
  proposed: (n) => n?.place !== undefined && n.place !== null && !n.place.locked,
  unplaced: (n) => n !== null && n.place === null,
  sure: (n) => n?.certainty === 'sure',
  likely: (n) => n?.certainty === 'likely',
  guess: (n) => n?.certainty === 'guess',
  unsure: (n) => n !== null && n.certainty !== 'sure',
  thumb: (n) => n?.place?.finger === 5,
  'slide-bar': (_, e) => e.slideBar === true,
  bottleneck: (_, e) => e.slideBar === true,
  unsaid: (n) => n?.technique?.unspecified !== undefined || (n !== null && n.place === null),
};

/** Words that may stand anywhere and say nothing. */
const FILLERS = new Set([
  'every',
  'all',
  'the',
  'a',
  'an',
  'note',
  'notes',
  'and',
  'with',
  'that',
  'is',
  'are',
  'of',
  'let',
]);

/** What can be looked for, for help and completion. */
export const FINDABLE = Object.keys(WORDS);

/**
 * Reads what is looked for: "every bend", "all on string 3 above fret 12", "palm mute and accent",
 * "E on string 6", "not sure". All that is said must hold. Frets count from the capo.
 */
export function parseFind(text: string): Result<Test> {
  const words = text
    .trim()
    .split(/[\s,]+/)
    .filter(Boolean);
  if (words.length === 0) return fail('find', 'Say what to look for: "every bend", "all on string 3 above fret 12".');
  const tests: Test[] = [];
  let negate = false;
  const push = (test: Test): void => {
    const not = negate;
    // What has no notes is not "not sure" either.
    tests.push(not ? (n, e, b) => n !== null && !test(n, e, b) : test);
    negate = false;
  };
  const numberAt = (i: number): number | null => (/^\d+$/.test(words[i] ?? '') ? Number(words[i]) : null);
  for (let i = 0; i < words.length; i++) {
    const said = words[i] ?? '';
    const word = said.toLowerCase();
    if (FILLERS.has(word) && !(word === 'a' && said === 'A')) continue;
    if (word === 'not' || word === 'no' || word === 'without') {
      negate = !negate;
      continue;
    }
    if (word === 'on' || word === 'string' || word === 'strings') {
      const at = words[i + 1]?.toLowerCase() === 'string' ? i + 2 : i + 1;
      const string = numberAt(at);
      if (string === null) return fail('find', `Which string? Say its number after "${said}": string 3.`, said);
      push((n) => n?.place?.string === string);
      i = at;
      continue;
    }
    if (word === 'above' || word === 'below' || word === 'from' || word === 'at' || word === 'fret') {
      const at = words[i + 1]?.toLowerCase() === 'fret' ? i + 2 : i + 1;
      const fret = numberAt(at);
      if (fret === null) return fail('find', `Which fret? Say its number after "${said}": above fret 12.`, said);
      push(
        (n) =>
          n?.place !== null &&
          n?.place !== undefined &&
          (word === 'above'
            ? n.place.fret > fret
            : word === 'below'
              ? n.place.fret < fret
              : word === 'from'
                ? n.place.fret >= fret
                : n.place.fret === fret),
      );
      i = at;
      continue;
    }
    if (word === 'finger') {
      const finger = numberAt(i + 1);
      if (finger === null) return fail('find', 'Which finger? 1 to 4, 5 the thumb.', said);
      push((n) => n?.place?.finger === finger);
      i++;
      continue;
    }
    const known =
      WORDS[word] ??
      WORDS[word.replace(/e?s$/, '')] ??
      WORDS[word.replace(/s$/, '')] ??
      (word === 'muted' ? WORDS.mute : undefined);
    if (known) {
      push(known);
      continue;
    }
    const pitch = parsePitch(said);
    const name = pitch === null && /^[A-G]/.test(said) ? parseName(said) : null;
    if (pitch !== null) push((n) => n?.pitch.midi === pitch);
    else if (name) push((n) => n !== null && n.pitch.midi % 12 === pitchClass(name));
    else
      return fail(
        'find',
        `"${said}" is nothing that can be looked for. Try a technique (bend, slide, palm), "string 3", "above fret 12", a note name, "guess".`,
        said,
      );
  }
  if (tests.length === 0)
    return fail('find', 'Say what to look for beside "every": a technique, a string, a fret, a note.');
  return ok((n, e, b) => tests.every((t) => t(n, e, b)));
}

/** Events of a riff, each with those of its notes, that a find asks for. */
export function findIn(riff: Riff, test: Test): { readonly event: RiffEvent; readonly notes: readonly string[] }[] {
  return riff.events.flatMap((event, i) => {
    const before = riff.events[i - 1];
    const notes = event.notes.filter((n) => test(n, event, before)).map((n) => n.id);
    return notes.length > 0 || (event.notes.length === 0 && test(null, event, before)) ? [{ event, notes }] : [];
  });
}
