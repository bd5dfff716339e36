import { locusWords, type Result } from '@/core/base';
import type { z } from 'zod';
import { foldRiff, readForm } from '@/core/command';
import { applyEdit } from '@/core/edit';
import {
  applyVariant,
  blockWords,
  differencesOf,
  differenceWords,
  foldPlan,
  momentAt,
  moveWords,
  printForm,
  resolve,
  withoutBlocks,
  type Line,
} from '@/core/form';
import { findRiff, keyOf, readPiece, type Piece, type RiffEvent } from '@/core/score';
import { barOf, barStart, cmp, sub, type Quarter } from '@/core/time';
import { CliFault, type differencesInput, type foldOptions, type formParseInput, type unfoldOptions } from '../schemas';

/** The value, or what is wrong with its place. */
export const got = <Value>(made: Result<Value>): Value => {
  if (made.ok) return made.value;
  const { from, to } = made.error.locus.text ?? {};
  const at = from === undefined ? locusWords(made.error.locus) : `characters ${from} to ${to}`;
  throw new CliFault(made.error.rule, made.error.words, at || undefined);
};

export const pieceFrom = (json: unknown): Piece => got(readPiece(json));

/** The form of a piece as text. */
export const formPrint = (json: unknown): unknown => ({ text: printForm(pieceFrom(json)) });

/** A piece with its form as a text says. */
export function formParse(input: z.infer<typeof formParseInput>): unknown {
  const piece = pieceFrom(input.piece);
  const edit = readForm(piece, input.text);
  if (!edit.ok && edit.error.rule === 'no-change') return { piece };
  return { piece: got(applyEdit(piece, got(edit))) };
}

function unfolded(line: Line): unknown {
  const { map, part, spans, origins, riff } = line;
  return {
    part: part.id,
    name: part.name,
    bars: map.bars,
    end: map.end,
    meters: map.meters,
    tempo: map.tempo,
    spans: spans.map((span) => ({
      ...{ section: span.pass.section.name, pass: span.pass.pass, passes: span.pass.passes, play: span.play },
      ...{
        riff: span.riff?.name ?? null,
        variant: span.riff?.variants?.find((one) => one.id === span.variant)?.name ?? null,
      },
      ...{
        move: span.use.move ? moveWords(span.use.move) : null,
        from: span.from,
        to: span.to,
        bar: barOf(map.meters, span.from).bar + 1,
      },
    })),
    events: riff.events.map((event) => {
      const origin = origins.get(event.id);
      const span = spans[origin?.span ?? -1];
      const { key, chord, bass, bpm } = momentAt(map, event.at);
      return {
        ...{ at: event.at, dur: event.dur, bar: barOf(map.meters, event.at).bar + 1, event: origin?.event ?? event.id },
        ...{
          riff: span?.riff?.id ?? null,
          variant: span?.variant ?? null,
          section: span?.pass.section.name ?? null,
          pass: span?.pass.pass ?? null,
          play: span?.play ?? null,
        },
        context: {
          key: key ? `${key.tonic} ${key.mode}` : null,
          chord: chord?.chord ?? null,
          bass: bass?.note ?? null,
          tempo: Math.round(bpm * 100) / 100,
        },
        notes: event.notes.map(({ pitch, place }) => ({
          pitch: pitch.midi,
          string: place?.string ?? null,
          fret: place?.fret ?? null,
        })),
      };
    }),
    findings: line.findings.map((one) => one.words),
  };
}

/** Parts as they are played from the first bar to the last. */
export function unfold(json: unknown, options: z.infer<typeof unfoldOptions>): unknown {
  const piece = pieceFrom(json);
  const parts = options.part === undefined ? piece.parts.map((part) => part.id) : [options.part];
  return {
    parts: parts.map((id) => {
      const line = resolve(piece, id);
      if (!line)
        throw new CliFault(
          'no-part',
          `There is no part "${id}"; the piece has ${piece.parts.map((part) => part.id).join(', ')}.`,
          '--part',
        );
      return unfolded(line);
    }),
  };
}

/** A riff told as riffs and repeats: the stretches, and the piece with it folded. */
export function fold(json: unknown, options: z.infer<typeof foldOptions>): unknown {
  const piece = pieceFrom(json);
  const id = options.riff ?? longest(piece);
  const found = findRiff(piece, id);
  if (!found) throw new CliFault('no-riff', `There is no riff "${id}".`, '--riff');
  const plan = foldPlan(found.riff, found.part.setup);
  if (!plan) return { blocks: [], piece };
  const refused = new Set((options.without ?? '').split(',').filter(Boolean).map(Number));
  const used = withoutBlocks(plan, refused);
  const made = got(foldRiff(piece, id, used));
  const words = { meters: found.riff.meters, key: keyOf(piece, found.riff) };
  return {
    blocks: used.blocks.map((block, i) => ({
      ...{
        bar: block.bar + 1,
        bars: block.bars,
        kind: block.kind,
        of: block.of,
        words: blockWords(used, i, moveWords),
      },
      differences: block.differences.map((one) => differenceWords(one, words)),
    })),
    piece: got(applyEdit(piece, made.edit)),
  };
}

const longest = (piece: Piece): string =>
  piece.parts
    .flatMap((part) => part.riffs)
    .reduce((best, riff) => (best && best.events.length >= riff.events.length ? best : riff))?.id ?? '';

/** Differences of two stretches, note by note, in words. */
export function differences(input: z.infer<typeof differencesInput>): unknown {
  const piece = pieceFrom(input.piece);
  const stretch = (
    given: typeof input.a,
    at: string,
  ): { readonly events: readonly RiffEvent[]; readonly from: Quarter; readonly riff: string } => {
    const found = findRiff(piece, given.riff);
    if (!found) throw new CliFault('no-riff', `There is no riff "${given.riff}".`, `${at}.riff`);
    const variant = found.riff.variants?.find((one) => one.id === given.variant || one.name === given.variant);
    if (given.variant !== undefined && !variant)
      throw new CliFault('no-variant', `"${found.riff.name}" has no variant "${given.variant}".`, `${at}.variant`);
    const events = variant ? applyVariant(found.riff, variant).events : found.riff.events;
    const from = barStart(found.riff.meters, (given.from ?? 1) - 1);
    const to = given.to === undefined ? null : barStart(found.riff.meters, given.to);
    return {
      events: events.filter(
        (event) => (given.from === undefined || cmp(event.at, from) >= 0) && (to === null || cmp(event.at, to) < 0),
      ),
      from,
      riff: found.riff.id,
    };
  };
  const [a, b] = [stretch(input.a, 'a'), stretch(input.b, 'b')];
  const riff = findRiff(piece, a.riff)?.riff;
  const list = differencesOf(a.events, b.events, { before: a.from, after: b.from });
  return {
    differences: list.map((one) => ({
      ...{ kind: one.kind, at: one.at, before: one.before?.id ?? null, after: one.after?.id ?? null },
      words: differenceWords(one, { meters: riff?.meters ?? [], key: riff ? keyOf(piece, riff) : null }),
    })),
    shift: sub(b.from, a.from),
  };
}
