import { fail, ok, type Result } from '../base';
import { parseName, parsePitch, pitchClass } from '../pitch';
import { EVENT_SPECS } from './event-specs';
import { joinsInto } from './join';
import { NOTE_SPECS } from './note-specs';
import type { Note, Riff, RiffEvent } from './schema';
import type { Join } from './technique';
import type { EventSpec, EventTechnique, NoteSpec, NoteTechnique } from './technique-spec';

/** What is looked for, as one test of a note in its event; `before` is the event before. */
type Test = (note: Note | null, event: RiffEvent, before: RiffEvent | undefined) => boolean;

/** Words the tables of techniques are looked for by: a note or event that any technique with the word is done to. */
function techniqueTests(): Record<string, Test> {
  const out: Record<string, Test> = {};
  const add = (word: string, test: Test): void => {
    const before = out[word];
    out[word] = before ? (note, event, earlier) => before(note, event, earlier) || test(note, event, earlier) : test;
  };
  for (const [name, spec] of Object.entries(NOTE_SPECS) as [NoteTechnique, NoteSpec][])
    for (const word of spec.find) add(word, (note) => note?.technique?.[name] !== undefined);
  for (const [name, spec] of Object.entries(EVENT_SPECS) as [EventTechnique, EventSpec][])
    for (const word of spec.find) add(word, (_, event) => event[name] !== undefined);
  return out;
}

const TECHNIQUES = techniqueTests();

const byTechnique =
  (word: string): Test =>
  (...found) =>
    TECHNIQUES[word]?.(...found) ?? false;

const joined =
  (...joins: readonly Join[]): Test =>
  (note, event, before) => {
    if (!note) return joins.some((join) => before?.notes.some((one) => one.join === join));
    const how = joinsInto(before, event).get(note.id)?.how;
    return how !== undefined && how !== 'hold' && joins.includes(how);
  };

/** Words that name one thing about a note. A plural or "every" before it changes nothing. */
const WORDS: Readonly<Record<string, Test>> = {
  ...TECHNIQUES,
  bend: (note) => note?.technique?.bend !== undefined || note?.technique?.unspecified?.includes('bend') === true,
  'pre-bend': (note) => (note?.technique?.bendCurve?.[0]?.cents ?? 0) > 0,
  trill: (note) => note?.technique?.trill !== undefined || note?.technique?.unspecified?.includes('trill') === true,
  hammer: (...found) => joined('hammer')(...found) || found[0]?.technique?.hammered === true,
  'hammer-on': (...found) => joined('hammer')(...found) || found[0]?.technique?.hammered === true,
  pull: joined('pull'),
  'pull-off': joined('pull'),
  slide: (note, event, before) =>
    joined('slide', 'shift')(note, event, before) ||
    note?.technique?.slideIn !== undefined ||
    note?.technique?.slideOut !== undefined,
  shift: joined('shift'),
  slur: joined('hammer', 'pull', 'slide'),
  ring: (note, event, before) => event.letRing || byTechnique('ring')(note, event, before),
  palm: (_, event) => event.mute === 'palm',
  mute: (note, event) => event.mute !== undefined || note?.technique?.dead === true,
  choked: (_, event) => event.mute === 'choked',
  accent: (_, event) => event.accent === 'accent' || event.accent === 'heavy',
  ghost: (_, event) => event.accent === 'ghost',
  hole: (_, event) => event.kind === 'hole',
  hit: (_, event) => event.kind === 'hit',
  scrape: (_, event) => event.kind === 'scrape',
  slap: (_, event) => event.stroke === 'slap',
  pop: (_, event) => event.stroke === 'pop',
  downstroke: (_, event) => event.stroke === 'down',
  upstroke: (_, event) => event.stroke === 'up',
  open: (note) => note?.place?.fret === 0,
  chord: (_, event) => event.notes.length > 1,
  locked: (note) => note?.place?.locked === true,
  proposed: (note) => note?.place?.locked === false,
  unplaced: (note) => note !== null && note.place === null,
  sure: (note) => note?.certainty === 'sure',
  likely: (note) => note?.certainty === 'likely',
  guess: (note) => note?.certainty === 'guess',
  unsure: (note) => note !== null && note.certainty !== 'sure',
  thumb: (note) => note?.place?.finger === 5,
  'slide-bar': (_, event) => event.slideBar === true,
  bottleneck: (_, event) => event.slideBar === true,
  unsaid: (note) => note?.technique?.unspecified !== undefined || (note !== null && note.place === null),
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
    tests.push(not ? (note, event, b) => note !== null && !test(note, event, b) : test);
    negate = false;
  };
  const numberAt = (i: number): number | null => (/^\d+$/.test(words[i] ?? '') ? Number(words[i]) : null);
  for (let i = 0; i < words.length; i++) {
    const wording = words[i] ?? '';
    const word = wording.toLowerCase();
    if (FILLERS.has(word) && !(word === 'a' && wording === 'A')) continue;
    if (word === 'not' || word === 'no' || word === 'without') {
      negate = !negate;
      continue;
    }
    if (word === 'on' || word === 'string' || word === 'strings') {
      const at = words[i + 1]?.toLowerCase() === 'string' ? i + 2 : i + 1;
      const string = numberAt(at);
      if (string === null) return fail('find', `Which string? Say its number after "${wording}": string 3.`, wording);
      push((note) => note?.place?.string === string);
      i = at;
      continue;
    }
    if (word === 'above' || word === 'below' || word === 'from' || word === 'at' || word === 'fret') {
      const at = words[i + 1]?.toLowerCase() === 'fret' ? i + 2 : i + 1;
      const fret = numberAt(at);
      if (fret === null) return fail('find', `Which fret? Say its number after "${wording}": above fret 12.`, wording);
      push(
        (note) =>
          note?.place !== null &&
          note?.place !== undefined &&
          (word === 'above'
            ? note.place.fret > fret
            : word === 'below'
              ? note.place.fret < fret
              : word === 'from'
                ? note.place.fret >= fret
                : note.place.fret === fret),
      );
      i = at;
      continue;
    }
    if (word === 'finger') {
      const finger = numberAt(i + 1);
      if (finger === null) return fail('find', 'Which finger? 1 to 4, 5 the thumb.', wording);
      push((note) => note?.place?.finger === finger);
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
    const pitch = parsePitch(wording);
    const name = pitch === null && /^[A-G]/.test(wording) ? parseName(wording) : null;
    if (pitch !== null) push((note) => note?.pitch.midi === pitch);
    else if (name) push((note) => note !== null && note.pitch.midi % 12 === pitchClass(name));
    else
      return fail(
        'find',
        `"${wording}" is nothing that can be looked for. Try a technique (bend, slide, palm), "string 3", "above fret 12", a note name, "guess".`,
        wording,
      );
  }
  if (tests.length === 0)
    return fail('find', 'Say what to look for beside "every": a technique, a string, a fret, a note.');
  return ok((note, event, b) => tests.every((one) => one(note, event, b)));
}

/** Events of a riff, each with those of its notes, that a find asks for. */
export function findIn(riff: Riff, test: Test): { readonly event: RiffEvent; readonly notes: readonly string[] }[] {
  return riff.events.flatMap((event, i) => {
    const before = riff.events[i - 1];
    const notes = event.notes.filter((note) => test(note, event, before)).map((note) => note.id);
    return notes.length > 0 || (event.notes.length === 0 && test(null, event, before)) ? [{ event, notes }] : [];
  });
}
