import type { z } from 'zod';
import {
  compareVoices,
  heldWords,
  lostBars,
  reduce,
  secondVoice,
  semitoneWords,
  stepWords,
  type ComparedVoices,
  type VoiceInterval,
} from '@/core/arrange';
import { withSomeForm } from '@/core/command';
import { momentAt, resolve, resolveAll, type Line } from '@/core/form';
import { makeSetup } from '@/core/instrument';
import { optionsFor, placeRiff } from '@/core/place';
import { findPart, keyOf, modelOf, tempoOf, type Piece } from '@/core/score';
import { chainsOf, likeness, matchesOf, matchWords, saidIn } from '@/core/search';
import { calledToEvents, FIRST_LENGTH, readCalls } from '@/core/shorthand';
import { ZERO } from '@/core/time';
import { CliFault, type reduceInput, type searchInput, type secondVoiceInput } from '../schemas';
import { got, pieceFrom } from './form';

const lineOf = (piece: Piece, part: string, at: string): Line => {
  const line = resolve(withSomeForm(piece), part);
  if (!line) throw new CliFault('no-part', `The piece has no part "${part}".`, at);
  return line;
};

const table = (compared: ComparedVoices): unknown => ({
  held: compared.held,
  words: heldWords(compared),
  intervals: compared.rows.map((row) => ({
    ...row,
    words:
      row.steps === null ? semitoneWords(row.semitones) : `${semitoneWords(row.semitones)} (${stepWords(row.steps)})`,
  })),
  alone: compared.alone,
});

/** A second voice to a part or a riff, placed; or the table of intervals to a part that is there. */
export function secondVoices(input: z.infer<typeof secondVoiceInput>): unknown {
  const piece = pieceFrom(input.piece);
  const part = findPart(piece, input.part);
  if (!part) throw new CliFault('no-part', `The piece has no part "${input.part}".`, 'part');
  const key = keyOf(piece, null);
  if (input.against !== undefined) {
    const [mine, theirs] = [lineOf(piece, input.part, 'part'), lineOf(piece, input.against, 'against')];
    return table(compareVoices(mine.riff.events, theirs.riff.events, (at) => momentAt(mine.map, at).key));
  }
  const interval: VoiceInterval =
    'semitones' in input.interval
      ? { by: 'semitones', semitones: input.interval.semitones }
      : {
          by: 'steps',
          steps: input.interval.steps,
          key: key ?? refuse('no-key', 'Steps need the key of the piece. Say it, or give semitones.', 'interval'),
        };
  const riffs = part.riffs.filter((riff) => input.riff === undefined || riff.id === input.riff);
  if (riffs.length === 0) throw new CliFault('no-riff', `The part has no riff "${input.riff ?? ''}".`, 'riff');
  return {
    riffs: riffs.map((riff) => {
      const made = got(secondVoice(part.setup, riff.events, interval));
      const voice = { ...riff, events: made.events, variants: undefined, alternatives: undefined };
      const placed = made.shape
        ? voice
        : placeRiff(voice, part.setup, tempoOf(piece, riff), optionsFor(piece, part)).riff;
      return {
        ...{
          riff: riff.id,
          shape: made.shape,
          outside: made.outside,
          lostLocks: made.lostLocks,
          events: placed.events,
        },
        table: table(compareVoices(riff.events, placed.events, () => key)),
      };
    }),
  };
}

function refuse(code: string, words: string, at: string): never {
  throw new CliFault(code, words, at);
}

/** What fewer players could play of a piece, and what is lost, what is heard most first. */
export function reduction(input: z.infer<typeof reduceInput>): unknown {
  const piece = withSomeForm(pieceFrom(input.piece));
  const lines = input.parts
    ? input.parts.map((part) => lineOf(piece, part, 'parts'))
    : resolveAll(piece).filter((line) => line.riff.events.length > 0 && !modelOf(piece, line.part));
  const made = reduce(lines, input.players);
  return {
    keep: made.keep,
    share: Math.round(made.share * 1000) / 1000,
    taken: made.taken.map(({ note, event: _, bar, ...one }) => ({ ...one, bar: bar + 1, pitch: note.pitch.midi })),
    lost: lostBars(made, keyOf(piece, null)).map((one) => ({
      ...one,
      bar: one.bar + 1,
      weight: Math.round(one.weight * 1000) / 1000,
    })),
  };
}

/** What is said and what is played in pieces: by words, by calls, or both. */
export function search(input: z.infer<typeof searchInput>): unknown {
  if (input.words === undefined && input.calls === undefined)
    throw new CliFault('nothing-sought', 'Give words, calls, or both.', 'words');
  const pieces = input.pieces.map(pieceFrom);
  const words = (input.words ?? '').toLowerCase().split(/\s+/).filter(Boolean);
  const said =
    words.length === 0
      ? []
      : pieces.flatMap((piece) =>
          saidIn(piece)
            .filter((one) => words.every((word) => one.words.toLowerCase().includes(word)))
            .map((one) => ({ piece: piece.id, title: piece.title, ...one })),
        );
  return { said, music: input.calls === undefined ? [] : musicIn(pieces, input.calls, input.setup) };
}

function musicIn(pieces: readonly Piece[], calls: string, place: z.infer<typeof searchInput>['setup']): unknown[] {
  const { setup } = got(makeSetup({ instrument: 'guitar-6', ...place }));
  const meters = [{ bar: 0, beats: 4, unit: 4 }];
  const called = readCalls(calls, { setup, meters, at: ZERO, length: FIRST_LENGTH, string: null });
  const [fault] = called.faults;
  if (fault)
    throw new CliFault(fault.rule, fault.words, `characters ${fault.locus.text.from} to ${fault.locus.text.to}`);
  const events = calledToEvents(called, new Set());
  const sought = chainsOf(events, meters);
  if (sought.anchors.length < 3) throw new CliFault('too-few', 'Call three notes or more.', 'calls');
  const strings = [...new Set(events.flatMap(({ notes }) => notes.flatMap((note) => note.place?.string ?? [])))];
  return pieces
    .flatMap((piece) =>
      piece.parts.flatMap((part) =>
        part.riffs.flatMap((riff) =>
          matchesOf(chainsOf(riff.events, riff.meters), sought).map((match) => ({
            ...{ piece: piece.id, title: piece.title, part: part.id, riff: riff.id, match },
            words: matchWords(match, part.setup, setup, strings),
          })),
        ),
      ),
    )
    .sort((a, b) => likeness(b.match) - likeness(a.match))
    .map(({ match, ...one }) => ({ ...one, ...match, bar: match.bar + 1 }));
}
