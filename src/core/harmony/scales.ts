import { fail, ok, type Midi, type Result } from '../base';
import { noteName, parseName, pitchClass, renderName, type Key, type Naming, type Spelled } from '../pitch';

/** Scales by name, how well notes fit one, and what would hold where a claim does not. */

export interface Scale {
  readonly id: string;
  /** As it is said behind a tonic: "minor pentatonic". */
  readonly name: string;
  readonly aliases: readonly string[];
  /** Semitones over the tonic, ascending from 0. */
  readonly steps: readonly number[];
}

const scale = (id: string, name: string, steps: readonly number[], ...aliases: readonly string[]): Scale => ({
  ...{ id, name, aliases, steps },
});

/** In the order in which one is preferred to another that fits as well. */
export const SCALES: readonly Scale[] = [
  scale('minor-pentatonic', 'minor pentatonic', [0, 3, 5, 7, 10], 'pentatonic minor', 'min pentatonic'),
  scale('major-pentatonic', 'major pentatonic', [0, 2, 4, 7, 9], 'pentatonic major', 'maj pentatonic'),
  scale('blues', 'blues', [0, 3, 5, 6, 7, 10], 'blues scale', 'minor blues'),
  scale('major-blues', 'major blues', [0, 2, 3, 4, 7, 9]),
  scale('major', 'major', [0, 2, 4, 5, 7, 9, 11], 'ionian', 'major scale', 'maj'),
  scale('minor', 'natural minor', [0, 2, 3, 5, 7, 8, 10], 'minor', 'aeolian', 'minor scale', 'min'),
  scale('dorian', 'Dorian', [0, 2, 3, 5, 7, 9, 10]),
  scale('mixolydian', 'Mixolydian', [0, 2, 4, 5, 7, 9, 10]),
  scale('phrygian', 'Phrygian', [0, 1, 3, 5, 7, 8, 10]),
  scale('lydian', 'Lydian', [0, 2, 4, 6, 7, 9, 11]),
  scale('harmonic-minor', 'harmonic minor', [0, 2, 3, 5, 7, 8, 11]),
  scale('melodic-minor', 'melodic minor', [0, 2, 3, 5, 7, 9, 11]),
  scale('phrygian-dominant', 'Phrygian dominant', [0, 1, 4, 5, 7, 8, 10]),
  scale('locrian', 'Locrian', [0, 1, 3, 5, 6, 8, 10]),
  scale('whole-tone', 'whole tone', [0, 2, 4, 6, 8, 10]),
  scale('diminished', 'diminished', [0, 2, 3, 5, 6, 8, 9, 11], 'whole-half diminished'),
  scale('chromatic', 'chromatic', [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11]),
];

/** A scale said of some notes; the tonic is null where nobody said one ("Dorian"). */
export interface ScaleClaim {
  readonly tonic: Spelled | null;
  readonly scale: Scale;
}

/** A note that is looked at: by its index in what was asked. */
export interface Outlier {
  readonly index: number;
  readonly midi: Midi;
}

export interface ScaleFit {
  /** Share of the notes inside, 0 to 1; 1 where there are none. */
  readonly share: number;
  readonly outside: readonly Outlier[];
}

const mod12 = (n: number): number => ((n % 12) + 12) % 12;
const LONGEST_FIRST = SCALES.flatMap((one) =>
  [one.name, ...one.aliases].map((word) => ({ word: word.toLowerCase(), scale: one })),
).sort((a, b) => b.word.length - a.word.length);

/**
 * Reads a scale as people say it: "A minor pentatonic", "all A minor pentatonic", "D Dorian", "Dorian mode", "F#
 * major". A letter alone is no scale. The fault names what was not understood.
 */
export function parseScale(text: string): Result<ScaleClaim> {
  const words = text
    .trim()
    .replace(/^(?:it(?:['’]s| is)|this is|that(?:['’]s| is)|all(?: in| of it is)?|everything is|in|key of|the)\s+/i, '')
    .replace(/\s+(?:scale|mode|key)\.?$/i, '')
    .trim();
  const match = /^(?:([A-G](?:#|b|♯|♭)?)(?=\s|$))?\s*(.*)$/.exec(words);
  const tonic = match?.[1] ? parseName(match[1]) : null;
  const rest = (match?.[2] ?? '').toLowerCase().trim();
  const found = LONGEST_FIRST.find(({ word }) => word === rest);
  if (!found)
    return fail(
      'unknown-scale',
      `"${text}" is no scale the program knows. Say it as "A minor pentatonic", "D Dorian" or "E harmonic minor".`,
      { text: { from: 0, to: text.length } },
    );
  return ok({ tonic, scale: found.scale });
}

/** How notes fit a scale on a tonic (a pitch class), and which don't. */
export function scaleFit(pitches: readonly Midi[], { steps }: Scale, tonic: number): ScaleFit {
  const outside = pitches.flatMap((midi, index) => (steps.includes(mod12(midi - tonic)) ? [] : [{ index, midi }]));
  return { share: pitches.length === 0 ? 1 : 1 - outside.length / pitches.length, outside };
}

/** A claim with how it comes out. */
export interface ScaleReading extends ScaleFit {
  readonly scale: Scale;
  readonly tonic: number;
}

/**
 * Scales that hold for notes, the one to be preferred first: on the tonic given before others, all notes inside before
 * some outside, the smaller before the larger. Without a tonic every note that sounds is tried as one, the first and
 * the lowest before the rest.
 */
export function scalesFor(pitches: readonly Midi[], tonic: number | null = null): ScaleReading[] {
  if (pitches.length === 0) return [];
  const classes = new Set(pitches.map(mod12));
  const counts = new Map<number, number>();
  for (const midi of pitches) counts.set(mod12(midi), (counts.get(mod12(midi)) ?? 0) + 1);
  const [first, lowest] = [mod12(pitches[0] ?? 0), mod12(Math.min(...pitches))];
  const weight = (pc: number): number =>
    (pc === tonic ? 100 : 0) +
    (pc === first ? 2 : 0) +
    (pc === lowest ? 2 : 0) +
    (counts.get(pc) ?? 0) / pitches.length;
  const tonics = [...new Set([...(tonic === null ? [] : [tonic]), ...classes])];
  const out = tonics.flatMap((home) =>
    SCALES.map((one, rank): ScaleReading & { readonly price: number } => {
      const fit = scaleFit(pitches, one, home);
      const unused = one.steps.filter((step) => !classes.has(mod12(home + step))).length;
      const price = fit.outside.length * 8 + unused + rank / 40 - weight(home) * 1.5;
      return { ...fit, scale: one, tonic: home, price };
    }),
  );
  return out.sort((a, b) => a.price - b.price).map(({ price: _, ...one }) => one);
}

/** "A minor pentatonic", spelled in a key, in a naming. */
export function scaleName(
  tonic: Spelled | number,
  { name }: Scale,
  key: Key | null = null,
  naming: Naming = 'letters',
): string {
  const root = typeof tonic === 'number' ? noteName(60 + tonic, { key, naming }) : renderName(tonic, naming);
  return `${root} ${name}`;
}

/** A scale on its tonic with the claim checked: what breaks it, and which scales would hold instead, three at most. */
export interface CheckedScale extends ScaleReading {
  readonly better: readonly ScaleReading[];
}

/**
 * Checks a claim against notes in order of time. Without a tonic the key's is meant, else the likely one that fits
 * best. Better claims hold entirely; where none does there is none.
 */
export function checkScale(pitches: readonly Midi[], claim: ScaleClaim, key: Key | null = null): CheckedScale {
  const said = claim.tonic ? pitchClass(claim.tonic) : null;
  const home = key ? parseName(key.tonic) : null;
  // Nobody says the tonic of what is heard as home anyway: the key's, else where it begins, ends or lies lowest.
  const likely = [pitches[0] ?? 0, pitches.at(-1) ?? 0, Math.min(...pitches)].map(mod12);
  const tonics = said !== null ? [said] : home ? [pitchClass(home)] : [...new Set(likely)];
  const readings = tonics.map((tonic) => ({ ...scaleFit(pitches, claim.scale, tonic), scale: claim.scale, tonic }));
  const best = readings.reduce(
    (a, b) => (b.outside.length < a.outside.length ? b : a),
    readings[0] ?? {
      ...{ share: 1, outside: [], scale: claim.scale, tonic: said ?? 0 },
    },
  );
  const better =
    best.outside.length === 0
      ? []
      : scalesFor(pitches, best.tonic)
          .filter((one) => one.outside.length === 0 && one.scale.id !== 'chromatic')
          .slice(0, 3);
  return { ...best, better };
}
