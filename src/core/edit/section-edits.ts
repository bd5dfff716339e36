import { z } from 'zod';
import { fail, ok, type Result } from '../base';
import { checkForm, sectionSchema, type Piece, type Section } from '../score';
import { inserted } from './locate';
import { inversePatch, patched, patchShape } from './patch';
import { spec } from './spec';

const form = { part: null, riff: null, aspects: ['form'] } as const;

function sectionOf(piece: Piece, id: string): Result<Section> {
  const section = piece.sections.find((one) => one.id === id);
  return section ? ok(section) : fail('no-section', `There is no section "${id}".`, { path: ['sections', id] });
}
const nameOf = (piece: Piece, id: string): string => piece.sections.find((one) => one.id === id)?.name ?? id;

export const addSection = spec({
  schema: z.object({ type: z.literal('addSection'), section: sectionSchema, at: z.number().int().min(0) }),
  apply: (piece, edit) => checkForm({ ...piece, sections: inserted(piece.sections, edit.at, edit.section) }),
  invert: (_, edit) => ok({ type: 'removeSection', section: edit.section.id }),
  describe: (_, edit) => `added the section "${edit.section.name}"`,
  touches: () => form,
});

/** Refused while the form plays it. */
export const removeSection = spec({
  schema: z.object({ type: z.literal('removeSection'), section: z.string() }),
  apply: (piece, edit) => {
    const found = sectionOf(piece, edit.section);
    if (!found.ok) return found;
    return checkForm({ ...piece, sections: piece.sections.filter((one) => one !== found.value) });
  },
  invert: (piece, edit) => {
    const found = sectionOf(piece, edit.section);
    return found.ok ? ok({ type: 'addSection', section: found.value, at: piece.sections.indexOf(found.value) }) : found;
  },
  describe: (piece, edit) => `deleted the section "${nameOf(piece, edit.section)}"`,
  touches: () => form,
});

const { name, kind, bars, context, cue, rows } = sectionSchema.shape;

export const patchSection = spec({
  schema: z.object({
    type: z.literal('patchSection'),
    section: z.string(),
    ...patchShape({ name, kind, bars, context: context.unwrap(), cue: cue.unwrap(), rows }, ['context', 'cue']),
  }),
  apply: (piece, edit) => {
    const found = sectionOf(piece, edit.section);
    if (!found.ok) return found;
    const next = patched(found.value, edit);
    return checkForm({ ...piece, sections: piece.sections.map((one) => (one === found.value ? next : one)) });
  },
  invert: (piece, edit) => {
    const found = sectionOf(piece, edit.section);
    return found.ok ? ok({ type: 'patchSection', section: edit.section, ...inversePatch(found.value, edit) }) : found;
  },
  describe: (piece, { section, set, clear }) =>
    set.name === undefined
      ? `changed ${[...Object.keys(set), ...clear].join(', ')} of the section "${nameOf(piece, section)}"`
      : `named the section "${set.name}"`,
  touches: () => form,
});
