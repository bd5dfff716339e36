import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Plucked, type Sounding } from './plucked';
import { heardSets } from './sets';

const HERTZ = 440 * 2 ** ((45 - 69) / 12);
const hertzOf = (semitones: number): number => HERTZ * 2 ** (semitones / 12);

/** A sound made of the very partials the fit knows, each note at its level. */
function soundOf(levels: ReadonlyMap<number, number>, point: number, fall: number): Sounding {
  const perHertz = 4096 / 11_000;
  const lobe = 3;
  const end = 1638;
  const magnitudes = new Float64Array(2048);
  for (const [note, level] of levels) {
    for (let n = 1; n <= 14; n++) {
      const center = n * hertzOf(note) * perHertz;
      if (center > end) break;
      const wide = lobe * (1 + 0.04 * n);
      const partial =
        level * n ** -fall * (Math.sqrt(Math.sin(n * Math.PI * point) ** 2 + 0.03) / Math.sin(Math.PI * point));
      for (let k = Math.ceil(center - wide); k <= center + wide; k++)
        magnitudes[k] = (magnitudes[k] ?? 0) + partial * Math.cos((Math.PI / 2) * ((k - center) / wide)) ** 2;
    }
  }
  return {
    roots: magnitudes.map(Math.sqrt),
    end,
    perHertz,
    lobe,
    string: (note) => ({ hertz: hertzOf(note), stiffness: 0 }),
  };
}

describe('notes plucked in one manner', () => {
  it('explain a sound made of them wholly, whatever their levels, and find the manner', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 28 }), { minLength: 1, maxLength: 4 }),
        fc.array(fc.integer({ min: 4, max: 10 }), { minLength: 4, maxLength: 4 }),
        fc.constantFrom(0.08, 0.12, 0.17, 0.24),
        fc.constantFrom(0.8, 1.2, 1.6),
        (notes, loud, point, fall) => {
          const plucked = new Plucked(soundOf(new Map(notes.map((n, i) => [n, (loud[i] ?? 8) / 10])), point, fall));
          const found = plucked.manner(notes);
          expect(plucked.fit(notes, found).explained).toBeGreaterThan(0.97);
          expect(plucked.fit(notes, { fall, point }, 200).explained).toBeGreaterThan(0.99);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('give a note that is not there hardly a level, an octave over one that is too', () => {
    const sound = soundOf(
      new Map([
        [0, 1],
        [7, 0.8],
      ]),
      0.12,
      1.2,
    );
    const { levels } = new Plucked(sound).fit([0, 7, 12], { fall: 1.2, point: 0.12 }, 100);
    expect((levels[2] ?? 1) / Math.max(...levels)).toBeLessThan(0.1);
    const there = soundOf(
      new Map([
        [0, 1],
        [7, 0.8],
        [12, 0.5],
      ]),
      0.12,
      1.2,
    );
    const hearing = new Plucked(there).fit([0, 7, 12], { fall: 1.2, point: 0.12 }, 100).levels;
    expect((hearing[2] ?? 0) / Math.max(...hearing)).toBeGreaterThan(0.3);
  });

  it('explain nothing of silence', () => {
    expect(new Plucked(soundOf(new Map(), 0.1, 1)).fit([0, 7], { fall: 1, point: 0.1 }).explained).toBe(0);
  });
});

describe('grips with octaves in them', () => {
  const RATE = 44_100;
  const open = [40, 45, 50, 55, 59, 64];
  /** Strings plucked one after another at a share of their length that is none of those tried. */
  function strummed(notes: readonly number[], point: number): Float64Array {
    const samples = new Float32Array(RATE);
    notes.forEach((midi, i) => {
      const f = 440 * 2 ** ((midi - 69) / 12);
      const start = Math.round((0.1 + i * 0.008) * RATE);
      for (let n = 1; n * f < 9000; n++) {
        const level = (0.12 * Math.abs(Math.sin(n * Math.PI * point))) / n;
        const phase = (n * 2.4 + i * 1.7) % (2 * Math.PI);
        const fading = 1 + 0.5 * n;
        for (let k = start; k < samples.length; k++) {
          const t = (k - start) / RATE;
          samples[k] =
            (samples[k] as number) +
            level * Math.exp(-t * fading) * Math.sin(2 * Math.PI * n * f * t + phase) * Math.min(1, t / 0.002);
        }
      }
    });
    return Float64Array.from(samples);
  }

  it.each([
    ['a fifth', [45, 52]],
    ['a fifth with its octave', [45, 52, 57]],
    ['a barre of five strings', [47, 54, 59, 63, 66]],
    ['a barre of six', [43, 50, 55, 59, 62, 67]],
    ['a minor barre', [43, 50, 55, 58, 62, 67]],
    ['two strings a fourth apart', [50, 55]],
  ])('hear %s as it is', (_, notes) => {
    for (const point of [0.09, 0.11, 0.13]) {
      const [first] = heardSets(
        Float32Array.from(strummed(notes, point)),
        RATE,
        [0.1],
        { open, frets: 22, span: 4 },
        0,
      );
      expect(
        first?.readings[0]?.notes.map((place) => place.midi),
        `plucked at ${point}`,
      ).toEqual(notes);
    }
  });
});
