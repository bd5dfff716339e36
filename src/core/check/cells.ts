import type { Semitones } from '../base';
import { barCount, type Note, type Part, type Riff, type RiffEvent } from '../score';
import { barOf, barStart, meterAt, sub, toNumber, ZERO, type Quarter } from '../time';

/**
 * What comes again in a part: its riffs cut into bars, each bar once with all places where it stands. Copies agree
 * among themselves before anything else is asked.
 */

/** One bar, or a few together, of a riff. */
export interface Cell {
  readonly riff: Riff;
  readonly bar: number;
  readonly bars: number;
  /** Without grace notes, in order; as they stand in the riff. */
  readonly events: readonly RiffEvent[];
  /** Where each event stands in the cell. */
  readonly at: readonly Quarter[];
  /** Each event's notes from the lowest up. */
  readonly notes: readonly (readonly Note[])[];
}

/** Cells that are the same in every onset, pitch and place. */
export interface CellClass {
  readonly cells: readonly Cell[];
  readonly first: Cell;
  readonly length: string;
  readonly onsets: string;
  /** How many notes each event has. */
  readonly counts: string;
  readonly notes: number;
}

const low = (a: Note, b: Note): number =>
  a.pitch.midi - b.pitch.midi || (b.place?.string ?? 0) - (a.place?.string ?? 0);

/** The riff's events by bar; what stands before the first bar line is left out. */
export function barsOf(riff: Riff): Map<number, RiffEvent[]> {
  const out = new Map<number, RiffEvent[]>();
  for (const event of riff.events) {
    if (event.grace) continue;
    const { bar } = barOf(riff.meters, event.at);
    if (bar < 0) continue;
    const list = out.get(bar);
    if (list) list.push(event);
    else out.set(bar, [event]);
  }
  return out;
}

/** A riff cut into cells of so many bars, from its first bar line on. */
export function cellsOf(riff: Riff, bars: number): Cell[] {
  const byBar = barsOf(riff);
  const count = barCount(riff);
  const out: Cell[] = [];
  for (let bar = 0; bar + bars <= count; bar += bars) {
    const events = Array.from({ length: bars }, (_, i) => byBar.get(bar + i) ?? []).flat();
    if (events.length === 0) continue;
    const start = barStart(riff.meters, bar);
    out.push({
      ...{ riff, bar, bars, events },
      at: events.map((event) => sub(event.at, start)),
      notes: events.map((event) => [...event.notes].sort(low)),
    });
  }
  return out;
}

const soundOf = (note: Note): string =>
  `${note.pitch.midi}${note.technique?.dead ? 'x' : ''}@${note.place ? `${note.place.string}.${note.place.fret}` : '-'}`;

/** What is played in a cell, as one text. */
export const contentOf = (cell: Cell): string =>
  cell.notes.map((notes, i) => `${cell.at[i] ?? ''}:${notes.map(soundOf).join('+')}`).join(' ');

const lengthOf = ({ riff, bar, bars }: Cell): string => {
  const { beats, unit } = meterAt(riff.meters, bar);
  return `${bars}x${beats}/${unit}`;
};

/** Bars told differently that are compared with each other: a part beyond is compared in its beginning only. */
const MOST_CLASSES = 500;

/** The cells of a part's riffs, those alike in one class, the classes in the order in which they first come. */
export function classesOf(part: Part, bars: number): CellClass[] {
  const found = new Map<string, Cell[]>();
  for (const riff of part.riffs)
    for (const cell of cellsOf(riff, bars)) {
      const key = `${lengthOf(cell)} ${contentOf(cell)}`;
      const list = found.get(key);
      if (list) list.push(cell);
      else found.set(key, [cell]);
    }
  return [...found.values()].slice(0, MOST_CLASSES).flatMap((cells): CellClass[] => {
    const [first] = cells;
    if (!first) return [];
    return [
      {
        ...{ cells, first, length: lengthOf(first), onsets: first.at.join(' ') },
        counts: first.notes.map((notes) => notes.length).join(' '),
        notes: first.notes.reduce((sum, notes) => sum + notes.length, 0),
      },
    ];
  });
}

/** How a note lies to the note it is compared with. */
export interface Step {
  readonly semitones: Semitones;
  readonly strings: number;
  /** Null where the string is another one or a place is missing. */
  readonly frets: number | null;
}

/** Every note of one cell beside the note at the same place of another that has as many; null where it has not. */
export function stepsBetween(from: CellClass, to: CellClass): Step[] | null {
  if (from.onsets !== to.onsets || from.counts !== to.counts || from.length !== to.length) return null;
  return from.first.notes.flatMap((notes, i) =>
    notes.map((note, k): Step => {
      const other = to.first.notes[i]?.[k];
      const strings = (other?.place?.string ?? 0) - (note.place?.string ?? 0);
      return {
        semitones: (other?.pitch.midi ?? 0) - note.pitch.midi,
        strings,
        frets: note.place && other?.place && strings === 0 ? other.place.fret - note.place.fret : null,
      };
    }),
  );
}

/** The value most of a list have, and how many. */
export function commonest<Value>(list: readonly Value[]): { readonly value: Value; readonly count: number } | null {
  const counts = new Map<Value, number>();
  for (const value of list) counts.set(value, (counts.get(value) ?? 0) + 1);
  let best: { value: Value; count: number } | null = null;
  for (const [value, count] of counts) if (!best || count > best.count) best = { value, count };
  return best;
}

/** Which event of a cell a note of its flat list belongs to, and the note. */
export function noteAt(
  cell: Cell,
  index: number,
): { readonly event: RiffEvent; readonly note: Note; readonly at: Quarter } | null {
  let left = index;
  for (const [i, notes] of cell.notes.entries()) {
    const note = notes[left];
    const event = cell.events[i];
    if (note && event) return { event, note, at: cell.at[i] ?? ZERO };
    left -= notes.length;
  }
  return null;
}

/** Whether a time of a cell is in the last quarter of its last bar, where riffs turn and endings differ. */
export function atItsEnd(cell: Cell, at: Quarter): boolean {
  const end = toNumber(sub(barStart(cell.riff.meters, cell.bar + cell.bars), barStart(cell.riff.meters, cell.bar)));
  return toNumber(at) >= end - end / cell.bars / 4 - 1e-9;
}
