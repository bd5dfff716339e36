import { lineOf, secondVoice, type EasierBar, type Reduction, type VoiceInterval } from '../arrange';
import { fail, freshIds, ok, type Result } from '../base';
import { applyEdit, type Edit, type SimpleEdit } from '../edit';
import { applyVariant, changeBetween, resolve } from '../form';
import { optionsFor, placeRiff } from '../place';
import {
  findPart,
  makeRiff,
  tempoOf,
  type FormEntry,
  type Part,
  type Piece,
  type Riff,
  type RiffEvent,
  type Variant,
} from '../score';
import { cmp, sub, ZERO } from '../time';
import { together } from './fields';
import { insertPart } from './whole';

/** Parts made of parts: second voices, levels, and what fewer players play. */

/** A part that was made, and the step that makes it. */
export interface MadePart {
  readonly edit: Edit;
  readonly part: string;
  /** What is to be said about it, in words; null where all went as wished. */
  readonly remark: string | null;
}

const noPart = (part: string): Result<never> => fail('no-part', 'That part is not there any more.', { part });

/**
 * A part beside another that plays where it plays: its riffs made of the other's, one for one, in the same places of
 * the form.
 */
export function partBeside(
  piece: Piece,
  model: Part,
  made: Omit<Part, 'id'>,
  what: string,
): Result<{ readonly edit: Edit; readonly part: string }> {
  const added = insertPart(piece, { ...made, id: 'new' }, piece.parts.indexOf(model) + 1);
  const after = applyEdit(piece, added.edit);
  if (!after.ok) return after;
  const fresh = freshIds(after.value.lastId);
  const riffs = new Map(model.riffs.map((riff, i) => [riff.id, added.part.riffs[i]]));
  const variants = new Map(
    model.riffs.flatMap((riff) =>
      (riff.variants ?? []).flatMap((one, i) => {
        const there = riffs.get(riff.id)?.variants?.[i];
        return there ? [[one.id, there.id] as const] : [];
      }),
    ),
  );
  const places = new Map<string, string>();
  const sections = piece.sections.flatMap((section): SimpleEdit[] => {
    const row = section.rows.find((one) => one.part === model.id);
    if (!row) return [];
    const uses = row.uses.map(({ variant, endings, ...use }) => {
      const there = use.riff === undefined ? undefined : riffs.get(use.riff);
      const own = variant === undefined ? undefined : variants.get(variant);
      const kept = endings?.flatMap((one) => {
        const to = variants.get(one.variant);
        return to ? [{ ...one, variant: to }] : [];
      });
      const id = fresh('u');
      places.set(use.id, id);
      return {
        ...use,
        id,
        ...(there ? { riff: there.id } : {}),
        ...(own ? { variant: own } : {}),
        ...(kept?.length ? { endings: kept } : {}),
      };
    });
    const rows = [...section.rows, { ...row, part: added.part.id, uses }];
    return [{ type: 'patchSection', section: section.id, set: { rows }, clear: [] }];
  });
  // What holds for one place of the route holds for both.
  const mirrored = <One extends { readonly use: string; readonly variant?: string | undefined }>(
    list: readonly One[] | undefined,
  ): One[] =>
    (list ?? []).flatMap((one) => {
      const use = places.get(one.use);
      if (!use) return [one];
      const to = one.variant === undefined ? undefined : variants.get(one.variant);
      return one.variant !== undefined && to === undefined
        ? [one]
        : [one, { ...one, use, ...(to ? { variant: to } : {}) }];
    });
  const form = piece.form.map((entry): FormEntry => ({
    ...entry,
    ...(entry.differences ? { differences: mirrored(entry.differences) } : {}),
    ...(entry.joints ? { joints: mirrored(entry.joints) } : {}),
  }));
  const routed: SimpleEdit[] = piece.form.some((entry) => entry.differences ?? entry.joints)
    ? [{ type: 'setForm', form } as SimpleEdit]
    : [];
  return ok({
    edit: together(what, [added.edit as SimpleEdit, ...sections, ...routed]),
    part: added.part.id,
  });
}

/** A riff without what points at its events: those of another part are others. */
export const plainRiff = ({ variants: _, alternatives: __, wishes: ___, ...riff }: Riff): Riff => riff;

/**
 * A second voice to a whole part, in its set-up, placed by the hand: a part of its own beside it. Fails where a riff
 * can't be played so far away, and says which.
 */
export function voicePart(piece: Piece, partId: string, interval: VoiceInterval, name: string): Result<MadePart> {
  const model = findPart(piece, partId);
  if (!model) return noPart(partId);
  const riffs: Riff[] = [];
  // A riff thought in a key of its own has its second voice in that.
  const intervalIn = (riff: Riff): VoiceInterval =>
    interval.by === 'steps' && riff.key ? { ...interval, key: riff.key } : interval;
  let [lost, outside] = [0, 0];
  for (const riff of model.riffs) {
    const made = secondVoice(model.setup, riff.events, intervalIn(riff));
    if (!made.ok) return fail(made.error.rule, `"${riff.name}": ${made.error.words}`, { part: partId, riff: riff.id });
    lost += made.value.lostLocks;
    outside += made.value.outside;
    const placed = (events: readonly RiffEvent[]): readonly RiffEvent[] =>
      events.some((event) => event.notes.some((note) => !note.place))
        ? placeRiff({ ...plainRiff(riff), events }, model.setup, tempoOf(piece, riff), optionsFor(piece, model)).riff
            .events
        : events;
    const voiced: Riff = { ...plainRiff(riff), events: placed(made.value.events) };
    // Its variants are second voices of the model's variants.
    const variants: Variant[] = [];
    for (const one of riff.variants ?? []) {
      const varied = secondVoice(model.setup, applyVariant(riff, one).events, intervalIn(riff));
      if (!varied.ok)
        return fail(varied.error.rule, `"${riff.name}", ${one.name}: ${varied.error.words}`, { riff: riff.id });
      variants.push({ ...one, change: changeBetween(voiced, placed(varied.value.events)) });
    }
    riffs.push(variants.length > 0 ? { ...voiced, variants } : voiced);
  }
  const { editionOf: _, ...like } = model;
  const made = partBeside(piece, model, { ...like, name, riffs }, `made "${name}" of "${model.name}"`);
  if (!made.ok) return made;
  const remarks = [
    ...(outside > 0 ? [`${outside === 1 ? 'a note' : `${outside} notes`} outside the key went with their step`] : []),
    ...(lost > 0 ? [`${lost === 1 ? 'a locked place' : `${lost} locked places`} had to be found anew`] : []),
  ];
  return ok({ ...made.value, remark: remarks.length > 0 ? remarks.join('; ') : null });
}

/** Another level of a part beside it, at first the same note for note: an edition of its own; no edit leaks into it. */
export function levelPart(
  piece: Piece,
  partId: string,
  level: NonNullable<Part['level']>,
  name: string,
): Result<MadePart> {
  const model = findPart(piece, partId);
  if (!model) return noPart(partId);
  const made = partBeside(
    piece,
    model,
    { ...model, name, level, editionOf: model.editionOf ?? model.id },
    `made "${name}" of "${model.name}"`,
  );
  return made.ok ? ok({ ...made.value, remark: null }) : made;
}

/** Takes up what was proposed for one bar of an easier level. */
export const acceptEasier = (part: string, riff: string, bar: EasierBar): Edit => ({
  type: 'putEvents',
  ...{ part, riff, put: bar.put as never, remove: [...bar.remove] },
});

/** What fewer players play, each as a part of one riff through the whole form, placed around what they hold. */
export function reducedParts(piece: Piece, reduction: Reduction, nameOf: (part: Part) => string): Result<Edit> {
  let current = piece;
  const edits: SimpleEdit[] = [];
  for (const id of reduction.keep) {
    const line = resolve(piece, id);
    if (!line) return noPart(id);
    const { part, riff } = line;
    const events = lineOf(line, reduction);
    const first = events[0]?.at ?? ZERO;
    const whole = makeRiff('new', 'The whole', {
      ...{
        bars: riff.bars,
        pickup: cmp(first, ZERO) < 0 ? sub(ZERO, first) : ZERO,
        meters: [...riff.meters],
        events,
        tempo: [...(riff.tempo ?? tempoOf(piece, riff))],
      },
      ...(riff.feel ? { feel: [...riff.feel] } : {}),
    });
    const { editionOf: _, ...like } = part;
    const added = insertPart(current, { ...like, id: 'new', name: nameOf(part), level: 'live', riffs: [whole] });
    const after = applyEdit(current, added.edit);
    if (!after.ok) return after;
    current = after.value;
    edits.push(added.edit as SimpleEdit);
  }
  return ok(together(`wrote out what ${reduction.keep.length} players play`, edits));
}
