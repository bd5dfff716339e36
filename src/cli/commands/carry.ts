import type { z } from 'zod';
import { locusWords } from '@/core/base';
import { carryOver, movePhrase, type CarriedRiff } from '@/core/carry';
import {
  findInstrument,
  type instrumentSchema,
  setupWords,
  spelling,
  type Instrument,
  type Setup,
} from '@/core/instrument';
import { readKey } from '@/core/harmony';
import { keyName, type Key } from '@/core/pitch';
import { placeRiff, type PlaceEvent } from '@/core/place';
import { makeEvent, makeNote, makePlace, makeRiff, type Join, type Riff } from '@/core/score';
import { findSetup, type Clue } from '@/core/setup-finder';
import { ZERO } from '@/core/time';
import { CliFault, type carryInput, type findSetupInput, type moveInput, setupOf } from '../schemas';
import { eventsOf, meterOf } from './place';

type Given = z.infer<typeof findSetupInput>['clues'][number];

/** A clue as programs write it. */
function clueOf(given: Given, i: number): Clue {
  const note = 'note' in given ? (given.note ?? null) : null;
  if ('open' in given) return { kind: given.open ? 'open' : 'stopped', event: given.event, note };
  if ('stopped' in given) return { kind: 'stopped', event: given.event, note };
  if ('string' in given) return { kind: 'string', event: given.event, note, string: given.string, fret: given.fret };
  if ('ring' in given) return { kind: 'ring', events: given.ring };
  if ('hammeredFromOpen' in given) return { kind: 'hammeredFromOpen', event: given.hammeredFromOpen };
  if ('slack' in given) return { kind: 'slack', event: given.slack, note };
  if ('drone' in given) return { kind: 'drone', event: given.drone, note };
  if ('shape' in given) return { kind: 'shape', events: given.shape };
  throw new CliFault('bad-clue', 'A clue of no kind.', `clues.${i}`);
}

const idsIn = (clue: Clue): readonly string[] => ('events' in clue ? clue.events : [clue.event]);

const instrumentOf = (given: string | z.infer<typeof instrumentSchema>, i: number): Instrument => {
  if (typeof given !== 'string') return given as Instrument;
  const found = findInstrument(given);
  if (!found.ok) throw new CliFault(found.error.rule, found.error.words, `instruments.${i}`);
  return found.value;
};

const described = (setup: Setup): unknown => ({
  ...{ instrument: setup.instrument.id, tuning: setup.tuningId, spelling: spelling(setup) },
  capo: setup.capos[0]?.fret ?? 0,
  ...(setup.absent.length > 0 ? { absent: setup.absent } : {}),
  words: setupWords(setup),
});

/** Which set-up was it? */
export function findSetupOf(input: z.infer<typeof findSetupInput>): unknown {
  const instruments = input.instruments.map(instrumentOf);
  const first = instruments[0];
  if (!first) throw new CliFault('no-instrument', 'Name at least one instrument.', 'instruments');
  // Places in the input belong to a set-up that isn't known: only their pitches are taken.
  const events = eventsOf(input, setupOf({ instrument: input.instruments[0] ?? first.id }).setup, 'unknown');
  const ids = new Set(events.map((event) => event.id));
  const clues = input.clues.map(clueOf);
  clues.forEach((clue, i) => {
    const missing = idsIn(clue).find((id) => !ids.has(id));
    if (missing !== undefined) throw new CliFault('no-event', `There is no event "${missing}".`, `clues.${i}`);
  });
  const answer = findSetup({
    ...{ events, clues, meters: meterOf(input.meter), tempo: [{ at: ZERO, bpm: input.tempo }] },
    limits: { instruments, families: input.families, capo: input.capo },
  });
  return {
    ranking: answer.ranking.map((one) => ({
      setup: described(one.setup),
      score: one.share,
      why: one.reasons.map((reason) => reason.words),
      reasons: one.reasons,
      equivalent: one.equivalent.map(described),
      against: one.against,
      events: one.way.events.map(({ id, hand, notes }) => ({ id, hand, notes })),
    })),
    ...{ certain: answer.certain, ask: answer.ask, words: answer.words, looked: answer.looked },
  };
}

/** Events as a riff, placed in a set-up where they have no place yet. */
function riffOf(events: readonly PlaceEvent[], setup: Setup, meter: string | undefined, tempo: number): Riff {
  const join = (link: PlaceEvent['link'] | undefined): { join?: Join } => (link ? { join: link } : {});
  const riff = makeRiff('given', 'given', {
    bars: 2000,
    meters: meterOf(meter),
    events: events.map((event) =>
      makeEvent(
        event.id,
        event.at,
        event.dur,
        event.notes.map((note, k) =>
          makeNote(`${event.id}.${k}`, note.pitch, 'instructor', {
            ...join(note.link === undefined ? event.link : note.link),
            ...(note.lock
              ? { place: makePlace(note.lock.string, note.lock.fret, 'instructor', { finger: note.lock.finger }) }
              : {}),
            ...(note.dead ? { technique: { dead: true as const } } : {}),
            dur: note.dur,
          }),
        ),
        { letRing: event.ring },
      ),
    ),
  });
  return placeRiff(riff, setup, [{ at: ZERO, bpm: tempo }]).riff;
}

/** A part on one or many other set-ups: what is kept, changed and lost. */
export function carry(input: z.infer<typeof carryInput>): unknown {
  const { setup: from } = setupOf(input.from);
  const events = eventsOf(input, from, 'decided');
  const riff = riffOf(events, from, input.meter, input.tempo);
  const key = keyGiven(input.key);
  return {
    targets: input.to.map((request, i) => {
      const { setup: to } = atTarget(request, i);
      const made = carryOver({
        ...{ riff, from, to, keep: input.keep, key, tempo: [{ at: ZERO, bpm: input.tempo }] },
        octaves: input.octaves,
        substitute: input.substitute,
      });
      return { setup: described(to), ...targetOf(made) };
    }),
  };
}

function atTarget(request: Parameters<typeof setupOf>[0], i: number): ReturnType<typeof setupOf> {
  try {
    return setupOf(request);
  } catch (reason) {
    if (reason instanceof CliFault) throw new CliFault(reason.code, reason.message, `to.${i}.${reason.at ?? ''}`);
    throw reason;
  }
}

const placesOf = (events: Riff['events']): unknown =>
  events.map((event) => ({
    id: event.id,
    notes: event.notes.map((note) => ({
      pitch: note.pitch.midi,
      string: note.place?.string ?? null,
      fret: note.place?.fret ?? null,
      finger: note.place?.finger ?? null,
    })),
  }));

const keyText = (key: Key | null): string | null => key && keyName(key);

const targetOf = (made: CarriedRiff): object => ({
  events: placesOf(made.riff.events),
  lost: made.losses,
  ...{ cost: made.cost, octaves: made.octaves, offers: made.offers, substitutions: made.substitutions },
  ...{ kept: made.kept, hands: made.hands, worst: made.worst, equalStrings: made.equal },
  keys: {
    sounding: { before: keyText(made.keys.sounding.before), after: keyText(made.keys.sounding.after) },
    shape: { before: keyText(made.keys.shape.before), after: keyText(made.keys.shape.after) },
  },
});

function keyGiven(text: string | undefined): Key | null {
  if (text === undefined) return null;
  const key = readKey(text);
  if (!key.ok) throw new CliFault(key.error.rule, key.error.words, 'key');
  return key.value;
}

/** A phrase moved within its set-up. */
export function move(input: z.infer<typeof moveInput>): unknown {
  const { setup } = setupOf(input.setup);
  const events = riffOf(eventsOf(input, setup, 'decided'), setup, input.meter, input.tempo).events;
  const given = input.move;
  const made = movePhrase({
    ...{
      setup,
      events,
      meters: meterOf(input.meter),
      tempo: [{ at: ZERO, bpm: input.tempo }],
      root: input.root ?? null,
    },
    move:
      given.by === 'key'
        ? { by: 'key', from: keyGiven(given.from) ?? refuse(), to: keyGiven(given.to) ?? refuse() }
        : given,
  });
  if (!made.ok) throw new CliFault(made.error.rule, made.error.words, `events.${locusWords(made.error.locus)}`);
  const { events: moved, ...rest } = made.value;
  return { events: placesOf(moved), ...rest };
}

const refuse = (): never => {
  throw new CliFault('bad-key', 'A move to a key needs both keys.', 'move');
};
