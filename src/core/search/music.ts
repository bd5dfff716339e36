import { counted } from '../base';
import type { Setup } from '../instrument';
import type { RiffEvent } from '../score';
import { barOf, sub, toNumber, type MeterChange } from '../time';

/**
 * Music as search sees it: the steps between its notes, the grips of the hand, and the rhythm, each as a chain of
 * tokens, so that what is sought is a chain within a chain. A step says nothing of where it begins: what was moved is
 * found as well. Chains are texts with ";" around every token: a database can look through them.
 */

export interface MusicChains {
  /** Steps between the highest and the lowest notes of successive events, in semitones. */
  readonly high: string;
  readonly low: string;
  /** Grips and how the hand goes on from one to the next: strings and frets apart. "?" where nothing is placed. */
  readonly shape: string;
  /** How much longer each gap between attacks is than the one before. */
  readonly rhythm: string;
}

/** Where an event stands: its bar from 0, its highest note, and its place on the thickest string it uses. */
export interface Anchor {
  readonly bar: number;
  readonly midi: number;
  readonly string: number | null;
  readonly fret: number | null;
}

export interface MusicEntry extends MusicChains {
  readonly anchors: readonly Anchor[];
}

/** Events looked at of one riff. */
const MOST_EVENTS = 4000;
const chain = (tokens: readonly string[]): string => (tokens.length === 0 ? '' : `;${tokens.join(';')};`);

const struck = (events: readonly RiffEvent[]): readonly RiffEvent[] =>
  events.filter((event) => event.notes.length > 0).slice(0, MOST_EVENTS);

interface Grip {
  readonly string: number;
  readonly fret: number;
  readonly inner: string;
}

/** An event's grip seen from the thickest string it uses; null where a note has no place. */
function gripOf({ notes }: RiffEvent): Grip | null {
  const places = notes.flatMap((note) => (note.place ? [note.place] : [])).sort((a, b) => b.string - a.string);
  const [first] = places;
  if (!first || places.length < notes.length) return null;
  const inner = places.map((place) => `${place.string - first.string}/${place.fret - first.fret}`).join(' ');
  return { string: first.string, fret: first.fret, inner };
}

/** The chains of a riff or of what is sought, and where its events stand. */
export function chainsOf(events: readonly RiffEvent[], meters: readonly MeterChange[]): MusicEntry {
  const list = struck(events);
  const pitches = list.map(({ notes }) => notes.map((note) => note.pitch.midi));
  const steps = (of: (midis: readonly number[]) => number): string =>
    chain(pitches.slice(1).map((midis, i) => String(of(midis) - of(pitches[i] ?? midis))));
  const grips = list.map(gripOf);
  const shape = grips.flatMap((grip, i) => {
    const before = grips[i - 1];
    const move = grip && before ? `${grip.string - before.string}>${grip.fret - before.fret}` : '?';
    return i === 0 ? [grip?.inner ?? '?'] : [move, grip?.inner ?? '?'];
  });
  const gaps = list.slice(1).map((event, i) => toNumber(sub(event.at, list[i]?.at ?? event.at)));
  const ratios = gaps.slice(1).map((gap, i) => (gap / (gaps[i] ?? gap)).toFixed(3));
  return {
    high: steps((midis) => Math.max(...midis)),
    low: steps((midis) => Math.min(...midis)),
    shape: chain(shape),
    rhythm: chain(ratios),
    anchors: list.map((event, i) => ({
      bar: Math.max(0, barOf(meters, event.at).bar),
      midi: Math.max(...(pitches[i] ?? [0])),
      string: grips[i]?.string ?? null,
      fret: grips[i]?.fret ?? null,
    })),
  };
}

/** Everything that was found alike in one riff. */
export interface MusicMatch {
  /** The event it begins at, counted among those with notes, and its bar from 0. */
  readonly event: number;
  readonly bar: number;
  readonly sound: boolean;
  readonly grips: boolean;
  readonly rhythm: boolean;
  /** By how many semitones it is moved; null where it doesn't sound alike. */
  readonly semitones: number | null;
  /** By how many frets and strings its grips are moved; null where they differ. */
  readonly frets: number | null;
  readonly strings: number | null;
}

/** At which token of a chain another one begins, all of them. */
function places(within: string, sought: string): Set<number> {
  const out = new Set<number>();
  if (sought === '') return out;
  for (let at = within.indexOf(sought); at >= 0; at = within.indexOf(sought, at + 1))
    out.add(within.slice(0, at + 1).split(';').length - 2);
  return out;
}

/**
 * Where what is sought stands in a riff, the likest first: sounds, grips and rhythm alike, then two of them, then one.
 * Rhythm alone counts from four attacks on, sound and grips from three. A chain with an unplaced note is no grip.
 */
export function matchesOf(entry: MusicEntry, sought: MusicEntry): MusicMatch[] {
  const count = sought.anchors.length;
  if (count < 3) return [];
  const highs = places(entry.high, sought.high);
  const lows = places(entry.low, sought.low);
  const shapes = sought.shape.includes('?') ? new Set<number>() : places(entry.shape, sought.shape);
  const rhythms = count < 4 ? new Set<number>() : places(entry.rhythm, sought.rhythm);
  const begins = new Set([...highs, ...lows, ...rhythms]);
  // Two tokens an event, the first with one.
  for (const at of shapes) if (at % 2 === 0) begins.add(at / 2);
  const out = [...begins].flatMap((event): MusicMatch[] => {
    const there = entry.anchors[event];
    const here = sought.anchors[0];
    if (!there || !here) return [];
    const sound = highs.has(event) && lows.has(event);
    const grips = shapes.has(event * 2);
    const rhythm = rhythms.has(event);
    if (!sound && !grips && !rhythm) return [];
    return [
      {
        ...{ event, bar: there.bar, sound, grips, rhythm },
        semitones: sound ? there.midi - here.midi : null,
        frets: grips && there.fret !== null && here.fret !== null ? there.fret - here.fret : null,
        strings: grips && there.string !== null && here.string !== null ? there.string - here.string : null,
      },
    ];
  });
  return out.sort((a, b) => weight(b) - weight(a) || a.event - b.event);
}

const weight = (match: Pick<MusicMatch, 'sound' | 'grips' | 'rhythm'>): number =>
  (match.sound ? 4 : 0) + (match.grips ? 3 : 0) + (match.rhythm ? 1 : 0);

/** How alike a match is, for sorting: higher is likelier what was sought. */
export const likeness = (match: MusicMatch): number =>
  weight(match) + (match.semitones === 0 ? 0.5 : 0) + (match.frets === 0 && match.strings === 0 ? 0.25 : 0);

/** "an octave", "2 octaves", "3 semitones". */
function intervalWords(semitones: number): string {
  const size = Math.abs(semitones);
  if (size % 12 !== 0) return counted(size, 'semitone');
  return size === 12 ? 'an octave' : `${size / 12} octaves`;
}

/** What was found alike, in words: "the same notes", "the same grips 2 frets higher, it sounds otherwise". */
export function matchWords(match: MusicMatch, there: Setup, here: Setup, strings: readonly number[]): string {
  const out: string[] = [];
  if (match.semitones === 0) out.push('the same notes');
  else if (match.semitones !== null)
    out.push(`the same line ${intervalWords(match.semitones)} ${match.semitones > 0 ? 'higher' : 'lower'}`);
  if (match.grips) {
    // Strings of instruments of different size are compared from the thickest on.
    const across = (match.strings ?? 0) - (there.open.length - here.open.length);
    const moved = [
      ...(across ? [`${counted(across, 'string')} ${across > 0 ? 'thicker' : 'thinner'}`] : []),
      ...(match.frets ? [`${counted(match.frets, 'fret')} ${match.frets > 0 ? 'higher' : 'lower'}`] : []),
    ].join(' and ');
    out.push(`the same grips${moved ? ` ${moved}` : ''}`);
    const alike = match.strings === 0 ? alikeStrings(there, here, strings) : null;
    if (!match.sound) out.push('it sounds otherwise: the strings are tuned otherwise');
    else if (alike) out.push(alike);
  } else if (match.sound && match.semitones === 0) out.push('in other places on the neck');
  if (match.rhythm) out.push(match.sound || match.grips ? 'in the same rhythm' : 'the same rhythm alone');
  return out.join(', ');
}

/** "strings 4-3-2 are alike in both tunings", where two tunings differ but not between the strings that are used. */
export function alikeStrings(there: Setup, here: Setup, strings: readonly number[]): string | null {
  const open = (setup: Setup, string: number): number | undefined => setup.open[setup.open.length - string];
  const same = (list: readonly number[]): boolean => {
    const by = list.map((string) => (open(there, string) ?? NaN) - (open(here, string) ?? NaN));
    return by.every((step) => step === by[0]);
  };
  const all = here.open.map((_, i) => i + 1);
  if (strings.length === 0 || !same(strings) || (there.open.length === here.open.length && same(all))) return null;
  const named = [...strings].sort((a, b) => b - a);
  return `${named.length === 1 ? 'string' : 'strings'} ${named.join('-')} ${named.length === 1 ? 'is' : 'are'} alike in both tunings`;
}
