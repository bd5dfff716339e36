import { openPitch, pitchAt, stringNumbers, type Setup } from '../instrument';
import { noteName } from '../pitch';
import { add, barOf, barStart, cmp, maxQuarter, minQuarter, secondsAt, type Quarter } from '../time';
import { positionsOf } from './positions';
import type { Blocked, Lock, PlaceLink, PlaceOnNeck, Problem } from './types';

/** A note as it takes part in one slice: struck there, or held over from before. */
export interface Voice {
  /** Which note of the input: event index and index in the event. */
  readonly event: number;
  readonly note: number;
  readonly pitch: number;
  readonly places: readonly PlaceOnNeck[];
  readonly lock: Lock | null;
  /** Strings it may not use, as text: those of locked notes of its event that had to be left out. */
  readonly without: string;
  /** Index of the same note among the previous slice's voices; -1 where it is struck now. */
  readonly heldFrom: number;
}

/** The hand's task at one onset: everything that sounds then, struck or held. */
export interface Slice {
  readonly event: number;
  readonly voices: readonly Voice[];
  /** Technique that leads into this slice, with voice indices (previous slice, this slice). */
  readonly link: PlaceLink | null;
  readonly linked: readonly (readonly [number, number])[];
  /** Seconds since the previous onset, and of those the seconds of silence just before this one. */
  readonly gap: number;
  readonly rest: number;
}

/** What may be given up to make a phrase playable. Keys are "event:note" or event indices. */
export interface Relaxed {
  /** Notes left out. */
  readonly dropped: Set<string>;
  /** Events whose link to the next is not kept. */
  readonly unlinked: Set<number>;
  /** Notes no longer held from this event index on: key "event:note", value the event index. */
  readonly released: Map<string, number>;
}

export const nothingRelaxed = (): Relaxed => ({ dropped: new Set(), unlinked: new Set(), released: new Map() });

export const noteKey = (event: number, note: number): string => `${event}:${note}`;

/** Notes that have no place on this set-up at all, with the reason; they are left out at once. */
export function offTheNeck(problem: Problem): { blocked: Blocked[]; relaxed: Relaxed } {
  const relaxed = nothingRelaxed();
  const blocked: Blocked[] = [];
  const { setup } = problem;
  const opens = stringNumbers(setup).map((s) => openPitch(setup, s));
  const lowest = Math.min(...opens);
  problem.events.forEach((event, e) => {
    event.notes.forEach((note, n) => {
      if (note.lock) {
        const sounds = pitchAt(setup, note.lock);
        if (!sounds.ok || sounds.value !== note.pitch) {
          relaxed.dropped.add(noteKey(e, n));
          const why = sounds.ok ? `String ${note.lock.string}, fret ${note.lock.fret} does not sound ${noteName(note.pitch, { octave: true })}.` : sounds.error.message;
          blocked.push({ event: event.id, notes: [n], limit: 'lock', why });
        }
      } else if (positionsOf(setup, note.pitch).length === 0) {
        relaxed.dropped.add(noteKey(e, n));
        const name = noteName(note.pitch, { octave: true });
        const why = note.pitch < lowest
          ? `${name} is ${lowest - note.pitch} semitones below the lowest string (${noteName(lowest, { octave: true })}).`
          : `${name} is beyond the last fret of every string.`;
        blocked.push({ event: event.id, notes: [n], limit: 'range', why });
      }
    });
  });
  return { blocked, relaxed };
}

interface Sounding {
  readonly event: number;
  readonly note: number;
  readonly end: Quarter;
}

/** Cuts the events into slices under what has been given up. Linear in events times strings. */
export function makeSlices(problem: Problem, relaxed: Relaxed): Slice[] {
  const { events, setup, tempo } = problem;
  const slices: Slice[] = [];
  const ends = ringEnds(problem);
  const placesOf = placeCache(setup);
  let sounding: Sounding[] = [];
  let voicesBefore: readonly Voice[] = [];
  let silentFrom: Quarter | null = null;
  events.forEach((event, e) => {
    const before = events[e - 1];
    const linkKept = before && before.link && !relaxed.unlinked.has(e - 1) ? before.link : null;
    const pitches = new Set(event.notes.map((n) => n.pitch));
    sounding = sounding.filter((s) => {
      const pitch = events[s.event]?.notes[s.note]?.pitch ?? -1;
      const released = relaxed.released.get(noteKey(s.event, s.note));
      return cmp(s.end, event.at) > 0 && !pitches.has(pitch) && !(released !== undefined && released <= e);
    });
    const struck: Voice[] = [];
    // A locked note that can't be played keeps its place in the document, so its string is not free.
    const taken = event.notes.flatMap((n, i) => (n.lock && relaxed.dropped.has(noteKey(e, i)) ? [n.lock.string] : []));
    const without = taken.join(' ');
    event.notes.forEach((note, n) => {
      if (relaxed.dropped.has(noteKey(e, n))) return;
      const places = taken.length === 0 ? placesOf(note.pitch) : placesOf(note.pitch).filter((p) => !taken.includes(p.string));
      struck.push({ event: e, note: n, pitch: note.pitch, places, lock: note.lock, without, heldFrom: -1 });
    });
    const linked = linkKept ? pairs(voicesBefore, e - 1, struck) : [];
    // A joined note ends where the next begins, whatever its written length says.
    const joined = new Set(linked.map(([from]) => voicesBefore[from]?.note ?? -1));
    sounding = sounding.filter((s) => s.event !== e - 1 || !joined.has(s.note));
    const held = sounding.map((s): Voice => {
      const from = voicesBefore.findIndex((v) => v.event === s.event && v.note === s.note);
      const origin = voicesBefore[from];
      return { event: s.event, note: s.note, pitch: origin?.pitch ?? 0, places: origin?.places ?? [], lock: origin?.lock ?? null, without: origin?.without ?? '', heldFrom: from };
    }).filter((v) => v.heldFrom >= 0);
    const voices = [...struck, ...held];
    const gap = before ? secondsAt(tempo, event.at) - secondsAt(tempo, before.at) : 0;
    const rest = silentFrom !== null && cmp(silentFrom, event.at) < 0 ? secondsAt(tempo, event.at) - secondsAt(tempo, silentFrom) : 0;
    slices.push({ event: e, voices, link: linkKept, linked, gap, rest });
    event.notes.forEach((note, n) => {
      if (relaxed.dropped.has(noteKey(e, n))) return;
      const own = add(event.at, note.dur ?? event.dur);
      const ring = ends[e];
      sounding.push({ event: e, note: n, end: ring ? maxQuarter(own, ring) : own });
      silentFrom = silentFrom === null ? own : maxQuarter(silentFrom, own);
    });
    voicesBefore = voices;
  });
  return slices;
}

function placeCache(setup: Setup): (pitch: number) => readonly PlaceOnNeck[] {
  const cache = new Map<number, readonly PlaceOnNeck[]>();
  return (pitch) => {
    const known = cache.get(pitch);
    if (known) return known;
    const places = positionsOf(setup, pitch);
    cache.set(pitch, places);
    return places;
  };
}

/** For each ringing event, the end of its run of ringing events within its bar; null for the others. */
function ringEnds({ events, meters }: Problem): (Quarter | null)[] {
  const ends: (Quarter | null)[] = events.map(() => null);
  let end: Quarter | null = null;
  for (let e = events.length - 1; e >= 0; e--) {
    const event = events[e];
    if (!event?.ring) {
      end = null;
      continue;
    }
    const own = event.notes.reduce<Quarter>((q, n) => maxQuarter(q, add(event.at, n.dur ?? event.dur)), add(event.at, event.dur));
    end = end === null ? own : maxQuarter(end, own);
    ends[e] = minQuarter(end, barStart(meters, barOf(meters, event.at).bar + 1));
  }
  return ends;
}

/** Which notes of two joined events belong together: in order of pitch, the outer ones when counts differ. */
function pairs(before: readonly Voice[], event: number, struck: readonly Voice[]): [number, number][] {
  const byPitch = (list: { v: Voice; i: number }[]) => list.sort((a, b) => a.v.pitch - b.v.pitch);
  const from = byPitch(before.map((v, i) => ({ v, i })).filter(({ v }) => v.event === event));
  const to = byPitch(struck.map((v, i) => ({ v, i })));
  const count = Math.min(from.length, to.length);
  return Array.from({ length: count }, (_, k) => [
    from[from.length - count + k]?.i ?? 0,
    to[to.length - count + k]?.i ?? 0,
  ]);
}
