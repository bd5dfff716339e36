import { z } from 'zod';
import { fail, ok } from '../base';
import { capoWords, setupSchema, spellTuning } from '../instrument';
import { checkForm, checkIds, checkPart, partFrom4, partSchema, riffFrom4, riffSchema, type Json } from '../score';
import { inserted, onPart, partName, partOf } from './locate';
import { inversePatch, patched, patchShape } from './patch';
import { spec } from './spec';

const whole = { part: null, riff: null, aspects: ['parts'] } as const;

export const addPart = spec({
  schema: z.object({ type: z.literal('addPart'), part: partSchema, at: z.number().int().min(0) }),
  apply: (piece, edit) => {
    const checked = checkPart(edit.part);
    return checked.ok ? checkIds({ ...piece, parts: inserted(piece.parts, edit.at, edit.part) }) : checked;
  },
  invert: (_, edit) => ok({ type: 'removePart', part: edit.part.id }),
  describe: (_, edit) => `added the part "${edit.part.name}"`,
  touches: () => whole,
  migrate: { 5: (old) => ({ ...old, part: partFrom4(old.part as Json) }) },
});

/** Refused while a section has a row of it. */
export const removePart = spec({
  schema: z.object({ type: z.literal('removePart'), part: z.string() }),
  apply: (piece, edit) => {
    const found = partOf(piece, edit.part);
    return found.ok ? checkForm({ ...piece, parts: piece.parts.filter((part) => part.id !== edit.part) }) : found;
  },
  invert: (piece, edit) => {
    const found = partOf(piece, edit.part);
    return found.ok ? ok({ type: 'addPart', part: found.value, at: piece.parts.indexOf(found.value) }) : found;
  },
  describe: (piece, edit) => `deleted the part "${partName(piece, edit.part)}"`,
  touches: () => whole,
});

const { name, role, player, level, tone, tones, editionOf, carried, unspecified } = partSchema.shape;

/** Name, role, hand, level, tone of a part, and what was taken for granted of it. */
export const patchPart = spec({
  schema: z.object({
    type: z.literal('patchPart'),
    part: z.string(),
    ...patchShape(
      {
        name,
        role,
        player: player.unwrap(),
        level: level.unwrap(),
        tone: tone.unwrap(),
        tones: tones.unwrap(),
        editionOf: editionOf.unwrap(),
        carried: carried.unwrap(),
        unspecified: unspecified.unwrap(),
      },
      ['player', 'level', 'tone', 'tones', 'editionOf', 'carried', 'unspecified'],
    ),
  }),
  apply: (piece, edit) => onPart(piece, edit.part, (part) => ok(patched(part, edit))),
  invert: (piece, edit) => {
    const found = partOf(piece, edit.part);
    return found.ok ? ok({ type: 'patchPart', part: edit.part, ...inversePatch(found.value, edit) }) : found;
  },
  describe: (piece, { part, set, clear }) => {
    const now = partName(piece, part);
    const lines: string[] = [];
    if (set.name !== undefined) lines.push(`named the part "${set.name}"`);
    if (set.role !== undefined && set.name === undefined) lines.push(`changed the role of ${now}`);
    if (set.player) lines.push(`placed ${now} for ${set.player.name}`);
    if (clear.includes('player')) lines.push(`placed ${now} for an adult hand`);
    if (set.level !== undefined || clear.includes('level')) lines.push(`changed the level of ${now}`);
    if (set.tones !== undefined || clear.includes('tones')) lines.push(`changed the settings of ${now}`);
    if (set.editionOf !== undefined || clear.includes('editionOf')) lines.push(`said what ${now} is an edition of`);
    if (set.carried !== undefined || clear.includes('carried')) lines.push(`said what ${now} was carried over from`);
    if (set.tone !== undefined || clear.includes('tone')) lines.push(`changed the tone of ${now}`);
    if (set.unspecified) lines.push('marked something as unspecified');
    if (clear.includes('unspecified')) lines.push('said what had been taken for granted');
    return lines.join(', ') || 'changed nothing';
  },
  touches: ({ part, set, clear }) => ({
    part,
    riff: null,
    aspects: set.player || clear.includes('player') ? ['parts', 'player'] : ['parts'],
  }),
});

/** A new set-up, with the riffs as they are on it: places that fit no longer must be settled in the same step. */
export const setSetup = spec({
  schema: z.object({
    type: z.literal('setSetup'),
    part: z.string(),
    setup: setupSchema,
    riffs: z.array(riffSchema),
  }),
  apply: (piece, edit) => {
    const found = partOf(piece, edit.part);
    if (!found.ok) return found;
    if (found.value.riffs.some((riff, i) => riff.id !== edit.riffs[i]?.id))
      return fail('other-riffs', 'A new set-up keeps the riffs a part has.', { part: edit.part });
    return onPart(piece, edit.part, (part) => checkPart({ ...part, setup: edit.setup, riffs: edit.riffs }));
  },
  invert: (piece, edit) => {
    const found = partOf(piece, edit.part);
    if (!found.ok) return found;
    const { setup, riffs } = found.value;
    return ok({ type: 'setSetup', part: edit.part, setup, riffs });
  },
  describe: (piece, { part, setup }) =>
    `set up ${partName(piece, part)} as ${spellTuning(setup.open, setup.absent, setup.signs)}${setup.capos.length > 0 ? `, capo ${capoWords(setup)}` : ''}`,
  touches: ({ part }) => ({ part, riff: null, aspects: ['setup', 'events', 'places'] }),
  migrate: {
    5: (old) => ({
      ...old,
      setup: (partFrom4({ setup: old.setup }) as Json).setup,
      riffs: (old.riffs as Json[]).map(riffFrom4),
    }),
  },
});
