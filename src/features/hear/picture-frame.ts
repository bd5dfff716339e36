import type { Channels, HeardNote } from '@/core/listen';
import type { Key } from '@/core/pitch';
import type { ClipSound } from './clip-sound';

/** What the picture of a recording is given, and the measures it is drawn by. */

export interface View {
  readonly from: number;
  readonly to: number;
}

/** A written note in the recording's time. */
export interface Written {
  readonly at: number;
  readonly until: number;
  readonly string: number;
  readonly fret: number;
}

/** A heard note as it is drawn. */
type ShownNote = Pick<HeardNote, 'at' | 'until' | 'midi' | 'certainty' | 'begins' | 'manner'> & {
  readonly own: boolean;
};

export interface PictureProps {
  readonly sound: ClipSound | null;
  /** Which of its channels are drawn: those that are heard. */
  readonly channels: Channels;
  /** Seconds of it that are there. */
  readonly arrived: number;
  readonly overview: Uint8Array | null;
  readonly seconds: number;
  readonly view: View;
  readonly onView: (view: View) => void;
  readonly low: number;
  readonly high: number;
  readonly cents: number;
  readonly keyShown: Key | null;
  /** Open strings, in MIDI: their rows are marked. */
  readonly open: readonly number[];
  readonly loop: View | null;
  /** What of the recording is used; the rest is drawn faint. */
  readonly used: View;
  readonly onLoop: (loop: View | null) => void;
  readonly onSeek: (at: number, midi: number | null) => void;
  readonly playhead: () => number;
  readonly lines: readonly { readonly bar: number; readonly at: number; readonly laid: boolean }[];
  readonly onMoveLine: (bar: number, at: number) => void;
  readonly markers: readonly { readonly at: number; readonly say: string }[];
  readonly notes: readonly ShownNote[];
  /** What is written, where the recording's bars put it. */
  readonly written: readonly Written[];
  readonly strings: number;
  readonly candidate: number | null;
  readonly describe: string;
}

export const NATURALS = [0, 2, 4, 5, 7, 9, 11];
export const AXIS = 44;
export const RULER = 22;
export const WAVE = 64;
/** Between the strings of what is written below. */
export const LINE = 13;

/** Where times, pitches and lanes of a picture lie, in pixels. */
export interface PictureScale {
  readonly width: number;
  readonly height: number;
  readonly inner: number;
  readonly rows: number;
  /** Height of the lane of what is written, and of the field of pitches. */
  readonly lane: number;
  readonly floor: number;
  readonly x: (at: number) => number;
  readonly y: (midi: number) => number;
}

/** What is being dragged: a new loop, or a bar line, from where to where. */
export interface PictureDrag {
  readonly kind: 'loop' | 'line';
  readonly bar: number;
  readonly start: number;
  readonly now: number;
}

/** Kept within the recording, no closer than a fifth of a second. */
export function held(view: View, seconds: number): View {
  const span = Math.min(Math.max(0.2, view.to - view.from), seconds);
  const from = Math.max(0, Math.min(seconds - span, view.from + (view.to - view.from - span) / 2));
  return { from, to: from + span };
}
