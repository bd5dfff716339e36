import type { Cents, Finding, Finger, Fret, Locus, Midi, NutFret, Semitones, StringNumber } from '../base';
import type { CostTable, Profile } from '../hand';
import type { Setup } from '../instrument';
import type { MeterChange, Quarter, TempoStep } from '../time';

/** How one note leads to another: the later one is not picked and stays on the string. */
export type PlaceLink = 'hammer' | 'pull' | 'slide';

/** A place that is decided, and the finger where that is decided too. */
export interface Lock {
  readonly string: StringNumber;
  readonly fret: Fret;
  readonly finger: Finger | null;
}

export interface PlaceNote {
  readonly pitch: Midi;
  readonly lock: Lock | null;
  /** Own length, where it differs from the event's. */
  readonly dur: Quarter | null;
  /** The farthest it is bent, in cents above `pitch`; such a note has to be stopped. */
  readonly bend?: Cents | undefined;
  /** Trilled with the note so far above it on the same string, 1 to 12 semitones. */
  readonly trill?: Semitones | undefined;
  /** Struck on a string that is damped: needs the string, and no finger of its own. */
  readonly dead?: boolean | undefined;
  /**
   * Lowest fret it may lie at, for what needs a finger or a fret below it; and how many frets have to be left above.
   */
  readonly least?: number | undefined;
  readonly above?: number | undefined;
  /** Not on the string at that edge of the neck, over which it would be bent. */
  readonly notEdge?: 'thick' | 'thin' | undefined;
  /** Stopped by a finger of the picking hand: the fretting hand has nothing to do. */
  readonly tapped?: boolean | undefined;
  /** A natural harmonic: touched, not pressed; it rings on when the finger has left. */
  readonly harmonic?: boolean | undefined;
  /** Hammered onto a silent string by the fretting hand: the picking hand has nothing to do. */
  readonly hammered?: boolean | undefined;
  /** How long from its onset the finger stays down, also after the note has ended. */
  readonly keep?: Quarter | undefined;
  /** How it leads to a note of the next event; absent, as the event says. Null: it doesn't. */
  readonly link?: PlaceLink | null | undefined;
  /** Sounds so many cents above `pitch`: between the frets, which only a slide bar can. */
  readonly cents?: Cents | undefined;
}

/** What an instructor wishes for a stretch. */
export interface Wish {
  /** Hand position, a fret from the capo. */
  readonly hand?: Fret | null | undefined;
  /** -1 avoid open strings, 0 neutral, 1 seek them. */
  readonly liking?: number | null | undefined;
  /** Strings that may not be used. */
  readonly avoid?: readonly StringNumber[] | undefined;
  /** Strings to use where it can be; others cost. */
  readonly prefer?: readonly StringNumber[] | undefined;
  /** The thumb over the neck or kept behind it, whatever the player's habit. */
  readonly thumb?: 'over' | 'behind' | undefined;
}

/** What sounds from one onset on, the program's input. Events are sorted by onset, one at a time. */
export interface PlaceEvent {
  readonly id: string;
  readonly at: Quarter;
  readonly dur: Quarter;
  readonly notes: readonly PlaceNote[];
  /** How all of its notes lead to the next event that say nothing else themselves. */
  readonly link: PlaceLink | null;
  /** Keeps ringing to the end of the run of ringing events or of the bar, or until its pitch is struck again. */
  readonly ring: boolean;
  readonly wish?: Wish | undefined;
  /** Played with a slide bar (bottleneck): one straight bar, any place along the neck, also between frets. */
  readonly bar?: boolean | undefined;
}

export interface PlaceOptions {
  readonly profile: Profile;
  readonly costs: CostTable;
  /** -1 avoid open strings, 0 neutral, 1 seek them. */
  readonly openLiking: number;
  /** Wished hand position as a fret from the capo, or null. */
  readonly wishedHand: Fret | null;
}

export interface Problem {
  readonly setup: Setup;
  readonly tempo: readonly TempoStep[];
  readonly meters: readonly MeterChange[];
  readonly events: readonly PlaceEvent[];
  readonly options: PlaceOptions;
}

export type TermName =
  | 'stretch'
  | 'finger'
  | 'spread'
  | 'bunched'
  | 'barre'
  | 'gap'
  | 'open'
  | 'openThin'
  | 'openFar'
  | 'pedal'
  | 'openGrip'
  | 'dull'
  | 'low'
  | 'high'
  | 'far'
  | 'wish'
  | 'offString'
  | 'closed'
  | 'bend'
  | 'thumb'
  | 'damp'
  | 'travel'
  | 'blindShift'
  | 'jump'
  | 'roll'
  | 'drag'
  | 'cross'
  | 'skip'
  | 'reshape'
  | 'swap';

/** One part of a cost, with the quantity it was made from (mm, frets, strings, times). */
export interface Term {
  readonly name: TermName;
  readonly cost: number;
  readonly amount: number;
}

export interface PlacedNote {
  readonly pitch: Midi;
  readonly string: StringNumber;
  readonly fret: Fret;
  /** 5 is the thumb over the neck. */
  readonly finger: Finger;
  /** The finger that trills above it. */
  readonly trillFinger?: Finger | undefined;
}

export interface PlacedEvent {
  readonly id: string;
  /** Fret of the index finger from the capo; 0 where the hand has not been needed yet. */
  readonly hand: Fret;
  /** In the order of the input; null where a note had to be left out (see `blocked`). */
  readonly notes: readonly (PlacedNote | null)[];
  /** Cost of holding this event and of moving into it, and what they are made of. */
  readonly cost: number;
  readonly hold: readonly Term[];
  readonly move: readonly Term[];
}

export interface Way {
  readonly cost: number;
  readonly events: readonly PlacedEvent[];
}

export type Limit = 'range' | 'lock' | 'reach' | 'ring' | 'link' | 'wish';

/** A limit that could not be met: which notes, why, and what was given up to place the rest. Its rule is the limit. */
export interface Blocked extends Finding {
  readonly rule: Limit;
  readonly locus: Locus & { readonly event: string };
  /** Indices of the notes in the event that are left out; empty where a link or ring was given up. */
  readonly notes: readonly number[];
  /** First and last event between which it clashes; null where a note is impossible by itself. */
  readonly within: readonly [number, number] | null;
}

/** One note or limit of a clash, in words, with where it stands. */
export interface ClashItem {
  readonly event: string;
  readonly note: number | null;
  readonly what: 'note' | 'lock' | 'ring' | 'keep' | 'link';
  readonly words: string;
}

/** A place as seen on the whole neck. */
export interface PlaceOnNeck {
  readonly string: StringNumber;
  readonly fret: Fret;
  readonly fretFromNut: NutFret;
  readonly open: boolean;
  /** Where a natural harmonic is touched, as a fractional fret above the open string. */
  readonly node?: number | undefined;
}
