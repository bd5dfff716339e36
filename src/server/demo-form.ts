import type { DemoPiece, DemoRiff } from '../../demo/pieces';
import { insertSection, setChordLine, setContext, setRoute, setRow, setRowSound } from '@/core/command';
import { fail, freshIds, ok, type Result } from '@/core/base';
import { applyEdit, type Edit } from '@/core/edit';
import { alikeIds, changeBetween, parseRoute, parseRow } from '@/core/form';
import type { Setup } from '@/core/instrument';
import { placeRiff } from '@/core/place';
import { type Piece, type Riff, type Variant } from '@/core/score';
import { calledToEvents, FIRST_LENGTH, readCalls } from '@/core/shorthand';
import { barStart, cmp, ZERO, type TempoStep } from '@/core/time';

/** The demo's forms, made the way a user makes them: sections named, rows and chords typed, an order typed. */

/** A riff with the variants its calls tell: from a bar on it is played otherwise. */
export function withVariants(
  riff: Riff,
  told: NonNullable<DemoRiff['variants']>,
  setup: Setup,
  tempo: readonly TempoStep[],
): Result<Riff> {
  const variants: Variant[] = [];
  const fresh = freshIds(900_000);
  for (const { name, from, calls } of told) {
    const at = barStart(riff.meters, from - 1);
    const called = readCalls(calls, { setup, meters: riff.meters, at, length: FIRST_LENGTH, string: null });
    const wrong = called.faults[0] ?? called.warnings[0];
    if (wrong) return fail('demo-calls', `${name}: ${wrong.words}`);
    const before = riff.events.filter((event) => cmp(event.at, at) < 0);
    const own = calledToEvents(called, new Set()).map((event) => ({
      ...event,
      id: fresh('e'),
      notes: event.notes.map((note) => ({ ...note, id: fresh('n') })),
    }));
    const written = { ...riff, events: [...before, ...alikeIds(riff, own)] };
    const placed = placeRiff(written, setup, tempo);
    if (placed.blocked[0]) return fail('demo-blocked', placed.blocked[0].words);
    variants.push({ id: fresh('x'), name, change: changeBetween(riff, placed.riff.events) });
  }
  return ok(variants.length > 0 ? { ...riff, variants } : riff);
}

/** A piece with its sections and its order. */
export function withForm(start: Piece, form: NonNullable<DemoPiece['form']>): Result<Piece> {
  let piece = start;
  const make = (edit: Result<Edit>): Result<Piece> => {
    const made = edit.ok ? applyEdit(piece, edit.value) : edit;
    if (made.ok) piece = made.value;
    return made;
  };
  for (const told of form.sections) {
    const added = insertSection(piece, { name: told.name, bars: told.bars });
    const steps: (() => Result<Edit>)[] = [() => ok(added.edit)];
    if (told.key ?? told.tempo ?? told.swing)
      steps.push(() =>
        setContext(piece, added.id, {
          ...(told.key ? { key: [{ at: ZERO, ...told.key }] } : {}),
          ...(told.tempo ? { tempo: [{ at: ZERO, bpm: told.tempo }] } : {}),
          ...(told.swing ? { feel: [{ at: ZERO, swing: told.swing, unit: '1/2' as const }] } : {}),
        }),
      );
    for (const [name, line] of Object.entries(told.rows))
      steps.push(() => {
        const part = piece.parts.find((one) => one.name === name);
        if (!part) return fail('no-part', `There is no part ${name}.`);
        const row = parseRow(line, part);
        return row.ok ? setRow(piece, added.id, part.id, row.value) : row;
      });
    for (const [name, level] of Object.entries(told.levels ?? {}))
      steps.push(() => setRowSound(piece, added.id, piece.parts.find((one) => one.name === name)?.id ?? '', { level }));
    const { chords, cue } = told;
    // The meter is the leading riff's, so the chords are laid when it is there.
    if (chords) steps.push(() => setChordLine(piece, added.id, chords));
    if (cue) steps.push(() => ok({ type: 'patchSection', section: added.id, set: { cue }, clear: [] }));
    for (const step of steps) {
      const made = make(step());
      if (!made.ok) return fail(made.error.rule, `${start.title}, ${told.name}: ${made.error.words}`);
    }
  }
  const route = parseRoute(form.order, piece.sections);
  if (!route.ok) return route;
  const lost = route.value.find((one) => one.section === null);
  if (lost) return fail('no-section', `${start.title}: there is no section ${lost.name}.`);
  return make(setRoute(piece, route.value));
}
