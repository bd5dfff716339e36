import { stringNumbers } from '../instrument';
import type { Line } from '../form';
import { endOf, noteEnd, type Note } from '../score';
import { barOf, cmp, lt, ZERO, type Quarter } from '../time';

/** Parts together: what rings at a moment, and who is silent when. */

/** A note that rings, and on which string of which part. */
export interface RingingNote {
  readonly part: string;
  readonly note: Note;
  /** Struck at this very moment, not before. */
  readonly struck: boolean;
}

/** Everything that rings at a moment of the form: a note ends when it does, or when its string is played again. */
export function ringingAt(lines: readonly Line[], at: Quarter): RingingNote[] {
  return lines.flatMap(({ part, riff }) => {
    const out = new Map<number | string, RingingNote>();
    const strings = new Set(stringNumbers(part.setup));
    for (const event of riff.events) {
      if (cmp(event.at, at) > 0) break;
      for (const note of event.notes) {
        const on = note.place && strings.has(note.place.string) ? note.place.string : note.id;
        // The string is struck anew: what rang on it is over, whether this rings still or not.
        if (lt(at, noteEnd(event, note)) || (event.letRing && lt(at, endOf(event))))
          out.set(on, { part: part.id, note, struck: event.at === at });
        else out.delete(on);
      }
    }
    return [...out.values()].sort((a, b) => a.note.pitch.midi - b.note.pitch.midi);
  });
}

/** A run of bars in which a part plays nothing. Bars count from 0, the last included. */
export interface Silence {
  readonly part: string;
  readonly from: number;
  readonly to: number;
}

/** Where each part is silent: bars in which no note of it sounds. */
export function silencesOf(lines: readonly Line[]): Silence[] {
  return lines.flatMap(({ part, riff, map }) => {
    const { meters } = riff;
    const played = new Set<number>();
    for (const event of riff.events) {
      if (event.notes.length === 0) continue;
      const end = barOf(meters, endOf(event));
      // What ends with a bar doesn't sound in the next.
      const last = end.offset === ZERO ? end.bar - 1 : end.bar;
      for (let { bar } = barOf(meters, event.at); bar <= last; bar++) played.add(bar);
    }
    const out: Silence[] = [];
    for (let bar = 0; bar < map.bars; bar++) {
      if (played.has(bar)) continue;
      const last = out.at(-1);
      if (last && last.to === bar - 1) out[out.length - 1] = { ...last, to: bar };
      else out.push({ part: part.id, from: bar, to: bar });
    }
    return out;
  });
}
