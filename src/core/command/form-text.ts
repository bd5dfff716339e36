import { fail, ok, type Locus, type Result } from '../base';
import { applyEdit, type Edit } from '../edit';
import { FIELDS, labelled, metersOf, parseBassLine, parseRoute, parseRow, type Field } from '../form';
import { readKey } from '../harmony';
import type { Piece, Section } from '../score';
import { parseMeter, ZERO } from '../time';
import { together } from './fields';
import { insertSection, patchSectionBy, setChordLine, setContext, setRoute, setRow } from './form';

interface Later {
  readonly locus: Locus;
  readonly run: () => Result<unknown>;
}

/**
 * Reads a form's text into a piece: sections that are there are changed, others are added, those not named stay. The
 * fault tells which characters and why, and then nothing is changed.
 */
export function readForm(start: Piece, text: string): Result<Edit> {
  const edits: Edit[] = [];
  let piece = start;
  let section: string | null = null;
  const make = (edit: Result<Edit>): Result<unknown> => {
    if (!edit.ok) return edit.error.rule === 'no-change' ? ok(null) : edit;
    const after = applyEdit(piece, edit.value);
    if (!after.ok) return after;
    edits.push(edit.value);
    piece = after.value;
    return ok(null);
  };
  // What each section says is made after its rows: its meter may be its leading riff's.
  const later: Later[] = [];
  const orders: Later[] = [];
  let at = 0;
  for (const line of text.split('\n')) {
    const locus = { text: { from: at, to: at + line.length } };
    at += line.length + 1;
    const told = line.trim();
    if (told === '') continue;
    const order = /^order\s*:\s*(.*)$/i.exec(told);
    const head = /^(.+?)\s*,\s*(\d{1,4})\s*bars?$/i.exec(told);
    const said = /^(?:"([^"]*)"|([^:]+?))\s*:\s*(.*)$/.exec(told);
    let done: Result<unknown>;
    if (order) {
      const line = order[1] ?? '';
      const run = (): Result<unknown> => {
        const route = parseRoute(line, piece.sections);
        return route.ok ? make(setRoute(piece, route.value)) : route;
      };
      orders.push({ locus, run });
      done = ok(null);
    } else if (head && !/^\s/.test(line)) {
      const [, name = '', bars = '1'] = head;
      const known = labelled(piece.sections).find((one) => one.name.toLowerCase() === name.toLowerCase());
      if (known) {
        section = known.id;
        done = make(patchSectionBy(piece, known.id, { bars: Number(bars) }));
      } else {
        const made = insertSection({ ...piece, form: [] }, { name, bars: Number(bars) });
        section = made.id;
        done = make(ok(made.edit));
      }
    } else if (said && section !== null) {
      const [, quoted, plain = '', value = ''] = said;
      const name = quoted ?? plain;
      const id: string = section;
      const field = quoted === undefined ? FIELDS.find((one) => one === name.trim().toLowerCase()) : undefined;
      const run = (): Result<unknown> => (field ? make(fieldEdit(piece, id, field, value)) : ok(null));
      // Chords are laid over bars, so the meter goes first.
      if (field === 'meter') later.unshift({ locus, run });
      else if (field) later.push({ locus, run });
      done = field ? ok(null) : rowLine(name, value, id);
    } else
      done = fail(
        'form-text',
        section === null
          ? `"${told}" names no section: begin with its name and bars, "Verse, 8 bars".`
          : `"${told}" is not understood: a section ("Verse, 8 bars"), a part and what it plays ("Guitar: A 2 times"), or ${FIELDS.join(', ')}.`,
      );
    if (!done.ok) return fail(done.error.rule, done.error.words, locus);
  }
  for (const one of [...later, ...orders]) {
    const done = one.run();
    if (!done.ok) return fail(done.error.rule, done.error.words, one.locus);
  }
  if (edits.length === 0) return fail('no-change', 'Nothing would change.', {});
  return ok(together('changed the form', edits));

  function rowLine(name: string, value: string, id: string): Result<unknown> {
    const part = labelled(piece.parts).find(
      (one) => one.name.replaceAll('"', "'").toLowerCase() === name.trim().toLowerCase(),
    );
    if (!part)
      return fail(
        'no-part',
        `There is no part "${name.trim()}". The piece has ${piece.parts.map((one) => one.name).join(', ')}.`,
        {},
      );
    const row = parseRow(value, part);
    return row.ok ? make(setRow(piece, id, part.id, row.value)) : row;
  }
}

const LANE_OF = {
  'bass notes': 'bass',
  key: 'key',
  tempo: 'tempo',
  meter: 'meters',
  swing: 'feel',
} as const;

function fieldEdit(piece: Piece, id: string, field: Field, value: string): Result<Edit> {
  const section = piece.sections.find((one) => one.id === id) as Section;
  const empty = value.trim() === '';
  if (field === 'chords') return setChordLine(piece, id, value);
  if (field === 'cue') return patchSectionBy(piece, id, { cue: empty ? null : value.slice(0, 200) });
  if (empty) return setContext(piece, id, { [LANE_OF[field]]: null });
  if (field === 'bass notes') {
    const bass = parseBassLine(value, metersOf(piece, section), section.bars);
    return bass.ok ? setContext(piece, id, { bass: bass.value }) : bass;
  }
  if (field === 'key') {
    const key = readKey(value);
    return key.ok ? setContext(piece, id, { key: [{ at: ZERO, ...key.value }] }) : key;
  }
  if (field === 'tempo') {
    const bpm = Number(value);
    return bpm >= 10 && bpm <= 500
      ? setContext(piece, id, { tempo: [{ at: ZERO, bpm }] })
      : fail('tempo', `"${value}" is no tempo: 10 to 500.`, {});
  }
  if (field === 'meter') {
    const meter = parseMeter(value);
    return meter
      ? setContext(piece, id, { meters: [{ bar: 0, ...meter }] })
      : fail('meter', `"${value}" is no meter, such as 3/4.`, {});
  }
  const swing = /^straight$/i.test(value) ? 50 : Number(value.replace('%', ''));
  return swing >= 50 && swing <= 80
    ? setContext(piece, id, { feel: [{ at: ZERO, swing, unit: '1/2' }] })
    : fail('swing', `"${value}" is no swing: 50 (straight) to 80.`, {});
}
