import { fail, ok, type Fret, type NutFret, type Result, type StringNumber } from '../base';
import type { Capo, Instrument, Setup } from './types';

export const MAX_CAPOS = 2;

type Capoed = Pick<Setup, 'capos' | 'open' | 'absent'>;

/** Where a string begins: the fret of the capo that stops it nearest the bridge, 0 for the nut. */
export function nutOf({ capos }: Pick<Setup, 'capos'>, string: StringNumber): NutFret {
  let nut = 0;
  for (const capo of capos)
    if (capo.fret > nut && (capo.strings === null || capo.strings.includes(string))) nut = capo.fret;
  return nut;
}

/** The fret the whole neck counts from: the lowest beginning of any string that is on. 0 with a partial capo alone. */
export function baseNut(setup: Capoed): NutFret {
  let least = Infinity;
  const n = setup.open.length;
  for (let s = 1; s <= n; s++) if (!setup.absent.includes(s)) least = Math.min(least, nutOf(setup, s));
  return least === Infinity ? 0 : least;
}

/**
 * True when some strings begin elsewhere than others, so that a fret number alone does not say where the finger goes.
 */
export function isPartial(setup: Capoed): boolean {
  const base = baseNut(setup);
  return setup.open.some((_, i) => !setup.absent.includes(i + 1) && nutOf(setup, i + 1) !== base);
}

/** How frets are counted: from the capo, or from the nut as they lie on the neck. */
export type FretCounting = 'capo' | 'nut';

/**
 * The number written for a place: by either school. Counted from the nut, an open string under a capo shows the
 * capo's fret.
 */
export const shownFret = (
  setup: Pick<Setup, 'capos'>,
  string: StringNumber,
  fret: Fret,
  counting: FretCounting,
): number => (counting === 'nut' ? fret + nutOf(setup, string) : fret);

/** The fret from the string's own zero that a shown number means; may be below 0 where it lies behind the capo. */
export const fretShown = (
  setup: Pick<Setup, 'capos'>,
  string: StringNumber,
  shown: number,
  counting: FretCounting,
): Fret => (counting === 'nut' ? shown - nutOf(setup, string) : shown);

/**
 * Checks and tidies capos for an instrument: at most two, whole frets from 1, two frets of neck
 * left at least, strings that exist. A capo that names every string is a full one; a second capo
 * at the fret of the first is joined to it.
 */
export function checkCapos(instrument: Pick<Instrument, 'frets' | 'strings'>, wanted: readonly Capo[]): Result<Capo[]> {
  const count = instrument.strings.length;
  const last = Math.max(0, Math.min(instrument.frets - 2, 12));
  const capos: Capo[] = [];
  for (const [i, { fret, strings }] of wanted.entries()) {
    const at = `capo${wanted.length > 1 ? ` ${i + 1}` : ''}`;
    if (!Number.isInteger(fret) || fret < 0 || fret > last) {
      return fail(
        'bad-capo',
        `Capo at fret ${fret}: give a whole number from 0 (none) to ${last} on this instrument.`,
        at,
      );
    }
    if (fret === 0) continue;
    if (strings === null) {
      capos.push({ fret, strings });
      continue;
    }
    const odd = strings.find((string) => !Number.isInteger(string) || string < 1 || string > count);
    if (odd !== undefined)
      return fail('bad-capo', `The capo stops string ${odd}; this instrument has strings 1 to ${count}.`, at);
    const own = [...new Set(strings)].sort((a, b) => b - a);
    if (own.length === 0)
      return fail('bad-capo', `The capo at fret ${fret} stops no string. Name at least one, or leave it off.`, at);
    const held = own.every((string, index) => index === 0 || (own[index - 1] ?? 0) - string === 1);
    if (!held)
      return fail(
        'bad-capo',
        `A capo lies across neighbouring strings; ${own.join(', ')} leave a gap. Use two capos.`,
        at,
      );
    capos.push({ fret, strings: own.length === count ? null : own });
  }
  if (capos.length > MAX_CAPOS) return fail('bad-capo', `${capos.length} capos: two at most.`, 'capo');
  const [a, b] = capos;
  if (a && b && a.fret === b.fret) {
    if (a.strings === null || b.strings === null)
      return fail('bad-capo', `Two capos at fret ${a.fret} on the same strings: one is enough.`, 'capo');
    const joined = [...new Set([...a.strings, ...b.strings])].sort((string, one) => one - string);
    return ok([{ fret: a.fret, strings: joined.length === count ? null : joined }]);
  }
  return ok(capos.sort((capo, one) => capo.fret - one.fret));
}

/** Capos in words: "none", "fret 3", "fret 2 on strings 5 4 3", "fret 2, fret 4 on strings 3 2 1". */
export function capoWords({ capos }: Pick<Setup, 'capos'>): string {
  if (capos.length === 0) return 'none';
  return capos
    .map(
      (capo) =>
        `fret ${capo.fret}${capo.strings === null ? '' : ` on string${capo.strings.length === 1 ? '' : 's'} ${capo.strings.join(' ')}`}`,
    )
    .join(', ');
}

/** A full capo at a fret as the list a set-up holds; 0 for none. */
export const fullCapo = (fret: NutFret): Capo[] => (fret > 0 ? [{ fret, strings: null }] : []);
