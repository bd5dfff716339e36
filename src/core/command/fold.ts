import { fail, freshIds, ok, type Result } from '../base';
import { applyEdit, type Edit, type SimpleEdit } from '../edit';
import { alikeIds, changeBetween, eventsOf, letterOf, playedBy, type FoldPlan } from '../form';
import {
  barCount,
  findRiff,
  type FormEntry,
  type Piece,
  type Riff,
  type RiffEvent,
  type Section,
  type Use,
  type Variant,
} from '../score';
import { cmp, meterAt, ZERO, type MeterChange, type Quarter } from '../time';
import { together } from './fields';
import { insertRiff } from './whole';

type Fresh = (prefix: string) => string;

const renewed = (event: RiffEvent, fresh: Fresh): RiffEvent => ({
  ...event,
  id: fresh('e'),
  notes: event.notes.map((note) => ({ ...note, id: fresh('n') })),
});

/** The meters of some bars of a riff. */
function metersIn(riff: Riff, bar: number, bars: number): MeterChange[] {
  const out: MeterChange[] = [];
  for (let i = 0; i < bars; i++) {
    const { beats, unit } = meterAt(riff.meters, bar + i);
    const last = out.at(-1);
    if (!last || last.beats !== beats || last.unit !== unit) out.push({ bar: i, beats, unit });
  }
  return out;
}

/**
 * Folds a long riff by a plan: its stretches become riffs and variants, and a section of the same name plays them in
 * order, sounding what the long riff did. The long riff stays where something uses it, else it goes. One step.
 */
export function foldRiff(
  piece: Piece,
  riffId: string,
  plan: FoldPlan,
): Result<{ readonly edit: Edit; readonly section: string }> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  const { part, riff } = found;
  const fresh = freshIds(piece.lastId);
  const made = new Map<number, { riff: Riff; variants: Variant[] }>();
  const uses: Use[] = [];
  const used = piece.sections.some((section) =>
    section.rows.some((row) => row.uses.some((use) => use.riff === riffId)),
  );
  const { wishes: _w, alternatives: _a, variants: _v, plays: _p, tempo: _t, feel: _f, pickup, ...frame } = riff;
  plan.blocks.forEach((block, index) => {
    const events = eventsOf(riff, block.bar, block.bars).map((event) => renewed(event, fresh));
    if (block.of === null) {
      const name = `${riff.name} ${letterOf(made.size)}`.slice(0, 120);
      const meters = metersIn(riff, block.bar, block.bars);
      made.set(index, {
        riff: {
          ...frame,
          id: fresh('r'),
          name,
          bars: block.bars,
          pickup: block.bar === 0 ? pickup : ZERO,
          meters,
          events,
        },
        variants: [],
      });
    }
    const source = made.get(block.of ?? index);
    if (!source) return;
    const draft: Use = { id: fresh('u'), riff: source.riff.id, plays: 1, ...(block.move ? { move: block.move } : {}) };
    const before = uses.at(-1);
    if (block.kind === 'exact' && before && before.riff === draft.riff && !before.move && !before.variant) {
      uses[uses.length - 1] = { ...before, plays: before.plays + 1 };
      return;
    }
    if (block.kind !== 'near') return void uses.push(draft);
    // What differs is told on the riff as it is moved, so it is moved back first: by writing the variant unmoved.
    const unmoved = block.move
      ? null
      : variantOf(
          source.riff,
          events,
          `${letterOf([...made.keys()].indexOf(block.of ?? index))} at bar ${block.bar + 1}`,
          fresh,
        );
    if (unmoved) {
      source.variants.push(unmoved);
      uses.push({ ...draft, variant: unmoved.id });
      return;
    }
    const name = `${riff.name} ${letterOf(made.size)}`.slice(0, 120);
    const own = {
      ...frame,
      id: fresh('r'),
      name,
      bars: block.bars,
      pickup: ZERO,
      meters: metersIn(riff, block.bar, block.bars),
      events,
    };
    made.set(index, { riff: own, variants: [] });
    uses.push({ id: fresh('u'), riff: own.id, plays: 1 });
  });
  const folded = plan.blocks.reduce((bars, block) => bars + block.bars, 0);
  const rest = barCount(riff) - folded;
  const riffs = [...made.values()].map(({ riff: one, variants }) => (variants.length > 0 ? { ...one, variants } : one));
  if (rest > 0) {
    const events = eventsOf(riff, folded, rest).map((event) => renewed(event, fresh));
    const name = `${riff.name} ${letterOf(made.size)}`.slice(0, 120);
    riffs.push({
      ...frame,
      id: fresh('r'),
      name,
      bars: rest,
      pickup: ZERO,
      meters: metersIn(riff, folded, rest),
      events,
    });
    uses.push({ id: fresh('u'), riff: riffs.at(-1)?.id ?? '', plays: 1 });
  }
  const section: Section = {
    ...{ id: fresh('s'), name: riff.name.slice(0, 80), kind: 'other', bars: barCount(riff) },
    rows: [{ part: part.id, uses }],
    ...(riff.tempo || riff.feel
      ? { context: { ...(riff.tempo ? { tempo: riff.tempo } : {}), ...(riff.feel ? { feel: riff.feel } : {}) } }
      : {}),
  };
  const form: FormEntry[] = [...piece.form, { id: fresh('f'), section: section.id, plays: riff.plays ?? 1 }];
  const edits: SimpleEdit[] = [
    ...riffs.map((one, i): SimpleEdit => ({
      type: 'addRiff',
      part: part.id,
      riff: one,
      at: part.riffs.indexOf(riff) + 1 + i,
    })),
    { type: 'addSection', section, at: piece.sections.length },
    ...(piece.form.length > 0 || (riff.plays ?? 1) > 1
      ? [
          {
            type: 'setForm',
            form:
              piece.form.length > 0
                ? form
                : [
                    ...piece.sections.map((one): FormEntry => ({ id: fresh('f'), section: one.id, plays: 1 })),
                    ...form.slice(-1),
                  ],
          } as const,
        ]
      : []),
    ...(used ? [] : [{ type: 'removeRiff', part: part.id, riff: riffId } as const]),
  ];
  return ok({ edit: together(`folded "${riff.name}" into riffs and repeats`, edits), section: section.id });
}

/** A variant that plays other events: those that are alike at a time take the ids they have in the riff. */
function variantOf(riff: Riff, events: readonly RiffEvent[], name: string, fresh: Fresh): Variant {
  return { id: fresh('x'), name, change: changeBetween(riff, alikeIds(riff, events)) };
}

/** What a use plays, written out as a riff of its own at its part: from then on it goes its own way. */
export function writeOut(piece: Piece, sectionId: string, partId: string, useId: string): Result<Edit> {
  const section = piece.sections.find((one) => one.id === sectionId);
  const row = section?.rows.find((one) => one.part === partId);
  const use = row?.uses.find((one) => one.id === useId);
  const found = use?.riff === undefined ? null : findRiff(piece, use.riff);
  if (!section || !row || !use || !found)
    return fail('no-use', 'That place is not there any more.', { path: ['sections', sectionId] });
  const { riff, part } = found;
  const { events } = playedBy(piece, part, riff, use, use.variant);
  const { variants: _, alternatives: __, wishes: ___, ...frame } = riff;
  const bars = use.bars?.count ?? barCount(riff);
  const written = insertRiff(
    piece,
    part.id,
    {
      ...frame,
      name: `${riff.name} in ${section.name}`.slice(0, 120),
      bars,
      meters: metersIn(riff, use.bars?.from ?? 0, bars),
      events,
      pickup: pickupOf(events),
    },
    part.riffs.indexOf(riff) + 1,
  );
  if (!written.ok) return written;
  const { variant: _variant, move: _move, bars: _bars, endings: _endings, ...kept } = use;
  const rows = section.rows.map((one) =>
    one === row
      ? { ...one, uses: one.uses.map((u) => (u === use ? { ...kept, riff: written.value.riff.id } : u)) }
      : one,
  );
  const form = piece.form.map(({ differences, joints, ...entry }): FormEntry => {
    const stay = differences?.filter((one) => one.use !== useId || !one.variant);
    const lead = joints?.filter((one) => one.use !== useId);
    return { ...entry, ...(stay?.length ? { differences: stay } : {}), ...(lead?.length ? { joints: lead } : {}) };
  });
  return ok(
    together(`wrote out "${riff.name}" in "${section.name}" as a riff of its own`, [
      written.value.edit,
      ...(piece.form.some((entry) => entry.differences || entry.joints) ? [{ type: 'setForm', form } as const] : []),
      { type: 'patchSection', section: sectionId, set: { rows }, clear: [] },
    ]),
  );
}

function pickupOf(events: readonly RiffEvent[]): Quarter {
  const first = events.find((event) => !event.grace);
  return first && cmp(first.at, ZERO) < 0 ? (first.at.slice(1) as Quarter) : ZERO;
}

/**
 * A first form from the riffs there are: riffs of one name in several parts sound together in a section of that name,
 * the others in sections of their own, in the order of the first part that has them.
 */
export function formFromRiffs(piece: Piece): Result<Edit> {
  const fresh = freshIds(piece.lastId);
  const sections: Section[] = [];
  const plays = new Map<string, number>();
  for (const part of piece.parts)
    for (const riff of part.riffs) {
      if (riff.events.length === 0) continue;
      const name = riff.name.slice(0, 80);
      const at = sections.findIndex(
        (one) => one.name.toLowerCase() === name.toLowerCase() && !one.rows.some((row) => row.part === part.id),
      );
      const uses: Use[] = [{ id: fresh('u'), riff: riff.id, plays: 1 }];
      const section = sections[at];
      if (section) {
        const longer = Math.max(section.bars, barCount(riff));
        sections[at] = { ...section, bars: longer, rows: [...section.rows, { part: part.id, uses }] };
      } else {
        const id = fresh('s');
        plays.set(id, riff.plays ?? 1);
        sections.push({ id, name, kind: 'other', bars: barCount(riff), rows: [{ part: part.id, uses }] });
      }
    }
  if (sections.length === 0) return fail('no-riffs', 'There is no riff yet to make a form of.', {});
  const filled = sections.map((section): Section => ({
    ...section,
    rows: section.rows.map((row) => filledRow(piece, section, row)),
  }));
  const form: FormEntry[] = filled.map((section) => ({
    id: fresh('f'),
    section: section.id,
    plays: plays.get(section.id) ?? 1,
  }));
  return ok(
    together('laid out the riffs as a form', [
      ...filled.map((section, i): SimpleEdit => ({ type: 'addSection', section, at: piece.sections.length + i })),
      { type: 'setForm', form: [...piece.form, ...form] },
    ]),
  );
}

/** A shorter riff comes round again until its section is full. */
function filledRow(piece: Piece, section: Section, row: Section['rows'][number]): Section['rows'][number] {
  const [use] = row.uses;
  const riff = use?.riff === undefined ? null : findRiff(piece, use.riff)?.riff;
  if (!use || !riff) return row;
  const rounds = Math.max(1, Math.floor(section.bars / barCount(riff)));
  return rounds > 1 ? { ...row, uses: [{ ...use, plays: rounds }] } : row;
}

/** The piece with a form: its own, or its riffs one after the other where nobody has laid it out yet. */
export function withSomeForm(piece: Piece): Piece {
  if (piece.sections.length > 0) return piece;
  const laid = formFromRiffs(piece);
  const made = laid.ok ? applyEdit(piece, laid.value) : laid;
  return made.ok ? made.value : piece;
}
