import type { Quarter } from '../time';
import type { Lock, PlaceLink, PlaceOnNeck, Wish } from './types';

/** A note as it takes part in one slice: struck there, or held over from before. */
export interface Voice {
  /** Which note of the input: event index and index in the event. */
  readonly event: number;
  readonly note: number;
  readonly pitch: number;
  readonly places: readonly PlaceOnNeck[];
  readonly lock: Lock | null;
  /** What its places lack of all there are, as text: strings it may not use, what its technique needs. */
  readonly without: string;
  /** Index of the same note among the previous slice's voices; -1 where it is struck now. */
  readonly heldFrom: number;
  /** Its finger stays down and it sounds no more. */
  readonly silent: boolean;
  /** A trill's upper note: the voice it lies above on the same string, and by how many frets; else -1. */
  readonly over: number;
  readonly above: number;
  readonly kind: 'fretted' | 'dead' | 'harmonic' | 'tapped';
  /** Cents it is bent by at most, and cents it sounds above its pitch. */
  readonly bend: number;
  readonly cents: number;
  /** A low note that keeps coming back between others. */
  readonly pedal: boolean;
}

/** The hand's task at one onset: everything that sounds then, struck or held. */
export interface Slice {
  readonly event: number;
  readonly voices: readonly Voice[];
  /** How this slice is led to, where any of its notes is; and whether the picking hand strikes another of them. */
  readonly link: PlaceLink | null;
  readonly picked: boolean;
  /** Notes led to one by one: voice indices (previous slice, this slice), and how. Null: only the string is shared. */
  readonly linked: readonly (readonly [number, number, PlaceLink | null])[];
  /** Notes that stay as they are, unstruck, while others of their chord are led on. */
  readonly still: readonly (readonly [number, number])[];
  /** Notes struck again while their finger is kept down: they stay as they are. */
  readonly same: readonly (readonly [number, number])[];
  readonly wish: Wish | null;
  /** Played with a slide bar. */
  readonly bar: boolean;
  /** Everything states and their cost depend on, and everything moves depend on beside: equal keys, equal tasks. */
  readonly key: string;
  readonly moveKey: string;
  /** Seconds since the previous onset, and of those the seconds of silence just before this one. */
  readonly gap: number;
  readonly rest: number;
  /** When everything struck so far has ended by its written length. */
  readonly quiet: Quarter | null;
}
