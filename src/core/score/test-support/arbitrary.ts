import { impossibleEvent } from '../event-specs';
import { joinPairs, joinedTo, withJoin } from '../join';
import { makeEvent, makeNote, makePart, makePiece, makePlace, makeRiff } from '../make';
import { impossible } from '../note-specs';
import type { Note, Part, Piece, Riff, RiffEvent } from '../schema';
import { BEND_SHAPES, bendShapes, type Join, type Articulation, type Technique } from '../technique';
import fc from 'fast-check';
import { must } from '../../base';
import { fretsLeft, HARMONIC_NODES, makeSetup, openPitch, stringNumbers, type Setup } from '../../instrument';
import { add, cmp, mul, quarter, sub, ZERO, type Quarter } from '../../time';
import type { Finger } from '../../base';

/** Random documents for property tests: everything a riff can say, within the invariants. */

const SETUPS: readonly Setup[] = (
  [
    ['guitar-6', 'standard', 0],
    ['guitar-6', 'drop-c', 0],
    ['guitar-6', 'x G2 D3 G3 B3 D4', 2],
    ['bass-4', 'bass-standard', 0],
    ['baritone-27', 'baritone-b', 0],
    ['guitar-7', 'seven-standard', 3],
  ] as const
).map(([instrument, tuning, capo]) => must(makeSetup({ instrument, tuning, capo })).setup);

export const setupArbitrary: fc.Arbitrary<Setup> = fc.constantFrom(...SETUPS);

const GAPS: readonly Quarter[] = [
  quarter(1, 4),
  quarter(1, 2),
  quarter(1, 3),
  quarter(2, 3),
  quarter(3, 4),
  quarter(1),
  quarter(3, 2),
  quarter(5, 6),
];

interface NoteSeed {
  readonly string: number;
  readonly fret: number;
  readonly how: number;
  readonly finger: number;
  readonly dur: number;
  readonly techniques: number;
  readonly say: number;
}

const SAID: readonly Partial<Note>[] = [
  { certainty: 'likely' },
  { certainty: 'guess', evidence: { basis: 'attack', at: 12.4, remark: 'a thin "tick" before it' } },
  { evidence: { basis: null, at: null, remark: 'seen live' } },
  { evidence: { basis: 'pattern', at: 3, remark: '' } },
  { certainty: 'likely', evidence: { basis: 'ring', at: null, remark: 'back\\slash' } },
];

/** A note with what is said of it beside where it lies. */
function noteFrom(setup: Setup, seed: NoteSeed, string: number, id: string): Note {
  const note = placedNote(setup, seed, string, id);
  const { place } = note;
  const reason = place && seed.say === 7 ? { place: { ...place, reason: 'open strings after it' } } : {};
  const or =
    place && place.finger && place.finger < 4 && place.fingerBy === 'instructor' && seed.say === 6
      ? { place: { ...place, otherFinger: (place.finger + 1) as Finger } }
      : {};
  return { ...note, ...SAID[seed.say], ...reason, ...or };
}

function placedNote(setup: Setup, seed: NoteSeed, string: number, id: string): Note {
  const fret = seed.fret % (fretsLeft(setup) + 1);
  const pitch = openPitch(setup, string) + fret;
  const dur = seed.dur === 0 ? quarter(5, 2) : null;
  if (seed.how === 0) return makeNote(id, pitch, 'instructor', { dur });
  const locked = seed.how > 1;
  const finger = fret === 0 ? 0 : ((seed.finger % 5 === 0 ? null : seed.finger % 5) as Finger | null);
  const fingerBy = finger !== null && fret > 0 && seed.finger > 5 ? ('instructor' as const) : ('solver' as const);
  const place = makePlace(string, fret, locked ? 'instructor' : 'solver', { locked, finger, fingerBy });
  const node = HARMONIC_NODES[seed.finger];
  if (seed.techniques === 7 && node && Math.round(node.fret) <= fretsLeft(setup, string)) {
    return makeNote(id, openPitch(setup, string) + node.semitones, 'instructor', {
      dur,
      place: makePlace(string, Math.round(node.fret), 'instructor', { locked: true, finger: null }),
      technique: { harmonic: true },
    });
  }
  if (seed.techniques === 8)
    return makeNote(id, pitch, 'instructor', {
      dur,
      place: { ...place, finger: 0, fingerBy: 'solver' },
      technique: { dead: true },
    });
  const noteTechniques = techFrom(setup, seed, fret, string);
  if (noteTechniques?.tapped)
    return makeNote(id, pitch, 'instructor', {
      dur,
      place: { ...place, finger: 0, fingerBy: 'solver' },
      technique: noteTechniques,
    });
  return {
    ...makeNote(id, pitch, 'instructor', { dur, place, ...(noteTechniques ? { technique: noteTechniques } : {}) }),
    pitch: { midi: pitch, cents: seed.techniques === 9 ? 35 - seed.fret * 3 : 0, by: 'instructor' },
  };
}

function techFrom(
  setup: Setup,
  { techniques: noteTechniques, finger }: NoteSeed,
  fret: number,
  string: number,
): Technique | null {
  const last = fretsLeft(setup, string);
  const strings = stringNumbers(setup);
  const bend = [50, 100, 200, 130][finger % 4] ?? 100;
  const inner = string > Math.min(...strings) && string < Math.max(...strings);
  const tries: readonly (Technique | null)[] = [
    null,
    { letRing: true },
    { anchor: true, vibrato: 40 },
    { unspecified: ['bend'], ...(finger % 2 === 0 ? { bendShape: BEND_SHAPES[finger % 4] } : {}) },

    { bend },
    { trill: 1 + (finger % 3) },
    { hold: quarter(5, 2), ...(fret > 0 ? { bend: 200 } : {}) },
    null,
    null,
    null,
    {
      bend,
      bendCurve: [...(Object.values(bendShapes(bend))[finger % 4] ?? [])],
      ...(inner ? { bendDirection: finger % 2 === 0 ? ('thick' as const) : ('thin' as const) } : {}),
    },
    {
      bend,
      bendCurve: [
        { at: 0, cents: 0 },
        { at: 15 + finger, cents: bend },
        { at: 90, cents: 20 },
      ],
    },
    { tapped: true },
    { pinched: [12, 19, 24, 28, 31][finger % 5] ?? 12 },
    {
      slideIn: finger % 2 === 0 ? ('lower' as const) : ('higher' as const),
      vibrato: [20, 40, 80, 35][finger % 4] ?? 40,
    },
    { slideOut: finger % 2 === 0 ? ('lower' as const) : ('higher' as const) },
    { unspecified: ['trill'], hold: quarter(3) },
    { hammered: true },
    { pulledOff: true },
    { slideIn: 'lower', slideInBy: 2 + (finger % 3), slideOut: 'higher', slideOutBy: 1 + finger },
  ];
  const found = tries[noteTechniques] ?? null;
  if (found?.trill && fret + found.trill > last) return null;
  return found && impossible(setup, { string, fret }, found) === null ? found : null;
}

/** Ways of playing an event, by number; those that can't be are left out by the caller. */
const MANNER_SEEDS: readonly Articulation[] = [
  { mute: 'palm' },
  { mute: 'choked', accent: 'accent' },
  { gate: 50 },
  { gate: 30, accent: 'ghost' },
  { anticipated: true, dynamic: 'mp' },
  { stroke: 'brush-up' },
  { stroke: 'same' },
  { roll: 'thick-first' },
  { rake: true, accent: 'heavy' },
  { tremolo: quarter(1, 8) },
  { tilt: -5 },
  { free: { kind: 'either', remark: 'Em or G' } },
  { free: { kind: 'leave-out', remark: '' } },
  { remark: 'the open string rings into the next bar' },
  { stroke: 'slap', dynamic: 'ff' },
];

/** A riff on a set-up: chords, gaps, overlaps, joins, rings, tuplets, sometimes a pickup. */
export const riffArbitrary = (setup: Setup, id = 'r0'): fc.Arbitrary<Riff> => {
  const strings = stringNumbers(setup);
  const note = fc.record({
    string: fc.nat({ max: 11 }),
    fret: fc.nat({ max: 24 }),
    how: fc.nat({ max: 2 }),
    finger: fc.nat({ max: 9 }),
    dur: fc.nat({ max: 8 }),
    techniques: fc.nat({ max: 21 }),
    say: fc.nat({ max: 20 }),
  });
  const event = fc.record({
    gap: fc.nat({ max: 6 }),
    step: fc.constantFrom(...GAPS),
    held: fc.nat({ max: 9 }),
    notes: fc.array(note, { minLength: 1, maxLength: 3 }),
    link: fc.constantFrom<Join | null>(null, null, null, 'hammer', 'pull', 'slide', 'shift'),
    ring: fc.boolean(),
    bar: fc.nat({ max: 9 }),
    manner: fc.nat({ max: 30 }),
    grace: fc.nat({ max: 12 }),
    what: fc.nat({ max: 40 }),
  });
  return fc
    .record({
      events: fc.array(event, { maxLength: 24 }),
      pickup: fc.constantFrom(ZERO, quarter(1, 2), quarter(1)),
      beats: fc.constantFrom(3, 4, 7),
      frame: fc.nat({ max: 3 }),
    })
    .map(({ events, pickup, beats, frame }) => {
      let at: Quarter = sub(ZERO, pickup);
      const made: RiffEvent[] = [];
      events.forEach((seed, index) => {
        if (seed.gap === 0) at = add(at, quarter(1, 2));
        const taken = new Set<number>();
        const notes = seed.notes.flatMap((place, i) => {
          const string = strings[place.string % strings.length] ?? 1;
          if (taken.has(string)) return [];
          taken.add(string);
          return [noteFrom(setup, place, string, `n${index}-${i}`)];
        });
        const dur = seed.held === 0 ? add(seed.step, quarter(7, 4)) : seed.step;
        const what = (['hole', 'hit', 'scrape'] as const)[seed.what];
        if (what) {
          made.push(makeEvent(`e${index}`, at, dur, [], { kind: what }));
          at = add(at, seed.step);
          return;
        }
        const before = made.at(-1);
        // A grace takes an eighth of a quarter, less where the note before leaves less.
        const room = before ? mul(sub(at, before.at), 1, 2) : quarter(1, 8);
        const grace = cmp(room, quarter(1, 8)) < 0 ? room : quarter(1, 8);
        if (seed.grace === 0 && !before?.grace)
          made.push(
            makeEvent(
              `g${index}`,
              sub(at, grace),
              grace,
              [
                makeNote(
                  `gn${index}`,
                  openPitch(setup, strings[0] ?? 1) + ((seed.notes[0]?.fret ?? 0) % 12),
                  'instructor',
                ),
              ],
              { grace: true },
            ),
          );
        const event = makeEvent(
          `e${index}`,
          at,
          dur,
          notes.map((note) => (seed.bar === 0 ? plainNote(note) : note)),
          { letRing: seed.ring, ...(seed.bar === 0 ? { slideBar: true as const } : {}) },
        );
        const mannered = { ...event, ...MANNER_SEEDS[seed.manner] };
        made.push(impossibleEvent(mannered) === null ? mannered : event);
        at = add(at, seed.step);
      });
      // A link is kept only where the call line allows it: single notes, one string, the right way.
      const linked = made.map((event, i): RiffEvent => {
        const next = made[i + 1];
        const link = events[i]?.link ?? null;
        if (!next || !link || next.notes.some((note) => note.technique?.hammered)) return event;
        return linkFits(link, event, next) ? withJoin(event, link) : joinedWithin(link, event, next);
      });
      const meters = [{ bar: 0, beats, unit: 4 }, ...(frame === 1 ? [{ bar: 1, beats: 5, unit: 8 }] : [])];
      return makeRiff(id, 'Generated', {
        pickup,
        meters,
        bars: 2,
        events: linked,
        ...(frame > 1
          ? {
              tempo: [
                { at: ZERO, bpm: 96, ramp: true as const },
                { at: quarter(3), bpm: 72.5 },
              ],
              feel: [
                { at: ZERO, swing: 62, unit: '1/2' as const },
                { at: quarter(2), swing: 50, unit: '1/4' as const },
              ],
              plays: 4,
              click: 2,
              picking: 'economy' as const,
            }
          : {}),
      });
    });
};

/** A note without what a slide bar can't do. */
function plainNote(note: Note): Note {
  const { technique: noteTechniques, ...rest } = note;
  if (!noteTechniques) return note;
  const {
    bend: _,
    bendCurve: __,
    bendDirection: ___,
    trill: ____,
    unspecified: _____,
    bendShape: ______,
    tapped,
    ...kept
  } = noteTechniques;
  const fingerless = tapped && rest.place && rest.place.fret > 0 ? { place: { ...rest.place, finger: null } } : {};
  return { ...rest, ...fingerless, ...(Object.keys(kept).length > 0 ? { technique: kept } : {}) };
}

/** A chord of which every second note leads on, where each of them can. */
function joinedWithin(link: Join, event: RiffEvent, next: RiffEvent): RiffEvent {
  if (event.notes.length < 2 || event.grace || next.grace || event.kind || next.kind) return event;
  const joined = joinedTo(event, next, link, new Set(event.notes.filter((_, n) => n % 2 === 0).map(({ id }) => id)));
  const alone = (from: RiffEvent, n: number): RiffEvent => ({ ...from, notes: from.notes.slice(n, n + 1) });
  // A call says what is led to, not from where: only what is paired alike with every note free to lead.
  const free = joinPairs(joinedTo(event, next, link), next);
  return joinPairs(joined, next).every(
    ({ from, to, how }) =>
      free.some((pair) => pair.from === from && pair.to === to) &&
      (how === 'hold' || linkFits(link, alone(joined, from), alone(next, to))),
  )
    ? joined
    : event;
}

function linkFits(link: Join, a: RiffEvent, b: RiffEvent): boolean {
  const [note] = a.notes;
  const [one] = b.notes;
  if (note?.technique || one?.technique) return false;
  if (!note?.place || !one?.place || a.notes.length > 1 || b.notes.length > 1 || note.place.string !== one.place.string)
    return false;
  if (link === 'hammer') return one.pitch.midi > note.pitch.midi;
  if (link === 'pull') return one.pitch.midi < note.pitch.midi;
  return note.place.fret > 0 && one.place.fret > 0 && note.place.fret !== one.place.fret;
}

export const partArbitrary = (id: string): fc.Arbitrary<Part> =>
  setupArbitrary.chain((setup) =>
    fc
      .tuple(riffArbitrary(setup, `${id}r0`), riffArbitrary(setup, `${id}r1`))
      .map((riffs) => makePart(id, `Part ${id}`, setup, { riffs })),
  );

export const pieceArbitrary: fc.Arbitrary<Piece> = fc
  .tuple(partArbitrary('p0'), partArbitrary('p1'))
  .map((parts) => makePiece('piece-1', 'Generated piece', { parts }));
