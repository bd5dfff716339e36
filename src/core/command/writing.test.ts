import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup, tiltCents } from '../instrument';
import { applyEdit, type Edit } from '../edit';
import { makePart, makePiece, makeRiff, riffStart, type Piece, type Riff } from '../score';
import {
  addGrace,
  keepAlternative,
  mergedTechnique,
  moveEvents,
  moveNotes,
  movedWords,
  putSpecial,
  removeEvents,
  retime,
  rewriteEvents,
  saidFrame,
  setFingerOption,
  setFrame,
  setArticulation,
  setTechniqueOfAll,
  setTilt,
  swapAlternative,
  withFeel,
  withMeter,
  withRamp,
  withAlternative,
  withTempo,
} from './index';
import { riffArbitrary, setupArbitrary } from '../score/test-support/arbitrary';
import { calledToEvents, FIRST_LENGTH, printCalls, readCalls } from '../shorthand';
import { quarter, ZERO, type Quarter } from '../time';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const FOUR: Riff['meters'] = [{ bar: 0, beats: 4, unit: 4 }];

function pieceOf(calls: string): Piece {
  const called = readCalls(calls, { setup, meters: FOUR, at: ZERO, length: FIRST_LENGTH, string: null });
  expect(called.faults, calls).toEqual([]);
  return makePiece('p', 'P', {
    parts: [
      makePart('p0', 'Guitar', setup, {
        riffs: [makeRiff('r', 'Riff', { bars: 2, events: calledToEvents(called, new Set()) })],
      }),
    ],
  });
}
const riffIn = (piece: Piece): Riff => piece.parts[0]?.riffs[0] as Riff;
const done = (piece: Piece, edit: Edit): Piece => must(applyEdit(piece, edit));
const spec = (piece: Piece): string => printCalls(riffIn(piece), riffStart(riffIn(piece)), { setup, frets: 'capo' });
const all = (piece: Piece): string[] => riffIn(piece).events.map((event) => event.id);
const why = (made: { ok: true } | { ok: false; error: { words: string } }): string =>
  made.ok ? 'ok' : made.error.words;

describe('ways of playing', () => {
  const piece = pieceOf('eighths on 5 open on 5 3 hammer 5 on 1 5 + on 2 5');
  const [open = '', struck = '', slurred = '', chord = ''] = all(piece);
  it('are refused with the reason where no hand can', () => {
    expect(why(setTechniqueOfAll(piece, 'r', [open], { bend: 200 }))).toContain('no finger that could bend');
    expect(why(setTechniqueOfAll(piece, 'r', [open], { vibrato: 40 }))).toContain('no finger that could shake');
    expect(why(setTechniqueOfAll(piece, 'r', [chord], { bend: 100, bendDirection: 'thin' }))).toContain(
      'thinnest string can’t be pulled',
    );
    expect(why(setTechniqueOfAll(piece, 'r', [chord], { bendDirection: 'thick' }))).toContain('needs a bend');
    expect(why(setArticulation(piece, 'r', [slurred], { stroke: 'up' }))).toContain('is not struck');
    expect(why(setArticulation(piece, 'r', [struck], { quickSlide: true }))).toContain('No slide leads here');
    expect(why(setArticulation(piece, 'r', [struck], { roll: 'thick-first' }))).toContain('two notes at least');
    expect(why(setArticulation(piece, 'r', [struck], { tilt: 5 }))).toContain('slide bar');
    const rings = pieceOf('on 5 3 ring');
    expect(why(setArticulation(rings, 'r', all(rings), { gate: 50 }))).toContain('can’t ring on');
    expect(why(setTechniqueOfAll(pieceOf('on 6 1'), 'r', ['e0'], { slideIn: 'lower' }))).toContain('no fret below');
  });
  it('go together as they must: no size left unsaid, no curve without its bend', () => {
    expect(mergedTechnique({ unspecified: ['bend'] }, { bend: 150 })).toEqual({ bend: 150 });
    expect(
      mergedTechnique(
        {
          bend: 200,
          bendCurve: [
            { at: 0, cents: 200 },
            { at: 50, cents: 0 },
          ],
          bendDirection: 'thick',
        },
        { bend: null },
      ),
    ).toEqual({});
    expect(
      mergedTechnique(
        {
          bend: 200,
          bendCurve: [
            { at: 0, cents: 200 },
            { at: 50, cents: 0 },
          ],
        },
        { bend: 100 },
      ),
    ).toEqual({ bend: 100 });
  });
  it('another finger that would do decides the first', () => {
    const fingered = pieceOf('on 5 3 with 1');
    const [event] = riffIn(fingered).events;
    const ref = { riff: 'r', event: event?.id ?? '', note: event?.notes[0]?.id ?? '' };
    expect(spec(done(fingered, must(setFingerOption(fingered, ref, 2))))).toContain('with 1 or 2');
    expect(why(setFingerOption(fingered, ref, 1))).toContain('not the same again');
  });
  it('a tilted bar sounds thinner strings higher by its geometry', () => {
    const slide = pieceOf('on 4 5 bottleneck + on 3 5 + on 2 5'.replace(' bottleneck', '') + ' bottleneck');
    const [id = ''] = all(slide);
    const tilted = done(slide, must(setTilt(slide, 'r', id, 10)));
    const cents = riffIn(tilted).events[0]?.notes.map((note) => note.pitch.cents) ?? [];
    expect(cents[0]).toBe(0);
    expect(cents[1]).toBeGreaterThan(3);
    expect(cents[2]).toBeGreaterThan(cents[1] ?? 0);
    // 8 mm spacing or so, tan 10 degrees, on a string of 485 mm: 1200 log2(L / (L - d)).
    expect(tiltCents(setup, { string: 3, fret: 5 }, 4, 10)).toBe(cents[1]);
    expect(
      riffIn(done(tilted, must(setTilt(tilted, 'r', id, null)))).events[0]?.notes.every(
        (note) => note.pitch.cents === 0,
      ),
    ).toBe(true);
  });
});

describe('holes and graces', () => {
  it('stand where they are put, and graces go with their note', () => {
    let piece = pieceOf('quarters on 5 3 5 7');
    piece = done(piece, must(putSpecial(piece, 'r', 'hole', quarter(1), quarter(1))));
    expect(spec(piece)).toBe('quarters on 5 3 hole 7');
    const last = all(piece)[2] ?? '';
    piece = done(piece, must(addGrace(piece, 'r', last)));
    expect(spec(piece)).toContain('grace 5? hammer 7'.replace('5?', '5'));
    const main = riffIn(piece).events.find((event) => event.at === '2')?.id ?? '';
    piece = done(piece, must(moveEvents(piece, 'r', [main], quarter(1))));
    expect(
      riffIn(piece)
        .events.filter((event) => event.grace)
        .map((event) => event.at),
    ).toEqual(['23/8']);
    piece = done(piece, must(removeEvents(piece, 'r', [main])));
    expect(riffIn(piece).events.some((event) => event.grace)).toBe(false);
  });
});

describe('moving', () => {
  it('in shape keeps strings and counts the open ones lost, in sound keeps intervals, across strings keeps frets', () => {
    const piece = pieceOf('eighths on 5 open on 4 2 on 3 2 with 2');
    const shape = must(moveNotes(piece, 'r', all(piece), { by: 'frets', steps: 3 }));
    expect(spec(done(piece, shape.edit))).toBe('on 5 3 on 4 5 on 3 5 with 2');
    expect(movedWords(shape.moved)).toBe('An open string has become stopped.');
    expect(spec(done(piece, must(moveNotes(piece, 'r', all(piece), { by: 'strings', steps: -1 })).edit))).toBe(
      'on 4 open on 3 2 on 2 2 with 2',
    );
    const sound = must(moveNotes(piece, 'r', all(piece), { by: 'semitones', steps: 12 }));
    expect(riffIn(done(piece, sound.edit)).events.map((event) => event.notes[0]?.pitch.midi)).toEqual([57, 64, 69]);
    expect(sound.moved.lostLocks).toBe(3);
    expect(why(moveNotes(piece, 'r', all(piece), { by: 'frets', steps: -1 }))).toContain(
      'no fret below the open string',
    );
    expect(why(moveNotes(piece, 'r', all(piece), { by: 'strings', steps: 3 }))).toContain('no string so far');
    expect(why(moveNotes(piece, 'r', all(piece), { by: 'semitones', steps: 60 }))).toContain('would not exist');
  });
  it('there and back again in shape is where it was, for any riff that goes', () => {
    fc.assert(
      fc.property(
        setupArbitrary.chain((setup) => riffArbitrary(setup).map((riff) => ({ riff, s: setup }))),
        fc.integer({ min: 1, max: 4 }),
        ({ riff, s: setup }, steps) => {
          const piece = makePiece('p', 'P', { parts: [makePart('p0', 'G', setup, { riffs: [riff] })] });
          // Only what has a finger on every note comes back with its finger.
          const stopped = riff.events
            .filter((event) => event.notes.length > 0 && event.notes.every((note) => note.place && note.place.fret > 0))
            .map((event) => event.id);
          const up = moveNotes(piece, riff.id, stopped, { by: 'frets', steps });
          if (!up.ok) return;
          const there = done(piece, up.value.edit);
          const back = done(there, must(moveNotes(there, riff.id, stopped, { by: 'frets', steps: -steps })).edit);
          expect(back).toEqual(piece);
        },
      ),
      { numRuns: 80 },
    );
  });
});

describe('readings', () => {
  it('are taken and given back without loss, as often as one likes', () => {
    let piece = pieceOf('quarters on 5 3 hammer 5 on 4 5 on 4 7');
    const before = spec(piece);
    piece = done(piece, must(keepAlternative(piece, 'r', quarter(1), quarter(3), 'first', 'heard so')));
    const ids = all(piece);
    piece = done(piece, must(removeEvents(piece, 'r', [ids[1] ?? '', ids[2] ?? ''])));
    piece = done(piece, must(putSpecial(piece, 'r', 'hole', quarter(1), quarter(2))));
    const after = spec(piece);
    expect(
      withAlternative(riffIn(piece), (riffIn(piece).alternatives ?? [])[0] as never).events.map((event) => event.at),
    ).toEqual(['0', '1', '2', '3']);
    const id = riffIn(piece).alternatives?.[0]?.id ?? '';
    for (let i = 0; i < 3; i++) {
      piece = done(piece, must(swapAlternative(piece, 'r', id)));
      expect(spec(piece).replace('3 hammer 5', '3 5')).toBe(before.replace('3 hammer 5', '3 5'));
      expect(riffIn(piece).alternatives?.[0]?.name).toBe('instead of first');
      piece = done(piece, must(swapAlternative(piece, 'r', id)));
      expect(spec(piece)).toBe(after);
    }
  });
});

describe('text in place of notes', () => {
  it('keeps what says the same, with its ids, changes the rest, and refuses to cover what follows', () => {
    const piece = pieceOf('quarters on 5 3 5 7 8');
    const ids = all(piece);
    const read = (calls: string) => {
      const called = readCalls(calls, { setup, meters: FOUR, at: ZERO, length: FIRST_LENGTH, string: null });
      return { events: calledToEvents(called, new Set()), end: called.end };
    };
    const same = read('quarters on 5 3 5 palm');
    const next = done(piece, must(rewriteEvents(piece, 'r', ids.slice(0, 2), same.events, same.end)));
    expect(all(next)[0]).toBe(ids[0]);
    expect(spec(next)).toBe('quarters on 5 3 5 palm 7 8');
    const longer = read('quarters on 5 3 5 6');
    expect(why(rewriteEvents(piece, 'r', ids.slice(0, 2), longer.events, longer.end))).toContain(
      'would cover the note after it by a quarter',
    );
  });
  it('of any riff, read back unchanged, changes nothing', () => {
    fc.assert(
      fc.property(
        setupArbitrary.chain((setup) => riffArbitrary(setup).map((riff) => ({ riff, s: setup }))),
        ({ riff, s: setup }) => {
          const piece = makePiece('p', 'P', { parts: [makePart('p0', 'G', setup, { riffs: [riff] })] });
          const called = readCalls(printCalls(riff, riffStart(riff), { setup: setup, frets: 'capo' }, true), {
            setup: setup,
            meters: riff.meters,
            at: riffStart(riff),
            length: FIRST_LENGTH,
            string: null,
          });
          const edit = must(
            rewriteEvents(
              piece,
              riff.id,
              riff.events.map((event) => event.id),
              calledToEvents(called, new Set()),
              called.end,
            ),
          );
          expect(edit).toMatchObject({ put: [], remove: [] });
          expect(saidFrame(piece, riff.id, called.frame, called.end, true)).toBeNull();
        },
      ),
      { numRuns: 120 },
    );
  });
});

describe('the frame of a riff', () => {
  it('takes meters, tempo, ramps and feel from a place on', () => {
    expect(withMeter(FOUR, 2, { beats: 7, unit: 8 })).toEqual([...FOUR, { bar: 2, beats: 7, unit: 8 }]);
    const tempo = withRamp(withTempo([{ at: ZERO, bpm: 100 }], quarter(8), 60), quarter(3), true);
    expect(tempo).toEqual([
      { at: '0', bpm: 100, ramp: true },
      { at: '8', bpm: 60 },
    ]);
    expect(withFeel(undefined, { at: quarter(4), swing: 60, unit: '1/2' })).toEqual([
      { at: '0', swing: 50, unit: '1/2' },
      { at: '4', swing: 60, unit: '1/2' },
    ]);
    expect(withFeel([{ at: ZERO, swing: 60, unit: '1/2' }], { at: ZERO, swing: 50, unit: '1/2' })).toBeNull();
    const piece = pieceOf('on 5 3');
    const framed = done(piece, must(setFrame(piece, 'r', { plays: 4, picking: 'economy' })));
    expect(riffIn(done(framed, must(setFrame(framed, 'r', { plays: null }))))).not.toHaveProperty('plays');
    expect(riffIn(framed).picking).toBe('economy');
  });
  it('said within calls is laid over what there is', () => {
    const piece = pieceOf('on 5 3');
    const read = readCalls('rest for whole tempo 80 ramp on 5 3 for whole tempo 60', {
      setup,
      meters: FOUR,
      at: ZERO,
      length: FIRST_LENGTH,
      string: null,
    });
    expect(riffIn(done(piece, must(saidFrame(piece, 'r', read.frame, read.end, false) as never))).tempo).toEqual([
      { at: '0', bpm: 96 },
      { at: '4', bpm: 80, ramp: true },
      { at: '8', bpm: 60 },
    ]);
  });
});

describe('tapped times', () => {
  it('are laid on the notes in order, each lasting to the next', () => {
    const piece = pieceOf('quarters on 5 3 5 7 for whole');
    const times: Quarter[] = [ZERO, quarter(3, 4), quarter(1)];
    expect(
      riffIn(done(piece, must(retime(piece, 'r', all(piece), times)))).events.map((event) => [event.at, event.dur]),
    ).toEqual([
      ['0', '3/4'],
      ['3/4', '1/4'],
      ['1', '4'],
    ]);
    expect(why(retime(piece, 'r', all(piece), [ZERO]))).toContain('3 notes are chosen and 1 were tapped');
    expect(why(retime(piece, 'r', all(piece).slice(0, 2), [ZERO, quarter(5)]))).toContain('run into what follows');
  });
});
