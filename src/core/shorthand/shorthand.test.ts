import fc from 'fast-check';
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { articulationOf, riffStart, type Riff, joinOf } from '../score';
import { riffArbitrary, setupArbitrary } from '../score/test-support/arbitrary';
import { quarter, ZERO } from '../time';
import { calledToEvents, FIRST_LENGTH, printCalls, readCalls, type CallContext } from './index';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const lowered = must(makeSetup({ instrument: 'guitar-6', tuning: 'drop-c' })).setup;
const context = (extra: Partial<CallContext> = {}): CallContext => ({
  setup,
  meters: [{ bar: 0, beats: 4, unit: 4 }],
  at: ZERO,
  length: FIRST_LENGTH,
  string: null,
  ...extra,
});
const read = (text: string, extra: Partial<CallContext> = {}) => readCalls(text, context(extra));
const places = (text: string, extra: Partial<CallContext> = {}): string =>
  read(text, extra)
    .events.map((event) =>
      event.notes.map((note) => (note.place ? `${note.place.string}/${note.place.fret}` : `=${note.pitch}`)).join('+'),
    )
    .join(' ');

/** What calls say of a riff: everything but ids, and who proposed what is only proposed. */
const phrase = (riff: Pick<Riff, 'events'>): unknown =>
  riff.events.map((event) => ({
    at: event.at,
    dur: event.dur,
    link: joinOf(event),
    ring: event.letRing,
    bar: event.slideBar ?? false,
    manner: articulationOf(event),
    notes: event.notes.map((note) => ({
      pitch: note.pitch.midi,
      cents: note.pitch.cents,
      dur: note.dur,
      tech: note.technique ?? {},
      certainty: note.certainty,
      evidence: note.evidence,
      place: note.place && {
        or: note.place.otherFinger ?? null,
        reason: note.place.reason,
        string: note.place.string,
        fret: note.place.fret,
        locked: note.place.locked,
        finger: note.place.finger,
        yours: note.place.fret > 0 && note.place.finger !== null && note.place.fingerBy === 'instructor',
      },
    })),
  }));

describe('printing and reading', () => {
  it('give the same riff again, for any riff on any set-up', () => {
    fc.assert(
      fc.property(
        setupArbitrary.chain((setup) => riffArbitrary(setup).map((riff) => ({ riff, s: setup }))),
        ({ riff, s: setup }) => {
          const text = printCalls(riff, riffStart(riff), { setup: setup, frets: 'capo' }, true);
          // Everything is in the text: what the riff is framed by beforehand is another meter.
          const called = readCalls(text, {
            setup: setup,
            meters: [{ bar: 0, beats: 4, unit: 4 }],
            at: riffStart(riff),
            length: FIRST_LENGTH,
            string: null,
          });
          expect(called.faults, text).toEqual([]);
          expect(phrase({ events: calledToEvents(called, new Set()) }), text).toEqual(phrase(riff));
          expect(called.frame).toEqual({
            meters: riff.meters,
            ...(riff.tempo ? { tempo: riff.tempo } : {}),
            ...(riff.feel ? { feel: riff.feel } : {}),
          });
        },
      ),
      { numRuns: 300 },
    );
  });

  it('says nothing ambiguous', () => {
    fc.assert(
      fc.property(riffArbitrary(setup), (riff) => {
        const called = read(printCalls(riff), { meters: riff.meters, at: riffStart(riff) });
        expect(called.tokens.filter((understood) => understood.readings.length > 0)).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });
});

describe('strings', () => {
  it('go by number, nominal letter or sounding letter, and stay until another is said', () => {
    expect(places('on 6 open 3, on 5 2')).toBe('6/0 6/3 5/2');
    expect(places('A3 D 5 7')).toBe('5/3 4/5 4/7');
    expect(places('thin E 3 thick E 3')).toBe('1/3 6/3');
    expect(places('C3', { setup: lowered })).toBe('6/3');
  });

  it('of one letter are told apart by nearness, with the other offered', () => {
    const called = read('on 2 1 E3');
    expect(called.events[1]?.notes[0]?.place?.string).toBe(1);
    expect(
      called.tokens.find((understood) => understood.from === 7)?.readings.map((interpretation) => interpretation.text),
    ).toEqual(['on 1 3', 'on 6 3', 'note E3']);
  });
});

describe('ambiguous names', () => {
  it('E7 is a fret, or the other E, or a chord; every reading can be said plainly and then means itself', () => {
    const [token] = read('E7').tokens;
    expect(token?.readings.map((interpretation) => interpretation.text)).toEqual(['on 6 7', 'on 1 7', 'chord E7']);
    expect(places('on 1 7')).toBe('1/7');
    expect(read('chord E7').events[0]?.notes.map((note) => note.pitch)).toEqual([40, 47, 50, 56, 59, 64]);
  });

  it('D3 is fret 3 of the D string, or the pitch', () => {
    const [token] = read('D3').tokens;
    expect(token?.readings.map((interpretation) => interpretation.text)).toEqual(['on 4 3', 'note D3']);
    expect(places('note D3')).toBe('=50');
    expect(places('C#4')).toBe('=61');
  });

  it('repeat 2 is three plays, or two', () => {
    const called = read('[A3] repeat 2');
    expect(called.events).toHaveLength(3);
    expect(
      called.tokens
        .find((understood) => understood.readings.length > 0)
        ?.readings.map((interpretation) => interpretation.text),
    ).toEqual(['3 times', '2 times']);
    expect(read('[A3] twice').events).toHaveLength(2);
  });

  it('chord shapes sound lower on a lowered guitar', () => {
    expect(read('chord G', { setup: lowered }).events[0]?.notes.map((note) => note.pitch % 12)).toContain(5);
  });
});

describe('time', () => {
  it('runs by default lengths, single lengths, rests and groups', () => {
    const called = read('sixteenths A0 2 for dotted quarter rest for 1/3 [on 4 2 open] 2 times quarters 5 held 4');
    expect(called.events.map((event) => event.at)).toEqual(['0', '1/4', '25/12', '7/3', '31/12', '17/6', '37/12']);
    expect(called.events.at(-1)?.dur).toBe('4');
    expect(called.end).toBe('49/12');
  });

  it('says at once when a bar is short or over, and goes on from the bar line', () => {
    const short = read('quarters A3 3 3 | A5');
    expect(short.warnings[0]?.words).toContain('1 of 4 quarters missing');
    expect(short.events[3]?.at).toBe('4');
    const over = read('halves A3 3 3 | A5');
    expect(over.warnings[0]?.words).toContain('2 quarters more');
    expect(read('quarters A3 3 3 3 | 5').warnings).toEqual([]);
  });

  it('counts a pickup up to the first bar line', () => {
    const called = read('eighths A3 | on 4 5', { at: quarter(-1, 2) });
    expect(called.warnings).toEqual([]);
    expect(called.events.map((event) => event.at)).toEqual(['-1/2', '0']);
  });
});

describe('joins', () => {
  it('join on one string in their direction', () => {
    expect(read('on 4 5 hammer 7 pull 5 slide to 9').events.map((event) => event.notes[0]?.join)).toEqual([
      'hammer',
      'pull',
      'slide',
      undefined,
    ]);
  });
  it('are refused where a hand can’t make them, saying why', () => {
    const why = (text: string): string => read(text).faults[0]?.words ?? '';
    expect(why('on 4 5 hammer 3')).toContain('higher fret');
    expect(why('on 4 5 pull 7')).toContain('lower fret');
    expect(why('on 4 5 hammer on 3 7')).toContain('one string');
    expect(why('on 4 open slide 5')).toContain('open');
    expect(why('hammer 5')).toContain('Nothing comes before');
  });
});

describe('faults', () => {
  const faultOf = (text: string): [string, string] => {
    const { faults } = read(text);
    const [finding] = faults;
    return finding ? [text.slice(finding.locus.text.from, finding.locus.text.to), finding.words] : ['', ''];
  };
  it('underline the token and say what was expected', () => {
    expect(faultOf('on 9 3')[0]).toBe('on 9');
    expect(faultOf('on 9 3')[1]).toContain('1 (thinnest) to 6');
    expect(faultOf('on 5 44')).toEqual(['44', 'There is no fret 44; this string ends at 22.']);
    expect(faultOf('5')[1]).toContain('On which string');
    expect(faultOf('A3 wobble')[0]).toContain('wobble');
    expect(faultOf('on 4 5 on 3')[1]).toContain('Expected a fret');
    expect(faultOf('A3 with 7')[1]).toContain('Fingers are');
    expect(faultOf('grip 1 2 3')[1]).toContain('all 6 strings');
    expect(faultOf('on 5 3 + on 5 5')[1]).toContain('two notes at once');
    expect(faultOf('[A3] 9999 times')[1]).toContain('500');
    expect(faultOf('A3 for 0')[1]).toContain('above 0');
    expect(faultOf('note C9')[1]).toContain('does not exist');
  });

  it('do not stop the rest from being read', () => {
    expect(places('A3 wobble on 4 5')).toBe('5/3 4/5');
  });

  it('come back for any text whatever, without an exception or a hang', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200, unit: 'binary' }), (text) => {
        expect(Array.isArray(read(text).faults)).toBe(true);
      }),
      { numRuns: 300 },
    );
    const words = [
      'on',
      '5',
      'A3',
      '[',
      ']',
      '3',
      'times',
      '+',
      'hammer',
      'for',
      '1/2',
      'ring',
      '?',
      'with',
      '|',
      'rest',
      'grip',
      'x',
      'chord',
      'E',
      'note',
      'twice',
      'dotted',
      'eighths',
    ];
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...words), { maxLength: 40 }), (list) => {
        expect(Array.isArray(read(list.join(' ')).events)).toBe(true);
      }),
      { numRuns: 500 },
    );
    expect(read('x'.repeat(300_000)).faults[0]?.words).toContain('at most');
    expect(read(`${'['.repeat(400)}A3${'] 500 times'.repeat(400)}`).events.length).toBeLessThan(25_000);
  });
});

describe('the grammar', () => {
  it('is the one its parser was made from', () => {
    const root = path.resolve(import.meta.dirname, '../../..');
    const made = execFileSync(
      process.execPath,
      [
        path.join(root, 'node_modules/.bin/lezer-generator'),
        path.join(import.meta.dirname, 'calls.grammar'),
        '--typeScript',
        '-o',
        path.join(root, 'test-results-grammar.ts'),
      ],
      { encoding: 'utf8' },
    );
    expect(made).toBeDefined();
    const fresh = readFileSync(path.join(root, 'test-results-grammar.ts'), 'utf8');
    execFileSync('rm', [
      '-f',
      path.join(root, 'test-results-grammar.ts'),
      path.join(root, 'test-results-grammar.terms.ts'),
    ]);
    expect(readFileSync(path.join(import.meta.dirname, 'calls.parser.ts'), 'utf8')).toBe(fresh);
  });
});
