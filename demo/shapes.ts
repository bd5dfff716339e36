import type { Tone } from '../src/core/instrument';
import type { Source } from '../src/core/score';

/**
 * The pit band of the Wicker Street Puppet Theatre writes its own show, "The Moth Who Kept Time".
 * Everything here is invented: the theatre, the players, the show and every riff.
 */
export interface DemoRiff {
  readonly name: string;
  readonly meter: string;
  /** How often it is played in all; unsaid where absent. */
  readonly plays?: number;
  readonly calls: string;
  /** The riff played otherwise from a bar on, counted from 1. */
  readonly variants?: readonly { readonly name: string; readonly from: number; readonly calls: string }[];
}

export interface DemoSection {
  readonly name: string;
  readonly bars: number;
  readonly chords?: string;
  readonly cue?: string;
  readonly key?: { readonly tonic: string; readonly mode: 'major' | 'minor' };
  readonly tempo?: number;
  /** The first of two eighths, in percent of the pair. */
  readonly swing?: number;
  /** What each part plays, as it is typed, and how loud beside the others. */
  readonly rows: Readonly<Record<string, string>>;
  readonly levels?: Readonly<Record<string, number>>;
}

export interface DemoPart {
  readonly name: string;
  readonly role: string;
  readonly instrument: string;
  readonly tuning: string;
  readonly capo?: number | readonly { readonly fret: number; readonly strings: readonly number[] }[];
  readonly riffs: readonly DemoRiff[];
  readonly tones?: readonly Tone[];
  readonly tone?: string;
}

export interface DemoPiece {
  readonly title: string;
  readonly tempo: number;
  readonly key: { readonly tonic: string; readonly mode: 'major' | 'minor' };
  readonly parts: readonly DemoPart[];
  readonly source?: Source;
  /** What was said of it, to be checked: of the piece, or of a part's riff. */
  readonly claims?: readonly { readonly words: string; readonly part?: string; readonly riff?: string }[];
  /** A level made of the first part. */
  readonly level?: { readonly name: string; readonly level: 'teaching' | 'starter' };
  /** Sections, and the order they are played in as it is typed. */
  readonly form?: { readonly sections: readonly DemoSection[]; readonly order: string };
}
