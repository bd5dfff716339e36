import type { Setup } from '../instrument';
import { noteName, type Key } from '../pitch';
import { lengthLabel, spokenBeat } from '../rhythm';
import { withoutCommon } from './common';
import { DEFAULT_SCHOOLS, fretWordsBy, stringCall, type Schools } from '../schools';
import {
  type Articulation,
  bendShapeOf,
  chordBend,
  EVENT_SPECS,
  type EventTechnique,
  type Flag,
  type FlagOf,
  joinsInto,
  noteEnd,
  otherPlaceOf,
  type Note,
  NOTE_SPECS,
  type NoteTechnique,
  type Riff,
  type RiffEvent,
  type Technique,
} from '../score';
import { barOf, cmp, ZERO } from '../time';

export interface CalloutOptions {
  readonly schools: Schools;
  readonly key: Key | null;
  /** Only what the hands do: strings where they change, frets, joins and techniques; no names of what sounds. */
  readonly short?: boolean;
}

export const DEFAULT_CALLOUT: CalloutOptions = { schools: DEFAULT_SCHOOLS, key: null };

const FINGERS = ['', 'index', 'middle', 'ring finger', 'little finger', 'thumb'] as const;
const JOINS = {
  hammer: 'hammer on to',
  pull: 'pull off to',
  slide: 'slide to',
  shift: 'slide and strike again at',
  hold: 'hold',
} as const;

/** One note as spoken: string, fret, finger, and what it sounds; or the pitch alone where no place is decided. */
export function callNote(note: Note, setup: Setup, options: CalloutOptions = DEFAULT_CALLOUT): string {
  const name = noteName(note.pitch.midi, { key: options.key, naming: options.schools.notes });
  if (!note.place) return `${name}, not placed yet`;
  const { string, fret, finger } = note.place;
  const named = options.short ? `string ${string}` : stringCall(setup, string, options.schools, options.key);
  const where = fret === 0 ? `${named} open` : `${named}, ${fretWordsBy(setup, string, fret, options.schools.frets)}`;
  const by =
    finger && !options.short
      ? `, ${FINGERS[finger]}${note.place.otherFinger ? ` or ${FINGERS[note.place.otherFinger]}` : ''}`
      : '';
  const other = otherPlaceOf(note, setup);
  const or = other
    ? `, or ${stringCall(setup, other.string, options.schools, options.key)}, ${fretWordsBy(setup, other.string, other.fret, options.schools.frets)}${other.reason ? ` (${other.reason})` : ''}`
    : '';
  const { technique: techniques } = note;
  if (techniques?.dead)
    return `${named}, dead${fret > 0 ? ` at ${fretWordsBy(setup, string, fret, options.schools.frets)}` : ''}`;
  if (techniques?.harmonic) return `${named}, natural harmonic over fret ${fret}, sounding ${name}`;
  const cents =
    note.pitch.cents === 0 ? '' : `, ${Math.abs(note.pitch.cents)} cents ${note.pitch.cents > 0 ? 'sharp' : 'flat'}`;
  return `${where}${by}${or}${options.short ? '' : `, sounding ${name}`}${cents}${techniqueWords(note, options)}`;
}

/** A pitch so many semitones above, by its name. */
type NameAbove = (semitones: number) => string;

/** A bend whose size is not said, as spoken. */
const UNSAID_BENDS = {
  up: 'bent',
  released: 'bent and released',
  again: 'bent, released and bent again',
  prebend: 'bent before it is struck',
  'prebend-released': 'bent before it is struck and released',
} as const;

const frets = (count: number): string => `${count} fret${count === 1 ? '' : 's'}`;

/** Techniques of a note that are more than a flag, as spoken; null where it is said with another. */
const NOTE_WORDS: {
  readonly [Name in Exclude<NoteTechnique, FlagOf<typeof NOTE_SPECS>>]: (
    value: NonNullable<Technique[Name]>,
    technique: Technique,
    to: NameAbove,
  ) => string | null;
} = {
  dead: () => null,
  harmonic: () => null,
  slideIn: (from, { slideInBy }) =>
    slideInBy ? `slid into from ${frets(slideInBy)} ${from}` : `slid into from ${from} frets`,
  slideInBy: () => null,
  bend: (_, technique, to) => bendSpoken(technique, to),
  bendCurve: () => null,
  bendDirection: () => null,
  bendShape: () => null,
  unspecified: (open, { bendShape }) =>
    open
      .map((one) =>
        one === 'bend' ? `${UNSAID_BENDS[bendShape ?? 'up']}, how far is not said` : 'trilled, with what is not said',
      )
      .join(', '),
  vibrato: (cents) => (cents >= 60 ? 'with wide vibrato' : cents <= 25 ? 'with narrow vibrato' : 'with vibrato'),
  trill: (by, _, to) => `trilled with ${to(by)}`,
  pinched: (by, _, to) => `pinched, so that ${to(by)} speaks`,
  slideOut: (to, { slideOutBy }) => (slideOutBy ? `slid off to ${frets(slideOutBy)} ${to}` : `slid off to ${to} frets`),
  slideOutBy: () => null,
  hold: () => 'finger kept down',
};

/** What is said of each technique that is there, in the order of the table. */
function spokenOf(specs: object, words: object, spec: object, ...more: readonly unknown[]): string[] {
  return Object.entries(specs as Record<string, { readonly flag?: Flag }>).flatMap(([name, { flag }]) => {
    const value = (spec as Record<string, unknown>)[name];
    if (value === undefined) return [];
    const text = flag
      ? flag.spoken
      : (words as Record<string, (...given: unknown[]) => string | null>)[name]?.(value, spec, ...more);
    return text ? [text] : [];
  });
}

/** Techniques of a note as spoken. */
function techniqueWords({ technique = {}, pitch, certainty }: Note, { key, schools }: CalloutOptions): string {
  const to: NameAbove = (semitones) => noteName(pitch.midi + semitones, { key, naming: schools.notes });
  const sure = certainty === 'sure' ? [] : [certainty === 'guess' ? 'a guess' : 'likely'];
  return [...spokenOf(NOTE_SPECS, NOTE_WORDS, technique, to), ...sure].map((word) => `, ${word}`).join('');
}

function bendSpoken(noteTechniques: Technique, to: (semitones: number) => string): string {
  const cents = noteTechniques.bend ?? 0;
  const reached = cents % 100 === 0 ? `to ${to(cents / 100)}` : `${cents} cents`;
  const way = noteTechniques.bendDirection ? (noteTechniques.bendDirection === 'thick' ? ', pushed' : ', pulled') : '';
  const shape = bendShapeOf(noteTechniques);
  const head =
    shape === 'prebend' || shape === 'prebend-released'
      ? `bent before it is struck, up ${reached}`
      : `bent up ${reached}`;
  const tail =
    shape === 'released' || shape === 'prebend-released'
      ? ' and released'
      : shape === 'again'
        ? ', released and bent again'
        : shape === null
          ? ', in a curve of its own'
          : '';
  return `${head}${way}${tail}`;
}

const STROKES: Readonly<Record<NonNullable<RiffEvent['stroke']>, string>> = {
  down: 'downstroke',
  up: 'upstroke',
  same: 'in the same stroke',
  thumb: 'with the thumb',
  index: 'with the index finger',
  middle: 'with the middle finger',
  third: 'with the ring finger',
  slap: 'slapped',
  pop: 'popped',
  'brush-down': 'brushed down',
  'brush-up': 'brushed up',
};

/** Ways of playing an event that are more than a flag, as spoken; null where it is said elsewhere. */
const EVENT_WORDS: {
  readonly [Name in Exclude<EventTechnique, FlagOf<typeof EVENT_SPECS>>]: (
    value: NonNullable<Articulation[Name]>,
  ) => string | null;
} = {
  kind: () => null,
  grace: () => null,
  mute: (mute) => (mute === 'palm' ? 'palm muted' : 'choked'),
  gate: (percent) => (percent === 50 ? 'staccato' : 'cut short'),
  accent: (accent) => ({ accent: 'accented', heavy: 'heavily accented', ghost: 'hardly struck' })[accent],
  dynamic: (dynamic) =>
    `from here ${{ pp: 'very soft', p: 'soft', mp: 'rather soft', mf: 'rather loud', f: 'loud', ff: 'very loud' }[dynamic]}`,
  stroke: (stroke) => STROKES[stroke],
  roll: (way) => `rolled from the ${way === 'thick-first' ? 'thick' : 'thin'} strings`,
  tremolo: (each) => `struck again every ${lengthLabel(each)}`,
  tilt: () => null,
  scraped: () => null,
  free: ({ kind, remark }) =>
    `${{ either: 'either will do', fill: 'or a fill', 'leave-out': 'or leave it out' }[kind]}${remark ? `: ${remark}` : ''}`,
  remark: (text) => `because ${text}`,
};

/** How an event is played as a whole, as spoken. */
function articulationWords(event: RiffEvent): string {
  const words: string[] = [];
  if (event.letRing) words.push('let it ring');
  if (event.slideBar)
    words.push(
      event.tilt
        ? `with the slide bar tilted ${Math.abs(event.tilt)} degrees, thin strings ${event.tilt > 0 ? 'higher' : 'lower'}`
        : 'with the slide bar',
    );
  const { free, remark, ...played } = event;
  words.push(...spokenOf(EVENT_SPECS, EVENT_WORDS, played));
  const bend = chordBend(event);
  if (bend)
    words.push({ unison: 'a unison bend', octave: 'bent to the octave', together: 'two strings bent together' }[bend]);
  words.push(...spokenOf(EVENT_SPECS, EVENT_WORDS, { free, remark }));
  return words.map((word) => `, ${word}`).join('');
}

const WHAT = {
  hole: 'something is played here that is not written yet',
  hit: 'a hit on the strings',
  scrape: 'the pick scraped along the strings',
} as const;

/** One event as spoken, with how it is reached from the one before. */
export function callEvent(
  event: RiffEvent,
  before: RiffEvent | undefined,
  setup: Setup,
  options: CalloutOptions = DEFAULT_CALLOUT,
): string {
  if (event.kind) return `${WHAT[event.kind]}${scrapedWords(event)}${articulationWords(event)}`;
  const into = joinsInto(before, event);
  const joins = event.notes.map((note) => into.get(note.id)?.how ?? null);
  const how = (join: (typeof joins)[number]): string =>
    join ? `${event.quickSlide && join !== 'hold' ? 'quickly ' : ''}${JOINS[join]} ` : '';
  // What holds for every note is said once.
  const alike = joins.every((join) => join === joins[0]);
  const notes = event.notes
    .map((note, i) => `${alike ? '' : how(joins[i] ?? null)}${callNote(note, setup, options)}`)
    .join('; together with ');
  const under = before && joins.some((join) => join !== null) ? heldUnder(before, event) : '';
  return `${event.grace ? 'grace note ' : ''}${alike ? how(joins[0] ?? null) : ''}${notes}${under}${articulationWords(event)}`;
}

/** Along which strings a pick is scraped, and which way. */
function scrapedWords({ scraped }: RiffEvent): string {
  if (!scraped) return '';
  const strings =
    scraped.thick === scraped.thin ? `string ${scraped.thick}` : `strings ${scraped.thick} to ${scraped.thin}`;
  return `, on ${strings}${scraped.fret === null ? '' : ` from fret ${scraped.fret}`} towards ${scraped.to} frets`;
}

/** The notes of an event that sound on under the next, where others of it are joined. */
function heldUnder(before: RiffEvent, event: RiffEvent): string {
  const strings = before.notes.flatMap((note) =>
    note.place && note.dur !== null && cmp(noteEnd(before, note), event.at) > 0 ? [note.place.string] : [],
  );
  if (strings.length === 0) return '';
  const list = strings.sort((a, b) => b - a);
  return `, while ${list.length === 1 ? `string ${list[0]} sounds` : `strings ${list.slice(0, -1).join(', ')} and ${list.at(-1)} sound`} on`;
}

/** Something to say what holds of all events without any of them. */
const EMPTY: RiffEvent = { id: '', at: ZERO, dur: ZERO, notes: [], letRing: false };

/**
 * A riff as spoken, a line a bar, each note with its count. Also the text of every drawing for people who don't see
 * it.
 */
export function callRiff(
  riff: Pick<Riff, 'events' | 'meters'>,
  setup: Setup,
  options: CalloutOptions = DEFAULT_CALLOUT,
): string[] {
  const lines = new Map<number, string[]>();
  const { events, common } = withoutCommon(riff.events);
  let string: number | null = null;
  events.forEach((event, i) => {
    const { bar } = barOf(riff.meters, event.at);
    // Said short, a string is named again only where it changes, or a bar begins.
    const only = event.notes.length === 1 ? (event.notes[0]?.place?.string ?? null) : null;
    const stays = options.short === true && only !== null && only === string && lines.has(bar);
    string = only;
    const call = callEvent(event, events[i - 1], setup, options);
    const wording = `on ${spokenBeat(riff.meters, event.at)}: ${stays ? call.replace(`string ${only}, `, '') : call}`;
    lines.set(bar, [...(lines.get(bar) ?? []), wording]);
  });
  const spoken = [...lines].map(([bar, phrase]) => `${bar < 0 ? 'Pickup' : `Bar ${bar + 1}`}. ${phrase.join('. ')}.`);
  return common ? [`Throughout${articulationWords({ ...EMPTY, ...common })}.`, ...spoken] : spoken;
}
