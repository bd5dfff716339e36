import type { Fret, Midi, Millimetres, NutFret, StringNumber } from '../base';

export type InstrumentKind = 'electric' | 'acoustic' | 'classical' | 'bass' | 'baritone' | 'tenor';

/** What a string is made of, as far as its weight goes: steel or nylon, plain or wound. */
export type StringKind = 'plain' | 'wound' | 'nylon' | 'nylon-wound';

/** What a string is: gauge, make, and the maker's unit weight where it is known. */
export interface StringMake {
  readonly gaugeMm: Millimetres;
  readonly kind: StringKind;
  /** Mass per length in kg/m as the maker states it; goes before any formula. */
  readonly unitWeight?: number | undefined;
}

/** One string (or course) of an instrument, as it leaves the catalogue. */
export interface InstrumentString extends StringMake {
  /** Open pitch in the reference tuning. */
  readonly pitch: Midi;
  /** For double courses: the second string and its distance in semitones (0 unison, 12 octave). */
  readonly course?: (StringMake & { readonly semitones: number }) | undefined;
  /** Speaking length of this string alone, where the frets are fanned. */
  readonly scaleMm?: Millimetres | undefined;
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
  /** The hand that plucks: a left-handed neck is drawn mirrored. */
  readonly handed: 'right' | 'left';
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
  /** Where it comes from and what it is for, in words. */
  readonly source: string;
}

/** A capo: its fret from the nut and the strings it stops; null stands for all of them. */
export interface Capo {
  readonly fret: NutFret;
  readonly strings: readonly StringNumber[] | null;
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
  /** At most two, full or partial. On each string the one nearest the bridge is its nut. */
  readonly capos: readonly Capo[];
  /** How the tuning was spelled, where it was with one kind of sign: its strings are named so. */
  readonly signs?: 'flats' | 'sharps' | undefined;
}

/** A string and a fret counted from the string's own zero: the capo where one stops it, or the nut. */
export interface Position {
  readonly string: StringNumber;
  readonly fret: Fret;
}
