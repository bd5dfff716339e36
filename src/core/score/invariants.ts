import { fail, ok, type Result } from '../base';
import { checkCapos, pitchAt, type Setup } from '../instrument';
import { barLength, cmp, sub, ZERO, type Quarter } from '../time';
import type { Part, Piece, Riff, RiffEvent } from './schema';

/**
 * What must hold in every document beyond its schema. Checked after every edit on what the edit
 * touched, and on the whole when a document comes from outside.
 */
export function checkPiece(piece: Piece): Result<Piece> {
  const lanes = checkLanes(piece);
  if (!lanes.ok) return lanes;
  const unique = checkIds(piece);
  if (!unique.ok) return unique;
  for (const part of piece.parts) {
    const checked = checkPart(part);
    if (!checked.ok) return checked;
  }
  return ok(piece);
}

/** Parts and riffs are found by id in the whole piece, so no two may share one. */
export function checkIds(piece: Piece): Result<Piece> {
  const ids = new Set<string>();
  for (const part of piece.parts) {
    for (const id of [`part ${part.id}`, ...part.riffs.map((r) => `riff ${r.id}`)]) {
      if (ids.has(id)) return fail('duplicate-id', `There is a ${id.replace(' ', ' "')}" already.`, id.split(' ')[1]);
      ids.add(id);
    }
  }
  return ok(piece);
}

export function checkLanes(piece: Piece): Result<Piece> {
  for (const name of ['tempo', 'key'] as const) {
    const steps: readonly { at: Quarter }[] = piece.lanes[name];
    for (const [i, step] of steps.entries()) {
      const before = steps[i - 1];
      if (before ? cmp(step.at, before.at) <= 0 : step.at !== ZERO) {
        return fail('lane-order', `The ${name} lane must start at 0 and go forward.`, `lanes.${name}.${i}`);
      }
    }
  }
  return ok(piece);
}

export function checkPart(part: Part): Result<Part> {
  const setup = checkSetup(part.setup, part.id);
  if (!setup.ok) return setup;
  for (const riff of part.riffs) {
    const checked = checkRiff(riff, part.setup);
    if (!checked.ok) return checked;
  }
  return ok(part);
}

function checkSetup(setup: Setup, partId: string): Result<Setup> {
  const count = setup.instrument.strings.length;
  if (setup.open.length !== count) {
    return fail('setup-strings', `The tuning names ${setup.open.length} strings, the instrument has ${count}.`, `parts.${partId}.setup`);
  }
  if (setup.absent.some((s) => s > count)) return fail('setup-strings', 'A string is taken off that the instrument does not have.', `parts.${partId}.setup`);
  if (setup.absent.length >= count) return fail('no-strings', 'Every string is taken off.', `parts.${partId}.setup`);
  const capos = checkCapos(setup.instrument, setup.capos);
  if (!capos.ok) return fail(capos.error.code, capos.error.message, `parts.${partId}.setup.capos`);
  return ok(setup);
}

export function checkRiff(riff: Riff, setup: Setup): Result<Riff> {
  if (riff.meters[0]?.bar !== 0) return fail('meter-order', 'The first meter must stand at the first bar.', `riffs.${riff.id}`);
  for (const [i, m] of riff.meters.entries()) {
    const before = riff.meters[i - 1];
    if (before && m.bar <= before.bar) return fail('meter-order', 'Meters must go forward by bar.', `riffs.${riff.id}.meters.${i}`);
  }
  if (cmp(riff.pickup, barLength(riff.meters[0])) >= 0) {
    return fail('long-pickup', 'A pickup is shorter than a bar; make it a bar of its own.', `riffs.${riff.id}`);
  }
  const ids = new Set<string>();
  let before: RiffEvent | null = null;
  for (const event of riff.events) {
    if (before && cmp(event.at, before.at) <= 0) return fail('event-order', 'Events must go forward in time, one at a time.', event.id);
    if (cmp(event.at, sub(ZERO, riff.pickup)) < 0) return fail('before-pickup', 'A note lies before the riff begins; lengthen the pickup first.', event.id);
    before = event;
    for (const taken of [event.id, ...event.notes.map((n) => n.id)]) {
      if (ids.has(taken)) return fail('duplicate-id', `The id "${taken}" is used twice.`, taken);
      ids.add(taken);
    }
    const checked = checkEvent(event, setup);
    if (!checked.ok) return checked;
  }
  return ok(riff);
}

/** Pitch and place agree under the set-up; one note a string; an open string needs no finger. */
export function checkEvent(event: RiffEvent, setup: Setup): Result<RiffEvent> {
  const strings = new Set<number>();
  for (const note of event.notes) {
    if (!note.place) continue;
    const { string, fret, finger } = note.place;
    const sounds = pitchAt(setup, note.place);
    if (!sounds.ok) return fail(sounds.error.code, sounds.error.message, note.id);
    if (sounds.value !== note.pitch.midi) {
      return fail('pitch-place', `String ${string}, fret ${fret} does not sound the pitch that is written.`, note.id);
    }
    if (strings.has(string)) return fail('string-twice', `String ${string} is asked for two notes at once.`, note.id);
    strings.add(string);
    if ((fret === 0) !== (finger === 0) && finger !== null) {
      return fail('finger', fret === 0 ? 'An open string takes no finger.' : 'A stopped note needs a finger.', note.id);
    }
  }
  return ok(event);
}
