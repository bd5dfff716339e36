import type { Midi } from '../base';
import type { PlaceEvent, PlaceNote } from '../place';
import { add, cmp, sub } from '../time';
import type { Candidate, Clue } from './types';

/** What clues ask of notes, apart from any set-up. */
export interface Asking {
  /** The events without places, with rings and hammers as the clues say, and stopped notes kept off open strings. */
  readonly events: readonly PlaceEvent[];
  /** Pitches that sound open, with the clue that says so. */
  readonly open: readonly {
    readonly clue: number;
    readonly event: number;
    readonly note: number;
    readonly pitch: Midi;
  }[];
  /** Notes known to be on a string. */
  readonly strings: readonly {
    readonly clue: number;
    readonly event: number;
    readonly note: number;
    readonly pitch: Midi;
    readonly string: number;
    readonly fret: number | null;
  }[];
  /** Pitches that are stopped. */
  readonly stopped: readonly Midi[];
  readonly slack: readonly { readonly clue: number; readonly pitch: Midi }[];
  readonly shapes: readonly { readonly clue: number; readonly events: readonly number[] }[];
}

/** The clues laid on the notes. Clues that name no event there are passed over. */
export function asking(given: readonly PlaceEvent[], clues: readonly Clue[]): Asking {
  const events = given.map((event): PlaceEvent => ({
    ...event,
    wish: undefined,
    notes: event.notes.map((note) => ({ ...note, lock: null })),
  }));
  const at = new Map(events.map((event, i) => [event.id, i]));
  const open: Asking['open'][number][] = [];
  const strings: Asking['strings'][number][] = [];
  const stopped: Midi[] = [];
  const slack: Asking['slack'][number][] = [];
  const shapes: Asking['shapes'][number][] = [];
  const eachNote = (
    id: string,
    note: number | null,
    say: (event: number, note: number, it: PlaceNote) => void,
  ): void => {
    const i = at.get(id);
    if (i === undefined) return;
    events[i]?.notes.forEach((it, k) => {
      if (note === null || note === k) say(i, k, it);
    });
  };
  const change = (event: number, note: number, by: Partial<PlaceNote>): void => {
    const now = events[event];
    if (now) events[event] = { ...now, notes: now.notes.map((it, k) => (k === note ? { ...it, ...by } : it)) };
  };
  clues.forEach((clue, index) => {
    if (clue.kind === 'open' || clue.kind === 'stopped')
      eachNote(clue.event, clue.note, (event, note, it) => {
        if (clue.kind === 'open') open.push({ clue: index, event, note, pitch: it.pitch });
        else {
          stopped.push(it.pitch);
          change(event, note, { least: Math.max(1, it.least ?? 0) });
        }
      });
    if (clue.kind === 'drone')
      eachNote(clue.event, clue.note, (_, __, { pitch }) =>
        events.forEach((other, event) =>
          other.notes.forEach((it, note) => {
            if (it.pitch === pitch) open.push({ clue: index, event, note, pitch });
          }),
        ),
      );
    if (clue.kind === 'string')
      eachNote(clue.event, clue.note, (event, note, { pitch }) =>
        strings.push({ clue: index, event, note, pitch, string: clue.string, fret: clue.fret ?? null }),
      );
    if (clue.kind === 'slack')
      eachNote(clue.event, clue.note, (_, __, { pitch }) => slack.push({ clue: index, pitch }));
    if (clue.kind === 'hammeredFromOpen') {
      const i = at.get(clue.event) ?? -1;
      const before = events[i - 1];
      if (before) {
        events[i - 1] = { ...before, link: 'hammer', notes: before.notes.map((it) => ({ ...it, link: undefined })) };
        before.notes.forEach(({ pitch }, note) => open.push({ clue: index, event: i - 1, note, pitch }));
      }
    }
    if (clue.kind === 'ring') {
      const rung = clue.events.map((id) => at.get(id)).filter((i) => i !== undefined);
      const last = events[Math.max(...rung)];
      if (last)
        for (const i of rung) {
          const now = events[i];
          if (!now) continue;
          const dur = sub(add(last.at, last.dur), now.at);
          events[i] = {
            ...now,
            notes: now.notes.map((it) => (cmp(dur, it.dur ?? now.dur) > 0 ? { ...it, dur } : it)),
          };
        }
    }
    if (clue.kind === 'shape')
      shapes.push({ clue: index, events: clue.events.map((id) => at.get(id)).filter((i) => i !== undefined) });
  });
  return { events, open, strings, stopped, slack, shapes };
}

/** Semitones below what a string is made for from which it sounds slack. */
const SLACK = 2;

/** Clues a candidate can't keep whatever the hands do, by index. */
export function impossibleClues(asked: Asking, candidate: Candidate): Set<number> {
  const against = new Set<number>();
  const has = opens(candidate);
  for (const { clue, pitch } of asked.open) if (!has.has(pitch)) against.add(clue);
  for (const { clue, pitch, string, fret } of asked.strings) {
    const there = fretOn(candidate, string, pitch);
    if (there === null || (fret !== null && there !== fret)) against.add(clue);
  }
  const thick = candidate.members[0]?.setup;
  for (const { clue, pitch } of asked.slack) {
    const there = thick?.open.some((midi, i) => {
      const made = candidate.instrument.strings[i]?.pitch ?? midi;
      return made - midi >= SLACK && (candidate.open[i] ?? 0) <= pitch && pitch <= (candidate.open[i] ?? 0) + 5;
    });
    if (!there) against.add(clue);
  }
  return against;
}

/** The fret at which a string sounds a pitch; null where it doesn't. */
function fretOn({ open, absent, instrument }: Candidate, string: number, pitch: Midi): number | null {
  const base = open[open.length - string];
  const fret = base === undefined || absent.includes(string) ? -1 : pitch - base;
  return fret >= 0 && fret <= instrument.frets ? fret : null;
}

/** How many stopped notes a candidate has an open string for: a player mostly would have used it. */
export const passedOver = (asked: Asking, candidate: Candidate): number =>
  new Set(asked.stopped.filter((pitch) => candidate.open.includes(pitch))).size;

/** The open pitches of a candidate and the string of each, the thickest that has it. */
export function opens({ open, absent }: Candidate): Map<Midi, number> {
  const map = new Map<Midi, number>();
  open.forEach((midi, i) => {
    const string = open.length - i;
    if (!absent.includes(string) && !map.has(midi)) map.set(midi, string);
  });
  return map;
}

/** The events as a candidate has to play them: notes heard open are locked on their open string where it has one. */
export function asPlayed(asked: Asking, candidate: Candidate): readonly PlaceEvent[] {
  if (asked.open.length + asked.strings.length === 0) return asked.events;
  const has = opens(candidate);
  const locks = new Map<string, { string: number; fret: number }>();
  for (const { event, note, pitch } of asked.open) {
    const string = has.get(pitch);
    if (string !== undefined) locks.set(`${event}.${note}`, { string, fret: 0 });
  }
  for (const { event, note, pitch, string } of asked.strings) {
    const fret = fretOn(candidate, string, pitch);
    if (fret !== null) locks.set(`${event}.${note}`, { string, fret });
  }
  return asked.events.map((event, i) => ({
    ...event,
    notes: event.notes.map((it, k) => {
      const at = locks.get(`${i}.${k}`);
      return at === undefined || (it.least && at.fret === 0) ? it : { ...it, lock: { ...at, finger: null } };
    }),
  }));
}
