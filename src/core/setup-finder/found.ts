import type { Midi } from '../base';
import { asciiPitch } from '../pitch';
import type { PlaceEvent } from '../place';
import { add, barOf, cmp, type MeterChange } from '../time';
import type { Clue } from './types';

/** A clue the program thinks it sees, for the instructor to confirm. */
export interface FoundClue {
  readonly clue: Clue;
  readonly words: string;
}

/** A pitch counts as a drone from this share of the strokes on, with so many other pitches between. */
const DRONE_SHARE = 0.25;
const DRONE_OTHERS = 3;
/** A note that sounds on under a leap of so many semitones: no hand would hold it but an open string. */
const LEAP = 9;
const MOST = 6;

/**
 * Clues in the notes themselves: a pitch that goes on under moving notes, a note that sounds on under a leap of the
 * hand, a bent note, double stops that move in parallel. Nothing of it is used before it is confirmed.
 */
export function foundClues(events: readonly PlaceEvent[], meters: readonly MeterChange[]): FoundClue[] {
  const found: FoundClue[] = [];
  const bar = (event: PlaceEvent): number => barOf(meters, event.at).bar + 1;
  const counts = new Map<Midi, { times: number; event: PlaceEvent; note: number }>();
  let strokes = 0;
  for (const event of events) {
    if (event.notes.length > 0) strokes++;
    event.notes.forEach((note, k) => {
      const known = counts.get(note.pitch);
      if (known) known.times++;
      else counts.set(note.pitch, { times: 1, event, note: k });
    });
  }
  const [drone] = [...counts].sort((a, b) => b[1].times - a[1].times || a[0] - b[0]);
  if (drone && drone[1].times >= strokes * DRONE_SHARE && counts.size > DRONE_OTHERS && drone[1].times > 2)
    found.push({
      clue: { kind: 'drone', event: drone[1].event.id, note: drone[1].note },
      words: `${asciiPitch(drone[0])} goes on under moving notes (${drone[1].times} times): an open string?`,
    });
  events.forEach((event, i) => {
    const next = events[i + 1];
    event.notes.forEach((note, k) => {
      if (note.bend && !found.some(({ clue }) => clue.kind === 'stopped'))
        found.push({
          clue: { kind: 'stopped', event: event.id, note: k },
          words: `${asciiPitch(note.pitch)} of bar ${bar(event)} is bent, so it isn’t open.`,
        });
      if (!next) return;
      const sounds = event.ring || cmp(add(event.at, note.dur ?? event.dur), next.at) > 0;
      const leap = Math.max(...next.notes.map((other) => Math.abs(other.pitch - note.pitch)));
      if (sounds && leap >= LEAP && !saysOf(found, 'open', event.id))
        found.push({
          clue: { kind: 'open', event: event.id, note: k },
          words: `${asciiPitch(note.pitch)} of bar ${bar(event)} sounds on under a leap of ${leap} semitones: an open string?`,
        });
    });
  });
  for (const run of parallels(events))
    found.push({
      clue: { kind: 'shape', events: run.map((event) => event.id) },
      words: `From bar ${bar(run[0] as PlaceEvent)} on, ${run.length} grips move in parallel: one shape?`,
    });
  return found.slice(0, MOST);
}

const saysOf = (found: readonly FoundClue[], kind: Clue['kind'], event: string): boolean =>
  found.some(({ clue }) => clue.kind === kind && 'event' in clue && clue.event === event);

/** Runs of three or more chords with the same intervals, of at least two different heights. */
function parallels(events: readonly PlaceEvent[]): PlaceEvent[][] {
  const shape = (event: PlaceEvent): string =>
    event.notes.map((note) => note.pitch - (event.notes[0]?.pitch ?? 0)).join();
  const runs: PlaceEvent[][] = [];
  let run: PlaceEvent[] = [];
  const close = (): void => {
    if (run.length >= 3 && new Set(run.map((event) => event.notes[0]?.pitch)).size > 1) runs.push(run);
    run = [];
  };
  for (const event of events) {
    if (event.notes.length < 2 || (run[0] && shape(run[0]) !== shape(event))) close();
    if (event.notes.length >= 2) run.push(event);
  }
  close();
  return runs.slice(0, 2);
}
