import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import {
  coincidences,
  dayOrder,
  INSTRUMENTS,
  meetingFrets,
  octaveShapes,
  resolveTuning,
  retunePlan,
  retuneWork,
  sameStrings,
  tuningPitches,
  TUNINGS,
  tuningsFor,
  type DayItem,
  type Instrument,
} from './index';

const guitar = INSTRUMENTS[0] as Instrument;
const standard = guitar.strings.map((string) => string.pitch);
const open = (spelling: string): readonly number[] => must(resolveTuning(spelling, guitar)).open;
const six = TUNINGS.filter((tuning) => tuning.instruments.includes('guitar-6'));

describe('the catalogue of tunings', () => {
  it('has sixty at least in all families, each with a source in words, each for an instrument that can have it', () => {
    expect(TUNINGS.length).toBeGreaterThanOrEqual(60);
    expect(new Set(TUNINGS.map((tuning) => tuning.family)).size).toBe(8);
    expect(new Set(TUNINGS.map((tuning) => tuning.id)).size).toBe(TUNINGS.length);
    for (const tuning of TUNINGS) {
      expect(tuning.source.length, tuning.id).toBeGreaterThan(20);
      for (const id of tuning.instruments)
        expect(INSTRUMENTS.find((instrument) => instrument.id === id)?.strings.length, tuning.id).toBe(
          tuningPitches(tuning).length,
        );
    }
    for (const instrument of INSTRUMENTS) expect(tuningsFor(instrument).length, instrument.id).toBeGreaterThan(0);
  });
  it('offers an instrument of one’s own what it can bear, nearest first, and tunings of one’s own', () => {
    const mine: Instrument = { ...guitar, id: 'r-1' };
    const own = {
      id: 'own-1',
      name: 'Mine',
      family: 'altered' as const,
      spelling: 'E2 A2 D3 G3 B3 D4',
      instruments: [],
      source: '',
    };
    const offered = tuningsFor(mine, [own]);
    expect(offered[0]?.id).toBe('standard');
    expect(offered.at(-1)).toBe(own);
    expect(offered.some((tuning) => tuning.id === 'bass-standard')).toBe(false);
    expect(must(resolveTuning('own-1', mine, [own])).tuningId).toBe('own-1');
    expect(must(resolveTuning('E A D G B D4', mine, [own])).tuningId).toBe('own-1');
  });
});

describe('a spelling by what changes', () => {
  const changed = (text: string): string => {
    const made = resolveTuning(text, guitar);
    return made.ok
      ? `${made.value.open.join(' ')}${made.value.absent.length > 0 ? ` without ${made.value.absent.join()}` : ''}, ${made.value.tuningId}`
      : made.error.words;
  };
  it('takes the other strings as the instrument is made for', () => {
    expect(changed('6=D')).toBe('38 45 50 55 59 64, drop-d');
    expect(changed('6=D2, 1=D4')).toBe('38 45 50 55 59 62, double-drop-d');
    expect(changed('3=x')).toBe('40 45 50 55 59 64 without 3, null');
    expect(changed('7=D')).toContain('Strings are 1 (thinnest) to 6');
    expect(changed('6=')).toContain('no change of a string');
    expect(changed('6=Q')).toContain('no note name');
    expect(changed('6=E5')).toContain('Check the octave');
  });
});

describe('a retuning plan', () => {
  it('slackens first, raises after, smallest rise first, with targets', () => {
    const plan = retunePlan(guitar, open('drop-d'), open('E2 A2 E3 A3 C#4 D4'));
    expect(plan.steps.map((step) => [step.string, step.direction, step.semitones])).toEqual([
      [1, 'down', -2],
      [6, 'up', 2],
      [4, 'up', 2],
      [3, 'up', 2],
      [2, 'up', 2],
    ]);
    expect(plan.steps[1]?.targetHz).toBeCloseTo(82.41, 2);
    expect(plan.cautions.join(' ')).toContain('keep the face away');
    expect(retunePlan(guitar, standard, open('drop-d')).cautions).toEqual([]);
    expect(
      retunePlan(
        guitar,
        standard,
        standard.map((midi) => midi + 4),
      ).cautions.join(' '),
    ).toContain('near breaking');
    expect(
      retunePlan(
        guitar,
        standard,
        standard.map((midi) => midi - 5),
      ).cautions.join(' '),
    ).toContain('bears clearly less');
  });
  it('leads there and back', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...six),
        fc.constantFrom(...six),
        fc.subarray([1, 2, 3, 4, 5, 6], { maxLength: 3 }),
        (a, b, absent) => {
          const from = tuningPitches(a);
          const to = tuningPitches(b);
          const walk = (start: readonly number[], plan: ReturnType<typeof retunePlan>): number[] =>
            plan.steps.reduce(
              (now, step) => now.map((m, i) => (6 - i === step.string ? m + step.semitones : m)),
              [...start],
            );
          const there = walk(from, retunePlan(guitar, from, to, absent));
          expect(there).toEqual(to.map((midi, i) => (absent.includes(6 - i) ? from[i] : midi)));
          expect(walk(there, retunePlan(guitar, to, from, absent))).toEqual(from);
          expect(retunePlan(guitar, from, to).semitones).toBe(retunePlan(guitar, to, from).semitones);
          expect(retunePlan(guitar, from, to, absent).steps.every((step) => !absent.includes(step.string))).toBe(true);
        },
      ),
    );
  });
});

describe('the order of a day', () => {
  const item = (id: string, tuning: string, instrument = guitar): DayItem => ({
    id,
    title: id,
    instrument,
    open: must(resolveTuning(tuning, instrument)).open,
    absent: [],
  });
  const bass = INSTRUMENTS.find((instrument) => instrument.id === 'bass-4') as Instrument;

  it('keeps tunings together, by instrument, and says what it saves', () => {
    const items = [
      item('a', 'standard'),
      item('b', 'drop-d'),
      item('bass', 'bass-drop-d', bass),
      item('c', 'standard'),
      item('d', 'double-drop-d'),
      item('e', 'drop-d'),
    ];
    const routes = dayOrder(items, { 'guitar-6': standard });
    expect(routes.map((one) => one.instrument.id)).toEqual(['guitar-6', 'bass-4']);
    expect(routes[0]?.stops.map((one) => one.item.id)).toEqual(['a', 'c', 'b', 'e', 'd']);
    expect(routes[0]).toMatchObject({ moved: 2, semitones: 4, exact: true, asGiven: { moved: 5 } });
    expect(routes[1]?.stops[0]?.plan.steps).toEqual([]);
  });
  it('is the least there is (against trying every order)', () => {
    const orders = (left: readonly (readonly number[])[]): (readonly number[])[][] =>
      left.length < 2
        ? [[...left]]
        : left.flatMap((list, i) => orders([...left.slice(0, i), ...left.slice(i + 1)]).map((rest) => [list, ...rest]));
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.constantFrom(...six), { minLength: 2, maxLength: 6, selector: (tuning) => tuning.spelling }),
        fc.boolean(),
        (tunings, fixed) => {
          const items = tunings.map((tuning) => item(tuning.id, tuning.id));
          const [route] = dayOrder(items, fixed ? { 'guitar-6': standard } : {});
          const played = route?.stops.map((one) => one.item.open) ?? [];
          const work = (order: readonly (readonly number[])[]): number =>
            order.reduce(
              (sum, to, i) =>
                sum + (i === 0 ? (fixed ? retuneWork(standard, to) : 0) : retuneWork(order[i - 1] ?? to, to)),
              0,
            );
          expect(work(played)).toBe(Math.min(...orders(played).map(work)));
        },
      ),
      { numRuns: 40 },
    );
  });
  it('improves a long list step by step, and leaves out what would break strings', () => {
    const many = six.slice(0, 20).map((tuning) => item(tuning.id, tuning.id));
    const [route] = dayOrder(many, { 'guitar-6': standard });
    expect(route?.exact).toBe(false);
    expect(route?.stops.length).toBe(20);
    expect((route?.moved ?? 99) <= (route?.asGiven.moved ?? 0)).toBe(true);
    const [bad] = dayOrder([
      item('ok', 'standard'),
      { ...item('high', 'standard'), open: standard.map((midi) => midi + 4) },
    ]);
    expect(bad?.refused.map((one) => one.item.id)).toEqual(['high']);
    expect(bad?.stops.map((one) => one.item.id)).toEqual(['ok']);
    expect(dayOrder([])).toEqual([]);
  });
});

describe('what a tuning does', () => {
  it('knows strings that coincide, where neighbours meet, and octave shapes that move', () => {
    expect(coincidences(open('D A D G A D'))).toContainEqual({ strings: [6, 4], semitones: 12 });
    expect(coincidences(open('D A D G A D'), [4]).some((one) => one.strings.includes(4))).toBe(false);
    expect(coincidences(must(resolveTuning('E2 A2 D3 G3 G3 E4', guitar)).open)).toContainEqual({
      strings: [3, 2],
      semitones: 0,
    });
    expect(meetingFrets(standard).map((place) => place.fret)).toEqual([5, 5, 5, 4, 5]);
    expect(meetingFrets([40, 38])).toEqual([{ string: 2, neighbour: 1, fret: null }]);
    const drop = octaveShapes(open('drop-d'), standard);
    expect(drop.find((one) => one.from === 6 && one.to === 4)).toMatchObject({ frets: 0, reference: 2 });
    expect(drop.find((one) => one.from === 5 && one.to === 3)).toMatchObject({ frets: 2, reference: 2 });
    expect(sameStrings(standard, open('drop-d'))).toEqual([5, 4, 3, 2, 1]);
  });
});
