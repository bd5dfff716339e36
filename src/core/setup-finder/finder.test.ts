import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { findInstrument, makeSetup, openPitch, pitchAt, stringNumbers, type Setup } from '../instrument';
import type { PlaceEvent } from '../place';
import { quarter } from '../time';
import { finding, findingPair, findSetup, foundClues, type Clue, type FinderQuestion } from './index';

const guitar = must(findInstrument('guitar-6'));

/** Strokes as "string.fret" with + between the notes of one, in eighths. */
function played(setup: Setup, text: string, extra: Partial<PlaceEvent> = {}): PlaceEvent[] {
  return text.split(' ').map((stroke, i) => ({
    ...{ id: `e${i}`, at: quarter(i, 2), dur: quarter(1, 2), link: null, ring: false },
    ...extra,
    notes: stroke.split('+').map((at) => {
      const [string = 1, fret = 0] = at.split('.').map(Number);
      return { pitch: must(pitchAt(setup, { string, fret })), lock: null, dur: null };
    }),
  }));
}

const setupOf = (tuning: string, capo = 0): Setup => must(makeSetup({ instrument: 'guitar-6', tuning, capo })).setup;

const ask = (events: readonly PlaceEvent[], clues: readonly Clue[] = [], extra: object = {}): FinderQuestion => ({
  ...{ events, clues, tempo: [{ at: quarter(0), bpm: 100 }], meters: [{ bar: 0, beats: 4, unit: 4 }] },
  limits: { instruments: [guitar], ...extra },
});

const DRONE = '6.0 5.0 4.0 3.0 2.0 1.0 2.0 3.0 6.0 5.0 4.2 3.0 2.0 1.0 2.0 3.2';

describe('the set-up finder', () => {
  it('finds the tuning whose open strings ring', () => {
    const events = played(setupOf('modal-dadgad'), DRONE, { ring: true });
    const answer = findSetup(ask(events));
    expect(answer.ranking[0]?.setup.tuningId).toBe('modal-dadgad');
    expect(answer.ranking[0]?.reasons.some((one) => one.kind === 'ring')).toBe(true);
  });

  it('gives the same answer however it is run, and says how far it is', () => {
    const question = ask(played(setupOf('drop-d'), '6.0 6.0 6.3+5.3 6.5+5.5 6.0 6.0 6.7+5.7 6.5+5.5'));
    const steps = finding(question);
    const told: number[] = [];
    let step = steps.next();
    while (!step.done) {
      told.push(step.value.done);
      step = steps.next();
    }
    expect(told.length).toBeGreaterThan(4);
    expect(told).toEqual([...told].sort((a, b) => a - b));
    expect(JSON.stringify(step.value)).toBe(JSON.stringify(findSetup(question)));
  });

  it('names what the sound can’t tell apart: a string that isn’t used, and the same shape elsewhere', () => {
    const box = findSetup(ask(played(setupOf('standard'), '4.7 4.9 3.7 3.9 2.8 2.10 3.9 3.7')));
    const first = box.ranking[0];
    const alike = [first?.setup, ...(first?.equivalent ?? [])].map(
      (one) => `${one?.tuningId} ${one?.capos[0]?.fret ?? 0}`,
    );
    expect(alike).toContain('standard 0');
    expect(alike).toContain('drop-d 0');
    expect(alike).toContain('down-1 0');
    expect(first?.reasons.some((one) => one.kind === 'closed')).toBe(true);
  });

  it('obeys limits: only these families, no capo', () => {
    const events = played(setupOf('standard'), '5.3 4.2 3.0 2.1 1.0 2.1 3.0 4.2');
    const answer = findSetup(ask(events, [], { capo: false, families: ['dropped', 'open'] }));
    for (const one of answer.ranking)
      for (const setup of [one.setup, ...one.equivalent]) {
        expect(setup.capos).toEqual([]);
        expect(setup.tuningId).not.toBe('standard');
      }
  });

  it('takes clues: an open note that standard doesn’t have rules standard out', () => {
    const events = played(setupOf('standard'), '5.5 4.5 3.5 2.6 3.5 4.5 5.5 4.5');
    const before = findSetup(ask(events));
    expect(before.ranking[0]?.setup.tuningId).toBe('standard');
    // G3 on string 4 heard open, and the D3 of string 5 as well: two open strings a fourth apart, with C4 open on top.
    const after = findSetup(
      ask(events, [
        { kind: 'open', event: 'e1', note: 0 },
        { kind: 'open', event: 'e2', note: 0 },
      ]),
    );
    const first = after.ranking[0];
    expect(first?.against).toEqual([]);
    for (const pitch of [events[1], events[2]].map((event) => event?.notes[0]?.pitch))
      expect(first?.setup.open.map((_, i) => openPitch(first.setup, first.setup.open.length - i))).toContain(pitch);
  });

  it('keeps a note that bends off open strings, and one that was seen on its string', () => {
    const events = played(setupOf('standard'), '3.0 2.3 3.0 2.3 1.3 2.3 3.0 2.3');
    const answer = findSetup(
      ask(events, [
        { kind: 'stopped', event: 'e0', note: 0 },
        { kind: 'string', event: 'e1', note: 0, string: 2 },
      ]),
    );
    const way = answer.ranking[0]?.way;
    expect(way?.events[0]?.notes[0]?.fret).toBeGreaterThan(0);
    expect(way?.events[1]?.notes[0]?.string).toBe(2);
  });

  it('every reason is true of the data beside it', () => {
    const cases: readonly (readonly [string, number, string, boolean])[] = [
      ['open-g', 0, '5.0 4.0 3.0 2.1 1.0 4.2 3.2 5.0', true],
      ['drop-c', 0, '6.0 6.0 6.3+5.3+4.3 6.0 6.5+5.5+4.5 6.0 6.7+5.7+4.7 6.0', false],
      ['standard', 2, '5.3 4.2 3.0 2.1 1.0 6.3 5.2 4.0', true],
    ];
    for (const [tuning, capo, text, ring] of cases) {
      const events = played(setupOf(tuning, capo), text, { ring });
      const clues: Clue[] = [{ kind: 'open', event: 'e0', note: 0 }];
      for (const one of findSetup(ask(events, clues)).ranking) {
        const { setup, way } = one;
        const opens = stringNumbers(setup).map((string) => openPitch(setup, string));
        const lowest = Math.min(...opens);
        const open = way.events.flatMap((event) => event.notes.filter((note) => note?.fret === 0));
        for (const reason of one.reasons) {
          if (reason.kind === 'below') {
            expect(reason.pitch).toBeLessThan(lowest);
            expect(events.some((event) => event.notes.some((note) => note.pitch === reason.pitch))).toBe(true);
          }
          if (reason.kind === 'lowest') {
            expect(openPitch(setup, reason.string)).toBe(lowest);
            expect(open.filter((note) => note?.string === reason.string)).toHaveLength(reason.times);
          }
          if (reason.kind === 'open') expect(open).toHaveLength(reason.times);
          if (reason.kind === 'closed') expect(open).toHaveLength(0);
          if (reason.kind === 'ring')
            for (const string of reason.strings) expect(open.some((note) => note?.string === string)).toBe(true);
          if (reason.kind === 'unused')
            for (const string of reason.strings)
              expect(way.events.some((event) => event.notes.some((note) => note?.string === string))).toBe(false);
          if (reason.kind === 'clue') expect(reason.kept).toBe(opens.includes(events[0]?.notes[0]?.pitch ?? -1));
        }
      }
    }
  });

  it('asks for the observation that decides, and says what each answer speaks for', () => {
    const answer = findSetup(ask(played(setupOf('drop-d'), '6.2 6.2 5.2 6.5 6.2 6.2 5.2 4.2')));
    const [first, second] = answer.ranking;
    if (!answer.ask || !first || !second) throw new Error('nothing is asked');
    const index = first.way.events.findIndex((event) => event.id === answer.ask?.event);
    const [a, b] = [first, second].map((one) => one.way.events[index]?.notes[answer.ask?.note ?? 0]);
    expect([a?.string, a?.fret]).not.toEqual([b?.string, b?.fret]);
  });

  it('of a long part places the bars that tell most, those with clues always, and says so', () => {
    const bar = '6.0 6.3 5.2 6.0 6.3 5.2 6.0 5.2';
    const events = played(
      setupOf('standard'),
      `${Array.from({ length: 20 }, () => bar).join(' ')} 4.2 3.0 2.1 1.0 2.1 3.0 4.2 3.2`,
    );
    const answer = findSetup(ask(events, [{ kind: 'open', event: 'e8', note: 0 }]));
    const placed = answer.ranking[0]?.way.events.map((event) => event.id) ?? [];
    expect(placed.length).toBeLessThanOrEqual(64);
    expect(placed).toContain('e8');
    // The last bar is unlike the twenty before it.
    expect(placed).toContain('e160');
    expect(answer.words).toContain('bars that tell most');
    expect(answer.ranking[0]?.setup.tuningId).toBe('standard');
  });

  it('has nothing to say of silence', () => {
    expect(findSetup(ask([])).ranking).toEqual([]);
  });
});

describe('clues the program sees', () => {
  it('sees a drone, a note under a leap and grips in parallel', () => {
    const standard = setupOf('standard');
    const drone = foundClues(played(standard, '6.0 4.2 6.0 4.4 6.0 3.2 6.0 4.2'), [{ bar: 0, beats: 4, unit: 4 }]);
    expect(drone[0]?.clue).toMatchObject({ kind: 'drone' });
    const leap = foundClues(played(standard, '6.0 1.7 6.0 1.8', { ring: true }), [{ bar: 0, beats: 4, unit: 4 }]);
    expect(leap.some(({ clue }) => clue.kind === 'open')).toBe(true);
    const shape = foundClues(played(standard, '5.3+4.5 5.5+4.7 5.7+4.9'), [{ bar: 0, beats: 4, unit: 4 }]);
    expect(shape.some(({ clue }) => clue.kind === 'shape')).toBe(true);
  });
});

describe('two players', () => {
  it('finds a pair and what rings together on whose strings', () => {
    const first = ask(played(setupOf('drop-d'), '6.0 6.0 6.3+5.3 6.0 6.5+5.5 6.0 6.7+5.7 6.0'));
    const second = ask(played(setupOf('drop-d'), '4.0 3.2 2.3 1.2 2.3 3.2 4.0 3.2', { ring: true }));
    const steps = findingPair(first, second);
    let step = steps.next();
    while (!step.done) step = steps.next();
    const { pairs, combined } = step.value;
    expect(pairs.reduce((sum, one) => sum + one.share, 0)).toBeLessThanOrEqual(1 + 1e-9);
    // The low D is in both, and players of one band mostly tune alike.
    expect(pairs[0]?.setups.map((one) => one.open[0])).toEqual([38, 38]);
    expect(pairs[0]?.setups[0].open).toEqual(pairs[0]?.setups[1].open);
    for (const moment of combined)
      for (const side of moment.strings) expect(new Set(side.map((one) => one.string)).size).toBe(side.length);
  });
});
