import { openPitch } from '../../src/core/instrument';
import type { Note, Piece, RiffEvent } from '../../src/core/score';
import { mul, sub, toNumber, ZERO } from '../../src/core/time';
import { pick } from '../lib/random';
import { barOfEvent, later } from './compose';
import { type Fault, withRiff, withEvent, fretted, type Spot, spots, content, copied, atNote } from './planting';

/** Slips in single notes and copies. */

/** A wrong fret in a bar that is a copy: one or two frets off. */
export const wrongFret: Fault = (piece, random) => {
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
export const lost =
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
export const early: Fault = (piece, random) => {
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
export const tooLong: Fault = (piece, random) => {
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

export const emptyBar: Fault = (piece, random) => {
  const part = pick(random, piece.parts);
  const riff = pick(random, part.riffs);
  return {
    piece: withRiff(piece, part, riff, { bars: riff.bars + 1 }),
    hit: (found) => found.rule === 'bar-sum' && found.locus.riff === riff.id,
  };
};

export const joins = (piece: Piece): Spot[] => spots(piece, ({ note }) => note.join !== undefined);
export const wrongWay: Fault = (piece, random) => {
  const all = joins(piece).filter(({ note }) => note.join === 'hammer' || note.join === 'pull');
  if (all.length === 0) return null;
  const { part, riff, event, note } = pick(random, all);
  const next = { ...note, join: note.join === 'hammer' ? ('pull' as const) : ('hammer' as const) };
  return {
    piece: withEvent(piece, part, riff, event, { ...event, notes: [next] }),
    hit: (found) => found.rule === 'direction' && found.locus.event === event.id,
  };
};
export const slideNowhere: Fault = (piece, random) => {
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
export const slideSaid: Fault = (piece, random) => {
  const all = joins(piece).filter(({ note }) => note.join === 'slide');
  if (all.length === 0) return null;
  const { part, riff, event, note } = pick(random, all);
  const up = (riff.events[riff.events.indexOf(event) + 1]?.notes[0]?.pitch.midi ?? 0) > note.pitch.midi;
  return {
    piece: withEvent(piece, part, riff, event, { ...event, remark: up ? 'slide down to the next' : 'slides up here' }),
    hit: (found) => found.rule === 'direction' && found.locus.event === event.id,
  };
};

export const bendOff: Fault = (piece, random) => {
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
export const unisonBend: Fault = (piece, random) => {
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

export const voiceOff: Fault = (piece, random) => {
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
