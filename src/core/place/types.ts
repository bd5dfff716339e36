import type { Finger, Fret, Midi, Millimetres, NutFret, StringNumber } from '../base';
import type { Setup } from '../instrument';
import type { MeterChange, Quarter, TempoStep } from '../time';

/** How one event is joined to the next: the later one is not picked and stays on the string. */
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
}

/** What sounds from one onset on, the program's input. Events are sorted by onset, one at a time. */
export interface PlaceEvent {
  readonly id: string;
  readonly at: Quarter;
  readonly dur: Quarter;
  readonly notes: readonly PlaceNote[];
  readonly link: PlaceLink | null;
  /** Keeps ringing to the end of the run of ringing events or of the bar, or until its pitch is struck again. */
  readonly ring: boolean;
}

/** Distances between press points of two fingers along the neck, keyed "12" for fingers 1 and 2. */
export type SpanTable = Readonly<Record<'12' | '23' | '34' | '13' | '24' | '14', Millimetres>>;

/** A player's hand. */
export interface Profile {
  readonly comfortable: SpanTable;
  readonly maximal: SpanTable;
  /** The most strings each finger may stop as a barre, index to little finger. */
  readonly barre: readonly [number, number, number, number];
  readonly fingers: readonly (1 | 2 | 3 | 4)[];
}

/** Weights of the cost. One table, named, with units; costs add up and are never negative. */
export interface CostTable {
  /** Per mm² of a span beyond comfort. */
  readonly stretch: number;
  /** Each time a finger presses, index to little. */
  readonly finger: readonly [number, number, number, number];
  /** Per fret a finger reaches beyond one finger a fret. */
  readonly spread: number;
  /** Per fret a finger is drawn in against one finger a fret. */
  readonly bunched: number;
  /** Each barre, by the finger that lies, index to little. */
  readonly barre: readonly [number, number, number, number];
  /** Per string under a barre beyond the first. */
  readonly barreString: number;
  /** Per string inside a chord that must be kept silent. */
  readonly gap: number;
  /** Per open note, times (1 - liking), and doubled away from the two thickest strings. */
  readonly open: number;
  /** Per open string in a grip of two or three strings that has stopped ones, times (1 - liking). */
  readonly openGrip: number;
  /** Per fret beyond the seventh on the two thickest strings. */
  readonly dull: number;
  /** Per fret the hand lies outside the middle of the neck, in quiet moderation. */
  readonly zone: number;
  /** Per fret beyond the body joint. */
  readonly far: number;
  /** Per fret away from a wished hand position. */
  readonly wish: number;
  /** Per mm of hand travel when there is time. */
  readonly travel: number;
  /** Once for a shift that no finger guides along a string. */
  readonly blindShift: number;
  /** The same finger wanted at another fret of another string. */
  readonly jump: number;
  /** The same finger wanted at the same fret of another string. */
  readonly roll: number;
  /** The same finger wanted at another fret of the same string, without a slide. */
  readonly drag: number;
  /** Per string the picking hand crosses. */
  readonly cross: number;
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
  | 'stretch' | 'finger' | 'spread' | 'bunched' | 'barre' | 'gap' | 'open' | 'openGrip' | 'dull' | 'zone' | 'far' | 'wish'
  | 'travel' | 'blindShift' | 'jump' | 'roll' | 'drag' | 'cross';

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
  readonly finger: Finger;
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

export type Limit = 'range' | 'lock' | 'reach' | 'ring' | 'link';

/** A limit that could not be met: which notes, why, and what was given up to place the rest. */
export interface Blocked {
  readonly event: string;
  /** Indices of the notes in the event that are left out; empty where a link or ring was given up. */
  readonly notes: readonly number[];
  readonly limit: Limit;
  readonly why: string;
}

/** A place as seen on the whole neck. */
export interface PlaceOnNeck {
  readonly string: StringNumber;
  readonly fret: Fret;
  readonly fretFromNut: NutFret;
  readonly open: boolean;
}
