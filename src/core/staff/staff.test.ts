import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup } from '../instrument';
import { makeRiff, type Riff } from '../score';
import { riffArbitrary, setupArbitrary } from '../score/test-support/arbitrary';
import { calledToEvents, FIRST_LENGTH, readCalls } from '../shorthand';
import { quarter, sub, ZERO } from '../time';
import { clefOf, lengthOfSigns, signatureOf, staffBars, type StaffBar } from './index';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));

function riffOf(calls: string, on = setup, meters: Riff['meters'] = [{ bar: 0, beats: 4, unit: 4 }]): Riff {
  const called = readCalls(calls, { setup: on, meters, at: ZERO, length: FIRST_LENGTH, string: null });
  expect(called.faults, calls).toEqual([]);
  return makeRiff('r', 'r', { meters, events: calledToEvents(called, new Set()) });
}
const bar = (
  calls: string,
  key: Parameters<typeof staffBars>[3]['key'] = null,
  on = setup,
  meters?: Riff['meters'],
): StaffBar => {
  const [first] = staffBars(riffOf(calls, on, meters), on, { from: 0, count: 1 }, { key, pitch: 'sounding' });
  if (!first) throw new Error('no bar');
  return first;
};
const words = ({ signs }: StaffBar): string =>
  signs
    .map(
      (sign) =>
        `${sign.heads.length > 0 ? sign.heads.map((head) => `${head.sign ?? ''}${head.letter}${head.octave}`).join('+') : sign.slash ? '/' : 'r'}:${sign.base}${'.'.repeat(sign.dots)}${sign.tied ? '~' : ''}`,
    )
    .join(' ');

describe('written signs', () => {
  it('stand an octave above the sound, spelled by the key, with the signs a bar needs and no others', () => {
    expect(words(bar('quarters note C3 note C#3 note C#3 note C3'))).toBe('C4:4 #C4:4 C4:4 nC4:4');
    expect(
      words(bar('quarters note C#3 note E3 note G#3 note B#3'.replace('B#3', 'C4'), { tonic: 'C#', mode: 'minor' })),
    ).toBe('C4:4 E4:4 G4:4 #B4:4');
    expect(words(bar('halves note Bb2 note B2', { tonic: 'F', mode: 'major' }))).toBe('B3:2 nB3:2');
  });

  it('are cut at beats and bar lines and tied, with rests for silence', () => {
    expect(words(bar('on 5 3 for eighth 3 for quarter 3 for eighth 3 for half'))).toBe('C4:8 C4:4 C4:8 C4:2');
    expect(words(bar('rest for dotted quarter on 5 3 for quarter tied eighth rest for quarter'))).toBe(
      'r:4. C4:8~ C4:4 r:4',
    );
    expect(words(bar('dotted quarters on 5 3 3 for half tied eighth'))).toBe('C4:4. C4:8~ C4:2');
    const two = staffBars(
      riffOf('on 5 3 for dotted half 5 for half | '),
      setup,
      { from: 0, count: 2 },
      { key: null, pitch: 'sounding' },
    );
    expect(two.map(words)).toEqual(['C4:2. D4:4~', 'D4:4 r:2.']);
  });

  it('know triplets, quintuplets and three over two beats', () => {
    const triplets = bar('triplet eighths on 5 3 3 3 quarters 3 3 3');
    expect(words(triplets)).toBe('C4:8 C4:8 C4:8 C4:4 C4:4 C4:4');
    expect(triplets.tuplets).toEqual([{ from: 0, to: 2, notes: 3, time: 2 }]);
    expect(bar('quintuplet sixteenths on 5 3 3 3 3 3 dotted halves 3').tuplets).toEqual([
      { from: 0, to: 4, notes: 5, time: 4 },
    ]);
    const wide = bar('triplet quarters on 5 3 3 3 halves 3');
    expect(words(wide)).toBe('C4:4 C4:4 C4:4 C4:2');
    expect(wide.tuplets).toEqual([{ from: 0, to: 2, notes: 3, time: 2 }]);
    expect(bar('eighths on 5 3 3 3 3 3 3', null, setup, [{ bar: 0, beats: 6, unit: 8 }]).tuplets).toEqual([]);
  });

  it('beam by the beat', () => {
    expect(bar('sixteenths on 5 3 3 3 3 eighths 3 3 halves 3').beams).toEqual([
      [0, 1, 2, 3],
      [4, 5],
    ]);
    expect(bar('eighths on 5 3 3 3 3 3 3', null, setup, [{ bar: 0, beats: 6, unit: 8 }]).beams).toEqual([
      [0, 1, 2],
      [3, 4, 5],
    ]);
  });

  it('carry graces, slashes, dead notes and slurs', () => {
    const { signs } = bar('rest for quarter grace on 3 5 hammer 7 for quarter hit for quarter on 4 dead for quarter');
    expect(signs[1]?.graces).toHaveLength(1);
    expect(signs[1]?.graces[0]?.slurred).toBe(true);
    expect(signs[2]).toMatchObject({ slash: true, heads: [] });
    expect(signs[3]?.heads[0]?.dead).toBe(true);
  });

  it('show a detuned instrument at its sound or at its shape', () => {
    const low = must(makeSetup({ instrument: 'guitar-6', tuning: 'down-2' })).setup;
    const riff = riffOf('on 5 3 for whole', low);
    const at = (pitch: 'sounding' | 'shape'): string =>
      staffBars(riff, low, { from: 0, count: 1 }, { key: null, pitch }).map(words).join();
    expect(at('sounding')).toBe('bB3:1');
    expect(at('shape')).toBe('C4:1');
  });

  it('add up to the bar, whatever the riff', () => {
    fc.assert(
      fc.property(
        setupArbitrary.chain((setup) => riffArbitrary(setup).map((riff) => ({ riff, s: setup }))),
        ({ riff, s: setup }) => {
          for (const one of staffBars(
            riff,
            setup,
            { from: 0, count: 4 },
            { key: { tonic: 'A', mode: 'minor' }, pitch: 'sounding' },
          )) {
            const inexact = one.signs.some((sign) => sign.base === 64);
            if (!inexact) expect(lengthOfSigns(one), JSON.stringify(one.signs)).toBe(sub(one.to, one.from));
            const heads = one.signs.flatMap((sign) => sign.heads.map((head) => head.note));
            for (const event of riff.events.filter((event) => !event.grace && Number(event.at.split('/')[0]) >= 0)) {
              const inside = quarterIn(event.at, one);
              if (inside) for (const note of event.notes) expect(heads).toContain(note.id);
            }
          }
        },
      ),
      { numRuns: 150 },
    );
  });
});

const quarterIn = (at: string, { from, to }: StaffBar): boolean => {
  const value = (q: string): number => {
    const [n = 0, d = 1] = q.split('/').map(Number);
    return n / d;
  };
  return value(at) >= value(from) && value(at) < value(to);
};

describe('clef and signature', () => {
  it('follow instrument and key', () => {
    expect(clefOf(setup)).toBe('treble');
    expect(clefOf(must(makeSetup({ instrument: 'bass-4' })).setup)).toBe('bass');
    expect([
      signatureOf(null),
      signatureOf({ tonic: 'Eb', mode: 'major' }),
      signatureOf({ tonic: 'C#', mode: 'minor' }),
      signatureOf({ tonic: 'E', mode: 'minor' }),
    ]).toEqual([0, -3, 4, 1]);
    expect(quarter(1)).toBe('1');
  });
});
