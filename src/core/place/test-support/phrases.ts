import { must } from '../../base';
import {
  fretsLeft,
  HARMONIC_NODES,
  harmonicAt,
  makeSetup,
  nutOf,
  openPitch,
  stringNumbers,
  type Setup,
  type SetupRequest,
} from '../../instrument';
import { quarter, ZERO } from '../../time';
import { ADULT_HAND, sizedHand, type Profile } from '../../hand';
import { DEFAULT_OPTIONS } from '../options';
import type { PlaceEvent, PlaceLink, PlaceNote, Problem, Way, Wish } from '../types';

/** What the placement tests and benchmarks share: random phrases, and a judge that knows nothing of the solver. */

export const setupFor = (instrument: string, tuning?: string, capo: SetupRequest['capo'] = 0): Setup =>
  must(makeSetup({ instrument, tuning, capo })).setup;

export const TEST_SETUPS = (): Setup[] => [
  setupFor('guitar-6'),
  setupFor('guitar-6', 'drop-c'),
  setupFor('guitar-6', 'standard', 4),
  setupFor('guitar-6', 'x G2 D3 G3 B3 D4'),
  setupFor('guitar-6', 'standard', [{ fret: 2, strings: [5, 4, 3] }]),
  setupFor('guitar-6', 'drop-d', [
    { fret: 2, strings: [5, 4, 3, 2, 1] },
    { fret: 5, strings: [2, 1] },
  ]),
  setupFor('bass-4'),
  setupFor('bass-5'),
  setupFor('baritone-27'),
  setupFor('guitar-7'),
  setupFor('tenor-4'),
];

export const event = (
  id: string,
  at: number,
  pitches: readonly number[],
  extra: Partial<PlaceEvent> = {},
): PlaceEvent => ({
  id,
  at: quarter(at, 4),
  dur: quarter(1, 4),
  link: null,
  ring: false,
  notes: pitches.map((pitch) => ({ pitch, lock: null, dur: null })),
  ...extra,
});

export const problem = (setup: Setup, events: readonly PlaceEvent[], extra: Partial<Problem> = {}): Problem => ({
  setup,
  events,
  tempo: [{ at: ZERO, bpm: 100 }],
  meters: [{ bar: 0, beats: 4, unit: 4 }],
  options: DEFAULT_OPTIONS,
  ...extra,
});

/** Repeatable random integers: `dice(seed)(n)` is in [0, n). */
export function dice(seed: number): (n: number) => number {
  let state = seed;
  return (n) => {
    state = (state * 1103515245 + 12345) % 2147483648;
    return Math.floor((state / 2147483648) * n);
  };
}

/** Hands that differ in every way a profile can. */
export const TEST_HANDS: readonly Profile[] = [
  ADULT_HAND,
  { ...sizedHand(0.88), thumb: true },
  { ...ADULT_HAND, fingers: [1, 2, 3], barre: [1, 1, 1, 1], level: 'beginner' },
  { ...ADULT_HAND, school: 'one-two-four', thumb: true },
  { ...sizedHand(1.1), school: 'finger-per-fret', fingers: [1, 3, 4], level: 'advanced' },
];

/**
 * A random short phrase that exists on the neck: chords, joins, rings, overlaps, locks. `pick(n)` is an integer in
 * [0, n).
 */
export function randomPhrase(setup: Setup, length: number, pick: (n: number) => number): PlaceEvent[] {
  const strings = stringNumbers(setup);
  const frets = Math.min(12, ...strings.map((string) => fretsLeft(setup, string)));
  const phrase: PlaceEvent[] = [];
  for (let i = 0; i < length; i++) {
    const before = phrase[i - 1];
    if (before && before.notes.length > 1 && pick(3) === 0) phrase[i - 1] = { ...before, ...joinedOn(before, pick) };
    phrase.push(before && pick(5) === 0 ? moved(before, i, pick) : plainEvent(i));
  }
  const last = phrase.at(-1);
  return last ? [...phrase.slice(0, -1), { ...last, link: null, notes: last.notes.map(unlinked) }] : [];

  function plainEvent(i: number): PlaceEvent {
    const count = [1, 1, 1, 2, 3][pick(5)] ?? 1;
    const from = pick(Math.max(1, strings.length - count));
    const base = pick(frets - 3);
    const notes = strings.slice(from, from + count).map((string) => {
      const fret = pick(6) === 0 ? 0 : base + pick(4);
      const lock = pick(8) === 0 ? { string, fret, finger: null } : null;
      const note = { pitch: openPitch(setup, string) + fret, lock, dur: pick(6) === 0 ? quarter(1, 2) : null };
      return pick(4) === 0 ? flavoured(setup, note, string, pick) : note;
    });
    const link: PlaceLink | null = pick(5) === 0 ? ((['hammer', 'pull', 'slide'] as const)[pick(3)] ?? null) : null;
    const bar = pick(12) === 0;
    return {
      id: `e${i}`,
      at: quarter(i, 4),
      dur: pick(4) === 0 ? quarter(1, 2) : quarter(1, 4),
      notes: bar
        ? notes.map((one) => ({ ...one, cents: pick(3) === 0 ? 40 : 0, bend: undefined, trill: undefined }))
        : notes,
      link,
      ring: pick(6) === 0,
      bar,
      ...(pick(5) === 0 ? { wish: someWish(strings, pick) } : {}),
    };
  }
}

const unlinked = ({ link: _, ...note }: PlaceNote): PlaceNote => note;

/** A chord some notes of which lead on in ways of their own, and one of which may sound on. */
function joinedOn({ notes, dur }: PlaceEvent, pick: (n: number) => number): Pick<PlaceEvent, 'link' | 'notes'> {
  return {
    link: null,
    notes: notes.map((note) => ({
      ...note,
      link: ([null, 'hammer', 'pull', 'slide'] as const)[pick(4)] ?? null,
      dur: pick(3) === 0 ? quarter(1, 2) : dur,
    })),
  };
}

/** An event some notes of which are those of the one before, a little further on; one may come twice, as a unison. */
function moved(before: PlaceEvent, i: number, pick: (n: number) => number): PlaceEvent {
  const notes = before.notes.map((note) => ({
    pitch: note.pitch + (pick(3) === 0 ? 0 : pick(5) - 2),
    lock: null,
    dur: null,
  }));
  const kept = notes.filter((_, n) => n === 0 || pick(2) === 0);
  const first = kept[0];
  return {
    id: `e${i}`,
    at: quarter(i, 4),
    dur: quarter(1, 4),
    link: null,
    ring: false,
    notes: first && pick(4) === 0 ? [...kept, first] : kept,
  };
}

/** A note with a technique: bent, trilled, damped, kept down, or a harmonic of its string. */
function flavoured(setup: Setup, note: PlaceNote, string: number, pick: (n: number) => number): PlaceNote {
  switch (pick(7)) {
    case 0:
      return { ...note, bend: [50, 100, 200, 900][pick(4)] };
    case 1:
      return { ...note, trill: 1 + pick(4) };
    case 2:
      return { ...note, dead: true };
    case 4:
      return note.lock?.fret === 0 ? note : { ...note, tapped: true };
    case 5: {
      const needs = [{ least: 1 }, { least: 2 }, { least: 1, above: 1 }, { notEdge: 'thick' as const }][pick(4)] ?? {};
      return note.lock ? note : { ...note, ...needs };
    }
    case 3:
      return { ...note, keep: quarter(2 + pick(3), 4) };
    default: {
      const node = HARMONIC_NODES[pick(5)];
      return node
        ? { pitch: openPitch(setup, string) + node.semitones, lock: null, dur: note.dur, harmonic: true }
        : note;
    }
  }
}

function someWish(strings: readonly number[], pick: (n: number) => number): Wish {
  const one = strings[pick(strings.length)] ?? 1;
  return (
    [
      { hand: 1 + pick(9) },
      { liking: pick(2) === 0 ? 1 : -1 },
      { avoid: [one] },
      { prefer: [one] },
      { thumb: 'over' as const },
      { thumb: 'behind' as const },
    ][pick(6)] ?? {}
  );
}

/**
 * Everything wrong with a way that a teacher would see at once: written against the rules of
 * hands, not against the solver. `problem` says what was asked and of which hand.
 */
export function complaints({ setup, events: asked, options: { profile } }: Problem, way: Way): string[] {
  const out: string[] = [];
  const press = (nut: number): number => {
    const wire = (n: number): number => setup.instrument.scaleMm * (1 - 2 ** (-n / 12));
    return wire(nut - 1) + 0.75 * (wire(nut) - wire(nut - 1));
  };
  const thickest = Math.max(...stringNumbers(setup));
  for (const [i, other] of way.events.entries()) {
    const event = asked[i];
    const notes = other.notes.flatMap((place, index) => (place ? [{ ...place, asked: event?.notes[index] }] : []));
    const say = (what: string): number => out.push(`${other.id}: ${what}`);
    if (new Set(notes.map((place) => place.string)).size < notes.length) say('two notes on one string');
    for (const place of notes) {
      const node = place.asked?.harmonic ? harmonicAt(place.fret) : null;
      if (
        place.asked?.harmonic
          ? !HARMONIC_NODES.some(
              (node) =>
                Math.round(node.fret) === place.fret && openPitch(setup, place.string) + node.semitones === place.pitch,
            ) || node === null
          : openPitch(setup, place.string) + place.fret !== place.pitch
      )
        say('wrong pitch');
      if (setup.absent.includes(place.string)) say('string taken off');
      if (place.fret < 0 || place.fret > fretsLeft(setup, place.string)) say('no such fret');
      if (place.asked?.lock && (place.asked.lock.string !== place.string || place.asked.lock.fret !== place.fret))
        say('not where it is locked');
      if (!place.asked?.lock && event?.wish?.avoid?.includes(place.string)) say('on a string to be kept free');
      if (place.asked?.tapped && place.fret === 0) say('an open string tapped');
      if (
        place.fret < (place.asked?.least ?? 0) ||
        place.fret + (place.asked?.above ?? 0) > fretsLeft(setup, place.string)
      )
        say('no room for what is done to it');
      if (place.asked?.dead || place.asked?.tapped ? place.finger !== 0 : (place.fret === 0) !== (place.finger === 0))
        say(`finger ${place.finger} at fret ${place.fret}`);
      if (place.asked?.bend && place.fret === 0) say('an open string bent');
      if (event?.bar) continue;
      if (
        place.finger === 5 &&
        (!(event?.wish?.thumb ? event.wish.thumb === 'over' : profile.thumb) || place.string !== thickest)
      )
        say('a thumb where it can’t be');
      if (place.finger > 0 && place.finger < 5 && !profile.fingers.some((f) => f === place.finger))
        say(`finger ${place.finger} is not to be used`);
      if (place.asked?.trill && !(place.trillFinger && place.trillFinger > (place.finger === 5 ? 0 : place.finger)))
        say('no finger for the trill');
    }
    const nut = (place: { string: number; fret: number }): number => place.fret + nutOf(setup, place.string);
    const stopped = notes
      .filter((place) => place.finger > 0 && !place.asked?.dead && !place.asked?.tapped)
      .flatMap((place) => [
        { string: place.string, fret: place.fret, finger: place.finger as number },
        ...(place.trillFinger
          ? [
              {
                string: place.string,
                fret: place.fret + (place.asked?.trill ?? 0),
                finger: place.trillFinger as number,
              },
            ]
          : []),
      ]);
    if (event?.bar) {
      if (new Set(stopped.map(nut)).size > 1) say('a bent bar');
      continue;
    }
    for (const a of stopped) {
      for (const b of stopped) {
        if (a === b || a.finger === 5 || b.finger === 5) continue;
        if (a.finger === b.finger && nut(a) !== nut(b)) say(`finger ${a.finger} at two frets`);
        if (a.finger < b.finger && nut(a) > nut(b)) say('fingers crossed');
        const limit = (profile.maximal as Record<string, number>)[`${a.finger}${b.finger}`];
        if (limit !== undefined && Math.abs(press(nut(a)) - press(nut(b))) > limit + 1e-9) say('too wide');
        if (a.finger === b.finger && a.string > b.string) {
          if (a.string - b.string + 1 > (profile.barre[a.finger - 1] ?? 1)) say('a barre too long');
          const under = notes.find(
            (place) =>
              place.string < a.string && place.string > b.string && nut(place) <= nut(a) && place.finger !== a.finger,
          );
          if (under) say('a note under the barre');
        }
      }
    }
    if (new Set(stopped.map((place) => place.finger).filter((f) => f < 5)).size > 4) say('more than four fingers');
  }
  return out;
}
