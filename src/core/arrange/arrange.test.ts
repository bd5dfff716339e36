import equal from 'fast-deep-equal';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { applyEdit } from '../edit';
import { resolve, type Line } from '../form';
import { makeSetup, pitchAt } from '../instrument';
import { placeRiff } from '../place';
import { makeEvent, makeNote, makePart, makePiece, makePlace, makeRiff, type Piece, type RiffEvent } from '../score';
import { barStart, quarter, ZERO } from '../time';
import {
  compareVoices,
  easierBars,
  heldWords,
  lineOf,
  lostBars,
  reduce,
  ringingAt,
  secondVoice,
  semitoneWords,
  silencesOf,
  STARTER,
  stepWords,
  voicePitch,
  type VoiceInterval,
} from './index';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const { setup: bass } = must(makeSetup({ instrument: 'bass-4' }));
const C = { tonic: 'C', mode: 'major' } as const;
const Am = { tonic: 'A', mode: 'minor' } as const;
const TEMPO = [{ at: ZERO, bpm: 120 }];

/** A line of eighths at places, each locked. */
const line = (places: readonly (readonly [number, number])[], locked = true, on = setup): RiffEvent[] =>
  places.map(([string, fret], i) =>
    makeEvent(`e${i}`, quarter(i, 2), quarter(1, 2), [
      makeNote(`n${i}`, must(pitchAt(on, { string, fret })), 'instructor', {
        place: { ...makePlace(string, fret, 'instructor'), locked },
      }),
    ]),
  );
const midis = (events: readonly RiffEvent[]): number[] => events.map((event) => event.notes[0]?.pitch.midi ?? 0);
/** The note of C major at or under a pitch. */
const inC = (midi: number): number => midi - ([1, 3, 6, 8, 10].includes(midi % 12) ? 1 : 0);
const pitches = fc.array(fc.integer({ min: 48, max: 76 }), { minLength: 4, maxLength: 16 });
const bare = (list: readonly number[]): RiffEvent[] =>
  list.map((midi, i) => makeEvent(`e${i}`, quarter(i, 2), quarter(1, 2), [makeNote(`n${i}`, midi, 'instructor')]));

describe('a second voice', () => {
  it('a third above in the key is of two sizes; what is outside the key goes with its step', () => {
    const third = { by: 'steps', steps: 2, key: C } as const;
    expect([60, 62, 64, 65, 67, 69, 71].map((midi) => voicePitch(midi, third))).toEqual([64, 65, 67, 69, 71, 72, 74]);
    expect([61, 63, 68].map((midi) => voicePitch(midi, third))).toEqual([64, 66, 71]);
    expect(voicePitch(56, { by: 'steps', steps: 2, key: Am })).toBe(59);
    expect(voicePitch(57, { by: 'steps', steps: -2, key: Am })).toBe(53);
    expect(voicePitch(60, { by: 'steps', steps: 7, key: Am })).toBe(72);
  });
  it('comes back by the opposite interval, for notes of the key and any number of steps', () => {
    // Every note of C major is one of A minor.
    fc.assert(
      fc.property(
        fc.constantFrom(C, Am),
        fc.integer({ min: -9, max: 9 }),
        fc.integer({ min: 30, max: 70 }),
        (key, steps, n) => {
          const midi = inC(n);
          const there = voicePitch(midi, { by: 'steps', steps, key });
          expect(inC(there)).toBe(there);
          expect(voicePitch(there, { by: 'steps', steps: -steps, key })).toBe(midi);
          expect(Math.sign(there - midi)).toBe(Math.sign(steps));
        },
      ),
    );
  });
  it('an octave above keeps the shape of the hand, with what was locked', () => {
    const made = must(
      secondVoice(
        setup,
        line([
          [6, 3],
          [6, 5],
          [5, 3],
          [5, 5],
        ]),
        { by: 'semitones', semitones: 12 },
      ),
    );
    expect(made.lostLocks).toBe(0);
    expect(made.shape).not.toBeNull();
    expect(made.events.every((event) => event.notes[0]?.place?.locked)).toBe(true);
    expect(midis(made.events)).toEqual([55, 57, 60, 62]);
    // Where no shape fits, places are left to the solver and the locks that are given up are counted.
    const open = must(
      secondVoice(
        setup,
        line([
          [6, 0],
          [1, 3],
        ]),
        { by: 'semitones', semitones: 12 },
      ),
    );
    expect(open).toMatchObject({ shape: null, lostLocks: 2 });
    expect(secondVoice(setup, line([[1, 15]]), { by: 'semitones', semitones: 36 }).ok).toBe(false);
  });
  it('made at an interval and compared again it is found to hold throughout, and a changed note alone deviates', () => {
    const interval: fc.Arbitrary<VoiceInterval> = fc.oneof(
      fc.constantFrom(2, 4, 5, -2, 7).map((steps) => ({ by: 'steps', steps, key: C }) as const),
      fc.constantFrom(3, 4, 7, 12, -12, 5).map((semitones) => ({ by: 'semitones', semitones }) as const),
    );
    fc.assert(
      fc.property(pitches, interval, fc.nat(15), (list, one, which) => {
        const inKey = list.map(inC);
        const voice = inKey.map((midi) => voicePitch(midi, one));
        const same = compareVoices(bare(inKey), bare(voice), () => C);
        expect(same.rows).toHaveLength(inKey.length);
        expect(same.rows.every((row, i) => row.semitones === (voice[i] ?? 0) - (inKey[i] ?? 0))).toBe(true);
        expect(same.rows.some((row) => row.deviates)).toBe(false);
        expect(same.held?.share).toBe(1);
        const at = which % voice.length;
        const bent = voice.map((midi, i) => (i === at ? midi + 1 : midi));
        const odd = compareVoices(bare(inKey), bare(bent), () => C);
        if (odd.held && same.held && equal({ ...odd.held, share: 1 }, same.held))
          expect(odd.rows.flatMap((row, i) => (row.deviates ? [i] : []))).toEqual([at]);
      }),
    );
  });
  it('counterpoint is told as such, and what the other does not play is listed', () => {
    const [a, b] = [bare([60, 62, 64, 65, 67]), bare([72, 70, 77, 65, 74])];
    const found = compareVoices(a, b.slice(0, 4), () => C);
    expect(found.held).toBeNull();
    expect(heldWords(found)).toContain('counterpoint');
    expect(found.alone).toEqual({ model: ['e4'], voice: [] });
    expect(heldWords(compareVoices(a, [], () => C))).toBe('They never begin a note together.');
    expect(heldWords(compareVoices(a, bare([64, 65, 67, 69, 72]), () => C))).toBe(
      'A third above, in the key, but for 1 of 5 notes.',
    );
    expect([12, 15, -3, 0, 24].map(semitoneWords)).toEqual([
      'octave above',
      'octave and minor third above',
      'minor third below',
      'unison',
      '2 octaves above',
    ]);
    expect([2, -5, 7, 9].map(stepWords)).toEqual([
      'third above',
      'sixth below',
      'octave above',
      'octave and third above',
    ]);
  });
});

/** A piece of one section in which each part plays its events. */
function piece(
  parts: readonly { readonly id: string; readonly events: readonly RiffEvent[]; readonly on?: typeof setup }[],
  bars = 2,
): Piece {
  return makePiece('p', 'P', {
    parts: parts.map(({ id, events, on }) =>
      makePart(id, id.toUpperCase(), on ?? setup, {
        riffs: [
          makeRiff(`r${id}`, id, {
            bars,
            events: events.map((event) => ({
              ...event,
              id: `${id}${event.id}`,
              notes: event.notes.map((note) => ({ ...note, id: `${id}${note.id}` })),
            })),
          }),
        ],
      }),
    ),
    sections: [
      {
        id: 's',
        name: 'Verse',
        kind: 'verse',
        bars,
        rows: parts.map(({ id }) => ({ part: id, uses: [{ id: `u${id}`, riff: `r${id}`, plays: 1 }] })),
      },
    ],
  });
}
const linesOf = (one: Piece): Line[] => one.parts.flatMap((part) => resolve(one, part.id) ?? []);

describe('parts together', () => {
  it('what rings at a moment, on which string of whom, and who is silent', () => {
    const held = makeEvent('h', ZERO, quarter(4), [
      makeNote('hn', 40, 'instructor', { place: makePlace(6, 0, 'instructor') }),
    ]);
    const lines = linesOf(
      piece([
        {
          id: 'a',
          events: line([
            [5, 3],
            [5, 5],
          ]),
        },
        { id: 'b', events: [held] },
      ]),
    );
    const names = (at: number) =>
      ringingAt(lines, quarter(at, 4)).map((one) => `${one.part}${one.note.pitch.midi}${one.struck ? '!' : ''}`);
    expect(names(0)).toEqual(['a48!', 'b40!']);
    expect(names(3)).toEqual(['a50', 'b40']);
    expect(names(4)).toEqual(['b40']);
    expect(silencesOf(lines)).toEqual([
      { part: 'a', from: 1, to: 1 },
      { part: 'b', from: 1, to: 1 },
    ]);
  });
});

describe('fewer players', () => {
  it('with as many players as parts nothing is lost; fewer never keep more', () => {
    const part = fc.array(fc.tuple(fc.integer({ min: 1, max: 6 }), fc.integer({ min: 0, max: 9 })), {
      minLength: 2,
      maxLength: 10,
    });
    fc.assert(
      fc.property(fc.array(part, { minLength: 2, maxLength: 4 }), (parts) => {
        const lines = linesOf(
          piece(
            parts.map((places, i) => ({ id: 'abcd'.charAt(i), events: line(places) })),
            2,
          ),
        );
        let before = 2;
        for (let players = lines.length; players >= 1; players--) {
          const made = reduce(lines, players);
          expect(made.keep).toHaveLength(players);
          expect(made.share).toBeLessThanOrEqual(before + 1e-9);
          before = made.share;
          if (players === lines.length) expect(made).toMatchObject({ share: 1, lost: [], taken: [] });
          const all = lines.flatMap((one) => one.riff.events.flatMap((event) => event.notes)).length;
          const kept = lines
            .filter((one) => made.keep.includes(one.part.id))
            .flatMap((one) => one.riff.events.flatMap((event) => event.notes)).length;
          expect(kept + made.taken.length + made.lost.length).toBe(all);
          for (const one of made.taken) {
            const by = lines.find((each) => each.part.id === one.by);
            if (by && one.place) expect(must(pitchAt(by.part.setup, one.place))).toBe(one.note.pitch.midi);
          }
        }
      }),
      { numRuns: 40 },
    );
  });
  it('a player never has a string in two places at once, and own notes stay as they are', () => {
    const chord = (string: number, fret: number) =>
      line([
        [string, fret],
        [string, fret],
        [string, fret],
      ]);
    const lines = linesOf(
      piece([
        { id: 'a', events: chord(6, 3) },
        { id: 'b', events: chord(5, 5) },
        { id: 'c', events: chord(2, 15) },
      ]),
    );
    const made = reduce(lines, 2);
    for (const one of lines.filter((each) => made.keep.includes(each.part.id))) {
      const events = lineOf(one, made);
      for (const event of events)
        expect(new Set(event.notes.map((note) => note.place?.string)).size).toBe(event.notes.length);
      expect(
        events.flatMap((event) => event.notes.filter((note) => !note.id.endsWith('+'))).map((note) => note.id),
      ).toEqual(one.riff.events.flatMap((event) => event.notes.map((note) => note.id)));
    }
    expect(lostBars(made, null).every((one, i, all) => i === 0 || (all[i - 1]?.weight ?? 0) >= one.weight)).toBe(true);
  });
  it('what is doubled or played in a rest is taken, what no hand reaches is lost, the outer voice heard first', () => {
    const low = line([
      [6, 3],
      [6, 3],
      [6, 3],
      [6, 3],
    ]);
    const doubled = reduce(
      linesOf(
        piece([
          { id: 'a', events: low },
          { id: 'b', events: low },
        ]),
      ),
      1,
    );
    expect([doubled.share, doubled.taken[0]?.how]).toEqual([1, 'doubled']);
    const late = low.map((event) => ({ ...event, at: quarter(6) })).slice(0, 1);
    expect(
      reduce(
        linesOf(
          piece([
            { id: 'a', events: low },
            { id: 'b', events: late },
          ]),
        ),
        1,
      ).taken[0]?.how,
    ).toBe('free');
    const far = line([
      [1, 15],
      [1, 15],
      [1, 15],
      [1, 15],
    ]);
    const torn = reduce(
      linesOf(
        piece([
          { id: 'a', events: low },
          { id: 'b', events: far },
        ]),
      ),
      1,
    );
    expect(torn.lost).toHaveLength(4);
    expect(lostBars(torn, null)[0]).toMatchObject({ bar: 0, words: '4 notes: G5' });
    const basses = linesOf(
      piece([
        { id: 'a', events: line([[4, 3]], true, bass), on: bass },
        { id: 'b', events: far },
      ]),
    );
    expect(reduce(basses, 1).lost.length).toBeGreaterThan(0);
  });
});

describe('an easier level', () => {
  const riff = (events: readonly RiffEvent[]) => makeRiff('r', 'R', { events, bars: 1 });
  const run = line(
    [
      [5, 3],
      [5, 5],
      [4, 3],
      [4, 5],
      [3, 2],
      [3, 4],
      [2, 3],
      [2, 5],
    ],
    false,
  );
  const quick = run.map((event, i) => ({ ...event, at: quarter(i, 4), dur: quarter(1, 4) }));
  it('a run becomes slower: notes on the beats stay and sound through', () => {
    const [one] = easierBars(riff(quick), setup, TEMPO);
    expect(one).toMatchObject({ rule: 'fewer notes', bar: 0, words: '4 notes less: 8 a second become 4' });
    expect(one?.remove).toEqual(['e1', 'e3', 'e5', 'e7']);
    expect(one?.put.map((event) => [event.at, event.dur])).toEqual([
      ['0', '1/2'],
      ['1/2', '1/2'],
      ['1', '1/2'],
      ['3/2', '1/2'],
    ]);
    expect(easierBars(riff(run), setup, TEMPO)).toEqual([]);
  });
  it('a barre and a wide grip lose what is needed least, never their outer notes', () => {
    const grip = (places: readonly (readonly [number, number])[]): RiffEvent =>
      makeEvent(
        'g',
        ZERO,
        quarter(4),
        places.map(([string, fret], i) =>
          makeNote(`g${i}`, must(pitchAt(setup, { string, fret })), 'instructor', {
            place: makePlace(string, fret, 'solver'),
          }),
        ),
      );
    const placed = placeRiff(
      riff([
        grip([
          [6, 1],
          [5, 3],
          [4, 3],
          [3, 2],
          [2, 1],
          [1, 1],
        ]),
      ]),
      setup,
      TEMPO,
    ).riff;
    const found = easierBars(placed, setup, TEMPO).find((one) => one.rule === 'no barre');
    expect(found?.put[0]?.notes.length).toBeLessThan(6);
    const outer = [...(found?.put[0]?.notes ?? [])].map((note) => note.pitch.midi).sort((a, b) => a - b);
    expect([outer[0], outer.at(-1)]).toEqual([41, 65]);
    const wide = easierBars(
      riff([
        grip([
          [6, 1],
          [5, 3],
          [4, 5],
          [3, 5],
        ]),
      ]),
      setup,
      TEMPO,
    ).find((one) => one.rule === 'smaller reach');
    expect(wide).toBeUndefined();
  });
  it('never touches what is locked, and what is accepted is a valid piece', () => {
    const events = fc.array(fc.tuple(fc.integer({ min: 1, max: 6 }), fc.integer({ min: 0, max: 9 }), fc.boolean()), {
      minLength: 3,
      maxLength: 16,
    });
    fc.assert(
      fc.property(events, (list) => {
        const made = list.map(([string, fret, keep], i): RiffEvent => ({
          ...(line([[string, fret]], keep)[0] as RiffEvent),
          ...{ id: `e${i}`, at: quarter(i, 4), dur: quarter(1, 4) },
          notes: (line([[string, fret]], keep)[0] as RiffEvent).notes.map((note) => ({ ...note, id: `n${i}` })),
        }));
        const whole = makePiece('p', 'P', {
          parts: [makePart('g', 'G', setup, { riffs: [makeRiff('r', 'R', { events: made, bars: 1 })] })],
        });
        const fixed = new Set(made.filter((event) => event.notes[0]?.place?.locked).map((event) => event.id));
        for (const one of easierBars(makeRiff('r', 'R', { events: made, bars: 1 }), setup, TEMPO, STARTER)) {
          expect([...one.remove, ...one.put.map((event) => event.id)].filter((id) => fixed.has(id))).toEqual([]);
          const after = applyEdit(whole, {
            type: 'putEvents',
            part: 'g',
            riff: 'r',
            put: one.put as never,
            remove: [...one.remove],
          });
          expect(after.ok).toBe(true);
        }
      }),
      { numRuns: 60 },
    );
    expect(barStart([{ bar: 0, beats: 4, unit: 4 }], 1)).toBe('4');
  });
});
