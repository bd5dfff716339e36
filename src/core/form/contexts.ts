import { degreeOver, degreeOverNote, parseChord } from '../harmony';
import type { Key } from '../pitch';
import type { Note, Piece, Use } from '../score';
import { add, barStart, cmp, sub, ZERO, type Quarter, type TempoStep } from '../time';
import { momentAt, type BassSpan, type ChordSpan } from './map';
import { moveWords } from './move-use';
import { resolve } from './resolve';
import type { Span } from './spans';

/** One place of the form a riff stands in, with what lies over and under it there, in the riff's own time. */
export interface RiffContext {
  /** The use and its play: what tells contexts apart. */
  readonly id: string;
  readonly use: Use;
  readonly section: string;
  /** The bar of the piece where it begins, from 1. */
  readonly bar: number;
  readonly words: string;
  readonly key: Key | null;
  /** The tempo its section says for itself; null where the riff's or the piece's holds. */
  readonly tempo: readonly TempoStep[] | null;
  readonly chords: readonly ChordSpan[];
  readonly bass: readonly BassSpan[];
}

/** Where in the form a riff is played, in order; the same use again on a later pass is the same context. */
export function contextsOf(piece: Piece, partId: string, riffId: string): RiffContext[] {
  const line = resolve(piece, partId);
  const riff = line?.part.riffs.find((one) => one.id === riffId);
  if (!line || !riff) return [];
  const out = new Map<string, RiffContext>();
  for (const span of line.spans) {
    if (span.riff?.id !== riffId) continue;
    const id = `${span.use.id}.${span.play}`;
    if (out.has(id)) continue;
    const { key, bpm, bar } = momentAt(line.map, span.from);
    const by = sub(span.use.bars ? barStart(riff.meters, span.use.bars.from) : ZERO, span.from);
    const moved = span.use.move ? `, ${moveWords(span.use.move)}` : '';
    out.set(id, {
      ...{ id, use: span.use, section: span.pass.section.id, bar: bar + 1, key },
      tempo: span.pass.section.context?.tempo ? [{ at: ZERO, bpm }] : null,
      words: `${span.pass.section.name}, bar ${bar + 1}${moved}`,
      chords: within(line.map.chords, span).map((one) => ({ ...one, at: add(one.at, by), to: add(one.to, by) })),
      bass: within(line.map.bass, span).map((one) => ({ ...one, at: add(one.at, by), to: add(one.to, by) })),
    });
  }
  return [...out.values()];
}

const within = <One extends { readonly at: Quarter; readonly to: Quarter }>(list: readonly One[], span: Span): One[] =>
  list
    .filter((one) => cmp(one.to, span.from) > 0 && cmp(one.at, span.to) < 0)
    .map((one) => ({
      ...one,
      at: cmp(one.at, span.from) < 0 ? span.from : one.at,
      to: cmp(one.to, span.to) > 0 ? span.to : one.to,
    }));

/** What a note is by the chord over it, else by the bass under it; null where neither is said. */
export function degreeAt(
  context: Pick<RiffContext, 'chords' | 'bass'>,
  at: Quarter,
  note: Pick<Note, 'pitch'>,
): string | null {
  const chord = context.chords.find((one) => cmp(one.at, at) <= 0 && cmp(at, one.to) < 0);
  const read = chord ? parseChord(chord.chord) : null;
  if (read?.ok) return degreeOver(note.pitch.midi, read.value);
  const bass = context.bass.find((one) => cmp(one.at, at) <= 0 && cmp(at, one.to) < 0);
  return bass ? degreeOverNote(note.pitch.midi, bass.note) : null;
}
