import { must } from '../../src/core/base';
import { addClaim, keepHearing, lockAt, patchUse, setContext, setKey, setTempo } from '../../src/core/command';
import type { CheckFinding } from '../../src/core/check';
import { applyEdit, type Edit } from '../../src/core/edit';
import { openPitch, pitchAt, shapeShift, stringNumbers } from '../../src/core/instrument';
import { parseName, pitchClass, shiftKey } from '../../src/core/pitch';
import { strokesOf } from '../../src/core/rhythm';
import type { Note, Part, Piece, Riff, RiffEvent } from '../../src/core/score';
import { add, mul, quarter, sub, toNumber, ZERO } from '../../src/core/time';
import { pick, type Random } from '../lib/random';
import { barOfEvent, later } from './compose';

/** Slips of the kind instructors make, each planted in a clean piece; null where the piece has no place for it. */

export interface Planted {
  readonly piece: Piece;
  /** Whether a finding is about what was planted. */
  readonly hit: (found: CheckFinding) => boolean;
}
export type Fault = (piece: Piece, random: Random) => Planted | null;

const run = (piece: Piece, edit: Edit): Piece => must(applyEdit(piece, edit));

/** The piece with a riff changed; what no edit would allow is not made here. */
function withRiff(piece: Piece, part: Part, riff: Riff, change: Partial<Riff>): Piece {
  const next = { ...riff, ...change };
  return {
    ...piece,
    parts: piece.parts.map((one) =>
      one === part ? { ...part, riffs: part.riffs.map((r) => (r === riff ? next : r)) } : one,
    ),
  };
}
const withEvent = (piece: Piece, part: Part, riff: Riff, event: RiffEvent, next: RiffEvent): Piece =>
  withRiff(piece, part, riff, { events: riff.events.map((one) => (one === event ? next : one)) });

/** A note moved along its string. */
function fretted(part: Part, note: Note, by: number): Note | null {
  if (!note.place || note.place.fret + by < 0) return null;
  const place = { ...note.place, fret: note.place.fret + by, finger: note.place.fret + by === 0 ? (0 as const) : null };
  const sounds = pitchAt(part.setup, place);
  return sounds.ok ? { ...note, place, pitch: { ...note.pitch, midi: sounds.value } } : null;
}

interface Spot {
  readonly part: Part;
  readonly riff: Riff;
  readonly event: RiffEvent;
  readonly note: Note;
}
const spots = (piece: Piece, fits: (spot: Spot) => boolean = () => true): Spot[] =>
  piece.parts.flatMap((part) =>
    part.riffs.flatMap((riff) =>
      riff.events.flatMap((event) => event.notes.map((note) => ({ part, riff, event, note })).filter(fits)),
    ),
  );

const content = (riff: Riff, bar: number): string =>
  riff.events
    .filter((event) => barOfEvent(event) === bar)
    .map((event) => `${toNumber(event.at) - bar * 4}:${event.notes.map((note) => note.pitch.midi).join('+')}`)
    .join(' ');

/** Spots in bars that come again in their riff, that hold so much that a copy is told by it. */
const copied = (piece: Piece): Spot[] =>
  spots(piece, ({ riff, event }) => {
    const bar = barOfEvent(event);
    const own = content(riff, bar);
    const notes = riff.events.filter((one) => barOfEvent(one) === bar).reduce((sum, one) => sum + one.notes.length, 0);
    return (
      notes >= 4 &&
      Array.from({ length: riff.bars }, (_, i) => i).some((other) => other !== bar && content(riff, other) === own)
    );
  });

const atNote =
  (note: Note, event: RiffEvent) =>
  (found: CheckFinding): boolean =>
    found.locus.note === note.id || found.locus.event === event.id;

/** A wrong fret in a bar that is a copy: one or two frets off. */
const wrongFret: Fault = (piece, random) => {
  const all = copied(piece).filter(({ event, note }) => event.notes.length === 1 && !note.join && note.place);
  if (all.length === 0) return null;
  const { part, riff, event, note } = pick(random, all);
  const next = fretted(part, note, pick(random, [1, -1, 1, -1, 2, -2]));
  if (!next) return null;
  const before = riff.events[riff.events.indexOf(event) - 1];
  if (before?.notes.some((one) => one.join)) return null;
  const within = (one: RiffEvent): number => toNumber(one.at) % 4;
  return {
    piece: withEvent(piece, part, riff, event, { ...event, notes: [next] }),
    // Of two bars that are told once each nobody knows which is wrong: asked at the same beat of the other is asked.
    hit: (found) =>
      atNote(note, event)(found) ||
      (found.rule === 'copy' &&
        riff.events.some((one) => one.id === found.locus.event && within(one) === within(event))),
  };
};

/** A note left out of a copy; what follows stays, or comes forward. */
const lost =
  (closed: boolean): Fault =>
  (piece, random) => {
    const all = copied(piece).filter(({ riff, event }) => {
      const bar = barOfEvent(event);
      const events = riff.events.filter((one) => barOfEvent(one) === bar);
      const at = events.indexOf(event);
      return (
        events.length >= 5 &&
        at > 0 &&
        at < events.length - 2 &&
        !riff.events.some(
          (one) =>
            one.notes.some((note) => note.join) && Math.abs(riff.events.indexOf(one) - riff.events.indexOf(event)) <= 1,
        )
      );
    });
    if (all.length === 0) return null;
    const { part, riff, event } = pick(random, all);
    const bar = barOfEvent(event);
    const events = riff.events
      .filter((one) => one !== event)
      .map((one) =>
        closed && barOfEvent(one) === bar && toNumber(one.at) > toNumber(event.at)
          ? later(one, sub(ZERO, event.dur))
          : one,
      );
    return {
      piece: withRiff(piece, part, riff, { events }),
      hit: (found) =>
        found.locus.riff === riff.id &&
        found.locus.bar === bar &&
        (found.rule === 'lost-note' || found.rule === 'bar-sum'),
    };
  };

/** A note lost early in a riff, so that all bars after it come early. */
const early: Fault = (piece, random) => {
  const all = piece.parts.flatMap((part) =>
    part.riffs
      .filter((riff) => riff.bars >= 4 && content(riff, 0) === content(riff, 2))
      .map((riff) => ({ part, riff })),
  );
  if (all.length === 0) return null;
  const { part, riff } = pick(random, all);
  const inBar = riff.events.filter((event) => barOfEvent(event) === 1);
  const event = inBar[Math.floor(inBar.length / 2)];
  if (!event) return null;
  const events = riff.events
    .filter((one) => one !== event)
    .map((one) => (toNumber(one.at) > toNumber(event.at) ? later(one, sub(ZERO, event.dur)) : one));
  return {
    piece: withRiff(piece, part, riff, { events }),
    hit: (found) => found.locus.riff === riff.id && (found.rule === 'bar-sum' || found.rule === 'lost-note'),
  };
};

/** A length that runs into the next note of its string, or beyond the riff. */
const tooLong: Fault = (piece, random) => {
  const all = spots(piece, ({ riff, event }) => {
    const next = riff.events[riff.events.indexOf(event) + 1];
    return (
      next === undefined ||
      (event.notes.length === 1 && next.notes.some((note) => note.place?.string === event.notes[0]?.place?.string))
    );
  });
  if (all.length === 0) return null;
  const { part, riff, event } = pick(random, all);
  return {
    piece: withEvent(piece, part, riff, event, { ...event, dur: mul(event.dur, 2) }),
    hit: (found) => found.rule === 'bar-sum' && found.locus.event === event.id,
  };
};

const emptyBar: Fault = (piece, random) => {
  const part = pick(random, piece.parts);
  const riff = pick(random, part.riffs);
  return {
    piece: withRiff(piece, part, riff, { bars: riff.bars + 1 }),
    hit: (found) => found.rule === 'bar-sum' && found.locus.riff === riff.id,
  };
};

const joins = (piece: Piece): Spot[] => spots(piece, ({ note }) => note.join !== undefined);
const wrongWay: Fault = (piece, random) => {
  const all = joins(piece).filter(({ note }) => note.join === 'hammer' || note.join === 'pull');
  if (all.length === 0) return null;
  const { part, riff, event, note } = pick(random, all);
  const next = { ...note, join: note.join === 'hammer' ? ('pull' as const) : ('hammer' as const) };
  return {
    piece: withEvent(piece, part, riff, event, { ...event, notes: [next] }),
    hit: (found) => found.rule === 'direction' && found.locus.event === event.id,
  };
};
const slideNowhere: Fault = (piece, random) => {
  const all = joins(piece).filter(({ note }) => note.join === 'slide');
  if (all.length === 0) return null;
  const { part, riff, event, note } = pick(random, all);
  const after = riff.events[riff.events.indexOf(event) + 1];
  if (!after) return null;
  const same = { ...after, notes: after.notes.map((one) => ({ ...one, pitch: note.pitch, place: note.place })) };
  return {
    piece: withEvent(piece, part, riff, after, same),
    hit: (found) => found.locus.event === event.id || found.locus.event === after.id,
  };
};
const slideSaid: Fault = (piece, random) => {
  const all = joins(piece).filter(({ note }) => note.join === 'slide');
  if (all.length === 0) return null;
  const { part, riff, event, note } = pick(random, all);
  const up = (riff.events[riff.events.indexOf(event) + 1]?.notes[0]?.pitch.midi ?? 0) > note.pitch.midi;
  return {
    piece: withEvent(piece, part, riff, event, { ...event, remark: up ? 'slide down to the next' : 'slides up here' }),
    hit: (found) => found.rule === 'direction' && found.locus.event === event.id,
  };
};

const bendOff: Fault = (piece, random) => {
  const all = spots(piece, ({ note }) => note.technique?.bend !== undefined);
  if (all.length === 0) return null;
  const { part, riff, event, note } = pick(random, all);
  const next = { ...note, technique: { ...note.technique, bend: pick(random, [100, 300]) } };
  return {
    piece: withEvent(piece, part, riff, event, { ...event, notes: [next] }),
    hit: (found) => found.rule === 'bend-target' && found.locus.note === note.id,
  };
};
/** A unison bend beside the held note that falls a half tone short. */
const unisonBend: Fault = (piece, random) => {
  const all = spots(
    piece,
    ({ part, event, note }) =>
      event.notes.length === 1 &&
      note.place !== null &&
      note.place.string === 3 &&
      note.place.fret >= 5 &&
      part.setup.open.length === 6 &&
      !note.join,
  );
  if (all.length === 0) return null;
  const { part, riff, event, note } = pick(random, all);
  const fret = note.pitch.midi + 2 - openPitch(part.setup, 2);
  const held: Note = {
    ...note,
    id: 'held',
    pitch: { ...note.pitch, midi: note.pitch.midi + 2 },
    place: note.place && { ...note.place, string: 2, fret, finger: null },
  };
  const bent = { ...note, technique: { bend: 100 } };
  return {
    piece: withEvent(piece, part, riff, event, { ...event, notes: [bent, held] }),
    hit: (found) => found.rule === 'bend-target' && found.locus.event === event.id,
  };
};

const voiceOff: Fault = (piece, random) => {
  const part = piece.parts[1];
  const riff = part?.riffs.find((one) => one.name.endsWith('above'));
  if (!part || !riff) return null;
  const event = pick(random, riff.events);
  const [note] = event.notes;
  const next = note && fretted(part, note, pick(random, [1, -1]));
  return next
    ? { piece: withEvent(piece, part, riff, event, { ...event, notes: [next] }), hit: atNote(next, event) }
    : null;
};

const wrongChord =
  (change: (name: string, random: Random) => string): Fault =>
  (piece, random) => {
    const section = pick(random, piece.sections);
    const lane = section.context?.chords ?? [];
    const index = Math.floor(random() * lane.length);
    const step = lane[index];
    if (!step) return null;
    const chord = change(step.chord, random);
    const next = run(
      piece,
      must(setContext(piece, section.id, { chords: lane.map((one, i) => (i === index ? { ...one, chord } : one)) })),
    );
    return { piece: next, hit: (found) => found.rule === 'chord' && found.locus.path?.[1] === section.id };
  };
const otherRoot = wrongChord((name, random) =>
  pick(
    random,
    ['C', 'C#m', 'D', 'Ebm', 'E', 'F#m', 'G', 'Abm', 'Bb', 'Bm'].filter((one) => one.charAt(0) !== name.charAt(0)),
  ),
);
/** Where a guitar plays whole grips: a third that nobody plays can't be missed by anyone. */
const otherThird: Fault = (piece, random) =>
  piece.parts[1]?.riffs.some((riff) => riff.events.some((event) => event.notes.length === 4))
    ? wrongChord((name) =>
        name.endsWith('m') ? name.slice(0, -1) : name.endsWith('dim') ? `${name.slice(0, -3)}` : `${name}m`,
      )(piece, random)
    : null;
const LETTERS = ['C', 'C#', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'];
/** A bass a half tone over the root, which no chord of these has. */
const otherBass = wrongChord((name) => {
  const root = /^[A-G][#b]?/.exec(name)?.[0] ?? 'C';
  const flat: Readonly<Record<string, string>> = {
    Db: 'C#',
    'D#': 'Eb',
    Gb: 'F#',
    'G#': 'Ab',
    'A#': 'Bb',
    Cb: 'B',
    'E#': 'F',
    'B#': 'C',
    Fb: 'E',
  };
  return `${name.replace('dim', 'm')}/${LETTERS[(LETTERS.indexOf(flat[root] ?? root) + 1) % 12] ?? 'C'}`;
});

const keyAsShape: Fault = (piece) => {
  const [part] = piece.parts;
  const [said] = piece.context.key;
  const shift = part ? shapeShift(part.setup) : 0;
  if (!part || !said || shift === 0) return null;
  return { piece: run(piece, setKey([{ at: ZERO, ...shiftKey(said, -shift) }])), hit: (found) => found.rule === 'key' };
};
const otherKey: Fault = (piece, random) => {
  const [said] = piece.context.key;
  if (!said) return null;
  return {
    piece: run(piece, setKey([{ at: ZERO, ...shiftKey(said, pick(random, [1, 2, 3, 4, 6, 8, 9])) }])),
    hit: (found) => found.rule === 'key',
  };
};

/** One note outside the key where nothing comes again. */
const oddNote: Fault = (piece, random) => {
  const [said] = piece.context.key;
  if (!said) return null;
  const all = spots(
    piece,
    ({ riff, event, note }) =>
      event.notes.length === 1 &&
      note.place !== null &&
      !note.join &&
      content(riff, barOfEvent(event)) !== content(riff, 0),
  );
  if (all.length === 0) return null;
  const { part, riff, event, note } = pick(random, all);
  const out = [1, -1]
    .flatMap((by) => fretted(part, note, by) ?? [])
    .filter(
      (one) =>
        outside(piece, one.pitch.midi) &&
        Math.abs((riff.events[riff.events.indexOf(event) + 1]?.notes[0]?.pitch.midi ?? 0) - one.pitch.midi) > 1,
    );
  const next = out.length > 0 ? pick(random, out) : null;
  return next
    ? { piece: withEvent(piece, part, riff, event, { ...event, notes: [next] }), hit: atNote(note, event) }
    : null;
};
/** Outside the key of a piece, and no blue note of it. */
function outside(piece: Piece, midi: number): boolean {
  const [said] = piece.context.key;
  const tonic = said ? parseName(said.tonic) : null;
  if (!said || !tonic) return false;
  const step = (midi - pitchClass(tonic) + 120) % 12;
  return !(said.mode === 'minor' ? [0, 2, 3, 5, 7, 8, 10, 11, 4, 6, 9] : [0, 2, 4, 5, 7, 9, 11, 3, 6, 10]).includes(
    step,
  );
}

const chordSpot = (piece: Piece, random: Random): Spot | null => {
  const all = spots(piece, ({ event }) => event.notes.length >= 3);
  return all.length > 0 ? pick(random, all) : null;
};
const fingersCrossed: Fault = (piece, random) => {
  const spot = chordSpot(piece, random);
  if (!spot) return null;
  const { part, riff, event } = spot;
  const frets = event.notes.map((note) => note.place?.fret ?? 0);
  const [low, high] = [Math.min(...frets), Math.max(...frets)];
  const notes = event.notes.map((note) =>
    note.place
      ? {
          ...note,
          place: {
            ...note.place,
            finger: note.place.fret === low ? (3 as const) : note.place.fret === high ? (1 as const) : (2 as const),
            fingerBy: 'instructor' as const,
          },
        }
      : note,
  );
  return {
    piece: withEvent(piece, part, riff, event, { ...event, notes }),
    hit: (found) => found.rule === 'hand' && found.locus.event === event.id,
  };
};
const fingerTwice: Fault = (piece, random) => {
  const spot = chordSpot(piece, random);
  if (!spot) return null;
  const { part, riff, event } = spot;
  const notes = event.notes.map((note) =>
    note.place ? { ...note, place: { ...note.place, finger: 1 as const, fingerBy: 'instructor' as const } } : note,
  );
  return {
    piece: withEvent(piece, part, riff, event, { ...event, notes }),
    hit: (found) => found.rule === 'hand' && found.locus.event === event.id,
  };
};
const ringTaken: Fault = (piece, random) => {
  const all = spots(piece, ({ riff, event, note }) => {
    const next = riff.events[riff.events.indexOf(event) + 1];
    const [other] = next?.notes ?? [];
    return (
      next !== undefined &&
      barOfEvent(next) === barOfEvent(event) &&
      event.notes.length === 1 &&
      next.notes.length === 1 &&
      note.place !== null &&
      other?.place !== null &&
      other?.place !== undefined &&
      note.place.fret > 0 &&
      other.place.fret > 0 &&
      note.place.string !== other.place.string &&
      note.place.fret !== other.place.fret
    );
  });
  if (all.length === 0) return null;
  const { part, riff, event } = pick(random, all);
  const next = riff.events[riff.events.indexOf(event) + 1];
  const ringing = (one: RiffEvent): RiffEvent => ({
    ...one,
    letRing: true,
    notes: one.notes.map(({ join: _, ...note }) =>
      note.place ? { ...note, place: { ...note.place, finger: 2 as const } } : note,
    ),
  });
  const events = riff.events.map((one) => (one === event || one === next ? ringing(one) : one));
  return {
    piece: withRiff(piece, part, riff, { events }),
    hit: (found) => found.rule === 'hand' && found.locus.event === event.id,
  };
};

const tooFast: Fault = (piece) => {
  const eighths = (riff: Riff): boolean =>
    riff.events.slice(0, 8).every((event, i) => event.at === quarter(i, 2) && !event.notes[0]?.join);
  const fast = piece.parts.some((part) => part.riffs.some(eighths));
  return fast
    ? { piece: run(piece, setTempo([{ at: ZERO, bpm: 420 }])), hit: (found) => found.rule === 'strokes' }
    : null;
};
const strokeOff: Fault = (piece, random) => {
  const all = piece.parts.flatMap((part) =>
    part.riffs
      .filter(
        (riff) =>
          riff.events.filter((event) => event.notes.length === 1 && !event.notes[0]?.join).length >= 14 &&
          !riff.events.some((event) => event.notes[0]?.join),
      )
      .map((riff) => ({ part, riff })),
  );
  if (all.length === 0) return null;
  const { part, riff } = pick(random, all);
  const index = Math.floor(random() * riff.events.length);
  const struck = strokesOf(riff, part.setup, 'alternate');
  const events = riff.events.map((event, i) => {
    const down = struck[i]?.stroke === 'down';
    return { ...event, stroke: (i === index) === down ? ('up' as const) : ('down' as const) };
  });
  const event = events[index];
  return event
    ? {
        piece: withRiff(piece, part, riff, { events }),
        hit: (found) => found.rule === 'strokes' && found.locus.event === event.id,
      }
    : null;
};

const labelTwice: Fault = (piece) => {
  const [a, b] = piece.sections;
  if (!a || !b) return null;
  return {
    piece: { ...piece, sections: piece.sections.map((one) => (one === b ? { ...b, name: a.name } : one)) },
    hit: (found) => found.rule === 'label-twice',
  };
};
const repeatWords =
  (words: string): Fault =>
  (piece, random) => {
    const section = pick(random, piece.sections);
    const row = section.rows[0];
    const use = row?.uses[0];
    if (!row || !use || use.plays === 7) return null;
    return {
      piece: run(piece, must(patchUse(piece, section.id, row.part, use.id, { remark: words }))),
      hit: (found) => found.rule === 'repeat',
    };
  };
const rowOff =
  (by: number): Fault =>
  (piece, random) => {
    const section = pick(random, piece.sections);
    const row = pick(random, section.rows);
    const use = row.uses[0];
    if (!use || use.plays + by < 1) return null;
    return {
      piece: run(piece, must(patchUse(piece, section.id, row.part, use.id, { plays: use.plays + by }))),
      hit: (found) => found.rule === 'rows' && found.locus.part === row.part,
    };
  };
const twoPlaces: Fault = (piece, random) => {
  const all = copied(piece).filter(
    ({ part, event, note }) =>
      event.notes.length === 1 &&
      note.place?.by === 'instructor' &&
      !note.join &&
      stringNumbers(part.setup).includes(note.place.string + 1),
  );
  if (all.length === 0) return null;
  const { part, riff, event, note } = pick(random, all);
  const to = (note.place?.string ?? 0) + 1;
  const fret = note.pitch.midi - openPitch(part.setup, to);
  if (fret < 0 || fret > 19 || !note.place) return null;
  const locked = { ...piece, parts: piece.parts.map((one) => (one === part ? { ...part, riffs: part.riffs } : one)) };
  const made = lockAt(locked, { riff: riff.id, event: event.id, note: note.id }, to, fret);
  return made.ok
    ? { piece: run(locked, made.value), hit: (found) => found.rule === 'two-ways' && found.locus.riff === riff.id }
    : null;
};
const looseJoin: Fault = (piece, random) => {
  const all = piece.parts.flatMap((part) =>
    part.riffs
      .filter(
        (riff) =>
          riff.events.at(-1)?.notes[0]?.place?.string !== riff.events[0]?.notes[0]?.place?.string &&
          (riff.events.at(-1)?.notes.length ?? 0) === 1 &&
          riff.events[0]?.notes.length === 1,
      )
      .map((riff) => ({ part, riff })),
  );
  if (all.length === 0) return null;
  const { part, riff } = pick(random, all);
  const last = riff.events.at(-1);
  if (!last) return null;
  return {
    piece: withEvent(piece, part, riff, last, {
      ...last,
      notes: last.notes.map((note) => ({ ...note, join: 'slide' as const })),
    }),
    hit: (found) => found.rule === 'loop-joint' && found.locus.riff === riff.id,
  };
};

const wordsOff: Fault = (piece, random) => {
  const all = spots(piece, ({ event, note }) => note.place !== null && event.notes.length === 1);
  if (all.length === 0) return null;
  const { part, riff, event, note } = pick(random, all);
  const { string = 1, fret = 0 } = note.place ?? {};
  const remark = pick(random, [
    `on string ${string === 1 ? 2 : string - 1}`,
    `fret ${fret + 1} here`,
    ...(fret > 0 ? ['the open string'] : []),
  ]);
  return {
    piece: withEvent(piece, part, riff, event, { ...event, remark }),
    hit: (found) => found.rule === 'name-place' && found.locus.event === event.id,
  };
};

const heardOff: Fault = (piece, random) => {
  const [part] = piece.parts;
  const [riff] = part?.riffs ?? [];
  if (!part || !riff || riff.events.some((event) => event.notes[0]?.technique)) return null;
  const index = Math.floor(random() * riff.events.length);
  const notes = riff.events.flatMap((event, i) =>
    event.notes.map((note) => ({ at: toNumber(event.at), midi: note.pitch.midi + (i === index ? 2 : 0) })),
  );
  const event = riff.events[index];
  return {
    piece: run(piece, keepHearing({ riff: riff.id, source: 'take', from: ZERO, to: quarter(riff.bars * 4), notes })),
    hit: (found) => found.rule === 'recording' && found.locus.event === event?.id,
  };
};

/** A claim about the first riff, true words made false. */
const claimed =
  (words: (piece: Piece, riff: Riff, random: Random) => string | null, rule: string): Fault =>
  (piece, random) => {
    const [part] = piece.parts;
    const [riff] = part?.riffs ?? [];
    const said = part && riff ? words(piece, riff, random) : null;
    if (!part || !riff || said === null) return null;
    return {
      piece: run(piece, must(addClaim(piece, said, { part: part.id, riff: riff.id }))),
      hit: (found) => found.rule === rule,
    };
  };
const letter = (piece: Piece): string => piece.context.key[0]?.tonic ?? 'C';

export const FAULTS: Readonly<Record<string, Fault>> = {
  'wrong fret in a copy': wrongFret,
  'note lost in a copy, gap left': lost(false),
  'note lost in a copy, closed up': lost(true),
  'note lost, all after it early': early,
  'length that runs over': tooLong,
  'one bar over': emptyBar,
  'hammer and pull exchanged': wrongWay,
  'slide to where it is': slideNowhere,
  'slide said the other way': slideSaid,
  'bend misses, pattern': bendOff,
  'unison bend misses': unisonBend,
  'second voice off by a fret': voiceOff,
  'chord with another root': otherRoot,
  'chord with the other third': otherThird,
  'chord over a bass nobody plays': otherBass,
  'key of the shapes, capo forgotten': keyAsShape,
  'another key': otherKey,
  'note outside the key, leads nowhere': oddNote,
  'fingers crossed': fingersCrossed,
  'finger wanted twice': fingerTwice,
  'finger taken from a ringing note': ringTaken,
  'strokes too fast': tooFast,
  'stroke against the pattern': strokeOff,
  'label used twice': labelTwice,
  '"repeat twice" over so many': repeatWords('repeat twice'),
  '"7 times" where it is not': repeatWords('7 times'),
  'row over': rowOff(1),
  'row short': rowOff(-1),
  'same note at two places': twoPlaces,
  'join into the loop that leads nowhere': looseJoin,
  'words beside a note': wordsOff,
  'heard otherwise': heardOff,
  'claim: scale': claimed(
    (piece) => `${letter(piece)} ${piece.context.key[0]?.mode === 'minor' ? 'major' : 'minor'} pentatonic`,
    'claim-scale',
  ),
  'claim: mode': claimed((piece) => `all ${letter(piece)} Locrian`, 'claim-scale'),
  'claim: chord wider than its notes': (piece, random) => {
    const riff = piece.parts[1]?.riffs[0];
    const [event] = riff?.events ?? [];
    if (!riff || event?.notes.length !== 3) return null;
    const name = must(
      addClaim(piece, `${letter(piece)}m7`, { part: 'p1', riff: riff.id, from: ZERO, to: add(ZERO, quarter(4)) }),
    );
    void random;
    return { piece: run(piece, name), hit: (found) => found.rule === 'claim-chord' };
  },
  'claim: inverted power chord': (piece) => {
    const riff = piece.parts[1]?.riffs[0];
    if (riff?.name !== 'Chords') return null;
    return {
      piece: run(piece, must(addClaim(piece, 'inverted power chords', { part: 'p1', riff: riff.id }))),
      hit: (found) => found.rule === 'claim-chord',
    };
  },
  'claim: copy': claimed(
    (piece, riff) => (content(riff, 0) === content(riff, 3) ? null : 'same as bar 4'),
    'claim-copy',
  ),
  'claim: copy an octave up': claimed(() => 'same as bar 1 an octave up', 'claim-copy'),
  'claim: interval': (piece) => {
    const voice = piece.parts[1]?.riffs.find((one) => one.name.endsWith('above'));
    return voice
      ? {
          piece: run(piece, must(addClaim(piece, 'a perfect fifth above Guitar 1', { part: 'p1', riff: voice.id }))),
          hit: (found) => found.rule === 'claim-interval',
        }
      : null;
  },
  'claim: played so often': claimed(() => 'played 5 times', 'repeat'),
  'claim: all upstrokes': claimed(() => 'all upstrokes', 'claim-strokes'),
  'claim: letters out of order': claimed((_, riff) => {
    const names = ['C', 'C#', 'D', 'D#', 'E', 'F', 'F#', 'G', 'G#', 'A', 'A#', 'B'];
    const letters = riff.events.flatMap((event) => event.notes.map((note) => names[note.pitch.midi % 12] ?? 'C'));
    const i = letters.findIndex((one, k) => one !== letters[k + 1] && k + 1 < letters.length);
    if (i < 0 || letters.length < 3 || letters.length > 40) return null;
    [letters[i], letters[i + 1]] = [letters[i + 1] ?? 'C', letters[i] ?? 'C'];
    return letters.join(' ');
  }, 'letters-frets'),
  'claim: one fret too many': claimed(() => 'E G A, frets 0 3 5 7 on string 6', 'letters-frets'),
  'claim: letters against frets': claimed(() => 'C E G, frets 1 2 3 on string 2', 'letters-frets'),
  'claim: degree': claimed((piece) => `the flat second of ${letter(piece)}`, 'claim-degree'),
  'claim: capo': claimed(() => 'capo 5', 'claim-setup'),
  'claim: position': claimed(() => 'in position 14', 'claim-position'),
  'claim: tempo': claimed(() => 'felt at 61', 'claim-tempo'),
  'claim: bend': claimed(
    (_, riff) => (riff.events.some((event) => event.notes[0]?.technique?.bend) ? 'bent to C#' : 'bend to E'),
    'claim-bend',
  ),
  'claim against a claim': (piece) => {
    const riff = piece.parts[0]?.riffs[0];
    if (!riff) return null;
    const one = run(piece, must(addClaim(piece, 'played twice', { part: 'p0', riff: riff.id })));
    return {
      piece: run(one, must(addClaim(one, 'played 3 times', { part: 'p0', riff: riff.id }))),
      hit: (found) => found.rule === 'claims-differ',
    };
  },
};
