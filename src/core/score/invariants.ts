import { fail, ok, type Result } from '../base';
import { checkCapos, HARMONIC_NODES, openPitch, pitchAt, type Setup } from '../instrument';
import type { Midi } from '../base';
import { barLength, cmp, quarter, sub, ZERO, type Quarter } from '../time';
import { impossibleEvent } from './event-specs';
import { checkForm } from './form-invariants';
import { impossible } from './note-specs';
import type { Part, Piece, Riff, RiffEvent } from './schema';
import type { Technique } from './technique';

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
  return checkForm(piece);
}

/** Parts and riffs are found by id in the whole piece, so no two may share one. */
export function checkIds(piece: Piece): Result<Piece> {
  const ids = new Set<string>();
  for (const part of piece.parts) {
    for (const id of [`part ${part.id}`, ...part.riffs.map((riff) => `riff ${riff.id}`)]) {
      if (ids.has(id)) return fail('duplicate-id', `There is a ${id.replace(' ', ' "')}" already.`, id.split(' ')[1]);
      ids.add(id);
    }
  }
  return ok(piece);
}

export function checkLanes(piece: Piece): Result<Piece> {
  for (const name of ['tempo', 'key'] as const) {
    const steps: readonly { at: Quarter }[] = piece.context[name];
    for (const [i, step] of steps.entries()) {
      const before = steps[i - 1];
      if (before ? cmp(step.at, before.at) <= 0 : step.at !== ZERO) {
        return fail('lane-order', `The ${name} lane must start at 0 and go forward.`, { path: ['lanes', name, i] });
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
    return fail('setup-strings', `The tuning names ${setup.open.length} strings, the instrument has ${count}.`, {
      part: partId,
      path: ['setup'],
    });
  }
  if (setup.absent.some((string) => string > count))
    return fail('setup-strings', 'A string is taken off that the instrument does not have.', {
      part: partId,
      path: ['setup'],
    });
  if (setup.absent.length >= count)
    return fail('no-strings', 'Every string is taken off.', { part: partId, path: ['setup'] });
  const capos = checkCapos(setup.instrument, setup.capos);
  if (!capos.ok) return fail(capos.error.rule, capos.error.words, { part: partId, path: ['setup', 'capos'] });
  return ok(setup);
}

/**
 * `before`: the same riff on the same set-up as it was, found right; events that are still the same are not looked
 * into again.
 */
export function checkRiff(riff: Riff, setup: Setup, before: Riff | null = null): Result<Riff> {
  if (riff.meters[0]?.bar !== 0)
    return fail('meter-order', 'The first meter must stand at the first bar.', { riff: riff.id });
  for (const [i, meter] of riff.meters.entries()) {
    const before = riff.meters[i - 1];
    if (before && meter.bar <= before.bar)
      return fail('meter-order', 'Meters must go forward by bar.', { riff: riff.id, path: ['meters', i] });
  }
  if (cmp(riff.pickup, barLength(riff.meters[0])) >= 0) {
    return fail('long-pickup', 'A pickup is shorter than a bar; make it a bar of its own.', { riff: riff.id });
  }
  for (const wish of riff.wishes ?? []) {
    if (cmp(wish.to, wish.from) <= 0)
      return fail('empty-stretch', 'A wish needs a stretch that ends after it begins.', {
        riff: riff.id,
        path: ['wishes', wish.id],
      });
    if (wish.avoid.length > 0 && wish.avoid.length >= setup.open.length - setup.absent.length)
      return fail('no-strings', 'Every string would be kept free here.', { riff: riff.id, path: ['wishes', wish.id] });
  }
  const lanes = checkRiffLanes(riff);
  if (!lanes.ok) return lanes;
  const begins = sub(ZERO, riff.pickup);
  const graceBegins = sub(begins, GRACE_ROOM);
  const framed = before !== null && before.pickup === riff.pickup;
  // Mostly events change where they stand: then each is looked at beside what stood there, and ids can't have come
  // together.
  const stood =
    before &&
    before.events.length === riff.events.length &&
    riff.events.every((event, i) => sameIds(event, before.events[i]))
      ? before.events
      : null;
  const known = stood ? null : new Set(before?.events);
  const ids = new Set<string>();
  let earlier: RiffEvent | null = null;
  let earlierSame = false;
  for (const [i, event] of riff.events.entries()) {
    const same = stood ? stood[i] === event : known?.has(event) === true;
    // Two events that were there before are in order still: an event's time is part of it.
    if (earlier && !(same && earlierSame) && cmp(event.at, earlier.at) <= 0)
      return fail('event-order', 'Events must go forward in time, one at a time.', { event: event.id });
    // A grace note before the first beat stands before the riff and is played into it.
    if (!(same && framed) && cmp(event.at, event.grace ? graceBegins : begins) < 0)
      return fail('before-pickup', 'A note lies before the riff begins; lengthen the pickup first.', {
        event: event.id,
      });
    earlier = event;
    earlierSame = same;
    const twice = stood ? null : addIds(ids, event);
    if (twice !== null) return fail('duplicate-id', `The id "${twice}" is used twice.`, twice);
    if (same) continue;
    const checked = checkEvent(event, setup);
    if (!checked.ok) return checked;
  }
  if (riff.variants !== before?.variants) {
    const checked = checkVariants(riff, setup);
    if (!checked.ok) return checked;
  }
  if (riff.alternatives !== before?.alternatives)
    for (const reading of riff.alternatives ?? []) {
      for (const event of reading.events) {
        const checked = checkEvent(event, setup);
        if (!checked.ok) return checked;
      }
    }
  return ok(riff);
}

const sameIds = (a: RiffEvent, b: RiffEvent | undefined): boolean =>
  a === b ||
  (b !== undefined &&
    a.id === b.id &&
    a.notes.length === b.notes.length &&
    a.notes.every((note, i) => note.id === b.notes[i]?.id));

/** Adds the ids of an event and its notes; the one that was there already, or null. */
function addIds(ids: Set<string>, event: RiffEvent): string | null {
  if (ids.has(event.id)) return event.id;
  ids.add(event.id);
  for (const { id } of event.notes) {
    if (ids.has(id)) return id;
    ids.add(id);
  }
  return null;
}

/** What variants change lies on the strings like everything else, and no two variants share an id. */
function checkVariants(riff: Riff, setup: Setup): Result<Riff> {
  const ids = new Set<string>();
  for (const variant of riff.variants ?? []) {
    const path = ['variants', variant.id];
    if (ids.has(variant.id))
      return fail('duplicate-id', `There is a variant "${variant.id}" already.`, { riff: riff.id, path });
    ids.add(variant.id);
    for (const event of [...variant.change.replaced, ...variant.change.inserted]) {
      const checked = checkEvent(event, setup);
      if (!checked.ok) return checked;
    }
  }
  return ok(riff);
}

/** The riff's own tempo and feel, and its readings. */
function checkRiffLanes(riff: Riff): Result<Riff> {
  for (const [name, steps] of [
    ['tempo', riff.tempo],
    ['feel', riff.feel],
  ] as const) {
    const list: readonly { at: Quarter }[] = steps ?? [];
    for (const [i, step] of list.entries()) {
      const earlier = list[i - 1];
      if (earlier ? cmp(step.at, earlier.at) <= 0 : step.at !== ZERO)
        return fail('lane-order', `The ${name} of a riff must start at 0 and go forward.`, {
          riff: riff.id,
          path: [name, i],
        });
    }
  }
  const ids = new Set<string>();
  for (const reading of riff.alternatives ?? []) {
    if (ids.has(reading.id))
      return fail('duplicate-id', `There is a reading "${reading.id}" already.`, {
        riff: riff.id,
        path: ['readings', reading.id],
      });
    ids.add(reading.id);
    if (cmp(reading.to, reading.from) <= 0)
      return fail('empty-stretch', 'A reading needs a stretch that ends after it begins.', {
        riff: riff.id,
        path: ['readings', reading.id],
      });
    for (const [i, event] of reading.events.entries()) {
      const earlier = reading.events[i - 1];
      if (earlier && cmp(event.at, earlier.at) <= 0)
        return fail('event-order', 'Events must go forward in time, one at a time.', { event: event.id });
      if (cmp(event.at, reading.to) >= 0 || cmp(event.at, sub(reading.from, event.grace ? GRACE_ROOM : ZERO)) < 0)
        return fail('outside', 'A reading holds only what begins in its stretch.', { event: event.id });
    }
  }
  return ok(riff);
}

/**
 * What a place sounds with what is done to it there: a stopped or open string its pitch, a natural
 * harmonic that of its node. `wanted` tells nodes apart that lie over one fret (3.2 and 2.7).
 */
export function soundAt(
  setup: Setup,
  place: { readonly string: number; readonly fret: number },
  techniques: Technique | undefined,
  wanted: Midi | null = null,
): Result<Midi> {
  const plain = pitchAt(setup, place);
  if (!plain.ok || !techniques?.harmonic) return plain;
  const nodes = HARMONIC_NODES.filter((node) => Math.round(node.fret) === place.fret).map(
    (node) => openPitch(setup, place.string) + node.semitones,
  );
  const found = nodes.find((p) => p === wanted) ?? nodes[0];
  return found === undefined
    ? fail(
        'no-node',
        `No harmonic sounds clearly over fret ${place.fret}: nodes are at 12, 7, 19, 5, 4, 9, 16, 3.2, 2.7 and 2.3.`,
        'fret',
      )
    : ok(found);
}

/** How far before the riff its first grace notes may begin, in quarters. */
export const GRACE_ROOM = quarter(1);

/** Pitch and place agree under the set-up; one note a string; an open string needs no finger. */
export function checkEvent(event: RiffEvent, setup: Setup): Result<RiffEvent> {
  const strings = new Set<number>();
  const whole = impossibleEvent(event);
  if (whole) return fail('impossible', whole, { event: event.id });
  for (const note of event.notes) {
    if (note.technique) {
      const why = impossible(setup, note.place, note.technique, event.slideBar);
      if (why) return fail('impossible', why, { note: note.id });
    }
    if (!note.place) continue;
    const { string, fret, finger } = note.place;
    const sounds = soundAt(setup, note.place, note.technique, note.pitch.midi);
    if (!sounds.ok) return fail(sounds.error.rule, sounds.error.words, { note: note.id });
    if (sounds.value !== note.pitch.midi) {
      return fail('pitch-place', `String ${string}, fret ${fret} does not sound the pitch that is written.`, {
        note: note.id,
      });
    }
    if (strings.has(string))
      return fail('string-twice', `String ${string} is asked for two notes at once.`, { note: note.id });
    strings.add(string);
    if (
      note.place.otherFinger !== undefined &&
      (note.place.otherFinger === 0 || note.place.otherFinger === finger || finger === null || fret === 0)
    )
      return fail('finger', 'Another finger that would do is one of the fretting hand, and not the same again.', {
        note: note.id,
      });
    if (!note.technique?.dead && !note.technique?.tapped && (fret === 0) !== (finger === 0) && finger !== null) {
      return fail('finger', fret === 0 ? 'An open string takes no finger.' : 'A stopped note needs a finger.', {
        note: note.id,
      });
    }
  }
  return ok(event);
}
