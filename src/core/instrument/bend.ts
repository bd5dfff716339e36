import { fail, ok, type Cents, type Millimetres, type Newtons, type NutFret, type Result } from '../base';
import { pressPoint } from './geometry';
import { tensionOf, unitWeight } from './tension';
import type { StringMake } from './types';

/** Young's moduli in Pa of what carries the load. */
const STEEL_MODULUS = 200e9;
const NYLON_MODULUS = 4e9;
/** Diameter of a wound string's core as a share of its gauge: thin wound strings have thick cores for their size. */
const coreShare = (gaugeMm: Millimetres): number => (gaugeMm <= 0.8 ? 0.5 : gaugeMm <= 1.5 ? 0.4 : 0.35);

/**
 * Stiffness EA in newtons of the part of a string that carries the load: the whole wire, or the core of a wound
 * string.
 */
export function stiffness({ gaugeMm, kind }: StringMake): Newtons {
  const core = kind === 'wound' ? gaugeMm * coreShare(gaugeMm) : gaugeMm;
  const modulus = kind === 'plain' || kind === 'wound' ? STEEL_MODULUS : NYLON_MODULUS;
  return (modulus * Math.PI * (core / 1000) ** 2) / 4;
}

export type BendEase = 'easy' | 'usual' | 'hard' | 'very hard';

export interface BendEffort {
  /** Sideways force at the fingertip. */
  readonly newtons: Newtons;
  /** How far the string is pushed sideways. */
  readonly pushMm: Millimetres;
  /** Tension before and while bent. */
  readonly tension: Newtons;
  readonly bent: Newtons;
  readonly ease: BendEase;
}

/**
 * Upper limits of the ease grades in newtons; set by hand from common sets: a whole tone at fret 7 on 0.254 mm is
 * usual.
 */
const EASE: readonly (readonly [Newtons, BendEase])[] = [
  [7, 'easy'],
  [13, 'usual'],
  [22, 'hard'],
  [Infinity, 'very hard'],
];

/** A string with what decides how it bends. */
export interface BendRequest {
  readonly make: StringMake;
  /** Speaking length of the whole string in mm. */
  readonly scaleMm: Millimetres;
  /** Open sounding frequency without capo, Hz. */
  readonly openHz: number;
  /** Fret pressed, from the nut; 1 at least. */
  readonly fret: NutFret;
  /** Where the string begins: the fret of a capo, 0 for the nut. */
  readonly nut: NutFret;
  /** How far the pitch is raised, 1 to 700 cents. */
  readonly cents: Cents;
}

/**
 * What a bend asks of the hand. The new tension is T' = T 2^(c/600), since pitch goes with the
 * root of tension; the stretch that makes it, dl = (T' - T) L / EA, comes from pushing the string
 * sideways by d at the press point, dl = d²/2 (1/a + 1/b); the force is F = T' (d/a + d/b), with
 * a and b the lengths to nut (or capo) and bridge.
 */
export function bendEffort({ make, scaleMm, openHz, fret, nut, cents }: BendRequest): Result<BendEffort> {
  if (!(cents > 0 && cents <= 700)) return fail('bad-bend', `A bend of ${cents} cents: give 1 to 700.`, 'cents');
  if (!Number.isInteger(fret) || fret <= nut || fret > 36)
    return fail(
      'bad-fret',
      `A bend at fret ${fret}: the string has to be stopped above ${nut > 0 ? 'the capo' : 'the nut'}.`,
      'fret',
    );
  const mu = unitWeight(make);
  if (!mu.ok) return mu;
  const tension = tensionOf(mu.value, scaleMm, openHz);
  const bent = tension * 2 ** (cents / 600);
  const from = nut === 0 ? 0 : scaleMm * (1 - 2 ** (-nut / 12));
  const press = pressPoint(scaleMm, fret);
  const a = press - from;
  const b = scaleMm - press;
  const sum = 1 / a + 1 / b;
  const longer = ((bent - tension) * (scaleMm - from)) / stiffness(make);
  const pushMm = Math.sqrt((2 * longer) / sum);
  const newtons = bent * pushMm * sum;
  const ease = EASE.find(([limit]) => newtons <= limit)?.[1] ?? 'very hard';
  return ok({ newtons, pushMm, tension, bent, ease });
}
