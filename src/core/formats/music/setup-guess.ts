import type { Midi } from '../../base';
import { fullCapo, INSTRUMENTS, tuningOf, type Instrument, type Setup } from '../../instrument';
import type { MusicPart } from './types';

/** MIDI programs of basses, from 0. */
const BASSES = { from: 32, to: 39 } as const;
const MOST_FRETS = 36;

export interface GuessedSetup {
  readonly setup: Setup;
  /** What was assumed because the file doesn't say it; null where it says all. */
  readonly assumed: string | null;
}

/** The lowest and highest pitch of a part; null where it has no notes. */
export function rangeOf(part: Pick<MusicPart, 'events' | 'stats'>): { readonly low: Midi; readonly high: Midi } | null {
  if (part.stats) return part.stats.notes > 0 ? { low: part.stats.low, high: part.stats.high } : null;
  let [low, high] = [Infinity, -Infinity];
  for (const event of part.events)
    for (const note of event.notes) {
      low = Math.min(low, note.pitch.midi);
      high = Math.max(high, note.pitch.midi);
    }
  return low === Infinity ? null : { low, high };
}

/**
 * The set-up a part of a file is for: its own strings on the instrument of the catalogue that fits them best, or,
 * where the file names none, the usual one of its kind that reaches the lowest note.
 */
export function guessSetup(part: MusicPart): GuessedSetup {
  if (part.setup) return { setup: part.setup, assumed: null };
  const highest = (part.placed ? part.events : []).reduce(
    (most, event) => event.notes.reduce((fret, note) => Math.max(fret, note.place?.fret ?? 0), most),
    0,
  );
  if (part.tuning && part.tuning.length > 0) {
    const instrument = instrumentFor(part.tuning, part.kind);
    const frets = Math.min(MOST_FRETS, Math.max(instrument.frets, highest + part.capo));
    return {
      setup: {
        instrument: { ...instrument, frets },
        tuningId: tuningOf(instrument, part.tuning)?.id ?? null,
        open: part.tuning,
        absent: [],
        capos: fullCapo(Math.min(part.capo, Math.max(0, frets - 2), 12)),
      },
      assumed: null,
    };
  }
  const range = rangeOf(part);
  const isBass =
    part.kind === 'bass' ||
    (part.program !== null && part.program >= BASSES.from && part.program <= BASSES.to) ||
    (part.kind === 'other' && range !== null && range.high <= 57);
  const low = range?.low ?? 40;
  const id = isBass ? (low < 28 ? 'bass-5' : 'bass-4') : low < 35 ? 'guitar-8' : low < 38 ? 'guitar-7' : 'guitar-6';
  const instrument = named(id);
  const reference = instrument.strings.map((string) => string.pitch);
  // One tone below the thickest string is the usual dropped tuning.
  const open = id === 'guitar-6' && low < 40 ? [38, ...reference.slice(1)] : reference;
  const frets = Math.min(MOST_FRETS, Math.max(instrument.frets, highest + part.capo));
  return {
    setup: {
      instrument: { ...instrument, frets },
      tuningId: tuningOf(instrument, open)?.id ?? null,
      ...{ open, absent: [], capos: fullCapo(Math.min(part.capo, 12)) },
    },
    assumed: `The file names no tuning: taken as ${instrument.name.toLowerCase()}, the lowest note decides.`,
  };
}

const named = (id: string): Instrument =>
  INSTRUMENTS.find((one) => one.id === id) ?? (INSTRUMENTS[0] as (typeof INSTRUMENTS)[number]);

/** Of the instruments with so many strings the one whose own tuning lies nearest; else one made of such strings. */
function instrumentFor(open: readonly Midi[], kind: MusicPart['kind']): Instrument {
  const far = (one: Instrument): number =>
    one.strings.reduce((sum, string, i) => sum + Math.abs(string.pitch - (open[i] ?? string.pitch)), 0) +
    // Told to be a bass or none, that decides between equals.
    (kind === 'other' || (one.kind === 'bass') === (kind === 'bass') ? 0 : 6);
  const same = INSTRUMENTS.filter((one) => one.strings.length === open.length);
  const [first] = [...same].sort((a, b) => far(a) - far(b));
  if (first) return first;
  const base = named(kind === 'bass' ? 'bass-6' : 'guitar-8');
  const strings = open.map((pitch) => ({
    ...base.strings.reduce((best, one) => (Math.abs(one.pitch - pitch) < Math.abs(best.pitch - pitch) ? one : best)),
    pitch,
  }));
  const width = (mm: number): number => Math.round((mm * (open.length - 1)) / Math.max(1, base.strings.length - 1));
  return {
    ...base,
    ...{ id: `strings-${open.length}`, name: `${open.length} strings`, strings },
    ...{
      nutSpacingMm: Math.max(8, width(base.nutSpacingMm)),
      bridgeSpacingMm: Math.max(10, width(base.bridgeSpacingMm)),
    },
  };
}
