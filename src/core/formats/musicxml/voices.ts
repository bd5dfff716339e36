import { noteEnd, type Note, type RiffEvent } from '../../score';
import { cmp, minQuarter, sub, ZERO, type Quarter } from '../../time';
import type { MusicPart } from '../music';

/** Voices a part is written in at most; what finds none is cut short. */
const MOST_VOICES = 8;

/** Events laid into voices, in each of which one ends before the next begins. */
export interface Voice {
  /** By its number from 1. */
  readonly number: number;
  readonly events: readonly RiffEvent[];
}

/**
 * Cuts a part into voices: what an event says of its length goes on in the lowest voice that is free, a note with a
 * length of its own in one above. Grace notes stay with the event they lead to.
 */
export function voicesOf(part: Pick<MusicPart, 'events'>): Voice[] {
  const voices: { end: Quarter; events: RiffEvent[] }[] = [];
  const lay = (event: RiffEvent, from: number): number => {
    for (let i = from; i < MOST_VOICES; i++) {
      voices[i] ??= { end: '-1000000' as Quarter, events: [] };
      const voice = voices[i] as { end: Quarter; events: RiffEvent[] };
      if (cmp(voice.end, event.at) > 0) continue;
      voice.events.push(event);
      voice.end = noteEnd(event, { dur: null } as Note);
      return i;
    }
    return MOST_VOICES;
  };
  let graces: RiffEvent[] = [];
  for (const event of part.events) {
    if (event.grace) {
      graces.push(event);
      continue;
    }
    const own = new Map<Quarter, Note[]>();
    for (const note of event.notes) {
      const dur = note.dur ?? event.dur;
      own.set(dur, [...(own.get(dur) ?? []), note]);
    }
    const lengths = [...own.keys()].sort((a, b) => Number(b === event.dur) - Number(a === event.dur) || cmp(a, b));
    if (lengths.length === 0) lengths.push(event.dur);
    let above = 0;
    lengths.forEach((dur, i) => {
      const notes = own.get(dur) ?? [];
      const at = lay({ ...event, dur, notes: notes.map(({ dur: _, ...note }) => ({ ...note, dur: null })) }, above);
      // Grace notes are written before the first of their event.
      if (i === 0 && at < MOST_VOICES) {
        const voice = voices[at];
        voice?.events.splice(voice.events.length - 1, 0, ...graces);
      }
      above = Math.min(MOST_VOICES, at + 1);
    });
    graces = [];
  }
  return voices.flatMap((voice, i) =>
    voice.events.length > 0 ? [{ number: i + 1, events: shortened(voice.events) }] : [],
  );
}

/** Whatever was laid, nothing in a voice reaches into what follows. */
function shortened(events: readonly RiffEvent[]): RiffEvent[] {
  return events.map((event, i) => {
    const next = events.slice(i + 1).find((one) => !one.grace);
    if (event.grace || !next) return event;
    const dur = minQuarter(event.dur, sub(next.at, event.at));
    return cmp(dur, ZERO) > 0 && dur !== event.dur ? { ...event, dur } : event;
  });
}
