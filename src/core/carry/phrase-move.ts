import { fail, ok, type Fret, type Millimetres, type Result, type Semitones, type StringNumber } from '../base';
import { degreeOverNote, parseChord } from '../harmony';
import type { Setup } from '../instrument';
import { noteName, parseName, pitchClass, type Key } from '../pitch';
import { bestWay, DEFAULT_OPTIONS, placeRiff, problemOf, solve, type Blocked, type PlaceOptions } from '../place';
import { makeRiff, type Note, type RiffEvent } from '../score';
import type { MeterChange, TempoStep } from '../time';
import { isOpen } from './losses';
import { moveShape, moveSound, moveStrings, type Moved } from './move';

/** Where a phrase is moved within its part. */
export type PhraseMove =
  /** In shape along the neck. Open strings are stopped with the rest, or kept open as a drone under it. */
  | { readonly by: 'frets'; readonly steps: number; readonly opens?: 'close' | 'keep' | undefined }
  | { readonly by: 'strings' | 'semitones' | 'octaves'; readonly steps: number }
  /** From the chord it is over to another, root to root: in shape where the neck allows. */
  | { readonly by: 'chord'; readonly from: string; readonly to: string; readonly opens?: 'close' | 'keep' | undefined }
  /** Into another key, degree by degree where the mode changes. */
  | { readonly by: 'key'; readonly from: Key; readonly to: Key }
  /** The same sound with the hand elsewhere. */
  | { readonly by: 'hand'; readonly fret: Fret };

/** What becomes of a note that was open. */
export interface OpenChange {
  readonly event: string;
  readonly note: string;
  readonly string: StringNumber;
  /** The fret at which it is stopped now; null where it stays open. */
  readonly closed: Fret | null;
  /** What it was over the root and what it is over the new one; null where no root is known. */
  readonly was: string | null;
  readonly now: string | null;
  readonly words: string;
}

export interface MovedPhrase {
  readonly events: readonly RiffEvent[];
  /** Whether strings and frets kept their shape; else places were found anew. */
  readonly shape: boolean;
  /** Semitones everything moved by; null where notes moved unlike each other. */
  readonly by: Semitones | null;
  readonly opens: readonly OpenChange[];
  readonly lostLocks: number;
  readonly blocked: readonly Blocked[];
  /** How much wider the widest reach has become, in mm; 0 where it hasn't. */
  readonly wider: Millimetres;
}

export interface PhraseMoveRequest {
  readonly setup: Setup;
  readonly events: readonly RiffEvent[];
  readonly move: PhraseMove;
  readonly meters: readonly MeterChange[];
  readonly tempo: readonly TempoStep[];
  /** The name of the note degrees are counted from, where one is known. */
  readonly root: string | null;
  readonly options?: PlaceOptions | undefined;
}

/**
 * A phrase moved within its part, placed, with what became of its open strings. Fails where it leaves the neck, and
 * names the note.
 */
export function movePhrase(request: PhraseMoveRequest): Result<MovedPhrase> {
  const { setup, events, move, meters, tempo, options = DEFAULT_OPTIONS } = request;
  const made = moved(request);
  if (!made.ok) return made;
  const frame = (of: readonly RiffEvent[]): ReturnType<typeof makeRiff> =>
    makeRiff('moved', 'moved', { events: of, meters: [...meters], bars: 64 });
  const free = made.value.events.some((event) => event.notes.some((note) => note.place === null));
  const wished = move.by === 'hand' ? { ...options, wishedHand: move.fret } : options;
  const placed = free ? placeRiff(frame(made.value.events), setup, tempo, wished) : null;
  const after = placed?.riff.events ?? made.value.events;
  const [before, now] = [events, after].map((list) => solve(problemOf(locked(frame(list)), setup, tempo, options)));
  const wider = widest(now) - widest(before);
  const steps = new Set(
    events.flatMap((event, i) => event.notes.map((note, k) => (after[i]?.notes[k]?.pitch.midi ?? 0) - note.pitch.midi)),
  );
  return ok({
    events: after,
    shape: !free,
    by: steps.size === 1 ? ([...steps][0] ?? 0) : null,
    opens: opensOf(request, after, newRoot(request)),
    lostLocks: made.value.lostLocks,
    blocked: now?.blocked ?? [],
    wider: Math.max(0, Math.round(wider)),
  });
}

const locked = (riff: ReturnType<typeof makeRiff>): ReturnType<typeof makeRiff> => ({
  ...riff,
  events: riff.events.map((event) => ({
    ...event,
    notes: event.notes.map((note) => (note.place ? { ...note, place: { ...note.place, locked: true } } : note)),
  })),
});

function widest(solution: ReturnType<typeof solve> | undefined): number {
  const terms = solution ? bestWay(solution).events.flatMap((event) => event.hold) : [];
  return Math.max(0, ...terms.filter((term) => term.name === 'stretch').map((term) => term.amount));
}

const mod12 = (n: number): number => ((n % 12) + 12) % 12;

/** Semitones between two roots, the nearer way first. */
function nearest(from: number, to: number): readonly number[] {
  const up = mod12(to - from);
  return up === 0 ? [0] : up <= 6 ? [up, up - 12] : [up - 12, up];
}

function moved({ setup, events, move }: PhraseMoveRequest): Result<Moved> {
  switch (move.by) {
    case 'frets':
      return move.opens === 'keep' ? overDrones(setup, events, move.steps) : moveShape(setup, events, move.steps);
    case 'strings':
      return moveStrings(setup, events, move.steps);
    case 'semitones':
      return moveSound(setup, events, move.steps);
    case 'octaves':
      return moveSound(setup, events, 12 * move.steps);
    case 'hand':
      return moveSound(setup, events, 0);
    case 'key':
      return toKey(setup, events, move.from, move.to);
    case 'chord': {
      const [from, to] = [parseChord(move.from), parseChord(move.to)];
      if (!from.ok) return from;
      if (!to.ok) return to;
      const ways = nearest(pitchClass(from.value.root), pitchClass(to.value.root));
      const shape = move.opens === 'keep' ? overDrones : moveShape;
      const tries = [
        ...ways.map((by) => () => shape(setup, events, by)),
        ...ways.map((by) => () => moveSound(setup, events, by)),
      ];
      let last: Result<Moved> | null = null;
      for (const attempt of tries) {
        last = attempt();
        if (last.ok) return last;
      }
      return last ?? fail('off-neck', `The phrase can’t be moved to ${move.to} on this instrument.`, {});
    }
  }
}

/** Stopped notes move, open strings go on sounding under them. */
function overDrones(setup: Setup, events: readonly RiffEvent[], frets: number): Result<Moved> {
  const stopped = events.map((event) => ({ ...event, notes: event.notes.filter((note) => !isOpen(note)) }));
  const made = moveShape(setup, stopped, frets);
  if (!made.ok) return made;
  return ok({
    ...made.value,
    lostOpen: 0,
    events: events.map((event, i) => {
      const next = [...(made.value.events[i]?.notes ?? [])];
      return { ...event, notes: event.notes.map((note) => (isOpen(note) ? note : (next.shift() ?? note))) };
    }),
  });
}

const STEPS = { major: [0, 2, 4, 5, 7, 9, 11], minor: [0, 2, 3, 5, 7, 8, 10] } as const;

/** Into another key: by its distance, and where the mode changes each degree to the same degree of the new one. */
function toKey(setup: Setup, events: readonly RiffEvent[], from: Key, to: Key): Result<Moved> {
  const [a, b] = [parseName(from.tonic), parseName(to.tonic)];
  if (!a || !b) return fail('bad-key', `"${a ? to.tonic : from.tonic}" is no name of a key.`, {});
  const home = pitchClass(a);
  const bent = (midi: number): number => {
    if (from.mode === to.mode) return 0;
    const degree = (STEPS[from.mode] as readonly number[]).indexOf(mod12(midi - home));
    return degree < 0 ? 0 : (STEPS[to.mode][degree] ?? 0) - (STEPS[from.mode][degree] ?? 0);
  };
  let last: Result<Moved> | null = null;
  for (const by of nearest(home, pitchClass(b))) {
    last = moveSound(setup, events, by);
    if (last.ok) {
      const made = last.value.events.map((event, i) => ({
        ...event,
        notes: event.notes.map((note, k) => {
          const was = events[i]?.notes[k]?.pitch.midi ?? note.pitch.midi;
          return { ...note, pitch: { ...note.pitch, midi: note.pitch.midi + bent(was) } };
        }),
      }));
      return ok({ ...last.value, events: made });
    }
  }
  return last ?? fail('off-neck', 'The phrase can’t be moved to that key on this instrument.', {});
}

/** The root after the move: that of the chord or key it goes to, or the old one moved along. */
function newRoot({ move, root }: PhraseMoveRequest): string | null {
  if (move.by === 'chord') {
    const to = parseChord(move.to);
    return to.ok ? noteName(60 + pitchClass(to.value.root)) : null;
  }
  if (move.by === 'key') return move.to.tonic;
  if (root === null || move.by === 'hand' || move.by === 'strings' || move.by === 'octaves') return root;
  const parsed = parseName(root);
  return parsed ? noteName(60 + mod12(pitchClass(parsed) + move.steps)) : null;
}

function opensOf(request: PhraseMoveRequest, after: readonly RiffEvent[], to: string | null): OpenChange[] {
  const { events, move } = request;
  const root = move.by === 'chord' ? rootOf(move.from) : move.by === 'key' ? move.from.tonic : request.root;
  return events.flatMap((event, i) =>
    event.notes.flatMap((note, k): OpenChange[] => {
      const there = after[i]?.notes[k];
      if (!isOpen(note) || !note.place || !there) return [];
      const was = root === null ? null : degreeOverNote(note.pitch.midi, root);
      const now = to === null ? null : degreeOverNote(there.pitch.midi, to);
      const closed = there.place && !isOpen(there) ? there.place.fret : null;
      if (closed === null && was === now) return [];
      const { string } = note.place;
      return [
        { event: event.id, note: note.id, string, closed, was, now, words: openWords(there, string, closed, was, now) },
      ];
    }),
  );
}

function rootOf(symbol: string): string | null {
  const chord = parseChord(symbol);
  return chord.ok ? noteName(60 + pitchClass(chord.value.root)) : null;
}

function openWords(
  there: Note,
  string: StringNumber,
  closed: Fret | null,
  was: string | null,
  now: string | null,
): string {
  const name = noteName(there.pitch.midi);
  if (closed !== null)
    return `Open string ${string} is stopped: string ${there.place?.string ?? '?'}, fret ${closed} (${name}${now === null ? '' : `, the ${now}`}).`;
  return `Open string ${string} stays ${name}${was === null || now === null ? '' : `: it was the ${was} and is the ${now}`}.`;
}
