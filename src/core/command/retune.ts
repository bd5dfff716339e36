import { carryOver, carryPart, type CarriedRiff } from '../carry';
import { ok, type Result, type Semitones } from '../base';
import type { Edit, SimpleEdit } from '../edit';
import { chordName, parseChord, shiftChord } from '../harmony';
import { fullCapo, retunePlan, setupWords, tuningOf, type RetunePlan, type Setup } from '../instrument';
import { keyName, parseName, shiftKey, spell, pitchClass, renderName, type Key } from '../pitch';
import { bestWay, optionsFor, problemOf, solve } from '../place';
import { keyOf, tempoOf, type Part, type Piece, type Riff, type RiffEvent, type Section } from '../score';
import { together } from './fields';

/** The whole piece in another key, for a singer: the ways there, compared for all parts at once. */

export type RetuneWay = 'capo' | 'detune' | 'anew';

/** What one part does. */
export interface RetunedPart {
  readonly part: string;
  readonly name: string;
  readonly setup: Setup;
  readonly keep: 'sound' | 'shape';
  readonly riffs: readonly CarriedRiff[];
  /** Things that can't be played or sound otherwise, beside what is meant. */
  readonly losses: number;
  readonly openKept: number;
  readonly openWas: number;
  readonly cost: { readonly before: number; readonly after: number };
  readonly retune: RetunePlan | null;
  readonly words: string;
}

export interface RetuneOption {
  readonly way: RetuneWay;
  readonly parts: readonly RetunedPart[];
  readonly losses: number;
  readonly cost: { readonly before: number; readonly after: number };
  /** What to tell the band. */
  readonly line: string;
}

const HIGHEST_CAPO = 9;
/** Strings are not tuned up by more, nor down by more: they snap, or hang. */
const MOST_UP = 2;
const MOST_DOWN = 5;

const capoOf = (setup: Setup): number =>
  Math.max(0, ...setup.capos.filter((one) => one.strings === null).map((one) => one.fret));

/** The set-up with its full capo elsewhere; null where none can be. */
function withCapo(setup: Setup, by: Semitones): Setup | null {
  const fret = capoOf(setup) + by;
  if (setup.instrument.kind === 'bass' || fret < 0 || fret > HIGHEST_CAPO) return null;
  return { ...setup, capos: [...fullCapo(fret), ...setup.capos.filter((one) => one.strings !== null)] };
}

function detuned(setup: Setup, by: Semitones): Setup | null {
  if (by > MOST_UP || by < -MOST_DOWN) return null;
  const open = setup.open.map((midi) => midi + by);
  return { ...setup, open, tuningId: tuningOf(setup.instrument, open)?.id ?? null };
}

/** Where a part goes on a way, and whether its frets stay; what has no such way is placed anew. */
function target(
  part: Part,
  way: RetuneWay,
  by: Semitones,
): { readonly setup: Setup; readonly keep: 'sound' | 'shape' } {
  const made = way === 'capo' ? withCapo(part.setup, by) : way === 'detune' ? detuned(part.setup, by) : null;
  return made ? { setup: made, keep: 'shape' } : { setup: part.setup, keep: 'sound' };
}

/**
 * A piece moved by semitones in three ways: by capo (where one can't be, placed anew), by tuning all strings, by
 * placing everything anew in the tunings as they are. Nothing is changed by asking.
 */
export function retuneOptions(piece: Piece, by: Semitones): RetuneOption[] {
  const ways: readonly RetuneWay[] = ['capo', 'detune', 'anew'];
  return ways.flatMap((way) => {
    const parts = piece.parts.map((part) => retunedPart(piece, part, way, by));
    // A way that no part can go is only placing anew under another name.
    if (way !== 'anew' && parts.every((part) => part.keep === 'sound')) return [];
    const sum = (of: (part: RetunedPart) => number): number => parts.reduce((total, part) => total + of(part), 0);
    return [
      {
        ...{ way, parts },
        losses: sum((part) => part.losses),
        cost: { before: sum((part) => part.cost.before), after: sum((part) => part.cost.after) },
        line: bandLineOf(piece, parts, by),
      },
    ];
  });
}

/** What a riff costs the hand as it lies now. */
function costOf(piece: Piece, part: Part, riff: Riff): number {
  const decided = {
    ...riff,
    events: riff.events.map((event) => ({
      ...event,
      notes: event.notes.map((note) => (note.place ? { ...note, place: { ...note.place, locked: true } } : note)),
    })),
  };
  return bestWay(solve(problemOf(decided, part.setup, tempoOf(piece, riff), optionsFor(piece, part)))).cost;
}

function retunedPart(piece: Piece, part: Part, way: RetuneWay, by: Semitones): RetunedPart {
  const { setup, keep } = target(part, way, by);
  const riffs = part.riffs.map((riff) => {
    const request = { from: part.setup, to: setup, tempo: tempoOf(piece, riff), options: optionsFor(piece, part) };
    const moved = keep === 'shape' ? riff : { ...riff, events: inSound(riff.events, by) };
    return carryOver({ ...request, riff: moved, keep, octaves: 0, key: keyOf(piece, null) });
  });
  // In another tuning the shape sounds elsewhere on purpose: that is what is asked for.
  const losses = riffs.flatMap((one) => one.losses.filter((loss) => !(loss.what === 'pitch' && loss.by === by)));
  const was = part.riffs
    .flatMap((riff) => riff.events)
    .flatMap((event) => event.notes)
    .filter((note) => note.place?.fret === 0).length;
  const opens = riffs
    .flatMap((one) => one.riff.events)
    .flatMap((event) => event.notes)
    .filter((note) => note.place?.fret === 0).length;
  const { open, absent } = part.setup;
  const retune = setup.open.join() === open.join() ? null : retunePlan(setup.instrument, open, setup.open, absent);
  return {
    ...{ part: part.id, name: part.name, setup, keep, riffs, retune },
    losses: losses.length,
    openKept: opens,
    openWas: was,
    cost: {
      before: part.riffs.reduce((sum, riff) => sum + costOf(piece, part, riff), 0),
      after: riffs.reduce((sum, one) => sum + one.cost.after, 0),
    },
    words: partWords(part, setup, keep, by),
  };
}

const steps = (by: Semitones): string =>
  `${Math.abs(by)} semitone${Math.abs(by) === 1 ? '' : 's'} ${by < 0 ? 'down' : 'up'}`;

function partWords(part: Part, setup: Setup, keep: 'sound' | 'shape', by: Semitones): string {
  if (keep === 'sound') return `${part.name} stays in ${setupWords(setup)} and plays ${steps(by)}`;
  const capo = capoOf(setup);
  if (setup.open.join() === part.setup.open.join())
    return `${part.name} plays the same shapes ${capo === 0 ? 'without capo' : `with the capo at fret ${capo}`}`;
  return `${part.name} tunes to ${setupWords(setup)} and plays the same shapes`;
}

function bandLineOf(piece: Piece, parts: readonly RetunedPart[], by: Semitones): string {
  const key = keyOf(piece, null);
  const to = key && shiftKey(key, by);
  const head = to ? `It sounds in ${keyName(to)}, ${steps(by)} from ${keyName(key)}.` : `It sounds ${steps(by)}.`;
  return `${head} ${parts.map((part) => part.words).join('; ')}.`;
}

/** Takes a way up: set-ups, notes, key, chords and bass of the piece in one step. */
export function retune(piece: Piece, option: RetuneOption, by: Semitones): Result<Edit> {
  const parts = option.parts.flatMap((one): SimpleEdit[] => {
    const part = piece.parts.find((it) => it.id === one.part);
    if (!part) return [];
    // Kept readings and variants go along: in shape as their riff does, else in sound, to be placed anew.
    const along =
      one.keep === 'shape'
        ? carryPart(part, one.setup, 'shape').riffs
        : part.riffs.map((riff) => readingsMoved(riff, by));
    const riffs = along.map((riff, i): Riff => ({
      ...riff,
      ...(riff.key ? { key: shiftKey(riff.key, by) } : {}),
      events: one.riffs[i]?.riff.events ?? riff.events,
    }));
    return [{ type: 'setSetup', part: part.id, setup: one.setup, riffs } as SimpleEdit];
  });
  const context = movedContext(piece.context, by) as Piece['context'];
  const sections = piece.sections.flatMap((section): SimpleEdit[] =>
    section.context
      ? [
          {
            type: 'patchSection',
            section: section.id,
            set: { context: movedContext(section.context, by) },
            clear: [],
          } as SimpleEdit,
        ]
      : [],
  );
  const set: Record<string, unknown> = {};
  for (const lane of ['key', 'chords', 'bass'] as const) if (context[lane]) set[lane] = context[lane];
  return ok(
    together(`moved the piece ${steps(by)}`, [
      ...parts,
      { type: 'patchContext', set, clear: [] } as SimpleEdit,
      ...sections,
    ]),
  );
}

const inSound = (events: readonly RiffEvent[], by: Semitones): RiffEvent[] =>
  events.map((event) => ({
    ...event,
    notes: event.notes.map((note) => {
      const { harmonic: _, ...technique } = note.technique ?? {};
      const midi = Math.max(0, Math.min(127, note.pitch.midi + by));
      return { ...note, pitch: { ...note.pitch, midi }, place: null, ...(note.technique ? { technique } : {}) };
    }),
  }));

function readingsMoved(riff: Riff, by: Semitones): Riff {
  return {
    ...riff,
    events: inSound(riff.events, by),
    ...(riff.alternatives
      ? { alternatives: riff.alternatives.map((one) => ({ ...one, events: inSound(one.events, by) })) }
      : {}),
    ...(riff.variants
      ? {
          variants: riff.variants.map((one) => ({
            ...one,
            change: {
              ...one.change,
              replaced: inSound(one.change.replaced, by),
              inserted: inSound(one.change.inserted, by),
            },
          })),
        }
      : {}),
  };
}

/** Names are stored with plain signs. */
const plainSigns = (text: string): string => text.replaceAll('♯', '#').replaceAll('♭', 'b');

/** Key, chords and bass of a context so many semitones on. */
function movedContext(context: NonNullable<Section['context']>, by: Semitones): NonNullable<Section['context']> {
  const key = context.key?.map((step) => ({ ...step, ...shiftKey({ tonic: step.tonic, mode: step.mode }, by) }));
  const into: Key | null = key?.[0] ? { tonic: key[0].tonic, mode: key[0].mode } : null;
  const chords = context.chords?.map((step) => {
    const chord = parseChord(step.chord);
    return chord.ok ? { ...step, chord: plainSigns(chordName(shiftChord(chord.value, by, into))) } : step;
  });
  const bass = context.bass?.map((step) => {
    const name = parseName(step.note);
    return name ? { ...step, note: plainSigns(renderName(spell((pitchClass(name) + by + 120) % 12, into))) } : step;
  });
  return { ...context, ...(key ? { key } : {}), ...(chords ? { chords } : {}), ...(bass ? { bass } : {}) };
}
