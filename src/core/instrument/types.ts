import type { Fret, Midi, Millimetres, NutFret, StringNumber } from '../base';

export type InstrumentKind = 'electric' | 'acoustic' | 'classical' | 'bass' | 'baritone' | 'tenor';

/** One string (or course) of an instrument, as it leaves the catalogue. */
export interface InstrumentString {
  /** Open pitch in the reference tuning. */
  readonly pitch: Midi;
  readonly gaugeMm: Millimetres;
  readonly wound: boolean;
  /** For double courses: the second string's distance in semitones (0 unison, 12 octave). */
  readonly course?: number;
}

export interface Instrument {
  readonly id: string;
  readonly name: string;
  readonly kind: InstrumentKind;
  /** Thick to thin, as tunings are spelled. */
  readonly strings: readonly InstrumentString[];
  readonly scaleMm: Millimetres;
  readonly frets: number;
  /** The last fret reached without strain (body joint). */
  readonly easyFrets: number;
  readonly nutSpacingMm: Millimetres;
  readonly bridgeSpacingMm: Millimetres;
}

export type TuningFamily = 'standard' | 'dropped' | 'detuned' | 'open' | 'modal' | 'baritone' | 'extended' | 'altered';

/** A tuning of the catalogue: data, not code. Strings thick to thin, with octaves. */
export interface Tuning {
  readonly id: string;
  readonly name: string;
  readonly family: TuningFamily;
  /** Open pitches thick to thin, as names with octave ("D2 A2 D3 G3 B3 E4"). */
  readonly spelling: string;
  /** Instruments of the catalogue it is meant for. */
  readonly instruments: readonly string[];
}

/**
 * Everything that decides what a fret sounds like: the instrument, what its strings are tuned to,
 * which are taken off, and the capo. Self-contained, so that a piece keeps its meaning when the
 * catalogue changes.
 */
export interface Setup {
  readonly instrument: Instrument;
  /** Catalogue id of the tuning where it is one. */
  readonly tuningId: string | null;
  /** Open sounding pitch of each string without capo, thick to thin. */
  readonly open: readonly Midi[];
  /** Numbers of strings taken off. */
  readonly absent: readonly StringNumber[];
  /** Fret of a full capo from the nut, 0 for none. */
  readonly capo: NutFret;
}

/** A string and a fret counted from the capo. */
export interface Position {
  readonly string: StringNumber;
  readonly fret: Fret;
}
