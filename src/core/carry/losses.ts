import type { Midi, Millimetres, Semitones } from '../base';
import { asciiPitch } from '../pitch';
import type { Blocked, PlacedEvent } from '../place';
import type { Note, Riff, RiffEvent } from '../score';
import { barOf } from '../time';

/** What is lost or changed where something is carried over, one thing of one event. */
export type Loss = {
  readonly event: string;
  readonly bar: number;
  /** In words, with its bar. */
  readonly words: string;
} & (
  | { readonly what: 'open' | 'unplaced'; readonly notes: readonly string[] }
  | { readonly what: 'ring' | 'reach' | 'range' | 'link' | 'lock' | 'wish' }
  | { readonly what: 'pitch'; readonly by: Semitones | null }
  | { readonly what: 'wider'; readonly mm: Millimetres }
  | { readonly what: 'technique' }
);

/** A reach counts as wider from this on, in mm. */
const WIDER_MM = 12;

const stretchOf = (event: PlacedEvent | undefined): number =>
  Math.max(0, ...(event?.hold ?? []).filter((term) => term.name === 'stretch').map((term) => term.amount));

/** A riff as it was and as it is carried, with how both lie under the hand. */
export interface Sides {
  readonly riff: Riff;
  readonly carried: Riff;
  readonly before: readonly PlacedEvent[];
  readonly after: readonly PlacedEvent[];
  readonly blocked: readonly Blocked[];
  /** Semitones by which everything was meant to move: octaves. */
  readonly meant: Semitones;
}

/** Everything that differs, event by event. */
export function lossesOf({ riff, carried, before, after, blocked, meant }: Sides): Loss[] {
  const losses: Loss[] = [];
  riff.events.forEach((was, i) => {
    const now = carried.events[i];
    if (!now) return;
    const { bar } = barOf(riff.meters, was.at);
    const at = { event: was.id, bar };
    const where = `Bar ${bar + 1}`;
    const pairs = was.notes.flatMap((note, k) => {
      const there = now.notes[k];
      return there ? [[note, there] as const] : [];
    });
    const steps = pairs.filter(([a, b]) => !a.technique?.dead && b.pitch.midi - a.pitch.midi !== meant);
    if (steps.length > 0) {
      const by = steps.map(([a, b]) => b.pitch.midi - a.pitch.midi);
      const alike = by.every((one) => one === by[0]) ? (by[0] ?? null) : null;
      losses.push({ ...at, what: 'pitch', by: alike, words: `${where}: ${pitchWords(steps)}.` });
    }
    const opened = pairs.filter(([a, b]) => isOpen(a) && b.place !== null && !isOpen(b));
    if (opened.length > 0)
      losses.push({
        ...at,
        what: 'open',
        notes: opened.map(([note]) => note.id),
        words: `${where}: ${names(opened.map(([, b]) => b.pitch.midi))} ${opened.length === 1 ? 'is' : 'are'} no open string${opened.length === 1 ? '' : 's'} any more.`,
      });
    const here = blocked.filter((one) => one.locus.event === was.id);
    for (const one of here) losses.push({ ...at, what: one.rule, words: `${where}: ${one.words}` });
    const gone = pairs.filter(([, b]) => b.place === null);
    if (gone.length > 0 && here.length === 0)
      losses.push({
        ...at,
        what: 'unplaced',
        notes: gone.map(([note]) => note.id),
        words: `${where}: ${names(gone.map(([, b]) => b.pitch.midi))} ${gone.length === 1 ? 'has' : 'have'} no place.`,
      });
    const wider = stretchOf(after[i]) - stretchOf(before[i]);
    if (wider >= WIDER_MM)
      losses.push({
        ...at,
        what: 'wider',
        mm: Math.round(wider),
        words: `${where} asks for a reach ${Math.round(wider)} mm wider.`,
      });
    if (pairs.some(([a, b]) => techniques(a) > techniques(b)))
      losses.push({ ...at, what: 'technique', words: `${where}: a slide or the way of a bend has no room there.` });
  });
  return losses;
}

export const isOpen = (note: Note): boolean => note.place?.fret === 0 && !note.technique?.dead;

const techniques = (note: Note): number => Object.keys(note.technique ?? {}).length;

const names = (list: readonly Midi[]): string => [...new Set(list)].map((midi) => asciiPitch(midi)).join(', ');

function pitchWords(pairs: readonly (readonly [Note, Note])[]): string {
  const said = pairs.slice(0, 3).map(([a, b]) => `${asciiPitch(a.pitch.midi)} becomes ${asciiPitch(b.pitch.midi)}`);
  return `${said.join(', ')}${pairs.length > 3 ? ` and ${pairs.length - 3} more` : ''}`;
}

/** Open notes of events, for figures of what is kept. */
export const openCount = (events: readonly RiffEvent[]): number =>
  events.reduce((sum, event) => sum + event.notes.filter(isOpen).length, 0);
