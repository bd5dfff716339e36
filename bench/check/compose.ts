import { must } from '../../src/core/base';
import { insertSection, setContext, setRoute, setRow } from '../../src/core/command';
import { applyEdit } from '../../src/core/edit';
import { fullCapo, makeSetup, openPitch, type Setup } from '../../src/core/instrument';
import { noteName, type Key } from '../../src/core/pitch';
import { keyOn } from '../../src/core/harmony';
import {
  makeEvent,
  makeNote,
  makePart,
  makePiece,
  makePlace,
  makeRiff,
  type Join,
  type Note,
  type Part,
  type Piece,
  type Riff,
  type RiffEvent,
} from '../../src/core/score';
import { add, quarter, toNumber, ZERO, type Quarter } from '../../src/core/time';
import { pick, randomOf, type Random } from '../lib/random';

/**
 * Clean pieces, composed as a band works: a progression, a bass under it, a riff that comes again with another ending,
 * a second guitar in chords, in octaves or in thirds that leave the third where the chord wants it. What musicians do
 * on purpose is in them: chromatic walks, blue notes, turned endings, moved cells, a note of a harmony that deviates at
 * every copy. Two sets of idioms and seeds: thresholds were set on `tuned`; a first round of `unseen` was read too
 * while rules were mended, then its seeds were changed: its idioms are not wholly unseen.
 */

const MINOR = [0, 2, 3, 5, 7, 8, 10];
const MAJOR = [0, 2, 4, 5, 7, 9, 11];
const PROGRESSIONS: Readonly<Record<'minor' | 'major', readonly (readonly number[])[]>> = {
  minor: [
    [0, 5, 2, 6],
    [0, 0, 3, 4],
    [0, 6, 5, 6],
    [0, 3, 6, 0],
    [0, 2, 5, 3],
  ],
  major: [
    [0, 4, 5, 3],
    [0, 3, 4, 0],
    [0, 5, 3, 4],
    [0, 0, 3, 4],
    [0, 2, 3, 4],
  ],
};

/** A note as a hand plays it: string and fret, or a rest. */
interface Touch {
  readonly at: number;
  readonly dur: number;
  readonly places: readonly (readonly [string: number, fret: number])[];
  readonly join?: Join;
  readonly bend?: number;
}

let number = 0;
const id = (prefix: string): string => `${prefix}${(++number).toString(32)}`;
const time = (at: number): Quarter => quarter(Math.round(at * 48), 48);

function eventOf(setup: Setup, { at, dur, places, join, bend }: Touch, offset: number): RiffEvent {
  const notes = places.map(([string, fret]): Note => {
    const place = makePlace(string, fret, 'instructor', { finger: fret === 0 ? 0 : null });
    return makeNote(id('n'), openPitch(setup, string) + fret, 'instructor', {
      place,
      ...(join ? { join } : {}),
      ...(bend ? { technique: { bend } } : {}),
    });
  });
  return makeEvent(id('e'), time(at + offset), time(dur), notes);
}

export interface Composed {
  readonly piece: Piece;
  /** Bars written, all parts together. */
  readonly bars: number;
}

interface World {
  readonly random: Random;
  readonly key: Key;
  readonly tonic: number;
  readonly scale: readonly number[];
  /** Degrees of the chords, a bar each. */
  readonly chords: readonly number[];
}

const rootOf = ({ tonic, scale }: World, degree: number): number => (tonic + (scale[degree % 7] ?? 0)) % 12;

/** Frets on a string that are in the key, within a box. */
function inBox(world: World, setup: Setup, string: number, from: number, to: number): number[] {
  return Array.from({ length: to - from + 1 }, (_, i) => from + i).filter((fret) =>
    world.scale.includes((openPitch(setup, string) + fret - world.tonic + 120) % 12),
  );
}

const fretFor = (setup: Setup, string: number, pc: number, from = 0): number => {
  let fret = (((pc - openPitch(setup, string)) % 12) + 12) % 12;
  while (fret < from) fret += 12;
  return fret;
};

type Bar = readonly Touch[];

/** A bar of a line in a box: steps up and down, now and then a leap, joined where two lie on one string. */
function lineBar(world: World, setup: Setup, lengths: readonly number[], box: number, strings: readonly number[]): Bar {
  const { random } = world;
  const spots = strings.flatMap((string) =>
    inBox(world, setup, string, box, box + 3).map((fret) => [string, fret] as const),
  );
  spots.sort((a, b) => openPitch(setup, a[0]) + a[1] - openPitch(setup, b[0]) - b[1]);
  let index = Math.floor(random() * spots.length);
  let at = 0;
  const out: Touch[] = [];
  for (const dur of lengths) {
    const spot = spots[index] ?? spots[0];
    if (spot) out.push({ at, dur, places: [spot] });
    at += dur;
    const step = random() < 0.15 ? (random() < 0.5 ? -3 : 3) : random() < 0.5 ? -1 : 1;
    index = Math.min(spots.length - 1, Math.max(0, index + step));
  }
  return out.map((touch, i) => {
    const next = out[i + 1];
    const [a, b] = [touch.places[0], next?.places[0]];
    if (!a || !b || a[0] !== b[0] || a[1] === b[1] || random() > 0.25 || i % 2 === 1) return touch;
    return {
      ...touch,
      join: b[1] > a[1] ? (random() < 0.5 ? ('hammer' as const) : ('slide' as const)) : ('pull' as const),
    };
  });
}

const RHYTHMS = [
  [0.5, 0.5, 0.5, 0.5, 0.5, 0.5, 0.5, 0.5],
  [1, 0.5, 0.5, 1, 0.5, 0.5],
  [0.75, 0.25, 0.5, 0.5, 0.75, 0.25, 1],
  [0.5, 0.25, 0.25, 0.5, 0.5, 0.5, 0.25, 0.25, 1],
  [0.5, 0.5, 1, 0.5, 0.5, 1],
] as const;

/** The last beat of a bar turned: another way down. */
function turned(world: World, setup: Setup, bar: Bar, box: number, strings: readonly number[]): Bar {
  const kept = bar
    .filter((touch) => touch.at < 3)
    .map((touch, i, all) => (i === all.length - 1 ? { ...touch, join: undefined } : touch));
  const end = lineBar(world, setup, [0.5, 0.5], box, strings).map((touch) => ({
    ...touch,
    at: touch.at + 3,
    join: undefined,
  }));
  return [...kept, ...end] as Bar;
}

function riffOf(setup: Setup, name: string, bars: readonly Bar[], extra: Partial<Riff> = {}): Riff {
  return makeRiff(id('r'), name, {
    bars: bars.length,
    events: bars.flatMap((bar, i) => bar.map((touch) => eventOf(setup, touch, i * 4))),
    plays: 2,
    ...extra,
  });
}

/** The guitar's riff: copies with a turned ending, question and answer, or a cell that goes with the chords. */
function guitarRiff(world: World, setup: Setup, name: string, idiom: number): Riff {
  const { random, chords } = world;
  const box = 2 + Math.floor(random() * 6);
  const strings = pick(random, [
    [6, 5, 4],
    [5, 4, 3],
    [4, 3, 2],
    [3, 2, 1],
  ]);
  const rhythm = pick(random, RHYTHMS);
  const a = lineBar(world, setup, rhythm, box, strings);
  if (idiom === 0) return riffOf(setup, name, [a, a, a, turned(world, setup, a, box, strings)]);
  if (idiom === 1) {
    const b = lineBar(world, setup, pick(random, RHYTHMS), box, strings);
    return riffOf(setup, name, [a, b, a, turned(world, setup, b, box, strings)]);
  }
  if (idiom === 2) {
    // A cell on thick strings that goes with the chords, fret by fret.
    const cell = pick(random, [
      [0, 0, 3, 0, 5, 3, 0, 0],
      [0, 7, 0, 7, 5, 0, 3, 0],
      [0, 0, 7, 0, 0, 5, 0, 3],
    ]);
    const bar = (degree: number): Bar => {
      const root = fretFor(setup, 6, rootOf(world, degree), 1);
      return cell.map((up, i) => ({
        at: i / 2,
        dur: 0.5,
        places: [up >= 5 ? ([5, root + up - 5] as const) : ([6, root + up] as const)],
      }));
    };
    return riffOf(setup, name, chords.map(bar));
  }
  if (idiom === 3) {
    // Bent again and again from below the tonic, with a blue note on the way.
    const high = fretFor(setup, 2, world.tonic, 8);
    const bar: Bar = [
      { at: 0, dur: 1, places: [[3, high - 1]] },
      { at: 1, dur: 1, places: [[2, high - 2]], bend: 200 },
      { at: 2, dur: 0.5, places: [[2, high]] },
      { at: 2.5, dur: 0.5, places: [[3, high - 1]] },
      { at: 3, dur: 1, places: [[2, high - 2]], bend: 200 },
    ];
    return riffOf(setup, name, [bar, bar, bar, turned(world, setup, bar, high - 3, [3, 2])]);
  }
  // Eight bars: four told once and again, the last turned.
  const b = lineBar(world, setup, rhythm, box, strings);
  const c = lineBar(world, setup, pick(random, RHYTHMS), box, strings);
  return riffOf(setup, name, [a, b, a, c, a, b, a, turned(world, setup, c, box, strings)]);
}

function bassRiff(world: World, setup: Setup, name: string, idiom: number): Riff {
  const { chords } = world;
  const bar = (degree: number, next: number): Bar => {
    const root = rootOf(world, degree);
    const fret = fretFor(setup, 4, root);
    const low = fret <= 9 ? ([4, fret] as const) : ([3, fretFor(setup, 3, root)] as const);
    if (idiom === 0) return Array.from({ length: 8 }, (_, i) => ({ at: i / 2, dur: 0.5, places: [low] }));
    if (idiom === 1) {
      const fifth = [low[0] - 1, low[1] + 2] as const;
      return [low, low, fifth, low].map((place, i) => ({ at: i, dur: 1, places: [place] }));
    }
    // Walks: root, fifth, octave, and a half tone into the next root.
    const target = fretFor(setup, low[0], rootOf(world, next));
    const into = target > low[1] ? target - 1 : target + 1;
    return [low, [low[0] - 1, low[1] + 2] as const, low, [low[0], Math.max(0, into)] as const].map((place, i) => ({
      at: i,
      dur: 1,
      places: [place],
    }));
  };
  return riffOf(
    setup,
    name,
    chords.map((degree, i) => bar(degree, chords[(i + 1) % chords.length] ?? 0)),
  );
}

function chordRiff(world: World, setup: Setup, name: string, idiom: number): Riff {
  const { chords, scale, random } = world;
  const grip = (degree: number): (readonly [number, number])[] => {
    const root = fretFor(setup, 5, rootOf(world, degree), 1);
    if (idiom === 0)
      return [
        [5, root],
        [4, root + 2],
        [3, root + 2],
      ];
    const third = ((scale[(degree + 2) % 7] ?? 0) - (scale[degree % 7] ?? 0) + 12) % 12 === 4;
    const fifth = ((scale[(degree + 4) % 7] ?? 0) - (scale[degree % 7] ?? 0) + 12) % 12 === 7;
    return [
      [5, root],
      [4, fifth ? root + 2 : root + 1],
      [3, root + 2],
      [2, third ? root + 2 : root + 1],
    ];
  };
  const hits = pick(random, [
    [0, 1, 1.5, 2.5, 3],
    [0, 0.5, 1.5, 2, 3],
    [1, 3],
    [0, 2, 2.5, 3, 3.5],
  ]);
  const bar = (degree: number): Bar =>
    hits.map((at, i) => ({ at, dur: Math.min(0.5, (hits[i + 1] ?? 4) - at), places: grip(degree) }));
  return riffOf(setup, name, chords.map(bar));
}

/** A second guitar in octaves or in the key's thirds; in thirds the last note of the first bar deviates each time. */
function secondVoice(world: World, setup: Setup, model: Riff, idiom: number): Riff {
  const events = model.events.map((event): RiffEvent => {
    const notes = event.notes.slice(0, 1).map((note) => {
      const within = (note.pitch.midi - world.tonic + 120) % 12;
      const degree = world.scale.indexOf(within);
      const third = ((world.scale[(degree + 2) % 7] ?? 0) - within + 12) % 12;
      const midi = note.pitch.midi + (idiom === 0 ? 12 : degree < 0 ? 12 : third);
      return makeNote(id('n'), midi, 'instructor');
    });
    return makeEvent(id('e'), event.at, event.dur, notes);
  });
  const deviating =
    idiom === 1
      ? events.map((event, i) =>
          i % Math.max(1, Math.round(events.length / model.bars)) === 3 ? lowered(event, world) : event,
        )
      : events;
  return {
    ...makeRiff(id('r'), `${model.name} above`, { bars: model.bars, plays: 2 }),
    events: placedAll(deviating, setup),
  };
}

/** A step of the scale lower: a second or fourth where a third was. */
function lowered(event: RiffEvent, world: World): RiffEvent {
  return {
    ...event,
    notes: event.notes.map((note) => {
      let midi = note.pitch.midi - 1;
      while (!world.scale.includes((midi - world.tonic + 120) % 12)) midi--;
      return { ...note, pitch: { ...note.pitch, midi } };
    }),
  };
}

const placedAll = (events: readonly RiffEvent[], setup: Setup): RiffEvent[] =>
  events.map((event) => ({
    ...event,
    notes: event.notes.map((note) => {
      const string = [3, 2, 1, 4].find(
        (one) => note.pitch.midi >= openPitch(setup, one) && note.pitch.midi <= openPitch(setup, one) + 19,
      );
      return string === undefined
        ? note
        : { ...note, place: makePlace(string, note.pitch.midi - openPitch(setup, string), 'solver') };
    }),
  }));

const chordName = (world: World, degree: number): string => {
  const { scale } = world;
  const step = (up: number): number => ((scale[(degree + up) % 7] ?? 0) - (scale[degree % 7] ?? 0) + 12) % 12;
  const kind = step(4) === 6 ? 'dim' : step(2) === 3 ? 'm' : '';
  return `${noteName(60 + rootOf(world, degree), { key: world.key })
    .replaceAll('♯', '#')
    .replaceAll('♭', 'b')}${kind}`;
};

export type Idioms = 'tuned' | 'unseen';

/** A clean piece by a seed. */
export function compose(seed: number, idioms: Idioms): Composed {
  number = 1000;
  const random = randomOf(seed + (idioms === 'tuned' ? 0 : 90_000));
  const mode = random() < 0.65 ? 'minor' : 'major';
  const tonic = Math.floor(random() * 12);
  const key = keyOn(tonic, mode);
  const scale = mode === 'minor' ? MINOR : MAJOR;
  const world: World = { random, key, tonic, scale, chords: pick(random, PROGRESSIONS[mode]) };
  const capo = random() < 0.25 ? 2 : 0;
  const guitar = must(
    makeSetup({ instrument: 'guitar-6', tuning: pick(random, ['standard', 'standard', 'drop-d']) }),
  ).setup;
  const first: Setup = { ...guitar, capos: fullCapo(capo) };
  const { setup: bass } = must(makeSetup({ instrument: 'bass-4' }));
  const other = must(makeSetup({ instrument: 'guitar-6' })).setup;
  const tuned = idioms === 'tuned';
  const lead = guitarRiff(world, first, 'Lead', tuned ? pick(random, [0, 1, 2]) : pick(random, [3, 4, 2]));
  const refrain = guitarRiff(world, first, 'Turn', tuned ? pick(random, [1, 0]) : pick(random, [4, 0]));
  const bassLine = bassRiff(world, bass, 'Under', tuned ? pick(random, [0, 1]) : pick(random, [2, 1]));
  const second =
    random() < 0.5 || lead.events.some((event) => event.notes.length > 1 || event.notes[0]?.technique)
      ? chordRiff(world, other, 'Chords', pick(random, [0, 1]))
      : secondVoice(world, other, lead, pick(random, [0, 1]));
  const parts: Part[] = [
    makePart('p0', 'Guitar 1', first, { riffs: [lead, refrain] }),
    makePart('p1', 'Guitar 2', other, { riffs: [second] }),
    makePart('p2', 'Bass', bass, { riffs: [bassLine] }),
  ];
  let piece = makePiece('made', 'Made', {
    parts,
    lastId: number + 1_000_000,
    context: { tempo: [{ at: ZERO, bpm: 84 + Math.floor(random() * 60) }], key: [{ at: ZERO, ...key }] },
  });
  const chords = [...world.chords, ...world.chords].map((degree, i) => ({
    at: quarter(i * 4),
    dur: quarter(4),
    chord: chordName(world, degree),
  }));
  for (const [name, riff] of [
    ['Verse', lead],
    ['Refrain', refrain],
  ] as const) {
    const made = insertSection(piece, { name, bars: 8 });
    piece = must(applyEdit(piece, made.edit));
    const rows = [
      ['p0', [{ riff: riff.id, plays: 8 / riff.bars }]],
      ['p1', [{ riff: second.id, plays: 8 / second.bars }]],
      ['p2', [{ riff: bassLine.id, plays: 2 }]],
    ] as const;
    for (const [part, uses] of rows)
      if (name === 'Verse' || part !== 'p1' || second.name === 'Chords')
        piece = must(applyEdit(piece, must(setRow(piece, made.id, part, uses))));
    piece = must(applyEdit(piece, must(setContext(piece, made.id, { chords }))));
  }
  const items = [...piece.sections, ...piece.sections].map((one) => ({
    section: one.id,
    name: one.name,
    plays: 1,
    stop: null,
    from: 0,
    to: 0,
  }));
  piece = must(applyEdit(piece, must(setRoute(piece, items))));
  return { piece, bars: parts.reduce((sum, part) => sum + part.riffs.reduce((n, riff) => n + riff.bars, 0), 0) };
}

/** Time of an event in bars of four, for whoever plants something there. */
export const barOfEvent = (event: RiffEvent): number => Math.floor(toNumber(event.at) / 4);
export const later = (event: RiffEvent, by: Quarter): RiffEvent => ({ ...event, at: add(event.at, by) });
