import type { Semitones, StringNumber } from '../base';
import { fretsLeft, openPitch, pitchAt, shapeShift, stringNumbers, type Setup } from '../instrument';
import { shiftKey, type Key } from '../pitch';
import {
  bestWay,
  DEFAULT_OPTIONS,
  inWay,
  problemOf,
  solve,
  type Blocked,
  type PlaceOptions,
  type Solution,
  type Way,
} from '../place';
import { reasonAsEvidence, type Note, type Part, type Riff, type RiffEvent } from '../score';
import { barOf, type TempoStep } from '../time';
import { carryPart, type CarryMode } from './carry';
import { isOpen, lossesOf, openCount, type Loss } from './losses';
import { counterpart, equalStrings } from './strings';

/** What is to be carried where. */
export interface CarryRequest {
  readonly riff: Riff;
  readonly from: Setup;
  readonly to: Setup;
  readonly keep: CarryMode;
  /** Octaves everything is moved by, keeping the sound; absent: the ones that lose least. */
  readonly octaves?: number | undefined;
  /** Whether notes out of reach are moved by octaves of their own, or left to their octave in the chord. */
  readonly substitute?: boolean | undefined;
  readonly tempo: readonly TempoStep[];
  readonly key: Key | null;
  readonly options?: PlaceOptions | undefined;
}

/** An octave everything could be moved by, with what it costs. */
export interface OctaveOffer {
  readonly octaves: number;
  /** Notes the instrument doesn't have there. */
  readonly missing: number;
}

/** A note that has no place, and what could stand for it. */
export interface Substitution {
  readonly event: string;
  readonly note: string;
  /** The octave it would be moved by; null: it is left out, for another note of the chord sounds its name. */
  readonly octaves: number | null;
  readonly words: string;
}

export interface CarriedKeys {
  readonly sounding: { readonly before: Key | null; readonly after: Key | null };
  readonly shape: { readonly before: Key | null; readonly after: Key | null };
}

export interface CarriedRiff {
  readonly riff: Riff;
  readonly to: Setup;
  readonly keep: CarryMode;
  readonly octaves: number;
  readonly offers: readonly OctaveOffer[];
  readonly substitutions: readonly Substitution[];
  readonly losses: readonly Loss[];
  readonly blocked: readonly Blocked[];
  /** How much stays: notes on the same string and fret, open strings, notes in all. */
  readonly kept: { readonly notes: number; readonly places: number; readonly open: number; readonly wasOpen: number };
  readonly cost: { readonly before: number; readonly after: number };
  /** Hand positions by event, from where frets are counted. */
  readonly hands: { readonly before: readonly number[]; readonly after: readonly number[] };
  readonly keys: CarriedKeys;
  /** Strings that are tuned alike in both, by the number on the first. */
  readonly equal: readonly StringNumber[];
  /** The bars that became harder, hardest first: bar from 0 and how much dearer. */
  readonly worst: readonly { readonly bar: number; readonly extra: number }[];
}

const OCTAVES = [0, -1, 1, -2, 2] as const;

/**
 * A riff on another set-up, placed, with everything that is kept, changed and lost. Keeping the sound, every pitch
 * stays (or all move by octaves, where the instrument lies elsewhere); keeping the shape, strings and frets stay and
 * the pitch follows. Nothing is left out: what can't be played stays without a place and is named.
 */
export function carryOver(request: CarryRequest): CarriedRiff {
  const { riff, from, to, keep, tempo, options = DEFAULT_OPTIONS } = request;
  const offers = keep === 'sound' ? offersFor(riff, to) : [{ octaves: 0, missing: 0 }];
  const octaves = keep === 'sound' ? (request.octaves ?? bestOffer(offers)) : 0;
  const asPart = onto(riff, from, to, keep, octaves * 12);
  const offered = keep === 'sound' ? substitutionsFor(asPart, to) : [];
  const wanted = request.substitute ? substituted(asPart, offered) : asPart;
  const equal = equalStrings(from, to);
  const before = solve(problemOf(placedAsIs(riff), from, tempo, options));
  const beforeWay = bestWay(before);
  const { riff: carried, solution } =
    keep === 'sound' ? soundly(wanted, to, tempo, options) : shaped(wanted, to, tempo, options);
  const afterWay = bestWay(solution);
  const losses = lossesOf({
    ...{ riff, carried, before: beforeWay.events, after: afterWay.events, blocked: solution.blocked },
    meant: octaves * 12,
  });
  const pairs = riff.events.flatMap((event, i) =>
    event.notes.map((note, k) => [note, carried.events[i]?.notes[k]] as const),
  );
  return {
    riff: carried,
    ...{ to, keep, octaves, offers, losses, equal, substitutions: offered },
    blocked: solution.blocked,
    kept: {
      notes: pairs.length,
      places: pairs.filter(([a, b]) => samePlace(a, b, from, to)).length,
      open: pairs.filter(([a, b]) => isOpen(a) && b !== undefined && isOpen(b)).length,
      wasOpen: openCount(riff.events),
    },
    cost: { before: beforeWay.cost, after: afterWay.cost },
    hands: { before: handsOf(beforeWay), after: handsOf(afterWay) },
    keys: keysOf(request, carried, octaves * 12),
    worst: worstOf(before, beforeWay, afterWay),
  };
}

const handsOf = (way: Way): number[] => way.events.map((event) => event.hand);

const samePlace = (a: Note, b: Note | undefined, from: Setup, to: Setup): boolean =>
  a.place !== null &&
  b?.place !== undefined &&
  b.place !== null &&
  counterpart(from, to, a.place.string) === b.place.string &&
  a.place.fret === b.place.fret;

/** Octaves everything could be moved by, and how many notes no string has there. */
function offersFor(riff: Riff, to: Setup): OctaveOffer[] {
  const strings = stringNumbers(to);
  const lowest = Math.min(...strings.map((string) => openPitch(to, string)));
  const highest = Math.max(...strings.map((string) => openPitch(to, string) + fretsLeft(to, string)));
  const pitches = riff.events
    .flatMap((event) => event.notes.filter((note) => !note.technique?.dead))
    .map((note) => note.pitch.midi);
  return OCTAVES.map((octaves) => ({
    octaves,
    missing: pitches.filter((midi) => midi + 12 * octaves < lowest || midi + 12 * octaves > highest).length,
  }));
}

/** The octave with fewest notes missing; where several lose as little, the nearest. */
const bestOffer = (offers: readonly OctaveOffer[]): number =>
  [...offers].sort((a, b) => a.missing - b.missing || Math.abs(a.octaves) - Math.abs(b.octaves))[0]?.octaves ?? 0;

/** The riff on the other instrument's strings: frets as they were, pitches as they have to be. */
function onto(riff: Riff, from: Setup, to: Setup, keep: CarryMode, by: Semitones): Riff {
  const events = riff.events.map((event): RiffEvent => ({
    ...event,
    notes: event.notes.map((note): Note => {
      const midi = Math.max(0, Math.min(127, note.pitch.midi + by));
      const moved = { ...note, pitch: { ...note.pitch, midi } };
      if (!note.place) return moved;
      const string = counterpart(from, to, note.place.string);
      const { otherPlace: _, ...place } = note.place;
      return string === null
        ? { ...moved, place: null, evidence: note.evidence ?? reasonAsEvidence(note.place.reason) }
        : { ...moved, place: { ...place, string } };
    }),
  }));
  // Kept readings and variants stay with the model: what is carried is what is written.
  const { alternatives: _alternatives, variants: _variants, wishes: _wishes, ...plain } = riff;
  const carried = carryPart({ riffs: [{ ...plain, events }] } as unknown as Part, to, keep);
  return carried.riffs[0] ?? { ...plain, events };
}

/** Every place locked, so that the solver only reckons what it costs. */
function placedAsIs(riff: Riff): Riff {
  return {
    ...riff,
    events: riff.events.map((event) => ({
      ...event,
      notes: event.notes.map((note) => (note.place ? { ...note, place: { ...note.place, locked: true } } : note)),
    })),
  };
}

/** How much dearer a carried phrase may be for its old places to stay. */
const WORTH_STAYING = 1.15;

/**
 * Placed anew, but where strings are tuned alike grips stay as they are, unless a new way is clearly easier or keeping
 * them blocks something.
 */
function soundly(
  riff: Riff,
  to: Setup,
  tempo: readonly TempoStep[],
  options: PlaceOptions,
): { riff: Riff; solution: Solution } {
  const free = solve(problemOf(riff, to, tempo, options));
  const stayed = solve(problemOf(placedAsIs(riff), to, tempo, options));
  // Where every place still sounds its note nothing has to be found anew.
  const whole = riff.events.every((event) => event.notes.every((note) => note.place !== null));
  const stay =
    stayed.blocked.length <= free.blocked.length &&
    (whole || bestWay(stayed).cost <= bestWay(free).cost * WORTH_STAYING + 1);
  const solution = stay ? stayed : free;
  const locked = stay ? placedAsIs(riff) : riff;
  return { riff: withLocksOf(inWay(locked, bestWay(solution)), riff), solution };
}

/** Strings and frets as they are; notes without a place get one. */
function shaped(
  riff: Riff,
  to: Setup,
  tempo: readonly TempoStep[],
  options: PlaceOptions,
): { riff: Riff; solution: Solution } {
  const kept = placedAsIs(riff);
  const solution = solve(problemOf(kept, to, tempo, options));
  return { riff: withLocksOf(inWay(kept, bestWay(solution)), riff), solution };
}

/** Places as they came out, locked only where they were the instructor's before. */
function withLocksOf(placed: Riff, model: Riff): Riff {
  const locked = new Set(
    model.events.flatMap((event) => event.notes.filter((note) => note.place?.locked).map((note) => note.id)),
  );
  return {
    ...placed,
    events: placed.events.map((event) => ({
      ...event,
      notes: event.notes.map((note) =>
        note.place && note.place.locked && !locked.has(note.id)
          ? { ...note, place: { ...note.place, locked: false } }
          : note,
      ),
    })),
  };
}

/** What could stand for each note no string has: the same name in a chord, or an octave of its own. */
function substitutionsFor(riff: Riff, to: Setup): Substitution[] {
  const strings = stringNumbers(to);
  const exists = (midi: number): boolean =>
    strings.some((string) => pitchAt(to, { string, fret: midi - openPitch(to, string) }).ok);
  return riff.events.flatMap((event) =>
    event.notes.flatMap((note): Substitution[] => {
      const { midi } = note.pitch;
      if (note.technique?.dead || exists(midi)) return [];
      const doubled = event.notes.some(
        (other) => other !== note && exists(other.pitch.midi) && (other.pitch.midi - midi) % 12 === 0,
      );
      if (doubled)
        return [
          {
            event: event.id,
            note: note.id,
            octaves: null,
            words: 'can be left out: another note of the chord has its name',
          },
        ];
      const octaves = [1, -1, 2, -2].find(
        (by) => exists(midi + 12 * by) && !event.notes.some((other) => other.pitch.midi === midi + 12 * by),
      );
      return octaves === undefined
        ? []
        : [
            {
              ...{ event: event.id, note: note.id, octaves },
              words: `can be played ${Math.abs(octaves) === 1 ? 'an octave' : 'two octaves'} ${octaves > 0 ? 'higher' : 'lower'}`,
            },
          ];
    }),
  );
}

function substituted(riff: Riff, offered: readonly Substitution[]): Riff {
  const by = new Map(offered.map((one) => [one.note, one.octaves]));
  return {
    ...riff,
    events: riff.events.map((event) => ({
      ...event,
      notes: event.notes.map((note) => {
        const octaves = by.get(note.id);
        return octaves
          ? { ...note, pitch: { ...note.pitch, midi: note.pitch.midi + 12 * octaves }, place: null }
          : note;
      }),
    })),
  };
}

/** The sounding key moves by what all notes move by; the shape key says what the grips would be called. */
function keysOf({ key, from, to, riff }: CarryRequest, carried: Riff, meant: Semitones): CarriedKeys {
  const steps = new Set(
    riff.events.flatMap((event, i) =>
      event.notes.flatMap((note, k) => {
        const there = carried.events[i]?.notes[k];
        return there && !note.technique?.dead ? [there.pitch.midi - note.pitch.midi] : [];
      }),
    ),
  );
  const only = steps.size === 1 ? ([...steps][0] ?? meant) : steps.size === 0 ? meant : null;
  const after = key && only !== null ? shiftKey(key, only) : null;
  return {
    sounding: { before: key, after },
    shape: { before: key && shiftKey(key, -shapeShift(from)), after: after && shiftKey(after, -shapeShift(to)) },
  };
}

function worstOf(solution: Solution, before: Way, after: Way): { bar: number; extra: number }[] {
  const { events, meters } = solution.problem;
  const bars = new Map<number, number>();
  events.forEach((event, i) => {
    const { bar } = barOf(meters, event.at);
    bars.set(bar, (bars.get(bar) ?? 0) + (after.events[i]?.cost ?? 0) - (before.events[i]?.cost ?? 0));
  });
  return [...bars]
    .map(([bar, extra]) => ({ bar, extra: Math.round(extra * 10) / 10 }))
    .filter(({ extra }) => extra >= 1)
    .sort((a, b) => b.extra - a.extra)
    .slice(0, 3);
}
