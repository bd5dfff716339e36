import type { Fret, Midi, Millimetres, StringNumber } from '../base';
import type { Instrument, Setup, Tuning, TuningFamily } from '../instrument';
import type { PlaceEvent, Way } from '../place';
import type { MeterChange, TempoStep } from '../time';

/**
 * What an instructor hears or sees of how something is played. Notes are named by their event and index in it; a clue
 * without an index means all of the event's notes.
 */
export type Clue =
  /** It sounds like an open string; or it bends or shakes, so it can't be one. */
  | { readonly kind: 'open' | 'stopped'; readonly event: string; readonly note: number | null }
  /** Seen or known to be on that string, and at that fret from the capo where one knows. */
  | {
      readonly kind: 'string';
      readonly event: string;
      readonly note: number | null;
      readonly string: StringNumber;
      readonly fret?: Fret | undefined;
    }
  /** These ring into each other: each sounds until the last of them has ended. */
  | { readonly kind: 'ring'; readonly events: readonly string[] }
  /** This note is hammered on from an open string: the one before it is open on the same string. */
  | { readonly kind: 'hammeredFromOpen'; readonly event: string }
  /** It sounds slack: its string is tuned well below what it is made for. */
  | { readonly kind: 'slack'; readonly event: string; readonly note: number | null }
  /** This pitch goes on under moving notes, wherever it comes: an open string. */
  | { readonly kind: 'drone'; readonly event: string; readonly note: number | null }
  /** One shape moves through these: the same strings, all frets by the same step. */
  | { readonly kind: 'shape'; readonly events: readonly string[] };

/** What the player may have used. Absent: no limit, and the instrument as given. */
export interface FinderLimits {
  readonly instruments: readonly Instrument[];
  readonly families?: readonly TuningFamily[] | undefined;
  /** False: no capo. Default true. */
  readonly capo?: boolean | undefined;
  /** Tunings of one's own, beside the catalogue's. */
  readonly tunings?: readonly Tuning[] | undefined;
}

export interface FinderQuestion {
  /** Places and locks in them are not looked at: they are what is asked. */
  readonly events: readonly PlaceEvent[];
  readonly tempo: readonly TempoStep[];
  readonly meters: readonly MeterChange[];
  readonly clues: readonly Clue[];
  readonly limits: FinderLimits;
}

/** A tuning and capo that give the same open strings as others of its candidate. */
export interface Member {
  readonly setup: Setup;
  /** How common it is: a natural logarithm, 0 for the commonest. */
  readonly common: number;
}

/** One set of open strings from the capo on, and every tuning with capo that gives it. */
export interface Candidate {
  readonly instrument: Instrument;
  /** Open pitches thick to thin, capo included. */
  readonly open: readonly Midi[];
  readonly absent: readonly StringNumber[];
  /** Commonest first. */
  readonly members: readonly Member[];
  /** All of them together, as `common`. */
  readonly common: number;
}

/** Why a set-up stands where it stands: values first, so that they can be checked; `words` says them. */
export type Reason = { readonly words: string } & (
  | {
      readonly kind: 'below';
      readonly bar: number;
      readonly event: string;
      readonly pitch: Midi;
      readonly lowest: Midi;
    }
  | { readonly kind: 'blocked'; readonly bar: number; readonly events: readonly string[]; readonly limit: string }
  | { readonly kind: 'lowest'; readonly string: StringNumber; readonly pitch: Midi; readonly times: number }
  | { readonly kind: 'open'; readonly times: number; readonly of: number; readonly strings: readonly StringNumber[] }
  | { readonly kind: 'ring'; readonly bar: number; readonly strings: readonly StringNumber[] }
  | { readonly kind: 'clue'; readonly clue: number; readonly kept: boolean }
  | { readonly kind: 'reach'; readonly bar: number; readonly mm: Millimetres }
  | { readonly kind: 'bar'; readonly bar: number; readonly extra: number; readonly than: string }
  | { readonly kind: 'closed' }
  | { readonly kind: 'unused'; readonly strings: readonly StringNumber[] }
);

/** One answer: a set-up with all that the sound can't tell from it. */
export interface Ranked {
  readonly setup: Setup;
  /** Its share of belief among all candidates, 0 to 1. */
  readonly share: number;
  /** Others that play the very same strings and frets from their capo, commonest first. */
  readonly equivalent: readonly Setup[];
  readonly reasons: readonly Reason[];
  /** The best way found in it, events as asked. */
  readonly way: Way;
  /** Clues it can't explain, by their index. */
  readonly against: readonly number[];
}

/** The observation that would decide between the first two answers. */
export interface Observation {
  readonly event: string;
  readonly note: number;
  readonly bar: number;
  /** What speaks for the first, and what for the second: in words, and as the clue that says so. */
  readonly first: { readonly words: string; readonly clue: Clue };
  readonly second: { readonly words: string; readonly clue: Clue };
  readonly words: string;
}

export interface FinderAnswer {
  /** Likeliest first, at most ten. */
  readonly ranking: readonly Ranked[];
  /** Whether the first is likely enough to be said; else "can't tell". */
  readonly certain: boolean;
  /** Null where nothing in these notes would decide. */
  readonly ask: Observation | null;
  /** One sentence on the margin. */
  readonly words: string;
  /** How many sets of open strings were looked at. */
  readonly looked: number;
}
