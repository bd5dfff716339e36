import { z } from 'zod';
import { ok } from '../base';
import { keyName } from '../pitch';
import { checkForm, checkLanes, pieceContextSchema, pieceSchema, type Piece } from '../score';
import { inversePatch, patched, patchShape } from './patch';
import { spec } from './spec';

const { title, credit, source, costs, unspecified } = pieceSchema.shape;

/** Title, weights and what was taken for granted, of the piece as a whole. */
export const patchPiece = spec({
  schema: z.object({
    type: z.literal('patchPiece'),
    ...patchShape(
      {
        ...{ title, credit: credit.unwrap(), source: source.unwrap() },
        ...{ costs: costs.unwrap(), unspecified: unspecified.unwrap() },
      },
      ['credit', 'source', 'costs', 'unspecified'],
    ),
  }),
  apply: (piece, edit) => ok(patched(piece, edit)),
  invert: (piece, edit) => ok({ type: 'patchPiece', ...inversePatch(piece, edit) }),
  describe: (_, { set, clear }) => {
    const lines: string[] = [];
    if (set.title !== undefined) lines.push(`named the piece "${set.title}"`);
    if (set.credit !== undefined) lines.push('said who it is by');
    if (clear.includes('credit')) lines.push('took out who it is by');
    if (set.source) lines.push('said what the piece was worked out from');
    if (clear.includes('source')) lines.push('left open what the piece was worked out from');
    if (set.costs) lines.push(`placed by the weights "${set.costs.name}", version ${set.costs.version}`);
    if (clear.includes('costs')) lines.push('placed by the program’s own weights');
    if (set.unspecified) lines.push('marked something as unspecified');
    if (clear.includes('unspecified')) lines.push('said what had been taken for granted');
    return lines.join(', ') || 'changed nothing';
  },
  touches: ({ set, clear }) => ({
    part: null,
    riff: null,
    aspects: [
      ...([set.title, set.credit, set.source].some((one) => one !== undefined) ||
      clear.includes('credit') ||
      clear.includes('source')
        ? (['title'] as const)
        : []),
      ...(set.costs || clear.includes('costs') ? (['costs'] as const) : []),
      ...(set.unspecified || clear.includes('unspecified') ? (['unspecified'] as const) : []),
    ],
  }),
});

const clearable = ['meters', 'feel', 'click', 'chords', 'bass'] as const;

/** Lanes of the context all sections share unless they say otherwise. */
export const patchContext = spec({
  schema: z.object({
    type: z.literal('patchContext'),
    ...patchShape({ ...pieceContextSchema.shape }, [...clearable]),
  }),
  apply: (piece, edit) => checkLanes({ ...piece, context: patched(piece.context, edit) }),
  invert: (piece, edit) => ok({ type: 'patchContext', ...inversePatch(piece.context, edit) }),
  describe: (_, { set, clear }) => {
    const lines: string[] = [];
    if (set.tempo) lines.push(`set the tempo to ${set.tempo[0]?.bpm ?? '?'}`);
    if (set.key) lines.push(set.key[0] ? `set the key to ${keyName(set.key[0])}` : 'left the key open');
    for (const lane of clearable) {
      if (set[lane] !== undefined) lines.push(`set the ${lane} of the piece`);
      if (clear.includes(lane)) lines.push(`cleared the ${lane} of the piece`);
    }
    return lines.join(', ') || 'changed nothing';
  },
  touches: () => ({ part: null, riff: null, aspects: ['context'] }),
});

const { form } = pieceSchema.shape;

/** The order of playing, whole: it is short, and most changes move several places of it. */
export const setForm = spec({
  schema: z.object({ type: z.literal('setForm'), form }),
  apply: (piece, edit) => checkForm({ ...piece, form: edit.form }),
  invert: (piece: Piece) => ok({ type: 'setForm', form: piece.form }),
  describe: (_, edit) =>
    edit.form.length === 0 ? 'left the form open' : `changed the form: ${edit.form.length} sections in a row`,
  touches: () => ({ part: null, riff: null, aspects: ['form'] }),
});
