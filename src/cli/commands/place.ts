import type { z } from 'zod';
import type { Finger } from '@/core/base';
import { baseNut, fretShown, pitchAt, shownFret, type FretCounting, type Setup } from '@/core/instrument';
import type { CostTable } from '@/core/hand';
import {
  bestWays,
  DEFAULT_OPTIONS,
  explainEvent,
  mendsOf,
  positionsOf,
  solve,
  TABLE_EVENTS,
  tableOf,
  termWords,
  viewOf,
  type PlaceEvent,
  type PlaceNote,
  placeLink,
} from '@/core/place';
import { cmp, parseMeter, ZERO, type MeterChange, type Quarter } from '@/core/time';
import { CliFault, type placeInput, type positionsInput, setupOf } from '../schemas';

export function positions(input: z.infer<typeof positionsInput>): unknown {
  const { setup } = setupOf(input.setup);
  return { positions: input.pitches.map((p) => positionsOf(setup, p)) };
}

type InputEvent = z.infer<typeof placeInput>['events'][number];

/** What places in the input are taken for: a lock only where it is said, all of them decided, or none of them known. */
type Places = 'as-said' | 'decided' | 'unknown';

function noteOf(
  given: InputEvent['notes'][number],
  setup: Setup,
  at: string,
  counting: FretCounting,
  places: Places,
): PlaceNote {
  const note =
    given.string === undefined || given.fret === undefined
      ? given
      : { ...given, fret: fretShown(setup, given.string, given.fret, counting) };
  const dur = note.dur ?? null;
  const technique = {
    bend: note.bend,
    trill: note.trill,
    dead: note.dead,
    tapped: note.tapped,
    harmonic: note.harmonic,
    keep: note.keep,
    ...(note.link === undefined ? {} : { link: placeLink(note.link) }),
    cents: note.cents,
  };
  if (note.string === undefined || note.fret === undefined || (places === 'unknown' && note.pitch !== undefined)) {
    if (note.pitch === undefined) throw new CliFault('bad-note', 'Give a pitch, or string and fret.', at);
    if (note.lock && note.string === undefined) throw new CliFault('bad-note', 'A lock needs string and fret.', at);
    return { pitch: note.pitch, lock: null, dur, ...technique };
  }
  if (note.harmonic) throw new CliFault('bad-note', 'A harmonic is given by its pitch alone.', at);
  const sounds = pitchAt(setup, { string: note.string, fret: note.fret });
  if (!sounds.ok) throw new CliFault(sounds.error.rule, sounds.error.words, at);
  if (note.pitch !== undefined && note.pitch !== sounds.value) {
    throw new CliFault(
      'pitch-place',
      `String ${note.string}, fret ${note.fret} sounds ${sounds.value}, not ${note.pitch}.`,
      at,
    );
  }
  const lock =
    places === 'decided' || (places === 'as-said' && note.lock)
      ? { string: note.string, fret: note.fret, finger: (note.finger ?? null) as Finger | null }
      : null;
  return { pitch: sounds.value, lock, dur, ...technique };
}

export interface PlaceFlags {
  /** Every cost in words. */
  readonly explain: boolean;
  /** Every state and move with its cost. */
  readonly table: boolean;
  readonly ways: number | null;
}

/** A meter as programs write it, as the lane of one. */
export function meterOf(text: string | undefined): MeterChange[] {
  const meter = parseMeter(text ?? '4/4');
  if (!meter) throw new CliFault('bad-meter', `"${text}" is no meter, such as 4/4 or 6/8.`, 'meter');
  return [{ bar: 0, ...meter }];
}

/** The events of an input as the solver takes them, checked to go forward in time. */
export function eventsOf(
  input: Pick<z.infer<typeof placeInput>, 'events' | 'frets'>,
  setup: Setup,
  places: Places,
): PlaceEvent[] {
  let before: Quarter | null = null;
  return input.events.map((event, i): PlaceEvent => {
    if (before !== null && cmp(event.at, before) <= 0)
      throw new CliFault(
        'event-order',
        'Events must go forward in time; put notes of one onset into one event.',
        `events.${i}.at`,
      );
    if (cmp(event.dur, ZERO) <= 0) throw new CliFault('bad-length', 'A length must be above 0.', `events.${i}.dur`);
    before = event.at;
    return {
      id: event.id,
      at: event.at,
      dur: event.dur,
      link: placeLink(event.link ?? null),
      ring: event.ring ?? false,
      ...(event.bar ? { bar: true } : {}),
      ...(event.wish ? { wish: event.wish } : {}),
      notes: event.notes.map((place, index) => noteOf(place, setup, `events.${i}.notes.${index}`, input.frets, places)),
    };
  });
}

export function place(
  input: z.infer<typeof placeInput>,
  flags: PlaceFlags = { explain: false, table: false, ways: null },
): unknown {
  const { setup, assumed } = setupOf(input.setup);
  const meters = meterOf(input.meter);
  const events = eventsOf(input, setup, 'as-said');
  if (flags.table && events.length > TABLE_EVENTS)
    throw new CliFault(
      'too-long',
      `--table writes out at most ${TABLE_EVENTS} events; these are ${events.length}. Give a shorter phrase.`,
      'events',
    );
  const problem = {
    setup,
    tempo: [{ at: ZERO, bpm: input.tempo }],
    meters,
    events,
    options: {
      ...DEFAULT_OPTIONS,
      ...(input.profile ? { profile: input.profile } : {}),
      costs: { ...DEFAULT_OPTIONS.costs, ...input.costs } as CostTable,
      openLiking: input.openLiking ?? 0,
      wishedHand: input.hand ?? null,
    },
  };
  const solution = solve(problem);
  const ways = bestWays(solution, flags.ways ?? input.k).map((way) => ({
    ...way,
    events: way.events.map((event, i) => ({
      ...event,
      ...(flags.explain
        ? {
            why: explainEvent(event, way.events[i - 1] ?? null),
            hold: event.hold.map((term) => ({ ...term, words: termWords(term) })),
            move: event.move.map((term) => ({ ...term, words: termWords(term) })),
          }
        : {}),
      hand: event.hand > 0 && input.frets === 'nut' ? event.hand + baseNut(setup) : event.hand,
      notes: event.notes.map((place) =>
        place ? { ...place, fret: shownFret(setup, place.string, place.fret, input.frets) } : null,
      ),
    })),
  }));
  const view = flags.explain && events.length > 0 ? viewOf(problem, { from: 0, to: events.length - 1 }) : null;
  return {
    ways,
    blocked: solution.blocked.map((b) => ({
      event: b.locus.event,
      notes: b.notes,
      limit: b.rule,
      why: b.words,
      within: b.within,
      ...(flags.explain ? mendsOf(problem, b) : {}),
    })),
    ...(view
      ? {
          sure: view.sure,
          regions: view.regions.map(({ share, extra, lowest, highest, open }) => ({
            share,
            extra,
            lowest,
            highest,
            open,
          })),
          ask: view.ask,
        }
      : {}),
    ...(flags.table ? { table: tableOf(solution) } : {}),
    ...(assumed ? { assumed } : {}),
  };
}
