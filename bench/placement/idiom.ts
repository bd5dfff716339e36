import { openPitch, stringNumbers, type Setup, type TuningFamily } from '../../src/core/instrument';
import type { PlaceEvent, PlaceLink } from '../../src/core/place';
import { quarter, type Quarter } from '../../src/core/time';
import type { Random } from '../lib/random';

/**
 * Phrases written as a hand moves: every generator knows string and fret before any program is asked. What makes an
 * idiom is how hands and tunings suggest it, never what the solver would find cheap; nothing here knows its costs.
 */

/** One stroke of a phrase: frets by string from the capo, length in eighths. */
export interface Stroke {
  readonly frets: readonly { readonly string: number; readonly fret: number; readonly bend?: number }[];
  readonly eighths: number;
  readonly ring?: boolean;
  readonly link?: PlaceLink;
}

/** What an idiom writes with. */
export interface Desk {
  readonly random: Random;
  readonly setup: Setup;
  /** Strings from thick to thin. */
  readonly strings: readonly number[];
  readonly frets: number;
  readonly open: (string: number) => number;
  /** Pitch classes of the key in use, from its tonic. */
  readonly scale: readonly number[];
  readonly tonic: number;
}

export interface Idiom {
  readonly name: string;
  readonly kinds: 'guitar' | 'bass' | 'both';
  /** Families of tunings where players do this. */
  readonly families: readonly TuningFamily[];
  /** Whether it needs the thin strings tuned a fourth, fourth, third, fourth apart as guitars are. */
  readonly standardUpper?: boolean;
  readonly write: (desk: Desk) => Stroke[];
}

export const mod12 = (n: number): number => ((n % 12) + 12) % 12;

const SCALES: Readonly<Record<string, readonly number[]>> = {
  minorFive: [0, 3, 5, 7, 10],
  majorFive: [0, 2, 4, 7, 9],
  minor: [0, 2, 3, 5, 7, 8, 10],
  major: [0, 2, 4, 5, 7, 9, 11],
  mixolydian: [0, 2, 4, 5, 7, 9, 10],
  dorian: [0, 2, 3, 5, 7, 9, 10],
};

/** A desk for a set-up: mostly in a key whose tonic one of the thick open strings sounds, as riffs are. */
export function deskOf(random: Random, setup: Setup): Desk {
  const strings = stringNumbers(setup);
  const open = (string: number): number => openPitch(setup, string);
  const thick = strings.slice(0, 2);
  const tonic =
    random() < 0.75 ? mod12(open(thick[random() < 0.7 ? 0 : 1] ?? strings[0] ?? 1)) : Math.floor(random() * 12);
  const names = Object.keys(SCALES);
  const steps = SCALES[names[Math.floor(random() * names.length)] ?? 'minor'] ?? [];
  return {
    ...{ random, setup, strings, open, tonic },
    frets: setup.instrument.easyFrets - Math.max(0, ...setup.capos.map((capo) => capo.fret)),
    scale: steps.map((step) => mod12(tonic + step)),
  };
}

/** Frets of the scale on a string within a hand. */
export const inHand = (desk: Desk, string: number, from: number, to: number): number[] =>
  Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => from + i).filter(
    (fret) => fret >= 0 && fret <= desk.frets && desk.scale.includes(mod12(desk.open(string) + fret)),
  );

/** The fret on a string that sounds a pitch, or null where it has none within the easy frets. */
export function fretOf(desk: Desk, string: number, pitch: number): number | null {
  const fret = pitch - desk.open(string);
  return fret >= 0 && fret <= desk.frets ? fret : null;
}

export const one = (string: number, fret: number, eighths = 1, more: Partial<Stroke> = {}): Stroke => ({
  frets: [{ string, fret }],
  eighths,
  ...more,
});

/** Strokes as the solver is asked about them, and the player's places beside. */
export function phraseOf(
  setup: Setup,
  strokes: readonly Stroke[],
): { readonly events: PlaceEvent[]; readonly wanted: readonly (readonly { string: number; fret: number }[])[] } {
  let at = 0;
  const events = strokes.map((stroke, i): PlaceEvent => {
    const event: PlaceEvent = {
      id: `e${i}`,
      at: eighths(at),
      dur: eighths(stroke.eighths),
      link: stroke.link ?? null,
      ring: stroke.ring ?? false,
      notes: sorted(setup, stroke).map(({ string, fret, bend }) => ({
        pitch: openPitch(setup, string) + fret,
        lock: null,
        dur: null,
        ...(bend ? { bend } : {}),
      })),
    };
    at += stroke.eighths;
    return event;
  });
  return { events, wanted: strokes.map((stroke) => sorted(setup, stroke)) };
}

const eighths = (n: number): Quarter => quarter(n, 2);

const sorted = (setup: Setup, stroke: Stroke): Stroke['frets'][number][] =>
  [...stroke.frets].sort((a, b) => openPitch(setup, a.string) + a.fret - openPitch(setup, b.string) - b.fret);
