import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must, pathWords } from '@/core/base';
import { INSTRUMENTS, type Instrument, type RackInstrument } from '@/core/instrument';
import {
  draftOfInstrument,
  mended,
  newTone,
  numberOf,
  readInstrumentDraft,
  sameDraft,
  withString,
} from './instrument-draft';

const guitar = INSTRUMENTS[0] as Instrument;
const rack: RackInstrument = { instrument: { ...guitar, id: 'r-1' }, description: 'x', tones: [newTone()] };
const draft = draftOfInstrument(rack);
const fault = (change: Partial<typeof draft>): string => {
  const read = readInstrumentDraft({ ...draft, ...change });
  return read.ok ? 'ok' : `${pathWords(read.error.locus)}: ${read.error.words}`;
};
const strings = (i: number, change: Partial<(typeof draft.strings)[number]>): Partial<typeof draft> => ({
  strings: draft.strings.map((draft, index) => (index === i ? { ...draft, ...change } : draft)),
});

describe('an instrument as it is typed', () => {
  it('goes to texts and back, for every instrument there is', () => {
    fc.assert(
      fc.property(fc.constantFrom(...INSTRUMENTS), (instrument) => {
        const one: RackInstrument = { instrument, description: '', tones: [] };
        expect(must(readInstrumentDraft(draftOfInstrument(one)))).toEqual({ rack: one, questions: [] });
        expect(sameDraft(draftOfInstrument(one), one)).toBe(true);
      }),
    );
  });
  it('takes commas, and blanks for what is not said', () => {
    expect([numberOf('0,254'), numberOf(' 12 '), numberOf('x'), numberOf('')]).toEqual([0.254, 12, NaN, NaN]);
    const read = must(
      readInstrumentDraft({
        ...draft,
        ...strings(5, { gauge: '0,254', weight: '0,0004', scale: '640', course: 'octave', courseGauge: '0.2' }),
      }),
    ).rack.instrument.strings[5];
    expect(read).toEqual({
      pitch: 64,
      gaugeMm: 0.254,
      kind: 'plain',
      unitWeight: 0.0004,
      scaleMm: 640,
      course: { semitones: 12, gaugeMm: 0.2, kind: 'plain' },
    });
  });
  it('says at which field it is not right yet', () => {
    expect(fault({ name: ' ' })).toContain('name:');
    expect(fault(strings(0, { pitch: 'H2' }))).toBe(
      'strings.6: String 6: "H2" is no pitch. Write it with its octave, such as E2.',
    );
    expect(fault(strings(5, { gauge: '' }))).toContain('strings.1: String 1: give a gauge');
    expect(fault(strings(5, { gauge: '0' }))).toContain('A gauge of 0 mm');
    expect(fault(strings(2, { weight: 'heavy' }))).toContain('strings.4');
    expect(fault(strings(2, { scale: 'long' }))).toContain('no length');
    expect(fault(strings(2, { course: 'unison', courseGauge: '' }))).toContain('second string of the course');
    expect(fault({ scaleMm: 'x' })).toContain('scaleMm');
    expect(fault({ frets: '22.5' })).toContain('frets');
  });
  it('asks about inches and puts what was meant', () => {
    const inches = { ...draft, scaleMm: '25.5' };
    const [question] = must(readInstrumentDraft(inches)).questions;
    expect(question?.instead).toBe(648);
    expect(mended(inches, question as NonNullable<typeof question>).scaleMm).toBe('648');
    const gauge = { ...draft, ...strings(5, { gauge: '0.010' }) };
    const [asked] = must(readInstrumentDraft(gauge)).questions;
    expect(mended(gauge, asked as NonNullable<typeof asked>).strings[5]?.gauge).toBe('0.254');
    expect(mended(draft, { at: 'nutSpacingMm', message: '', instead: null })).toBe(draft);
  });
  it('gets a string more on either side', () => {
    expect(withString(draft, 'thick').strings.map((draft) => draft.pitch)).toEqual([
      'B1',
      'E2',
      'A2',
      'D3',
      'G3',
      'B3',
      'E4',
    ]);
    expect(withString(draft, 'thin').strings.at(-1)?.pitch).toBe('A4');
    expect(readInstrumentDraft(withString(draft, 'thick')).ok).toBe(true);
    expect(withString({ ...draft, strings: [] }, 'thin').strings).toEqual([]);
  });
});
