import { setTempo } from '../../src/core/command';
import { strokesOf } from '../../src/core/rhythm';
import type { Piece, Riff, RiffEvent } from '../../src/core/score';
import { quarter, ZERO } from '../../src/core/time';
import { pick, type Random } from '../lib/random';
import { barOfEvent } from './compose';
import { type Fault, run, withRiff, withEvent, type Spot, spots } from './planting';

/** Slips in fingers, rings and strokes. */

export const chordSpot = (piece: Piece, random: Random): Spot | null => {
  const all = spots(piece, ({ event }) => event.notes.length >= 3);
  return all.length > 0 ? pick(random, all) : null;
};
export const fingersCrossed: Fault = (piece, random) => {
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
export const fingerTwice: Fault = (piece, random) => {
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
export const ringTaken: Fault = (piece, random) => {
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

export const tooFast: Fault = (piece) => {
  const eighths = (riff: Riff): boolean =>
    riff.events.slice(0, 8).every((event, i) => event.at === quarter(i, 2) && !event.notes[0]?.join);
  const fast = piece.parts.some((part) => part.riffs.some(eighths));
  return fast
    ? { piece: run(piece, setTempo([{ at: ZERO, bpm: 420 }])), hit: (found) => found.rule === 'strokes' }
    : null;
};
export const strokeOff: Fault = (piece, random) => {
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
