import { must } from '../../base';
import { insertSection, setRow } from '../../command';
import { applyEdit } from '../../edit';
import { makeSetup, openPitch, type Setup } from '../../instrument';
import {
  makeEvent,
  makeNote,
  makePart,
  makePiece,
  makePlace,
  makeRiff,
  type Note,
  type Part,
  type Piece,
  type Riff,
  type RiffEvent,
} from '../../score';
import { quarter, ZERO } from '../../time';
import { proofread } from '../check';
import { ASKED, type CheckFinding } from '../types';

/** Small pieces for tests of rules, written as places on a neck. */

export const GUITAR: Setup = must(makeSetup({ instrument: 'guitar-6' })).setup;

/** "6.3" string 6, fret 3; "6.3+5.5" a grip; "-" a rest. Each lasts as long as said, in quarters. */
export function eventsOf(text: string, each = 0.5, setup: Setup = GUITAR, prefix = 'e'): RiffEvent[] {
  const length = quarter(Math.round(each * 48), 48);
  return text
    .trim()
    .split(/\s+/)
    .flatMap((word, i): RiffEvent[] => {
      if (word === '-') return [];
      const notes = word.split('+').map((one, k): Note => {
        const [string = 1, fret = 0] = one.split('.').map(Number);
        return makeNote(`${prefix}${i}n${k}`, openPitch(setup, string) + fret, 'instructor', {
          place: makePlace(string, fret, 'instructor'),
        });
      });
      return [makeEvent(`${prefix}${i}`, quarter(Math.round(i * each * 48), 48), length, notes)];
    });
}

export const riffOf = (text: string, bars: number, extra: Partial<Riff> = {}, each = 0.5): Riff =>
  makeRiff('r1', 'Trap', { bars, events: eventsOf(text, each), plays: 1, ...extra });

export function pieceOf(riffs: readonly Riff[], extra: Partial<Piece> = {}, part: Partial<Part> = {}): Piece {
  return makePiece('p', 'Moth', {
    parts: [makePart('g', 'Guitar 1', GUITAR, { riffs, ...part })],
    context: { tempo: [{ at: ZERO, bpm: 100 }], key: [{ at: ZERO, tonic: 'A', mode: 'minor' }] },
    lastId: 100_000,
    ...extra,
  });
}

/** A riff with one of its events changed. */
export const changed = (riff: Riff, index: number, change: (event: RiffEvent) => RiffEvent): Riff => ({
  ...riff,
  events: riff.events.map((event, i) => (i === index ? change(event) : event)),
});

/** What is asked of a piece by one rule, the likeliest first; what is probably meant is left out. */
export const askedBy = (piece: Piece, rule: string): CheckFinding[] =>
  proofread(piece).filter((one) => one.rule === rule && one.likely >= ASKED && one.severity !== 'open');

/** Two guitars that play a line each in one section: "g" with riff "r1", "h" with riff "r2". */
export function twoGuitars(line: string, voice: string, bars: number): Piece {
  const start = pieceOf([riffOf(line, bars)]);
  const riff = { ...riffOf(voice, bars), id: 'r2', events: eventsOf(voice, 0.5, GUITAR, 'v') };
  const both = { ...start, parts: [...start.parts, makePart('h', 'Guitar 2', GUITAR, { riffs: [riff] })] };
  const made = insertSection(both, { name: 'Verse', bars });
  let piece = must(applyEdit(both, made.edit));
  for (const [part, id] of [
    ['g', 'r1'],
    ['h', 'r2'],
  ] as const)
    piece = must(applyEdit(piece, must(setRow(piece, made.id, part, [{ riff: id, plays: 1 }]))));
  return piece;
}
