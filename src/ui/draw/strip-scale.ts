import type { Setup } from '@/core/instrument';
import type { Key } from '@/core/pitch';
import type { Schools } from '@/core/schools';
import type { Note, RiffEvent } from '@/core/score';
import type { MeterChange, Quarter } from '@/core/time';
import type { Harmony } from './harmony-lane';
import { fretText, LANE, noteText, type LaneName, type LaneScales } from './lanes';
import { sizeThatFits, spacedScale, type RowScale } from './spacing';
import type { StripRow } from './strip-layout';

/** What a row of the strip is given, and how its times become pixels. */

export interface RowProps {
  readonly row: StripRow;
  readonly width: number;
  readonly meters: readonly MeterChange[];
  readonly keyShown: Key | null;
  readonly scales: LaneScales;
  readonly stringNames: readonly (readonly [string, string])[];
  readonly lanes: ReadonlySet<LaneName>;
  readonly hands: ReadonlyMap<string, number>;
  /** Ids of chosen events in this row, joined; the note in focus; where the caret stands. */
  readonly chosen: string;
  readonly focusNote: string | null;
  readonly caret: Quarter | null;
  /** The stretch a typed call would fill: from and to, with a space between. */
  readonly target?: string | null;
  readonly setup: Setup;
  readonly schools: Schools;
  /** Chords and bass where the riff is played. */
  readonly harmony?: Harmony | null;
  /** Ids of events of the row that are asked about, joined by spaces. */
  readonly asked?: string;
  /** Height of a fret figure in pixels: less where many notes share a row. */
  readonly figure: number;
  /** Most places are the instructor's, so proposals are marked instead. */
  readonly allYours?: boolean;
  /** Strokes of the row as text: "event:stroke:by:group", joined by spaces. */
  readonly strokes: string;
  readonly hardest: { readonly from: string; readonly to: string } | null;
  /** The first event after the row, for marks that end with the next note. */
  readonly next: RiffEvent | null;
}

/** Where the onsets of a row begin, and the room they have. */
export const rowLeft = LANE.label + LANE.pad;
export const rowRoom = (width: number): number => width - rowLeft - LANE.pad;

/** What stands on the strings for a note. */
export const textIn =
  (scales: LaneScales) =>
  (note: Note): string =>
    note.place ? noteText(note, fretText(scales, note.place)) : '?';

/** The height of a row's figures: that of the others, or less where they would touch. */
export const rowFigure = (
  row: StripRow,
  meters: readonly MeterChange[],
  width: number,
  scales: LaneScales,
  most: number,
): number => sizeThatFits(row, meters, rowRoom(width), textIn(scales), most);

/** Time to pixels in a row of the strip. */
export const rowScale = (
  row: StripRow,
  meters: readonly MeterChange[],
  width: number,
  scales: LaneScales,
  size: number,
): RowScale => spacedScale(row, meters, rowLeft, rowRoom(width), { size, text: textIn(scales) });

export const FIGURE = 20;

export const INK: Record<Note['certainty'], number> = { sure: 1, likely: 0.6, guess: 0.6 };

export type X = (at: Quarter) => number;
