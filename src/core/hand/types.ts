import type { Millimetres } from '../base';

/** Distances between press points of two fingers along the neck, keyed "12" for fingers 1 and 2. */
export type SpanTable = Readonly<Record<'12' | '23' | '34' | '13' | '24' | '14', Millimetres>>;

/** A player's hand. */
export interface Profile {
  readonly comfortable: SpanTable;
  readonly maximal: SpanTable;
  /** The most strings each finger may stop as a barre, index to little finger. */
  readonly barre: readonly [number, number, number, number];
  readonly fingers: readonly (1 | 2 | 3 | 4)[];
  /** Whether the thumb may reach over the neck and stop the thickest string. */
  readonly thumb: boolean;
  /** The finger that wears the slide. */
  readonly barFinger: 2 | 3 | 4;
  /** How fingers go to frets: freely; one finger a fret; or 1-2-4 where one finger a fret is beyond comfort. */
  readonly school: 'free' | 'finger-per-fret' | 'one-two-four';
  /** What stretches, barres and departures from the school weigh. */
  readonly level: 'beginner' | 'player' | 'advanced';
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
  /** Per open note on the two thickest strings, times (1 - liking), and per open note on the thinner ones. */
  readonly open: number;
  readonly openThin: number;
  /** Besides, per open note while the hand lies beyond the fourth fret, where no shape has it. */
  readonly openFar: number;
  /** Instead, per open note of a pedal: a lowest pitch that keeps coming back between others. */
  readonly pedal: number;
  /** Per open string in a grip of two or three strings that has stopped ones, times (1 - liking). */
  readonly openGrip: number;
  /** Per fret beyond the seventh on the two thickest strings. */
  readonly dull: number;
  /** Per fret the index lies below the middle of the neck, and above it. */
  readonly low: number;
  readonly high: number;
  /** Per fret beyond the body joint. */
  readonly far: number;
  /** Per fret away from a wished hand position. */
  readonly wish: number;
  /**
   * Per note off the strings wished for; times the liking, per note stopped that could be open where open strings are
   * sought.
   */
  readonly offString: number;
  /** Per newton a bend asks of the finger. */
  readonly bend: number;
  /** Each note stopped by the thumb over the neck. */
  readonly thumb: number;
  /** Per string to be damped inside what a slide bar lies across. */
  readonly damp: number;
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
  /** Per string the picking hand crosses, and per string it skips. */
  readonly cross: number;
  readonly skip: number;
  /**
   * From one grip of two or three strings to one on strings otherwise spaced; half of it to the like on other
   * strings.
   */
  readonly reshape: number;
  /**
   * A finger put in place of another on the same note, or on the same fret of the next string, or within a shape that
   * only moved along. Absent in tables kept from before it was weighed.
   */
  readonly swap?: number;
  /**
   * Per string beyond the first under an index or ring finger lying flat over two or three neighbours; absent, such
   * lie as any barre.
   */
  readonly flat?: number;
}
