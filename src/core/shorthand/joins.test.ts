import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { callRiff } from '../callout';
import { bestWay, problemOf, solve } from '../place';
import { playedNotes } from '../synth';
import { checkRiff, makeRiff, type Riff } from '../score';
import { quarter, ZERO } from '../time';
import { FIRST_LENGTH } from './print';
import { calledToEvents, printCalls, readCalls, type Called } from './index';

/** Joins within chords, as an instructor calls them: some fingers move, others hold or ring. */

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const METERS = [{ bar: 0, beats: 4, unit: 4 }];
const TEMPO = [{ at: ZERO, bpm: 100 }];

const read = (text: string): Called =>
  readCalls(text, { setup, meters: METERS, at: ZERO, length: FIRST_LENGTH, string: null });

function called(text: string): Riff {
  const { faults, ...rest } = read(text);
  expect(faults.map((fault) => fault.words)).toEqual([]);
  const riff = makeRiff('r', 'Lantern', { events: calledToEvents({ faults, ...rest }, new Set()) });
  must(checkRiff(riff, setup));
  return riff;
}

/** String/fret(finger) of every note; "-" where one was left out. */
function placed(riff: Riff): string[] {
  const solution = solve(problemOf(riff, setup, TEMPO));
  expect(solution.blocked.map((blocked) => blocked.words)).toEqual([]);
  return bestWay(solution).events.map((event) =>
    event.notes.map((note) => (note ? `${note.string}/${note.fret}(${note.finger})` : '-')).join(' '),
  );
}

/** Of each event, for each of its notes: struck, or sounding on. */
const struck = (riff: Riff): boolean[][] => {
  const notes = playedNotes(riff, setup, TEMPO, { from: ZERO, to: quarter(4), speed: 1 });
  return riff.events.map((event) => notes.filter((note) => note.event === event.id).map((note) => note.struck));
};

describe('a barre with two fingers hammered above it', () => {
  const riff = called('on 4 9 + on 3 9 + on 2 9 hammer on 4 11 + on 2 10');

  it('keeps the string that isn’t said: it lasts under the hammered notes', () => {
    expect(riff.events[0]?.notes.map((note) => [note.place?.string, note.join ?? null, note.dur])).toEqual([
      [4, 'hammer', null],
      [3, null, '1'],
      [2, 'hammer', null],
    ]);
  });
  it('is one finger lying and two above it', () => {
    expect(placed(riff)).toEqual(['4/9(1) 3/9(1) 2/9(1)', '4/11(3) 2/10(2)']);
  });
  it('is struck once: the hammered notes and the held one are not', () => {
    expect(struck(riff)).toEqual([
      [true, true, true],
      [false, false],
    ]);
  });
  it('is spoken with what is held', () => {
    expect(callRiff(riff, setup).join(' ')).toContain('while string 3 sounds on');
  });
  it('goes back by pull-offs onto the barre', () => {
    const back = called('on 4 9 + on 3 9 + on 2 9 hammer on 4 11 + on 2 10 pull on 4 9 + on 2 9');
    expect(placed(back).at(-1)).toBe('4/9(1) 2/9(1)');
    expect(back.events[0]?.notes[1]?.dur).toBe('3/2');
  });
});

describe('within a chord', () => {
  it('one inner note is hammered while the others hold', () => {
    const riff = called('on 5 open + on 4 2 + on 3 2 + on 2 1 hammer on 3 4');
    expect(placed(riff)[1]).toMatch(/^3\/4\([34]\)$/);
    expect(riff.events[0]?.notes.filter((note) => note.dur !== null)).toHaveLength(3);
  });
  it('one string of a double stop is pulled off while the other sounds', () => {
    const riff = called('on 2 5 + on 1 8 pull on 1 5');
    expect(riff.events[0]?.notes.map((note) => note.join ?? null)).toEqual([null, 'pull']);
    placed(riff);
  });
  it('a double stop slides under an open string that rings', () => {
    const riff = called('on 1 open under + on 3 4 + on 2 5 slide on 3 6 + on 2 7');
    expect(placed(riff)[1]).toBe('3/6(3) 2/7(4)');
  });
  it('double stops that change their shape on the way slide too, led by one finger', () => {
    placed(called('on 3 6 + on 2 5 slide on 3 7 + on 2 7'));
  });
  it('a note is hammered from nowhere over a held grip, and pulled off to nowhere', () => {
    const riff = called('on 4 2 + on 3 2 hammer on 2 3 to-nowhere');
    expect(riff.events[1]?.notes[0]?.technique).toEqual({ hammered: true, pulledOff: true });
    expect(riff.events[0]?.notes.map((note) => note.join ?? null)).toEqual([null, null]);
    expect(struck(riff)[1]).toEqual([false]);
    expect(placed(riff)[1]).toMatch(/^2\/3\([234]\)$/);
  });
  it('a note that stays is held and not hammered to itself', () => {
    const riff = called('on 4 2 + on 3 2 + on 2 1 hammer on 4 2 + on 3 4 + on 2 1');
    expect(struck(riff)[1]).toEqual([false, false, false]);
    expect(placed(riff)[1]).toMatch(/^4\/2\(\d\) 3\/4\(4\) 2\/1\(1\)$/);
  });
  it('a thumb strikes a bass while a finger hammers', () => {
    const riff = called('on 5 3 + on 2 open on 4 2 + hammer on 2 1');
    expect(struck(riff)[1]).toEqual([true, false]);
    expect(riff.events[0]?.notes[0]?.dur).toBeNull();
  });
  it('two notes go two ways at once', () => {
    const riff = called('on 4 9 + on 2 12 hammer on 4 11 + pull on 2 10');
    expect(riff.events[0]?.notes.map((note) => note.join)).toEqual(['hammer', 'pull']);
    placed(riff);
  });
  it('notes without strings are paired by the shortest way', () => {
    const riff = called('note E4 + note G4 hammer note A4');
    expect(riff.events[0]?.notes.map((note) => note.join ?? null)).toEqual([null, 'hammer']);
    placed(riff);
  });
  it('what leads nowhere is refused with what it could be', () => {
    expect(read('on 3 5 + on 2 5 slide on 1 7').faults[0]?.words).toContain('from-lower');
    expect(read('on 3 5 + on 2 5 pull on 1 3').faults[0]?.words).toContain('to pull off from');
    expect(read('on 3 5 + on 2 5 hammer on 3 4').faults[0]?.words).toContain('say "pull"');
  });
  it('is printed and read back the same', () => {
    for (const text of [
      'on 4 9 + on 3 9 + on 2 9 hammer on 4 11 + on 2 10 pull on 4 9 + on 2 9',
      'on 4 9 ends + on 3 9 ends + on 2 9 hammer on 2 10',
      'on 5 3 + on 2 open on 4 2 + hammer on 2 1',
      'on 4 9 + on 2 12 hammer on 4 11 + pull on 2 10',
      'on 2 3 + on 5 3 hammer on 2 5 + struck on 5 2',
    ]) {
      const once = printCalls(called(text));
      expect(printCalls(called(once)), text).toBe(once);
      expect(
        called(once).events.map((event) => event.notes.map((note) => [note.pitch.midi, note.dur, note.join])),
      ).toEqual(called(text).events.map((event) => event.notes.map((note) => [note.pitch.midi, note.dur, note.join])));
    }
  });
});

describe('unisons', () => {
  it('fretted and open ring into each other', () => {
    expect(placed(called('on 2 5 ring on 1 open ring'))).toEqual(['2/5(3)', '1/0(0)']);
    placed(called('on 2 5 + on 1 open ring'));
  });
  it('are bent into each other', () => {
    expect(placed(called('on 3 7 bend whole + on 2 5'))).toHaveLength(1);
  });
  it('ring in an open tuning whose strings repeat', () => {
    const open = must(makeSetup({ instrument: 'guitar-6', tuning: 'D A D F# A D' })).setup;
    const text = 'on 4 7 ring on 2 open ring on 4 7 ring on 2 open ring';
    const events = calledToEvents(
      readCalls(text, { setup: open, meters: METERS, at: ZERO, length: FIRST_LENGTH, string: null }),
      new Set(),
    );
    expect(solve(problemOf(makeRiff('r', 'x', { events }), open, TEMPO)).blocked).toEqual([]);
  });
});

describe('a bend of which nobody said how far', () => {
  it.each([
    ['bend ? released', 'released'],
    ['bend ? again', 'again'],
    ['prebend ?', 'prebend'],
    ['prebend ? released', 'prebend-released'],
  ])('keeps its shape: %s', (mark, shape) => {
    const riff = called(`on 3 7 ${mark}`);
    expect(riff.events[0]?.notes[0]?.technique).toEqual({ unspecified: ['bend'], bendShape: shape });
    expect(printCalls(riff)).toContain(mark);
  });
});
