import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { makePart, makeRiff, type FormEntry, type Riff } from '../score';
import { ZERO } from '../time';
import {
  BAR_MAPS,
  mapChords,
  parseBassLine,
  parseChordLine,
  parseRoute,
  parseRow,
  printBassLine,
  printChordLine,
  printRoute,
  printRow,
  type UseDraft,
} from './index';

const FOUR = [{ bar: 0, beats: 4, unit: 4 }];
const THREE = [{ bar: 0, beats: 3, unit: 4 }];
const chords = (line: string, bars = 8, meters = FOUR): string => {
  const read = parseChordLine(line, meters, bars);
  return read.ok
    ? read.value.map((step) => `${step.chord}@${step.at}+${step.dur}`).join(' ')
    : `${read.error.rule} ${read.error.locus.text?.from}`;
};

describe('chords over bars', () => {
  it('are shared evenly, by beats where said; the same chord going on is one', () => {
    expect(chords('| Am | Dm | Am Em |')).toBe('Am@0+4 Dm@4+4 Am@8+2 Em@10+2');
    expect(chords('Am | % | Am 3 E7 1')).toBe('Am@0+11 E7@11+1');
    expect(chords('Am Em F', 8, FOUR)).toBe('Am@0+2 Em@2+1 F@3+1');
    expect(chords('Am Em', 8, THREE)).toBe('Am@0+2 Em@2+1');
    expect(chords('| D/F# | - | N.C. | G♭7 |')).toBe('D/F#@0+4 N.C.@4+8 Gb7@12+4');
    expect(chords('| C D E F G |')).toBe('C@0+4/5 D@4/5+4/5 E@8/5+4/5 F@12/5+4/5 G@16/5+4/5');
    expect(chords('| | Am |')).toBe('Am@4+4');
  });
  it('refuse with the place: an unknown chord, too many bars, beats that don’t come out', () => {
    expect(chords('| Am | Hm |')).toBe('unknown-chord 7');
    expect(chords('| Am | Dm |', 1)).toBe('chord-line 6');
    expect(chords('| Am 3 E7 2 |')).toMatch(/^chord-line/);
    expect(chords('% | Am')).toMatch(/^chord-line/);
    expect(chords('3 Am')).toMatch(/^chord-line/);
    const bass = parseBassLine('| A | X |', FOUR, 4);
    expect(bass.ok ? '' : bass.error.rule).toBe('unknown-note');
  });
  it('print as they are typed, in any meter', () => {
    const names = fc.constantFrom('Am', 'Dm7', 'E7', 'C/E', 'F#m7', 'Bbmaj7', '-');
    fc.assert(
      fc.property(
        fc.array(fc.array(names, { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 12 }),
        fc.constantFrom(FOUR, THREE, [
          { bar: 0, beats: 6, unit: 8 },
          { bar: 2, beats: 5, unit: 4 },
        ]),
        (bars, meters) => {
          const lane = must(parseChordLine(bars.map((bar) => bar.join(' ')).join(' | '), meters, 12));
          expect(must(parseChordLine(printChordLine(lane, meters, 12), meters, 12))).toEqual(lane);
        },
      ),
    );
    const bass = must(parseBassLine('| A | G F# | - | E |', FOUR, 4));
    expect(must(parseBassLine(printBassLine(bass, FOUR, 4), FOUR, 4))).toEqual(bass);
  });
  it('maps of bars come in any key', () => {
    expect(mapChords(BAR_MAPS[0] as (typeof BAR_MAPS)[number], { tonic: 'E', mode: 'minor' })).toContain(
      '| E7 | E7 | E7 | E7 | A7 |',
    );
    for (const map of BAR_MAPS)
      for (const tonic of ['C', 'Eb', 'F#', 'A'])
        expect(
          must(parseChordLine(mapChords(map, { tonic, mode: map.mode }), FOUR, map.bars.length)).length,
        ).toBeGreaterThan(2);
  });
});

const sections = ['Verse', 'Verse 2', 'Refrain', 'Intro, slow', '3 knocks'].map((name, i) => ({ id: `s${i}`, name }));
const route = (line: string): string => {
  const read = parseRoute(line, sections);
  return read.ok
    ? read.value
        .map(
          (one) =>
            `${one.section ?? `new ${one.name}`}x${one.plays}${one.stop ? ` ${one.stop.kind} ${one.stop.bars}` : ''}`,
        )
        .join(', ')
    : `${read.error.rule} ${read.error.locus.text?.from}`;
};

describe('the order of playing, typed', () => {
  it('is read by the names there are, with plays in all', () => {
    expect(route('verse, refrain 2 times, verse 2, verse 3')).toBe('s0x1, s2x2, s1x1, s0x3');
    expect(route('Refrain twice in all, refrain x3, refrain 4x, refrain once')).toBe('s2x2, s2x3, s2x4, s2x1');
    expect(route('"Intro, slow", 3 knocks 2, Coda')).toBe('s3x1, s4x2, new Codax1');
    expect(route('(verse, refrain) 2 times, big end slowing over 4 bars')).toBe(
      's0x1, s2x1, s0x1, s2x1, new big endx1 slowing 4',
    );
    expect(route('verse 2 times held, refrain fading, verse stops 2 bars early')).toBe(
      's0x2 held 0, s2x1 fade 2, s0x1 early 2',
    );
  });
  it('refuses what it can’t read, and says where', () => {
    expect(route('verse backwards')).toBe('route 0');
    expect(route('refrain, (verse')).toBe('route 8');
    expect(route('(verse) sideways')).toBe('route 0');
    expect(route('(((((verse)))))')).toMatch(/^route/);
    expect(route(`(${'verse, '.repeat(200)}) 9 times`)).toMatch(/^route/);
  });
  it('prints and reads back', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({ at: fc.nat({ max: 4 }), plays: fc.integer({ min: 1, max: 12 }), stop: fc.nat({ max: 6 }) }),
          { maxLength: 12 },
        ),
        (list) => {
          const form = list.map(({ at, plays, stop }, i): FormEntry => ({
            ...{ id: `f${i}`, section: `s${at}`, plays },
            ...(stop < 4
              ? {
                  stop: {
                    kind: (['early', 'slowing', 'held', 'fade'] as const)[stop] ?? 'held',
                    bars: stop === 2 ? 0 : 3,
                    ...(stop === 1 ? { to: 70 } : {}),
                  },
                }
              : {}),
          }));
          const read = must(parseRoute(printRoute(form, sections), sections));
          expect(read.map(({ section, plays, stop }) => ({ section, plays, stop }))).toEqual(
            form.map(({ section, plays, stop }) => ({ section, plays, stop: stop ?? null })),
          );
        },
      ),
    );
  });
});

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const change = { replaced: [], removed: [], inserted: [] };
const named = (id: string, name: string, variants: readonly string[] = []): Riff =>
  makeRiff(id, name, { pickup: ZERO, variants: variants.map((one, i) => ({ id: `${id}x${i}`, name: one, change })) });
const part = makePart('p', 'Guitar', setup, {
  riffs: [named('a', 'A', ['ending', 'last time']), named('b', 'A riff, high'), named('c', 'Rest of it', ['2nd'])],
});
const row = (line: string): string => {
  const read = parseRow(line, part);
  return read.ok ? JSON.stringify(read.value) : `${read.error.rule} ${read.error.locus.text?.from}`;
};

describe('what a part plays in a section, typed', () => {
  it('names riffs, how often, moved, some bars of it, endings, rests and remarks', () => {
    expect(row('A 4 times (4th: ending; odd: last time), "A riff, high" up 5 frets, rest 2 bars')).toBe(
      JSON.stringify([
        {
          riff: 'a',
          plays: 4,
          endings: [
            { passes: [4], variant: 'ax0' },
            { passes: ['odd'], variant: 'ax1' },
          ],
        },
        { riff: 'b', plays: 1, move: { by: 'frets', steps: 5 } },
        { spot: { kind: 'rest', bars: 2 }, plays: 1 },
      ]),
    );
    expect(
      row('bars 1 to 2 of a twice, a as ending, a to D7, a 1 string thicker, a down an octave, a silent "wait"'),
    ).toBe(
      JSON.stringify([
        { riff: 'a', plays: 2, bars: { from: 0, count: 2 } },
        { riff: 'a', plays: 1, variant: 'ax0' },
        { riff: 'a', plays: 1, move: { by: 'chord', chord: 'D7' } },
        { riff: 'a', plays: 1, move: { by: 'strings', steps: 1 } },
        { riff: 'a', plays: 1, move: { by: 'semitones', steps: -12 } },
        { riff: 'a', plays: 1, leaveOut: true, remark: 'wait' },
      ]),
    );
  });
  it('refuses with the item: no such riff, no such variant, words that say nothing', () => {
    expect(row('A, Z 2 times')).toBe('no-riff 2');
    expect(row('A (2nd: coda)')).toBe('no-variant 0');
    expect(row('A sideways')).toBe('row 0');
    expect(row('A (coda)')).toBe('endings 0');
    expect(row('A to H')).toMatch(/^row 0|^unknown-chord 0/);
    expect(row('bars 3 to 2 of A')).toBe('bars 0');
    expect(row('')).toBe('[]');
  });
  it('prints and reads back', () => {
    const draft: fc.Arbitrary<UseDraft> = fc.oneof(
      fc.record({
        spot: fc.record({
          kind: fc.constantFrom('rest' as const, 'free' as const, 'unwritten' as const),
          bars: fc.integer({ min: 1, max: 12 }),
        }),
        plays: fc.constant(1),
      }),
      fc
        .record({
          riff: fc.constantFrom('a', 'b', 'c'),
          plays: fc.integer({ min: 1, max: 16 }),
          move: fc.nat({ max: 6 }),
          range: fc.nat({ max: 4 }),
          ending: fc.nat({ max: 3 }),
          own: fc.boolean(),
          out: fc.nat({ max: 4 }),
          remark: fc.nat({ max: 3 }),
        })
        .map(({ riff, plays, move, range, ending, own, out, remark }): UseDraft => {
          const variants = part.riffs.find((one) => one.id === riff)?.variants ?? [];
          const [first] = variants;
          const moves = [
            { by: 'frets', steps: -3 },
            { by: 'semitones', steps: 12 },
            { by: 'strings', steps: -1 },
            { by: 'chord', chord: 'F#m7' },
          ] as const;
          const moved = moves[move];
          return {
            ...{ riff, plays },
            ...(own && first ? { variant: first.id } : {}),
            ...(moved ? { move: moved } : {}),
            ...(range === 0 ? { bars: { from: 1, count: 1 } } : range === 1 ? { bars: { from: 0, count: 3 } } : {}),
            ...(ending === 0 && first ? { endings: [{ passes: [2, 'last'], variant: first.id }] } : {}),
            ...(out === 0 ? { leaveOut: true as const } : {}),
            ...(remark === 0 ? { remark: 'as the door opens' } : {}),
          };
        }),
    );
    fc.assert(
      fc.property(fc.array(draft, { maxLength: 6 }), (uses) => {
        expect(must(parseRow(printRow(uses, part), part))).toEqual(uses);
      }),
      { numRuns: 300 },
    );
  });
});
