import { ok, type Result, type Semitones } from '../base';
import { moveShape, moveSound, moveStrings } from '../carry';
import type { Setup } from '../instrument';
import { parseName, pitchClass, type Key } from '../pitch';
import type { RiffEvent } from '../score';
import { cmp, type Quarter } from '../time';

/** Second voices: made of a line at an interval, or found beside it and compared with it note by note. */

/** How far the second voice is from the first: so many steps of the scale of a key, or always so many semitones. */
export type VoiceInterval =
  | { readonly by: 'steps'; readonly steps: number; readonly key: Key }
  | { readonly by: 'semitones'; readonly semitones: Semitones };

const SCALES: Readonly<Record<Key['mode'], readonly number[]>> = {
  major: [0, 2, 4, 5, 7, 9, 11],
  minor: [0, 2, 3, 5, 7, 8, 10],
};

const mod = (a: number, n: number): number => ((a % n) + n) % n;

/**
 * A pitch as a step of a key's scale and what is over it: the tonic of octave 0 is step 0, seven steps an octave. A
 * note between two steps counts from the lower.
 */
function stepOf(midi: number, key: Key): { readonly step: number; readonly over: Semitones } {
  const tonic = parseName(key.tonic);
  const from = midi - (tonic ? pitchClass(tonic) : 0);
  const scale = SCALES[key.mode];
  const within = mod(from, 12);
  const index = scale.findLastIndex((semitones) => semitones <= within);
  return { step: Math.floor(from / 12) * 7 + index, over: within - (scale[index] ?? 0) };
}

function pitchOf(step: number, key: Key): number {
  const tonic = parseName(key.tonic);
  return (tonic ? pitchClass(tonic) : 0) + Math.floor(step / 7) * 12 + (SCALES[key.mode][mod(step, 7)] ?? 0);
}

/**
 * The pitch an interval away. A note outside the scale goes with the step it is over, and stays as far over it where
 * that is no note of the scale itself: over G sharp in A minor the third is B, not C.
 */
export function voicePitch(midi: number, interval: VoiceInterval): number {
  if (interval.by === 'semitones') return midi + interval.semitones;
  const { step, over } = stepOf(midi, interval.key);
  const there = pitchOf(step + interval.steps, interval.key);
  return over === 0 || interval.steps % 7 === 0 || stepOf(there + over, interval.key).over !== 0 ? there + over : there;
}

/** A second voice as it comes out. */
export interface MadeVoice {
  readonly events: readonly RiffEvent[];
  /** The hand's shape was kept: every place moved by as many strings and frets, locks and fingers with it. */
  readonly shape: { readonly strings: number; readonly frets: number } | null;
  /** Notes of the model outside the key's scale. */
  readonly outside: number;
  readonly lostLocks: number;
}

/** How far across the strings a shape is sought, the nearest first. */
const ACROSS = [0, -2, -3, -1, 2, 3, 1] as const;

/**
 * The same line an interval away on a set-up. At a fixed interval the hand's shape is moved where all of it fits
 * elsewhere on this neck, so that what was locked stays locked in the same shape; else places are left for the solver.
 * Fails where a pitch doesn't exist on the set-up.
 */
export function secondVoice(setup: Setup, events: readonly RiffEvent[], interval: VoiceInterval): Result<MadeVoice> {
  if (interval.by === 'semitones') {
    const shaped = inShape(setup, events, interval.semitones);
    if (shaped) return ok({ ...shaped, outside: 0, lostLocks: 0 });
    const moved = moveSound(setup, events, interval.semitones);
    return moved.ok
      ? ok({ events: moved.value.events, shape: null, outside: 0, lostLocks: moved.value.lostLocks })
      : moved;
  }
  let [outside, lostLocks] = [0, 0];
  const out: RiffEvent[] = [];
  for (const event of events) {
    const notes = [];
    for (const note of event.notes) {
      if (stepOf(note.pitch.midi, interval.key).over !== 0) outside++;
      const by = voicePitch(note.pitch.midi, interval) - note.pitch.midi;
      const moved = moveSound(setup, [{ ...event, notes: [note] }], by);
      if (!moved.ok) return moved;
      lostLocks += moved.value.lostLocks;
      notes.push(...(moved.value.events[0]?.notes ?? []));
    }
    out.push({ ...event, notes });
  }
  return ok({ events: out, shape: null, outside, lostLocks });
}

/** The line in the same shape elsewhere on the neck, where it then sounds the interval away throughout. */
function inShape(
  setup: Setup,
  events: readonly RiffEvent[],
  semitones: Semitones,
): Pick<MadeVoice, 'events' | 'shape'> | null {
  const notes = events.flatMap((event) => event.notes);
  if (notes.length === 0 || notes.some((note) => !note.place)) return null;
  for (const strings of ACROSS) {
    const across = strings === 0 ? ok({ events }) : moveStrings(setup, events, strings);
    if (!across.ok) continue;
    const first = across.value.events.find((event) => event.notes.length > 0)?.notes[0];
    const frets = (notes[0]?.pitch.midi ?? 0) + semitones - (first?.pitch.midi ?? 0);
    const moved = moveShape(setup, across.value.events, frets);
    // An open string that becomes a stopped one is another shape.
    if (!moved.ok || moved.value.lostOpen > 0) continue;
    const sounds = moved.value.events.flatMap((event) => event.notes);
    if (sounds.every((note, i) => note.pitch.midi === (notes[i]?.pitch.midi ?? 0) + semitones))
      return { events: moved.value.events, shape: { strings, frets } };
  }
  return null;
}

/** Two notes that begin together. */
export interface IntervalRow {
  readonly at: Quarter;
  readonly model: { readonly event: string; readonly midi: number };
  readonly voice: { readonly event: string; readonly midi: number };
  readonly semitones: Semitones;
  /** In steps of the scale of the key there: 2 is a third. Null without a key. */
  readonly steps: number | null;
  /** It is not what holds elsewhere: meant? */
  readonly deviates: boolean;
}

/** The interval that holds between two voices: the larger part of them, or none. */
export type HeldInterval =
  | { readonly by: 'semitones'; readonly semitones: Semitones; readonly share: number }
  | { readonly by: 'steps'; readonly steps: number; readonly share: number };

export interface ComparedVoices {
  readonly rows: readonly IntervalRow[];
  /** Null: counterpoint, no interval holds. */
  readonly held: HeldInterval | null;
  /** Events of one that begin where the other has none. */
  readonly alone: { readonly model: readonly string[]; readonly voice: readonly string[] };
}

/** From which share on an interval is what holds, and the rest deviates from it. */
const HOLDS = 0.6;
/** Fewer notes together are no pattern. */
const LEAST = 3;

/**
 * The table of intervals between a line and another, where they begin together; the highest notes of chords are
 * compared, each in the key where it stands. A scale's interval is preferred to a fixed one only where it holds for
 * more of the notes: thirds in a key are of two sizes.
 */
export function compareVoices(
  model: readonly RiffEvent[],
  voice: readonly RiffEvent[],
  keyAt: (at: Quarter) => Key | null,
): ComparedVoices {
  const top = (event: RiffEvent): number => Math.max(...event.notes.map((note) => note.pitch.midi));
  const [mine, theirs] = [model, voice].map((events) => events.filter((event) => event.notes.length > 0));
  const rows: Omit<IntervalRow, 'deviates'>[] = [];
  const alone = { model: [] as string[], voice: [] as string[] };
  let k = 0;
  for (const event of mine ?? []) {
    for (let next = theirs?.[k]; next && cmp(next.at, event.at) < 0; next = theirs?.[++k]) alone.voice.push(next.id);
    const there = theirs?.[k];
    if (!there || there.at !== event.at) {
      alone.model.push(event.id);
      continue;
    }
    k++;
    const [low, high] = [top(event), top(there)];
    const key = keyAt(event.at);
    rows.push({
      at: event.at,
      model: { event: event.id, midi: low },
      voice: { event: there.id, midi: high },
      semitones: high - low,
      steps: key ? stepOf(high, key).step - stepOf(low, key).step : null,
    });
  }
  alone.voice.push(...(theirs ?? []).slice(k).map((event) => event.id));
  const held = heldBy(rows);
  const deviates = (row: Omit<IntervalRow, 'deviates'>): boolean => {
    if (held === null) return false;
    if (held.by === 'semitones') return row.semitones !== held.semitones;
    const key = keyAt(row.at);
    return !key || row.voice.midi !== voicePitch(row.model.midi, { by: 'steps', steps: held.steps, key });
  };
  return { held, alone, rows: rows.map((row) => ({ ...row, deviates: deviates(row) })) };
}

function heldBy(rows: readonly Omit<IntervalRow, 'deviates'>[]): HeldInterval | null {
  if (rows.length < LEAST) return null;
  const most = (of: (row: (typeof rows)[number]) => number | null): readonly [number, number] | null => {
    const counts = new Map<number, number>();
    for (const row of rows) {
      const value = of(row);
      if (value !== null) counts.set(value, (counts.get(value) ?? 0) + 1);
    }
    return [...counts].sort((a, b) => b[1] - a[1])[0] ?? null;
  };
  const fixed = most((row) => row.semitones);
  const inScale = most((row) => row.steps);
  const share = (found: readonly [number, number] | null): number => (found?.[1] ?? 0) / rows.length;
  if (Math.max(share(fixed), share(inScale)) < HOLDS) return null;
  return inScale && share(inScale) > share(fixed)
    ? { by: 'steps', steps: inScale[0], share: share(inScale) }
    : { by: 'semitones', semitones: fixed?.[0] ?? 0, share: share(fixed) };
}

const SIZES = ['unison', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh'] as const;
const QUALITIES: readonly string[] = [
  ...['unison', 'minor second', 'major second', 'minor third', 'major third', 'fourth', 'augmented fourth'],
  ...['fifth', 'minor sixth', 'major sixth', 'minor seventh', 'major seventh'],
];

function sized(size: number, octave: number, name: string): string {
  const octaves = Math.floor(Math.abs(size) / octave);
  if (octaves === 0) return name;
  const many = octaves === 1 ? 'octave' : `${octaves} octaves`;
  return name === 'unison' ? many : `${many} and ${name}`;
}
const direction = (size: number): string => (size > 0 ? ' above' : size < 0 ? ' below' : '');

/** "a minor third above", as it is written in a table: "minor third above". */
export const semitoneWords = (semitones: Semitones): string =>
  `${sized(semitones, 12, QUALITIES[Math.abs(semitones) % 12] ?? '')}${direction(semitones)}`;

/** "third above, in the key". */
export const stepWords = (steps: number): string =>
  `${sized(steps, 7, SIZES[Math.abs(steps) % 7] ?? '')}${direction(steps)}`;

/** What holds between two voices, in words. */
export function heldWords({ held, rows }: Pick<ComparedVoices, 'held' | 'rows'>): string {
  if (rows.length === 0) return 'They never begin a note together.';
  if (!held)
    return rows.length < LEAST
      ? 'Too few notes begin together to call it a second voice.'
      : 'No interval holds: it is a counterpoint, a line of its own.';
  const name = held.by === 'steps' ? `${stepWords(held.steps)}, in the key` : semitoneWords(held.semitones);
  const off = rows.filter((row) => row.deviates).length;
  const article = /^[aeiou]/.test(name) ? 'An' : 'A';
  const what = /^\d|^unison/.test(name) ? name.charAt(0).toUpperCase() + name.slice(1) : `${article} ${name}`;
  if (off === 0) return `${what}, throughout.`;
  return `${what}, but for ${off} of ${rows.length} notes.`;
}
