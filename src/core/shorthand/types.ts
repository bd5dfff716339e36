import type { SyntaxNode } from '@lezer/common';
import type { Finding, Finger, Fret, Locus, Midi, StringNumber } from '../base';
import type { Setup } from '../instrument';
import type { Schools } from '../schools';
import type { Certainty, Evidence, Join, Articulation, Technique } from '../score';
import type { FeelStep, MeterChange, Quarter, TempoStep } from '../time';

/** A note as called: a pitch, and where the call says it lies. */
export interface CalledNote {
  readonly pitch: Midi;
  /** How it leads to a note of the next event. */
  readonly join?: Join | undefined;
  readonly place: { readonly string: StringNumber; readonly fret: Fret; readonly sure: boolean } | null;
  readonly finger: { readonly finger: Finger; readonly sure: boolean; readonly or?: Finger | undefined } | null;
  readonly dur: Quarter | null;
  /** Ends with its event, also where others of its chord are joined on. */
  readonly ends?: true | undefined;
  readonly technique?: Technique | undefined;
  /** Cents it sounds above its pitch. */
  readonly cents?: number | undefined;
  /** How sure the instructor is; sure where nothing is said. */
  readonly certainty?: Certainty | undefined;
  readonly evidence?: Evidence | undefined;
  /** Another place that would do, and why. */
  readonly otherPlace?:
    { readonly string: StringNumber; readonly fret: Fret; readonly reason: string | null } | undefined;
  /** Why it lies here. */
  readonly reason?: string | undefined;
}

export interface CalledEvent extends Articulation {
  readonly at: Quarter;
  readonly dur: Quarter;
  readonly notes: readonly CalledNote[];
  readonly letRing: boolean;
  /** Played with a slide bar. */
  readonly slideBar?: true | undefined;
}

/** One way to understand a token. `text` is the same said without ambiguity. */
export interface Interpretation {
  readonly label: string;
  readonly text: string;
}

/** A stretch of the line and how it was understood. The first reading was taken. */
export interface Understood {
  readonly from: number;
  readonly to: number;
  readonly label: string;
  readonly readings: readonly Interpretation[];
}

/** What is wrong where, and what was expected. */
/** A finding in a called line: its locus says from which character to which. */
export interface CallFinding extends Finding {
  readonly locus: Locus & { readonly text: { readonly from: number; readonly to: number } };
}

export interface Called {
  readonly events: readonly CalledEvent[];
  readonly tokens: readonly Understood[];
  readonly faults: readonly CallFinding[];
  /** Things that are odd but may be meant: a short bar. */
  readonly warnings: readonly CallFinding[];
  /** Where the next call would go on. */
  readonly end: Quarter;
  /** What was said of the riff's frame: meters whole, tempo and feel as steps from where they were said. */
  readonly frame: {
    readonly meters?: readonly MeterChange[];
    readonly tempo?: readonly TempoStep[];
    readonly feel?: readonly FeelStep[];
    /** A pickup that was called before the first bar: its length. */
    readonly pickup?: Quarter;
  };
  /** The bar the calls end in where it is not full: what is missing (or over, below 0), with likely causes. */
  readonly open: { readonly bar: number; readonly missing: Quarter; readonly causes: readonly string[] } | null;
}

export interface CallContext {
  readonly setup: Setup;
  readonly meters: readonly MeterChange[];
  /** Where the calls begin. */
  readonly at: Quarter;
  /** Length of a note when nothing else is said. */
  readonly length: Quarter;
  /** String that a bare fret belongs to before any string is called. */
  readonly string: StringNumber | null;
  /** How frets are counted and notes named; the usual way when not said. */
  readonly schools?: Schools;
}

/** What reading a mark needs of its reader. */
export interface Ear {
  readonly slice: (node: SyntaxNode) => string;
  readonly fault: (node: SyntaxNode, message: string) => void;
  readonly understood: (node: SyntaxNode, label: string, readings?: readonly Interpretation[]) => void;
  readonly span: (node: SyntaxNode) => Quarter | null;
  /** A typed fret as counted from the string's own zero. */
  readonly fret: (string: number, typed: number) => number;
  readonly name: (pitch: number) => string;
}
