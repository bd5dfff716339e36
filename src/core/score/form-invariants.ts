import { fail, ok, type Result } from '../base';
import { cmp, ZERO, type Quarter } from '../time';
import type { Piece, Section, Use } from './schema';

/** What must hold between sections, form and the riffs they name: everything named is there, no id twice. */
export function checkForm(piece: Piece): Result<Piece> {
  if (piece.sections.length === 0 && piece.form.length === 0) return ok(piece);
  const ids = new Set<string>();
  const uses = new Map<string, { readonly use: Use; readonly section: string; readonly part: string }>();
  for (const section of piece.sections) {
    if (ids.has(section.id)) return fail('duplicate-id', `There is a section "${section.id}" already.`, at(section));
    ids.add(section.id);
    for (const row of section.rows)
      for (const use of row.uses) {
        if (uses.has(use.id)) return fail('duplicate-id', `There is a use "${use.id}" already.`, at(section));
        uses.set(use.id, { use, section: section.id, part: row.part });
      }
    const lanes = checkContext(section);
    if (!lanes.ok) return lanes;
    const checked = checkRows(piece, section);
    if (!checked.ok) return checked;
  }
  const entries = new Set<string>();
  for (const [index, entry] of piece.form.entries()) {
    const locus = { path: ['form', index] };
    if (entries.has(entry.id))
      return fail('duplicate-id', `There is a place "${entry.id}" in the form already.`, locus);
    entries.add(entry.id);
    if (!ids.has(entry.section)) return fail('no-section', `There is no section "${entry.section}".`, locus);
    for (const { use, variant } of [...(entry.differences ?? []), ...(entry.joints ?? [])]) {
      const found = uses.get(use);
      if (found?.section !== entry.section) return fail('no-use', `The section has no use "${use}".`, locus);
      if (variant !== undefined && !hasVariant(piece, found.part, found.use.riff, variant))
        return fail('no-variant', `That riff has no variant "${variant}".`, locus);
    }
  }
  return ok(piece);
}

/** Lanes of a section start at its beginning and go forward; chords and bass notes only go forward. */
function checkContext(section: Section): Result<Section> {
  const { context } = section;
  if (!context) return ok(section);
  for (const name of ['tempo', 'key', 'feel', 'chords', 'bass'] as const) {
    const steps: readonly { readonly at: Quarter }[] = context[name] ?? [];
    const starts = name === 'chords' || name === 'bass' || steps.length === 0 || steps[0]?.at === ZERO;
    if (!starts || steps.some((step, i) => i > 0 && cmp(step.at, steps[i - 1]?.at ?? ZERO) <= 0))
      return fail('lane-order', `The ${name} of "${section.name}" must start at 0 and go forward.`, at(section));
  }
  if (
    context.meters &&
    (context.meters[0]?.bar !== 0 ||
      context.meters.some((meter, i) => i > 0 && meter.bar <= (context.meters?.[i - 1]?.bar ?? 0)))
  )
    return fail(
      'meter-order',
      `The meters of "${section.name}" must start at its first bar and go forward.`,
      at(section),
    );
  return ok(section);
}

const at = (section: Section) => ({ path: ['sections', section.id] });

const riffIn = (piece: Piece, part: string, riff: string) =>
  piece.parts.find((one) => one.id === part)?.riffs.find((one) => one.id === riff);

const hasVariant = (piece: Piece, part: string, riff: string | undefined, variant: string): boolean =>
  riff !== undefined && riffIn(piece, part, riff)?.variants?.some((one) => one.id === variant) === true;

function checkRows(piece: Piece, section: Section): Result<Piece> {
  const parts = new Set<string>();
  for (const row of section.rows) {
    if (!piece.parts.some((part) => part.id === row.part))
      return fail('no-part', `The section "${section.name}" has a row of a part that is not there.`, at(section));
    if (parts.has(row.part))
      return fail('row-twice', `The section "${section.name}" has two rows of one part.`, at(section));
    parts.add(row.part);
    for (const use of row.uses) {
      if ((use.riff === undefined) === (use.spot === undefined))
        return fail(
          'use-of-what',
          `A place in "${section.name}" names a riff or says what is there instead, one of them.`,
          at(section),
        );
      if (use.riff === undefined) {
        if (use.variant ?? use.endings ?? use.move ?? use.bars)
          return fail(
            'use-of-what',
            `Only a riff is varied or moved; "${section.name}" has a rest that is.`,
            at(section),
          );
        continue;
      }
      if (!riffIn(piece, row.part, use.riff))
        return fail('riff-in-use', `A riff is used in the section "${section.name}": take it out of there first.`, {
          ...at(section),
          part: row.part,
          riff: use.riff,
        });
      for (const variant of [use.variant, ...(use.endings ?? []).map((ending) => ending.variant)])
        if (variant !== undefined && !hasVariant(piece, row.part, use.riff, variant))
          return fail('no-variant', `A variant is used in the section "${section.name}" that is not there.`, {
            ...at(section),
            part: row.part,
            riff: use.riff,
          });
    }
  }
  return ok(piece);
}
