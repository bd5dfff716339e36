import { must } from '../../src/core/base';
import { addClaim, keepHearing, lockAt, patchUse } from '../../src/core/command';
import { openPitch, stringNumbers } from '../../src/core/instrument';
import type { Piece, Riff } from '../../src/core/score';
import { quarter, toNumber, ZERO } from '../../src/core/time';
import { pick, type Random } from '../lib/random';
import { type Fault, run, withEvent, spots, copied } from './planting';

/** Slips in what is said: labels, repeats, claims, and what was heard. */

export const labelTwice: Fault = (piece) => {
  const [a, b] = piece.sections;
  if (!a || !b) return null;
  return {
    piece: { ...piece, sections: piece.sections.map((one) => (one === b ? { ...b, name: a.name } : one)) },
    hit: (found) => found.rule === 'label-twice',
  };
};
export const repeatWords =
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
export const rowOff =
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
export const twoPlaces: Fault = (piece, random) => {
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
export const looseJoin: Fault = (piece, random) => {
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

export const wordsOff: Fault = (piece, random) => {
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

export const heardOff: Fault = (piece, random) => {
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
export const claimed =
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
export const letter = (piece: Piece): string => piece.context.key[0]?.tonic ?? 'C';
