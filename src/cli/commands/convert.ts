import path from 'node:path';
import type { z } from 'zod';
import {
  partQuestions,
  formatOf,
  FORMATS,
  readMusic,
  readWhole,
  sniff,
  type MusicFormat,
} from '@/core/formats/registry';
import { guessSetup, takeIn, bestShift, type Answers, type PartChoice, type Reading } from '@/core/formats/music';
import { placePiece } from '@/core/place';
import type { Piece } from '@/core/score';
import { answersSchema, CliFault, type convertOptions, parsed, setupOf, setupRequest } from '../schemas';
import { jsonOf } from './files';
import { faultOf } from './fault';

const KINDS = (Object.keys(FORMATS) as MusicFormat[]).flatMap((format) => FORMATS[format].extensions).join(', ');

/** The format of a file by its extension; "-" is what its bytes say. */
function formatFor(file: string, bytes: Uint8Array | null): MusicFormat {
  const extension = path.extname(file).slice(1);
  const named = formatOf(extension);
  const known = bytes ? sniff(bytes) : null;
  if (known && known in FORMATS) return known as MusicFormat;
  if (named) return named;
  throw new CliFault(
    'unknown-kind',
    `"${extension || file}" is no kind of file that is read or written: ${KINDS}.`,
    file,
  );
}

/** Between all formats: what one says and the other can, with what was asked and answered, left out, and not placed. */
export function convert(
  input: { readonly file: string; readonly bytes: Uint8Array },
  out: string,
  options: z.infer<typeof convertOptions>,
): { readonly bytes: Uint8Array; readonly said: Record<string, unknown> } {
  const from = formatFor(input.file, input.bytes);
  const to = formatFor(out, null);
  const answers: Answers =
    options.answers === undefined ? {} : parsed(answersSchema, jsonOf(options.answers, '--answers'));
  const read = from === 'json' ? whole(input.bytes) : partly(from, input.bytes, options, answers);
  const { piece, blocked } =
    to === 'midi' || to === 'json' ? { piece: read.piece, blocked: [] } : placePiece(read.piece);
  const parts = options.part === undefined || from !== 'json' ? undefined : [partId(piece, options.part)];
  const bytes = FORMATS[to].write(
    piece,
    { parts, staves: options.staves, channels: options.channels, width: options.width },
    path.extname(out).slice(1).toLowerCase(),
  );
  return { bytes, said: { from, to, bytes: bytes.length, ...read.said, blocked } };
}

interface Read {
  readonly piece: Piece;
  readonly said: Record<string, unknown>;
}

function whole(bytes: Uint8Array): Read {
  const piece = readWhole(bytes);
  if (!piece.ok) throw faultOf(piece.error);
  return { piece: piece.value, said: { parts: piece.value.parts.map((part) => part.name) } };
}

function partId(piece: Piece, asked: string): string {
  const part = piece.parts.find((one, i) => one.id === asked || one.name === asked || String(i) === asked);
  if (part) return part.id;
  throw new CliFault(
    'no-part',
    `There is no part "${asked}": ${piece.parts.map((one) => one.name).join(', ')}.`,
    '--part',
  );
}

function partly(
  format: MusicFormat,
  bytes: Uint8Array,
  options: z.infer<typeof convertOptions>,
  answers: Answers,
): Read {
  const reading = readMusic(format, bytes, { answers, ...(options.grid ? { grid: options.grid } : {}) });
  if (!reading.ok) throw faultOf(reading.error);
  const { music, questions, leftOut, remarks } = reading.value;
  const setup =
    options.setup === undefined ? null : setupOf(parsed(setupRequest, jsonOf(options.setup, '--setup'))).setup;
  const choices = choicesOf(reading.value, options.part, setup, answers);
  const asked = [...questions, ...choices.flatMap(({ index, setup: own }) => partQuestions(music, index, own))];
  const taken = takeIn(music, choices, 0, 'converted');
  if (!taken.ok) throw faultOf(taken.error);
  return {
    piece: taken.value.piece,
    said: {
      parts: choices.map(({ name }) => name),
      questions: asked.map((one) => ({
        id: one.id,
        words: one.finding.words,
        answers: one.answers,
        answered: answers[one.id] ?? one.usual,
      })),
      leftOut,
      remarks: remarks.map((finding) => finding.words),
      lost: taken.value.lost,
    },
  };
}

function choicesOf(
  { music }: Reading,
  asked: string | undefined,
  setup: ReturnType<typeof setupOf>['setup'] | null,
  answers: Answers,
): PartChoice[] {
  const all = music.parts.flatMap((part, index) => (part.events.length > 0 ? [{ part, index }] : []));
  const chosen =
    asked === undefined ? all : all.filter(({ part, index }) => part.name === asked || String(index) === asked);
  if (chosen.length === 0)
    throw new CliFault(
      'no-part',
      `There is no part "${asked ?? ''}" with notes: ${all.map(({ part }) => part.name).join(', ')}.`,
      '--part',
    );
  return chosen.map(({ part, index }) => {
    const own = setup ?? guessSetup(part).setup;
    const [question] = partQuestions(music, index, own);
    const trust = (answers[`trust-${index}`] ?? question?.usual ?? 'places') === 'pitches' ? 'pitches' : 'places';
    return { index, name: part.name, setup: own, shift: bestShift(part, own), trust };
  });
}
