import {
  baseNut,
  HARMONIC_NODES,
  nutOf,
  openPitch,
  shownFret,
  stringNumbers,
  type FretCounting,
  type Setup,
} from '@/core/instrument';
import type { Naming } from '@/core/pitch';
import { DEFAULT_SCHOOLS, type Schools } from '@/core/schools';
import type { Note, Riff } from '@/core/score';

export type LaneName = 'staff' | 'sound' | 'strings' | 'hand' | 'stroke' | 'count' | 'harmony';

/** All lanes, as they lie from top to bottom. */
export const LANES: readonly LaneName[] = ['staff', 'sound', 'strings', 'hand', 'stroke', 'count', 'harmony'];

/** What the lanes of a riff share over all rows: ranges, so that heights mean the same everywhere. */
export interface LaneScales {
  readonly lowPitch: number;
  readonly highPitch: number;
  readonly lowFret: number;
  readonly highFret: number;
  readonly strings: readonly number[];
  /** The fret the neck counts from: hands are given from there. */
  readonly base: number;
  /** Where each string begins, by string number. */
  readonly nuts: readonly number[];
  /** The open sound of each string, by string number. */
  readonly opens: readonly number[];
  readonly counting: FretCounting;
  readonly naming: Naming;
}

/** The number written for a place, by the school of counting. */
export const fretText = (
  scales: Pick<LaneScales, 'nuts' | 'counting'>,
  place: { readonly string: number; readonly fret: number },
): string => String(scales.counting === 'nut' ? place.fret + (scales.nuts[place.string] ?? 0) : place.fret);

/**
 * What stands on a string for a note: its fret; a cross where it is dead; the node in angle brackets where it is a
 * harmonic; with a bar, where between the frets.
 */
export function noteText(note: Note, fret: string): string {
  const { technique: techniques, place, pitch } = note;
  if (techniques?.dead) return '×';
  if (techniques?.harmonic && place)
    return `‹${HARMONIC_NODES.find((node) => Math.round(node.fret) === place.fret)?.fret ?? fret}›`;
  if (pitch.cents !== 0 && /^\d+$/.test(fret)) return (Number(fret) + pitch.cents / 100).toFixed(1);
  return fret;
}

/** A bend as it is written beside its arrow: in whole tones where it is one, else in quarters. */
export const bendText = (cents: number): string =>
  (({ 50: '¼', 100: '½', 150: '¾', 200: '1', 250: '1¼', 300: '1½', 350: '1¾', 400: '2' }) as Record<number, string>)[
    cents
  ] ?? `${cents}c`;

/** The same for drawings that have the set-up at hand. */
export const fretTextOf =
  (setup: Setup, counting: FretCounting) =>
  (place: { readonly string: number; readonly fret: number }): string =>
    String(shownFret(setup, place.string, place.fret, counting));

export function laneScales(
  riff: Riff,
  setup: Setup,
  hands: ReadonlyMap<string, number>,
  schools: Pick<Schools, 'frets' | 'notes'> = DEFAULT_SCHOOLS,
): LaneScales {
  const base = baseNut(setup);
  const nuts = Array.from({ length: setup.open.length + 1 }, (_, s) => (s === 0 ? 0 : nutOf(setup, s)));
  let lowPitch = Infinity;
  let highPitch = -Infinity;
  let lowFret = Infinity;
  let highFret = -Infinity;
  for (const event of riff.events) {
    const hand = hands.get(event.id) ?? 0;
    if (hand > 0) {
      lowFret = Math.min(lowFret, hand + base);
      highFret = Math.max(highFret, hand + base + 3);
    }
    for (const note of event.notes) {
      lowPitch = Math.min(lowPitch, note.pitch.midi);
      highPitch = Math.max(highPitch, note.pitch.midi);
      if (note.place && note.place.fret > 0) {
        const fret = note.place.fret + (nuts[note.place.string] ?? 0);
        lowFret = Math.min(lowFret, fret);
        highFret = Math.max(highFret, fret);
      }
    }
  }
  const strings = stringNumbers(setup);
  if (lowPitch === Infinity) {
    lowPitch = openPitch(setup, strings[0] ?? 1);
    highPitch = lowPitch + 24;
  }
  if (lowFret === Infinity) [lowFret, highFret] = [base + 1, base + 4];
  return {
    lowPitch,
    highPitch: Math.max(highPitch, lowPitch + 7),
    lowFret,
    highFret: Math.max(highFret, lowFret + 4),
    strings: [...strings].reverse(),
    base,
    nuts,
    opens: Array.from({ length: setup.open.length + 1 }, (_, s) => (s === 0 ? 0 : openPitch(setup, s))),
    counting: schools.frets,
    naming: schools.notes,
  };
}

/** `over` is the band over the strings for palm mutes, accents and volume. */
export const LANE = {
  label: 84,
  pad: 14,
  stringGap: 21,
  staff: 118,
  sound: 56,
  over: 16,
  hand: 66,
  stroke: 25,
  count: 21,
  harmony: 52,
  gap: 4,
  top: 22,
} as const;

/** Heights of the shown lanes, one under another: y of each lane's top, and of the bottom. */
export function laneTops(lanes: ReadonlySet<LaneName>, strings: number): Record<LaneName | 'bottom', number> {
  let y: number = LANE.top;
  const tops = { staff: 0, sound: 0, strings: 0, hand: 0, stroke: 0, count: 0, harmony: 0, bottom: 0 };
  const heights: Record<LaneName, number> = {
    staff: LANE.staff,
    sound: LANE.sound,
    strings: LANE.over + (strings - 1) * LANE.stringGap + 22,
    hand: LANE.hand,
    stroke: LANE.stroke,
    count: LANE.count,
    harmony: LANE.harmony,
  };
  for (const lane of LANES) {
    tops[lane] = y;
    if (lanes.has(lane)) y += heights[lane] + LANE.gap;
  }
  tops.bottom = y;
  return tops;
}
