import type { Finding, Midi } from '../../base';
import type { Setup } from '../../instrument';
import type { Key } from '../../pitch';
import type { RiffEvent } from '../../score';
import type { FeelStep, MeterChange, Quarter, TempoStep } from '../../time';

/**
 * The neutral score between every reader and writer of music and the document. What a note is, is said in the
 * document's own words (`RiffEvent`); what is round it (bars, repeats, what a file says of its instruments) stands
 * here once for all formats, so that a new format is a folder and nothing else.
 */

/** Bars from `from` on, `to` not counted; they count from 0 as they are written. */
export interface BarRange {
  readonly from: number;
  readonly to: number;
}

/** Bars that are repeated, played `times` in all. An ending is played instead of the other endings on its passes. */
export interface Repeat extends BarRange {
  readonly times: number;
  /** In order, one behind the other, the first within the repeat; passes count from 1. */
  readonly endings: readonly (BarRange & { readonly passes: readonly number[] })[];
}

/** A name that stands over a bar. */
export interface Mark {
  readonly bar: number;
  readonly name: string;
  readonly cue?: string;
}

export interface ChordMark {
  readonly at: Quarter;
  readonly to: Quarter;
  /** By its name as it sounds; "N.C." for none. */
  readonly chord: string;
}

export interface MusicPart {
  readonly name: string;
  /** The whole set-up where it is known (a part that is written out); a reader knows less, and says that. */
  readonly setup: Setup | null;
  /** Open strings thick to thin without capo, as the file says; null where it says nothing. */
  readonly tuning: readonly Midi[] | null;
  readonly capo: number;
  readonly kind: 'guitar' | 'bass' | 'other' | 'drums';
  /** MIDI program 0 to 127 where one is said. */
  readonly program: number | null;
  /** Whether places come from the file. */
  readonly placed: boolean;
  /** What can be told before the events are made, where that takes long: they are then made when asked for. */
  readonly stats?: { readonly notes: number; readonly low: Midi; readonly high: Midi; readonly chord: number };
  /** Over the written bars from the first bar line, a pickup before it; in order, with ids of no piece. */
  readonly events: readonly RiffEvent[];
}

export interface Music {
  readonly title: string;
  readonly credit: string | null;
  /** Written bars; their meters, and lanes in written time. */
  readonly bars: number;
  readonly pickup: Quarter;
  readonly meters: readonly MeterChange[];
  readonly tempo: readonly TempoStep[];
  readonly keys: readonly (Key & { readonly at: Quarter })[];
  readonly feel: readonly FeelStep[];
  readonly chords: readonly ChordMark[];
  readonly bass: readonly { readonly at: Quarter; readonly to: Quarter; readonly note: string }[];
  readonly marks: readonly Mark[];
  readonly repeats: readonly Repeat[];
  /** The written bars in the order they are played, jumps and endings done. */
  readonly order: readonly BarRange[];
  readonly parts: readonly MusicPart[];
}

/** Something in a file that can be understood in two ways: asked before anything is kept. */
export interface Question {
  /** The same for the same file, so that answers can be given to the next reading. */
  readonly id: string;
  readonly finding: Finding;
  readonly answers: readonly { readonly id: string; readonly words: string }[];
  /** What is done where nobody answers. */
  readonly usual: string;
}

/** By the id of a question, the id of its answer. */
export type Answers = Readonly<Record<string, string>>;

/** What a reader gives: the music, what it had to ask, what it left out, and what it made of oddities. */
export interface Reading {
  readonly music: Music;
  readonly questions: readonly Question[];
  /** What of the file is not kept, in words, with how often and where first. */
  readonly leftOut: readonly LeftOut[];
  readonly remarks: readonly Finding[];
}

export interface LeftOut {
  readonly what: string;
  readonly count: number;
  /** Where it stands first: "Guitar, bar 3". */
  readonly where: string;
}

/** Told as a reader goes on: a share from 0 to 1. */
export type Progress = (share: number) => void;

export interface ReadOptions {
  readonly answers?: Answers;
  readonly progress?: Progress;
}
