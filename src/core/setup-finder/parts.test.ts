import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { findInstrument, fretsLeft, makeSetup, openPitch, stringNumbers, TUNINGS } from '../instrument';
import { solve, bestWay, DEFAULT_OPTIONS, type PlaceEvent } from '../place';
import { makeEvent, makeNote, makeRiff } from '../score';
import { quarter, ZERO } from '../time';
import { candidatesFor } from './candidates';
import { asking, asPlayed, impossibleClues, opens, passedOver } from './clues';
import { digestOf } from './digest';
import { shiftOf, usedBy } from './placed';
import { questionOf } from './question';
import { quickWay, strokesOf } from './quick';
import type { Candidate } from './types';
import { signsOf } from './weigh';

const guitar = must(findInstrument('guitar-6'));
const METERS = [{ bar: 0, beats: 4, unit: 4 }];
const ALL = candidatesFor({ instruments: [guitar] });
const of = (tuning: string, capo = 0): Candidate => {
  const { setup } = must(makeSetup({ instrument: 'guitar-6', tuning, capo }));
  const open = stringNumbers(setup).map((string) => openPitch(setup, string));
  const found = ALL.find((one) => one.absent.length === 0 && one.open.join() === open.join());
  if (!found) throw new Error(`no candidate for ${tuning}`);
  return found;
};

const strokes = (list: readonly (readonly number[])[], extra: Partial<PlaceEvent> = {}): PlaceEvent[] =>
  list.map((pitches, i) => ({
    ...{ id: `e${i}`, at: quarter(i, 2), dur: quarter(1, 2), link: null, ring: false },
    ...extra,
    notes: pitches.map((pitch) => ({ pitch, lock: null, dur: null })),
  }));

describe('candidates', () => {
  it('have every catalogue tuning of the instrument, each set of open strings once', () => {
    const keys = ALL.map((one) => `${one.open.join()}|${one.absent.join()}`);
    expect(new Set(keys).size).toBe(keys.length);
    for (const tuning of TUNINGS.filter((one) => one.instruments.includes('guitar-6')))
      expect(
        ALL.some((one) => one.members.some(({ setup }) => setup.tuningId === tuning.id && setup.capos.length === 0)),
      ).toBe(true);
  });

  it('every member sounds what its candidate says, and the commonest stands first', () => {
    for (const one of ALL) {
      for (const { setup } of one.members)
        for (const string of stringNumbers(setup))
          expect(openPitch(setup, string)).toBe(one.open[one.open.length - string]);
      const common = one.members.map((member) => member.common);
      expect(common).toEqual([...common].sort((a, b) => b - a));
      expect(one.common).toBeGreaterThanOrEqual((common[0] ?? 0) - 1e-9);
    }
    const whole = of('down-2').members.map(({ setup }) => `${setup.tuningId} ${setup.capos[0]?.fret ?? 0}`);
    // Two steps down without capo sounds as four down with one at the second fret.
    expect(whole).toContain('down-2 0');
    expect(whole).toContain('down-4 2');
    expect(of('standard').members[0]?.common).toBe(
      Math.max(...ALL.flatMap((one) => one.members.map((it) => it.common))),
    );
  });

  it('know tunings of one’s own, and no capo where none was worn', () => {
    const own = {
      id: 'own',
      name: 'Cellar',
      family: 'altered',
      spelling: 'C2 A2 D3 G3 B3 D4',
      instruments: [],
      source: '',
    } as const;
    const list = candidatesFor({ instruments: [guitar], tunings: [own], capo: false });
    expect(list.some((one) => one.open.join() === '36,45,50,55,59,62')).toBe(true);
    expect(list.every((one) => one.members.every(({ setup }) => setup.capos.length === 0))).toBe(true);
  });
});

describe('a first look at a phrase', () => {
  it('counts what lies below, and whether the lowest note is the lowest string', () => {
    const low = digestOf(strokes([[38], [45], [50], [38]]), METERS);
    const quick = strokesOf(strokes([[38], [45], [50], [38]]));
    expect(signsOf(low, quick, of('standard')).below).toBeCloseTo(0.5);
    expect(signsOf(low, quick, of('drop-d'))).toMatchObject({ below: 0, lowOpen: 1, gap: 0 });
    expect(low.pedal).toBe(38);
  });

  it('knows chords no hand holds, and the most open way to hold the others', () => {
    const signs = (chord: readonly number[], tuning: string) =>
      signsOf(digestOf(strokes([chord]), METERS), strokesOf(strokes([chord])), of(tuning));
    // Six open strings of standard; in all fourths the two thin ones need fingers.
    const open = [40, 45, 50, 55, 59, 64];
    expect(signs(open, 'standard')).toMatchObject({ unheld: 0, setOpen: 1 });
    expect(signs(open, 'all-fourths').setOpen).toBeLessThan(1);
    // Three notes within a tone, deep down, on two strings that reach them.
    expect(signs([40, 41, 42], 'standard').unheld).toBe(1);
  });

  it('never says a phrase is stuck that the solver plays, and sees open strings', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 6 }), fc.integer({ min: 0, max: 12 })), {
          minLength: 1,
          maxLength: 8,
        }),
        fc.constantFrom('standard', 'drop-d', 'open-g', 'modal-dadgad'),
        (places, tuning) => {
          const candidate = of(tuning);
          const pitches = places.map(([string, fret]) => [(candidate.open[6 - string] ?? 0) + fret]);
          const way = quickWay(strokesOf(strokes(pitches)), candidate);
          expect(way.stuck).toBe(0);
          expect(way.open).toBeGreaterThanOrEqual(0);
          expect(way.open).toBeLessThanOrEqual(1);
          expect(way.travel).toBeGreaterThanOrEqual(0);
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('clues on notes', () => {
  const events = strokes([[50], [55], [59], [62]]);

  it('lock what sounds open on its open string, keep what is stopped off it, and lengthen what rings', () => {
    const asked = asking(events, [
      { kind: 'open', event: 'e0', note: 0 },
      { kind: 'stopped', event: 'e1', note: 0 },
      { kind: 'ring', events: ['e0', 'e1', 'e2'] },
    ]);
    const played = asPlayed(asked, of('standard'));
    expect(played[0]?.notes[0]?.lock).toMatchObject({ string: 4, fret: 0 });
    expect(played[1]?.notes[0]?.least).toBe(1);
    // From the first of them to the end of the last: three eighths, two, one.
    expect(played.slice(0, 3).map((event) => event.notes[0]?.dur)).toEqual([quarter(3, 2), quarter(1), null]);
    expect(passedOver(asked, of('standard'))).toBe(1);
    expect(impossibleClues(asked, of('standard')).size).toBe(0);
    expect([...impossibleClues(asked, of('down-1'))]).toEqual([0]);
  });

  it('a drone is every note of its pitch, a hammer comes from the note before, a string may be seen with its fret', () => {
    const drone = asking(strokes([[50], [57], [50], [59]]), [{ kind: 'drone', event: 'e0', note: 0 }]);
    expect(drone.open.map((one) => one.event)).toEqual([0, 2]);
    const hammer = asking(events, [{ kind: 'hammeredFromOpen', event: 'e1' }]);
    expect(hammer.events[0]?.link).toBe('hammer');
    expect(hammer.open).toMatchObject([{ event: 0, pitch: 50 }]);
    const seen = asking(events, [{ kind: 'string', event: 'e0', note: 0, string: 5, fret: 5 }]);
    expect(asPlayed(seen, of('standard'))[0]?.notes[0]?.lock).toMatchObject({ string: 5, fret: 5 });
    expect([...impossibleClues(seen, of('down-2'))]).toEqual([0]);
    expect(opens(of('open-g')).get(50)).toBe(4);
  });

  it('what sounds slack needs a string that is let down', () => {
    const slack = asking(strokes([[36], [38]]), [{ kind: 'slack', event: 'e0', note: 0 }]);
    expect(impossibleClues(slack, of('drop-c')).size).toBe(0);
    expect(
      impossibleClues(asking(strokes([[41]]), [{ kind: 'slack', event: 'e0', note: 0 }]), of('standard')).size,
    ).toBe(1);
  });
});

describe('what the sound can’t tell apart', () => {
  const way = (tuning: string, pitches: readonly number[]) => {
    const setup = of(tuning).members[0]?.setup;
    if (!setup) throw new Error('no set-up');
    return bestWay(
      solve({
        ...{ setup, meters: METERS, tempo: [{ at: ZERO, bpm: 100 }], options: DEFAULT_OPTIONS },
        events: strokes(pitches.map((pitch) => [pitch])),
      }),
    );
  };

  it('a closed shape moves with the tuning, an open string doesn’t', () => {
    const closed = way('standard', [57, 59, 62, 64, 62, 59]);
    const { strings, lowest } = usedBy(closed);
    expect(strings.length).toBeGreaterThan(0);
    expect(lowest).toBeGreaterThan(0);
    expect(shiftOf(closed, of('standard'), of('down-2'))).toBe(2);
    expect(shiftOf(closed, of('standard'), of('all-fourths'))).toBe(strings.every((string) => string > 2) ? 0 : null);
    const open = way('standard', [40, 43, 45, 40]);
    expect(usedBy(open).lowest).toBe(0);
    expect(shiftOf(open, of('standard'), of('down-2'))).toBe(null);
    expect(fretsLeft(of('standard').members[0]?.setup as never)).toBeGreaterThan(12);
  });
});

describe('riffs as a question', () => {
  const riff = (id: string, bars: number) =>
    makeRiff(id, id, {
      bars,
      events: [0, 1, 2, 3].map((i) =>
        makeEvent(`${id}e${i}`, quarter(i * bars), quarter(1), [makeNote(`${id}n${i}`, 50 + i, 'instructor')]),
      ),
    });
  const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
  const limits = { instruments: [guitar] };

  it('stand end to end, with where each begins; clues of notes that aren’t there are left out', () => {
    const asked = questionOf(
      [riff('a', 1), riff('b', 2)],
      setup,
      [{ at: ZERO, bpm: 90 }],
      [
        { kind: 'open', event: 'be0', note: 0 },
        { kind: 'open', event: 'gone', note: 0 },
      ],
      limits,
    );
    expect(asked.starts).toEqual([
      { riff: 'a', bar: 0 },
      { riff: 'b', bar: 1 },
    ]);
    expect(asked.question.events.map((event) => event.at)).toEqual([0, 1, 2, 3, 4, 6, 8, 10].map((at) => quarter(at)));
    expect(asked.question.clues).toHaveLength(1);
  });

  it('or only some bars of one', () => {
    const asked = questionOf([riff('a', 2)], setup, [{ at: ZERO, bpm: 90 }], [], limits, { from: 1, to: 1 });
    expect(asked.question.events.map((event) => event.id)).toEqual(['ae2', 'ae3']);
  });
});
