import { fretsLeft, openPitch, pitchAt, stringNumbers, type Setup } from '../instrument';
import { noteName } from '../pitch';
import { add, barOf, barStart, cmp, maxQuarter, minQuarter, secondsAt, type Quarter } from '../time';
import { blockedAt } from './blocked';
import type { Slice, Voice } from './slice';
import { firstLink, isStruckBeside, leads, linkOf, pairs, UNLINKED } from './links';
import { harmonicsOf, positionsOf } from './positions';
import type { Blocked, PlaceEvent, PlaceNote, PlaceOnNeck, Problem, Wish } from './types';

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
  const opens = stringNumbers(setup).map((string) => openPitch(setup, string));
  const lowest = Math.min(...opens);
  const placesOf = placesBy(setup);
  problem.events.forEach((event, index) => {
    for (const [n, note] of event.notes.entries()) {
      if (note.lock) {
        if (
          note.harmonic &&
          harmonicsOf(setup, note.pitch).some(
            (place) => place.string === note.lock?.string && place.fret === note.lock.fret,
          )
        )
          continue;
        const sounds = pitchAt(setup, note.lock);
        if (!sounds.ok || sounds.value !== note.pitch) {
          relaxed.dropped.add(noteKey(index, n));
          const why = sounds.ok
            ? `String ${note.lock.string}, fret ${note.lock.fret} does not sound ${noteName(note.pitch, { octave: true })}.`
            : sounds.error.words;
          blocked.push(blockedAt(event.id, [n], 'lock', why));
        }
        continue;
      }
      const places = placesOf(note);
      if (places.length > 0 && !event.wish?.avoid?.length) continue;
      const name = noteName(note.pitch, { octave: true });
      const leave = (limit: 'range' | 'wish', why: string): void => {
        relaxed.dropped.add(noteKey(index, n));
        blocked.push(blockedAt(event.id, [n], limit, why));
      };
      if (places.length === 0) {
        leave(
          'range',
          note.harmonic
            ? `${name} is no natural harmonic of any string here.`
            : note.pitch < lowest
              ? `${name} is ${lowest - note.pitch} semitones below the lowest string (${noteName(lowest, { octave: true })}).`
              : positionsOf(setup, note.pitch).length > 0
                ? `${name} has no place where what is done to it can be done: it needs a fret to press and frets to slide over.`
                : `${name} is beyond the last fret of every string.`,
        );
      } else if (event.wish?.avoid?.length && places.every((place) => event.wish?.avoid?.includes(place.string))) {
        leave(
          'wish',
          `${name} lies only on strings you keep free here (${[...new Set(places.map((place) => place.string))].join(', ')}).`,
        );
      }
    }
  });
  return { blocked, relaxed };
}

/** Every place a note may have by its kind alone. */
const placesFor = (setup: Setup, note: PlaceNote): PlaceOnNeck[] =>
  note.harmonic ? harmonicsOf(setup, note.pitch) : positionsOf(setup, note.pitch);

interface Sounding {
  readonly event: number;
  readonly note: number;
  readonly end: Quarter;
  /** Until when its finger stays down. */
  readonly kept: Quarter;
}

/** Events looked at to either side for a pedal, and how often its pitch has to come. */
export const PEDAL_REACH = 6;
const PEDAL_TIMES = 3;

/** What slices of one problem share, whatever is given up. */
interface Shared {
  readonly ends: Map<number, Quarter | null>;
  readonly seconds: (at: Quarter) => number;
}

const sharedBy = new WeakMap<Problem, Shared>();

function shared(problem: Problem): Shared {
  let found = sharedBy.get(problem);
  if (!found) sharedBy.set(problem, (found = { ends: new Map(), seconds: clock(problem.tempo) }));
  return found;
}

const placesOfSetup = new WeakMap<Setup, PlaceFinder>();

function placesBy(setup: Setup): PlaceFinder {
  let found = placesOfSetup.get(setup);
  if (!found) placesOfSetup.set(setup, (found = placeCache(setup)));
  return found;
}

/**
 * Cuts the events into slices under what has been given up; those from `from` on and before `to`
 * only, where nothing before `from` binds what follows. Linear in events times strings.
 */
export function makeSlices(problem: Problem, relaxed: Relaxed, from = 0, to = problem.events.length): Slice[] {
  const cut = cutting(problem, relaxed, from, null);
  const slices: Slice[] = [];
  for (let e = from; e < to; e++) slices.push(cut(e));
  return slices;
}

/**
 * Makes slices one after the other from `from` on; nothing from before it sounds on. `quiet`: since when nothing
 * sounds.
 */
export function cutting(problem: Problem, relaxed: Relaxed, from: number, quiet: Quarter | null): (e: number) => Slice {
  const { events } = problem;
  const { seconds } = shared(problem);
  const places = placesBy(problem.setup);
  let sounding: Sounding[] = [];
  let voicesBefore: readonly Voice[] = [];
  let silentFrom = quiet;
  return (e) => {
    const event = events[e];
    if (!event || e < from) throw new Error(`no event ${e}`);
    const before = events[e - 1];
    const leading = before && leads(before) && !relaxed.unlinked.has(e - 1) ? before : null;
    const over = (end: Quarter, sounding: Sounding): boolean => {
      const released = relaxed.released.get(noteKey(sounding.event, sounding.note));
      return cmp(end, event.at) <= 0 || (released !== undefined && released <= e);
    };
    const again: [Sounding, number][] = [];
    sounding = sounding.filter((sounding) => {
      const note = againOf(events[sounding.event]?.notes[sounding.note], event);
      if (note !== undefined && !over(sounding.kept, sounding) && !relaxed.dropped.has(noteKey(e, note)))
        again.push([sounding, note]);
      return note === undefined && !over(maxQuarter(sounding.end, sounding.kept), sounding);
    });
    const struck = struckVoices(events, event, e, relaxed, places);
    const { linked, still } = leading ? pairs(leading, event, voicesBefore, e - 1, struck) : UNLINKED;
    // A joined note ends where the next begins, whatever its written length says.
    const joined = new Set([...linked, ...still].map(([from]) => voicesBefore[from]?.note ?? -1));
    sounding = sounding.filter(
      (sounding) => sounding.event !== e - 1 || !joined.has(sounding.note) || cmp(sounding.kept, event.at) > 0,
    );
    const find = (sounding: Sounding): number =>
      voicesBefore.findIndex(
        (voice) => voice.event === sounding.event && voice.note === sounding.note && voice.over < 0,
      );
    const held = sounding.flatMap((sounding): Voice[] => {
      const from = find(sounding);
      const origin = voicesBefore[from];
      if (!origin) return [];
      const silent = over(sounding.end, sounding) || (sounding.event === e - 1 && joined.has(sounding.note));
      return [
        {
          ...origin,
          heldFrom: from,
          silent,
          bend: 0,
          pedal: false,
          places:
            origin.kind === 'harmonic' && origin.heldFrom < 0
              ? origin.places.map((place) => ({ ...place, open: true }))
              : origin.places,
        },
      ];
    });
    // Silent fingers come last: they may lie below what sounds on their string.
    const voices = [...struck, ...held.filter((voice) => !voice.silent), ...held.filter((voice) => voice.silent)];
    const same = again.flatMap(([sounding, note]): [number, number][] => {
      const from = find(sounding);
      const to = struck.findIndex((voice) => voice.note === note && voice.over < 0);
      return from < 0 || to < 0 ? [] : [[from, to]];
    });
    const link =
      linked.length > 0
        ? linkOf(linked)
        : leading && still.length === 0 && event.notes.length === 1
          ? firstLink(leading)
          : null;
    const led = new Set([...linked.filter(([, , how]) => how !== null), ...still].map(([, to]) => to));
    const picked = linked.length + still.length === 0 ? link === null : struck.some(isStruckBeside(led, event));
    // Rounded to a microsecond, so that equal times are equal wherever they stand in the piece.
    const between = (a: Quarter): number => Math.round((seconds(event.at) - seconds(a)) * 1e6) / 1e6;
    const gap = before ? between(before.at) : 0;
    const rest = silentFrom !== null && cmp(silentFrom, event.at) < 0 ? between(silentFrom) : 0;
    const wish = event.wish ?? null;
    const bar = event.bar === true;
    const key = `${bar ? 'bar ' : ''}${wish ? wishKey(wish) : ''}${voices.map(voiceKey).join(' ')}`;
    const moveKey = `${link ?? ''}${picked ? 'p' : ''} ${linked.join(';')} ${still.join(';')} ${same.join(';')} ${voices.map((voice) => voice.heldFrom).join()} ${gap} ${rest}`;
    event.notes.forEach((note, index) => {
      if (relaxed.dropped.has(noteKey(e, index)) || note.dead) return;
      const own = add(event.at, note.dur ?? event.dur);
      const ring = ringEnd(problem, e);
      const end = ring ? maxQuarter(own, ring) : own;
      sounding.push({ event: e, note: index, end, kept: note.keep && !note.harmonic ? add(event.at, note.keep) : end });
      silentFrom = silentFrom === null ? own : maxQuarter(silentFrom, own);
    });
    voicesBefore = voices;
    return {
      event: e,
      voices,
      link,
      picked,
      linked,
      still,
      same,
      wish,
      bar,
      key,
      moveKey,
      gap,
      rest,
      quiet: silentFrom,
    };
  };
}

/**
 * Which note of an event strikes a sounding one again: the one of its pitch, unless they are known to lie on two
 * strings, where both ring.
 */
function againOf(sounding: PlaceNote | undefined, event: PlaceEvent): number | undefined {
  if (!sounding) return undefined;
  const apart = (note: PlaceNote): boolean =>
    note.lock !== null && sounding.lock !== null && note.lock.string !== sounding.lock.string;
  const found = event.notes.findLastIndex((note) => note.pitch === sounding.pitch && !apart(note));
  return found < 0 ? undefined : found;
}

function struckVoices(
  events: readonly PlaceEvent[],
  event: PlaceEvent,
  e: number,
  relaxed: Relaxed,
  placesOf: PlaceFinder,
): Voice[] {
  const struck: Voice[] = [];
  const pedal = pedalOf(events, e);
  // A locked note that can't be played keeps its place in the document, so its string is not free.
  const taken = event.notes.flatMap((note, i) =>
    note.lock && relaxed.dropped.has(noteKey(e, i)) ? [note.lock.string] : [],
  );
  const avoid = event.wish?.avoid ?? [];
  const without = [...taken, ...avoid].join(' ');
  event.notes.forEach((note, index) => {
    if (relaxed.dropped.has(noteKey(e, index))) return;
    const all = placesOf(note);
    // What the instructor locked stands, wishes or not.
    const places =
      without === ''
        ? all
        : all.filter((place) => !taken.includes(place.string) && (note.lock !== null || !avoid.includes(place.string)));
    const kind = note.dead ? 'dead' : note.harmonic ? 'harmonic' : note.tapped ? 'tapped' : 'fretted';
    const main = struck.length;
    struck.push({
      event: e,
      note: index,
      pitch: note.pitch,
      places,
      lock: note.lock,
      without: `${without}${note.least ?? ''}${note.above ? 'a' : ''}${note.notEdge ?? ''}`,
      heldFrom: -1,
      silent: false,
      over: -1,
      above: 0,
      kind,
      bend: note.bend ?? 0,
      cents: event.bar ? (note.cents ?? 0) : 0,
      pedal: index === pedal,
    });
    if (note.trill) {
      const upper: PlaceNote = { pitch: note.pitch + note.trill, lock: null, dur: null };
      struck.push({
        event: e,
        note: index,
        pitch: upper.pitch,
        places: placesOf(upper),
        lock: null,
        without,
        heldFrom: -1,
        silent: false,
        over: main,
        above: note.trill,
        kind: 'fretted',
        bend: 0,
        cents: 0,
        pedal: false,
      });
    }
  });
  return struck;
}

/** What states and holding costs depend on in one voice, as text. */
const voiceKey = (voice: Voice): string =>
  `${voice.pitch}${voice.heldFrom >= 0 ? (voice.silent ? 's' : 'h') : ''}${voice.kind === 'fretted' ? '' : voice.kind}${voice.lock ? `@${voice.lock.string}.${voice.lock.fret}.${voice.lock.finger ?? ''}` : ''}${voice.without ? `-${voice.without}` : ''}${voice.over >= 0 ? `^${voice.over}.${voice.above}` : ''}${voice.bend ? `b${voice.bend}` : ''}${voice.cents ? `c${voice.cents}` : ''}${voice.pedal ? 'p' : ''}`;

const wishKey = (wish: Wish): string =>
  `<${wish.hand ?? ''},${wish.liking ?? ''},${wish.prefer?.join('.') ?? ''}${wish.thumb ?? ''}>`;

/** Seconds of a musical time; the one asked last is remembered, since slices ask for each twice. */
function clock(tempo: Problem['tempo']): (at: Quarter) => number {
  const known = new Map<Quarter, number>();
  return (at) => {
    let s = known.get(at);
    if (s === undefined) known.set(at, (s = secondsAt(tempo, at)));
    return s;
  };
}

/**
 * The note of an event that is a pedal: the lowest of its neighbourhood, struck three times or more with other notes
 * between; -1 where none is.
 */
function pedalOf(events: readonly PlaceEvent[], e: number): number {
  const own = events[e]?.notes ?? [];
  let low = 999;
  for (const note of own) if (note.pitch < low) low = note.pitch;
  let times = 0;
  let others = 0;
  const last = Math.min(events.length - 1, e + PEDAL_REACH);
  for (let i = Math.max(0, e - PEDAL_REACH); i <= last; i++) {
    for (const note of events[i]?.notes ?? []) {
      if (note.pitch < low) return -1;
      if (note.pitch === low) times++;
      else others++;
    }
  }
  return times >= PEDAL_TIMES && others > 0 ? own.findIndex((note) => note.pitch === low) : -1;
}

type PlaceFinder = (note: PlaceNote) => readonly PlaceOnNeck[];

/** Places by kind of note; a damped string needs no fret, so all of its places count as open. */
function placeCache(setup: Setup): PlaceFinder {
  const cache = new Map<string, readonly PlaceOnNeck[]>();
  return (note) => {
    const key = `${note.pitch}${note.harmonic ? 'h' : ''}${note.dead ? 'd' : ''}${note.tapped ? 't' : ''}${note.least ?? ''}${note.above ? 'a' : ''}${note.notEdge ?? ''}`;
    const known = cache.get(key);
    if (known) return known;
    const places = placesFor(setup, note).filter((place) => fits(setup, note, place));
    // A tapped note is stopped by the other hand, so none of this hand's fingers is asked for; it needs a fret.
    const made = note.dead
      ? places.map((place) => ({ ...place, open: true }))
      : note.tapped
        ? places.filter((place) => place.fret > 0).map((place) => ({ ...place, open: true }))
        : places;
    cache.set(key, made);
    return made;
  };
}

/** Whether a place leaves a technique what it needs. */
function fits(setup: Setup, note: PlaceNote, place: PlaceOnNeck): boolean {
  if (note.least === undefined && note.above === undefined && note.notEdge === undefined) return true;
  const strings = stringNumbers(setup);
  const edge = note.notEdge === 'thick' ? Math.max(...strings) : note.notEdge === 'thin' ? Math.min(...strings) : 0;
  return (
    place.fret >= (note.least ?? 0) &&
    place.fret + (note.above ?? 0) <= fretsLeft(setup, place.string) &&
    place.string !== edge
  );
}

/** For a ringing event the end of its run of ringing events, or of its bar; null for others. */
function ringEnd(problem: Problem, e: number): Quarter | null {
  const { events, meters } = problem;
  const event = events[e];
  if (!event?.ring) return null;
  const { ends } = shared(problem);
  const known = ends.get(e);
  if (known !== undefined) return known;
  const line = barStart(meters, barOf(meters, event.at).bar + 1);
  let end: Quarter = event.at;
  for (let i = e; i < events.length; i++) {
    const one = events[i];
    if (!one?.ring || cmp(one.at, line) >= 0) break;
    for (const note of one.notes) end = maxQuarter(end, add(one.at, note.dur ?? one.dur));
    end = maxQuarter(end, add(one.at, one.dur));
  }
  end = minQuarter(end, line);
  ends.set(e, end);
  return end;
}
