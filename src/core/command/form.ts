import { fail, freshIds, ok, type Result } from '../base';
import { patchOf, type Edit, type SimpleEdit } from '../edit';
import {
  layRow,
  mapChords,
  metersOf,
  parseChordLine,
  sameLabel,
  type BarMap,
  type ChordLane,
  type RouteItem,
  type UseDraft,
} from '../form';
import type { Key } from '../pitch';
import { barCount, findPart, type FormEntry, type Piece, type Row, type Section, type Use } from '../score';
import { barOf, ZERO, type Quarter } from '../time';
import { together } from './fields';

/** Sections, what is played in them, and the order they are played in. */

type Kind = Section['kind'];

const KINDS: readonly (readonly [RegExp, Kind])[] = [
  [/intro|opening|prelude/i, 'intro'],
  [/verse|strophe/i, 'verse'],
  [/refrain|chorus/i, 'refrain'],
  [/bridge|middle/i, 'bridge'],
  [/solo/i, 'solo'],
  [/interlude|link|break/i, 'interlude'],
  [/end|coda|outro|finish/i, 'ending'],
];

/** What kind of section a name speaks of. */
export const kindOfName = (name: string): Kind => KINDS.find(([words]) => words.test(name))?.[1] ?? 'other';

const noSection = (id: string): Result<never> =>
  fail('no-section', 'That section is not there any more.', { path: ['sections', id] });
const sectionOf = (piece: Piece, id: string): Section | undefined => piece.sections.find((one) => one.id === id);

/** A name no section has yet: "Verse", else "Verse 2". */
export function freeLabel(sections: readonly Pick<Section, 'id' | 'name'>[], wanted: string): string {
  if (!sameLabel(sections, wanted, null)) return wanted;
  for (let n = 2; ; n++) if (!sameLabel(sections, `${wanted} ${n}`, null)) return `${wanted} ${n}`;
}

export interface NewSection {
  readonly name: string;
  readonly bars: number;
  readonly context?: Section['context'];
  readonly rows?: readonly Row[];
}

/** A new section behind the others, and at the end of the route where there is one. */
export function insertSection(
  piece: Piece,
  wanted: NewSection,
  at = piece.sections.length,
): { readonly edit: Edit; readonly id: string } {
  const fresh = freshIds(piece.lastId);
  const name = wanted.name.trim() || 'Section';
  const section: Section = {
    ...{ id: fresh('s'), name, kind: kindOfName(name), bars: wanted.bars, rows: [...(wanted.rows ?? [])] },
    ...(wanted.context ? { context: wanted.context } : {}),
  };
  const edits: SimpleEdit[] = [{ type: 'addSection', section, at }];
  if (piece.form.length > 0)
    edits.push({ type: 'setForm', form: [...piece.form, { id: fresh('f'), section: section.id, plays: 1 }] });
  return { edit: together(`added the section "${name}"`, edits), id: section.id };
}

/** A section once more, behind itself, with all that is said of it and played in it. */
export function duplicateSection(piece: Piece, id: string): Result<{ readonly edit: Edit; readonly id: string }> {
  const section = sectionOf(piece, id);
  if (!section) return noSection(id);
  const fresh = freshIds(piece.lastId);
  const rows = section.rows.map((row) => ({ ...row, uses: row.uses.map((use) => ({ ...use, id: fresh('u') })) }));
  const copy = { ...section, id: fresh('s'), name: freeLabel(piece.sections, section.name).slice(0, 80), rows };
  return ok({
    edit: { type: 'addSection', section: copy, at: piece.sections.indexOf(section) + 1 },
    id: copy.id,
  });
}

/** A section laid from a map of bars, its chords in the key given. */
export function insertMap(
  piece: Piece,
  map: BarMap,
  name: string,
  key: Key | null,
): Result<{ readonly edit: Edit; readonly id: string }> {
  const meters = piece.context.meters ?? [{ bar: 0, beats: 4, unit: 4 }];
  const chords = parseChordLine(mapChords(map, key), meters, map.bars.length);
  if (!chords.ok) return chords;
  return ok(
    insertSection(piece, {
      name: freeLabel(piece.sections, name),
      bars: map.bars.length,
      context: { chords: chords.value },
    }),
  );
}

/** Deletes a section, and its places in the route with it. */
export function deleteSection(piece: Piece, id: string): Result<Edit> {
  const section = sectionOf(piece, id);
  if (!section) return noSection(id);
  const form = piece.form.filter((entry) => entry.section !== id);
  return ok(
    together(`deleted the section "${section.name}"`, [
      ...(form.length === piece.form.length ? [] : [{ type: 'setForm', form } as const]),
      { type: 'removeSection', section: id },
    ]),
  );
}

/** Moves a section to another place among the sections; the route stays as it is. */
export function moveSection(piece: Piece, id: string, to: number): Result<Edit> {
  const section = sectionOf(piece, id);
  if (!section) return noSection(id);
  const at = piece.sections.indexOf(section);
  const place = Math.max(0, Math.min(piece.sections.length - 1, to));
  if (place === at) return fail('no-change', 'It stands there already.', {});
  // The route names sections, so it is left empty while one is taken out and put back.
  return ok(
    together(`moved the section "${section.name}"`, [
      ...(piece.form.length > 0 ? [{ type: 'setForm', form: [] } as const] : []),
      { type: 'removeSection', section: id },
      { type: 'addSection', section, at: place },
      ...(piece.form.length > 0 ? [{ type: 'setForm', form: piece.form } as const] : []),
    ]),
  );
}

type SectionFields = Omit<Section, 'id' | 'rows'>;

/** Changes fields of a section; null takes an optional one out. */
export function patchSectionBy(
  piece: Piece,
  id: string,
  change: { readonly [Key in keyof SectionFields]?: SectionFields[Key] | null | undefined },
): Result<Edit> {
  const section = sectionOf(piece, id);
  if (!section) return noSection(id);
  const patch = patchOf<SectionFields>(section, change);
  if (!patch) return fail('no-change', 'Nothing would change.', {});
  return ok({ type: 'patchSection', section: id, set: patch.set, clear: patch.clear as ('context' | 'cue')[] });
}

/** Changes lanes of what a section stands in; null leaves a lane to the piece. */
export function setContext(
  piece: Piece,
  id: string,
  lanes: { readonly [Lane in keyof NonNullable<Section['context']>]?: NonNullable<Section['context']>[Lane] | null },
): Result<Edit> {
  const section = sectionOf(piece, id);
  if (!section) return noSection(id);
  const next: Record<string, unknown> = { ...section.context };
  for (const [lane, value] of Object.entries(lanes)) {
    if (value === null || value === undefined || (Array.isArray(value) && value.length === 0))
      Reflect.deleteProperty(next, lane);
    else next[lane] = value;
  }
  return patchSectionBy(piece, id, { context: Object.keys(next).length > 0 ? (next as Section['context']) : null });
}

/** Chords typed over the bars of a section; an empty line takes them out. */
export function setChordLine(piece: Piece, id: string, line: string): Result<Edit> {
  const section = sectionOf(piece, id);
  if (!section) return noSection(id);
  if (line.trim() === '') return setContext(piece, id, { chords: null });
  const read = parseChordLine(line, metersOf(piece, section), section.bars);
  return read.ok ? setContext(piece, id, { chords: read.value as ChordLane }) : read;
}

/** The route without what it says of uses that are not there any more. */
function routeWithout(form: readonly FormEntry[], gone: ReadonlySet<string>): FormEntry[] {
  return form.map(({ differences, joints, ...entry }) => {
    const stay = differences?.filter((one) => !gone.has(one.use));
    const lead = joints?.filter((one) => !gone.has(one.use));
    return { ...entry, ...(stay?.length ? { differences: stay } : {}), ...(lead?.length ? { joints: lead } : {}) };
  });
}

/** All a part plays in a section. A use that stays what it was keeps its id, and what the route says of it. */
export function setRow(piece: Piece, sectionId: string, partId: string, drafts: readonly UseDraft[]): Result<Edit> {
  const section = sectionOf(piece, sectionId);
  const part = findPart(piece, partId);
  if (!section) return noSection(sectionId);
  if (!part) return fail('no-part', 'That part is not there any more.', { part: partId });
  const fresh = freshIds(piece.lastId);
  const row = section.rows.find((one) => one.part === partId);
  const free = [...(row?.uses ?? [])];
  const uses = drafts.map((draft, i): Use => {
    const same = free.findIndex(
      (one) => one.riff === draft.riff && (one.riff !== undefined || one.spot?.kind === draft.spot?.kind),
    );
    const here = row?.uses[i];
    const kept = here && free.includes(here) && here.riff === draft.riff ? free.indexOf(here) : same;
    const [old] = kept < 0 ? [] : free.splice(kept, 1);
    return { ...draft, id: old?.id ?? fresh('u') };
  });
  const gone = new Set(free.map((one) => one.id));
  const next: Row = { ...(row ?? { part: partId }), uses };
  const rows = row
    ? uses.length === 0 && row.level === undefined && row.tone === undefined
      ? section.rows.filter((one) => one !== row)
      : section.rows.map((one) => (one === row ? next : one))
    : inPartOrder(piece, [...section.rows, next]);
  const edits: SimpleEdit[] = [];
  if (
    gone.size > 0 &&
    piece.form.some((entry) => [...(entry.differences ?? []), ...(entry.joints ?? [])].some((one) => gone.has(one.use)))
  )
    edits.push({ type: 'setForm', form: routeWithout(piece.form, gone) });
  edits.push({ type: 'patchSection', section: sectionId, set: { rows }, clear: [] });
  return ok(together(`changed what ${part.name} plays in "${section.name}"`, edits));
}

/** The bar a time of a section lies in, by its number from 0. */
const barAt = (meters: ReturnType<typeof metersOf>, at: Quarter): number => barOf(meters, at).bar;

const inPartOrder = (piece: Piece, rows: readonly Row[]): Row[] => {
  const order = new Map(piece.parts.map((part, i) => [part.id, i]));
  return [...rows].sort((a, b) => (order.get(a.part) ?? 0) - (order.get(b.part) ?? 0));
};

/** How loud a part is in a section beside the others, and its tone there; null leaves it to the part. */
export function setRowSound(
  piece: Piece,
  sectionId: string,
  partId: string,
  sound: { readonly level?: number | null; readonly tone?: string | null },
): Result<Edit> {
  const section = sectionOf(piece, sectionId);
  if (!section) return noSection(sectionId);
  const row: Row = section.rows.find((one) => one.part === partId) ?? { part: partId, uses: [] };
  const { level, tone, ...rest } = row;
  const nextLevel = sound.level === undefined ? level : sound.level;
  const nextTone = sound.tone === undefined ? tone : sound.tone?.trim() || null;
  const next: Row = {
    ...rest,
    ...(nextLevel === null || nextLevel === undefined ? {} : { level: nextLevel }),
    ...(nextTone ? { tone: nextTone } : {}),
  };
  const rows = section.rows.includes(row)
    ? section.rows.map((one) => (one === row ? next : one))
    : inPartOrder(piece, [...section.rows, next]);
  return ok({ type: 'patchSection', section: sectionId, set: { rows }, clear: [] });
}

/** Puts a riff where a bar of a section is: behind what is there before it, what is missing between being a rest. */
export function dropRiff(piece: Piece, sectionId: string, partId: string, draft: UseDraft, bar: number): Result<Edit> {
  const section = sectionOf(piece, sectionId);
  const part = findPart(piece, partId);
  if (!section) return noSection(sectionId);
  if (!part) return fail('no-part', 'That part is not there any more.', { part: partId });
  const row = section.rows.find((one) => one.part === partId) ?? { part: partId, uses: [] };
  const meters = metersOf(piece, section);
  const laid = layRow(piece, section, row);
  const kept: UseDraft[] = [];
  let bars = 0;
  for (const use of row.uses) {
    const plays = laid.filter((one) => one.use === use);
    const before = plays.filter((one) => barAt(meters, one.from) < bar);
    if (before.length === 0) break;
    const { id: _, ...rest } = use;
    kept.push({ ...rest, plays: before.length });
    bars = barAt(meters, before.at(-1)?.to ?? ZERO);
  }
  if (bars > bar)
    return fail(
      'taken',
      `Something reaches into bar ${bar + 1} there: shorten it first, or drop on the bar where it begins.`,
      {},
    );
  if (bars < bar) kept.push({ spot: { kind: 'rest', bars: bar - bars }, plays: 1 });
  const riff = part.riffs.find((one) => one.id === draft.riff);
  const ends = bar + (riff ? barCount(riff) : 1) * draft.plays;
  const after = afterBar(row.uses, laid, meters, bar, ends);
  return setRow(piece, sectionId, partId, [...kept, draft, ...after]);
}

/** What stays behind a riff that was dropped: uses that begin at its end or later, a rest where they begin later. */
function afterBar(
  uses: readonly Use[],
  laid: ReturnType<typeof layRow>,
  meters: ReturnType<typeof metersOf>,
  from: number,
  ends: number,
): UseDraft[] {
  const out: UseDraft[] = [];
  let at = ends;
  for (const use of uses) {
    const plays = laid.filter((one) => one.use === use && barAt(meters, one.from) >= ends);
    const first = plays[0];
    if (!first || barAt(meters, first.from) < from) continue;
    const begins = barAt(meters, first.from);
    if (begins > at) out.push({ spot: { kind: 'rest', bars: begins - at }, plays: 1 });
    const { id: _, ...rest } = use;
    out.push({ ...rest, plays: plays.length });
    at = barAt(meters, plays.at(-1)?.to ?? first.to);
  }
  while (out.at(-1)?.spot?.kind === 'rest') out.pop();
  return out;
}

/** The route as it was typed: names of no section become sections of eight bars. Places keep what is said of them. */
export function setRoute(piece: Piece, items: readonly RouteItem[], bars = 8): Result<Edit> {
  const fresh = freshIds(piece.lastId);
  const made: Section[] = [];
  const free = [...piece.form];
  const form = items.map((item, i): FormEntry => {
    let section = item.section;
    if (section === null) {
      const known = made.find((one) => one.name.toLowerCase() === item.name.toLowerCase());
      const added = known ?? {
        id: fresh('s'),
        name: item.name.slice(0, 80),
        kind: kindOfName(item.name),
        bars,
        rows: [],
      };
      if (!known) made.push(added);
      section = added.id;
    }
    const here = piece.form[i];
    const at =
      here && here.section === section && free.includes(here)
        ? free.indexOf(here)
        : free.findIndex((one) => one.section === section);
    const [old] = at < 0 ? [] : free.splice(at, 1);
    const { stop: _, ...rest } = old ?? { id: fresh('f'), section, plays: 1 };
    return { ...rest, section, plays: item.plays, ...(item.stop ? { stop: item.stop } : {}) };
  });
  return ok(
    together(items.length === 0 ? 'left the order of playing open' : 'changed the order of playing', [
      ...made.map((section, i): SimpleEdit => ({ type: 'addSection', section, at: piece.sections.length + i })),
      { type: 'setForm', form },
    ]),
  );
}

/** Changes one place of the route. */
export function patchEntry(piece: Piece, id: string, change: (entry: FormEntry) => FormEntry): Result<Edit> {
  const entry = piece.form.find((one) => one.id === id);
  if (!entry) return fail('no-entry', 'That place is not in the order of playing any more.', { path: ['form', id] });
  return ok({ type: 'setForm', form: piece.form.map((one) => (one === entry ? change(one) : one)) });
}

/** The route said outright: where none was said, the sections as they stand. */
export const spelledRoute = (piece: Piece): readonly FormEntry[] => {
  if (piece.form.length > 0) return piece.form;
  const fresh = freshIds(piece.lastId);
  return piece.sections.map((section) => ({ id: fresh('f'), section: section.id, plays: 1 }));
};

/** What is different on some passes of a place: another variant of a use, or silence; null takes it back. */
export function setDifference(
  piece: Piece,
  entryId: string,
  use: string,
  passes: readonly (number | 'last' | 'odd' | 'even')[],
  instead: { readonly variant: string } | 'silent' | null,
): Result<Edit> {
  return patchEntry(piece, entryId, ({ differences = [], ...entry }) => {
    const same = (one: { readonly use: string; readonly passes: readonly unknown[] }): boolean =>
      one.use === use && String(one.passes) === String(passes);
    const rest = differences.filter((one) => !same(one));
    const next =
      instead === null
        ? rest
        : [
            ...rest,
            {
              passes: [...passes],
              use,
              ...(instead === 'silent' ? { leaveOut: true as const } : { variant: instead.variant }),
            },
          ];
    return { ...entry, ...(next.length > 0 ? { differences: next } : {}) };
  });
}

/** The variant that leads from the last note back into the first; null takes it back. */
export function setJoint(piece: Piece, entryId: string, use: string, variant: string | null): Result<Edit> {
  return patchEntry(piece, entryId, ({ joints = [], ...entry }) => {
    const rest = joints.filter((one) => one.use !== use);
    const next = variant === null ? rest : [...rest, { use, variant }];
    return { ...entry, ...(next.length > 0 ? { joints: next } : {}) };
  });
}

/** Changes one use of a riff in a section; what nothing is said of stays. */
export function patchUse(
  piece: Piece,
  sectionId: string,
  partId: string,
  useId: string,
  change: Partial<Pick<Use, 'plays' | 'remark'>>,
): Result<Edit> {
  const section = sectionOf(piece, sectionId);
  if (!section) return noSection(sectionId);
  const rows = section.rows.map((row) =>
    row.part === partId
      ? { ...row, uses: row.uses.map((use) => (use.id === useId ? { ...use, ...change } : use)) }
      : row,
  );
  return ok({ type: 'patchSection', section: sectionId, set: { rows }, clear: [] } as Edit);
}
