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
import { paperSvg, textSheet } from '@/core/paper';
import { placePiece } from '@/core/place';
import type { Piece } from '@/core/score';
import { answersSchema, CliFault, type convertOptions, parsed, setupOf, setupRequest } from '../schemas';
import { jsonOf } from './files';
import { faultOf } from './fault';

/** Paper: what text tab says, set on pages. */
const PAPER = ['pdf', 'svg'] as const;
type Paper = (typeof PAPER)[number];

const READ = (Object.keys(FORMATS) as MusicFormat[]).flatMap((format) => FORMATS[format].extensions);

/** The format of a file: what its bytes say, else its extension. */
function formatFor(file: string, bytes: Uint8Array): MusicFormat {
  const known = sniff(bytes);
  const named = known && known in FORMATS ? (known as MusicFormat) : formatOf(extensionOf(file));
  return named ?? unknownKind(file, READ);
}

/** What is to be written, by its extension. */
const kindFor = (out: string): MusicFormat | Paper =>
  PAPER.find((paper) => paper === extensionOf(out)) ??
  formatOf(extensionOf(out)) ??
  unknownKind(out, [...READ, ...PAPER]);

const extensionOf = (file: string): string => path.extname(file).slice(1).toLowerCase();

function unknownKind(file: string, kinds: readonly string[]): never {
  throw new CliFault(
    'unknown-kind',
    `"${extensionOf(file) || file}" is no kind of file that is read or written: ${kinds.join(', ')}.`,
    file,
  );
}

/** Between all formats: what one says and the other can, with what was asked and answered, left out, and not placed. */
export async function convert(
  input: { readonly file: string; readonly bytes: Uint8Array },
  out: string,
  options: z.infer<typeof convertOptions>,
): Promise<{ readonly bytes: Uint8Array; readonly said: Record<string, unknown> }> {
  const from = formatFor(input.file, input.bytes);
  const to = kindFor(out);
  const answers: Answers =
    options.answers === undefined ? {} : parsed(answersSchema, jsonOf(options.answers, '--answers'));
  const read = from === 'json' ? whole(input.bytes) : partly(from, input.bytes, options, answers);
  const { piece, blocked } =
    to === 'midi' || to === 'json' ? { piece: read.piece, blocked: [] } : placePiece(read.piece);
  const parts = options.part === undefined || from !== 'json' ? undefined : [partId(piece, options.part)];
  const choice = { parts, staves: options.staves, channels: options.channels, width: options.width };
  const bytes =
    to === 'pdf' || to === 'svg'
      ? await onPaper(to, FORMATS.texttab.write(piece, choice, 'txt'))
      : FORMATS[to].write(piece, choice, extensionOf(out));
  return { bytes, said: { from, to, bytes: bytes.length, ...read.said, blocked } };
}

async function onPaper(kind: Paper, text: Uint8Array): Promise<Uint8Array> {
  const layout = textSheet(new TextDecoder().decode(text));
  // Read when asked for: all other commands begin without them.
  const [{ facesIn }, { pdfOf }] = await Promise.all([import('@/server/paper/faces'), import('@/server/paper/pdf')]);
  return kind === 'pdf' ? pdfOf(layout, new Date()) : new TextEncoder().encode(paperSvg(layout, facesIn(layout), true));
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
