import type { StringNumber } from '../base';
import { nutOf, openPitch, stringNumbers, type Setup } from '../instrument';

/** How the strings of two set-ups answer each other. */

/**
 * The string on another instrument that a player takes for the same: with as many strings, the one of the same number;
 * else strings are laid over each other so that most are made for the same letter, from the thin side where that
 * doesn't decide. Guitar strings 6 to 3 are so a bass's 4 to 1. Null where there is none.
 */
export function counterpart(from: Setup, to: Setup, string: StringNumber): StringNumber | null {
  const shift = stringShift(from, to);
  const there = string + shift;
  return stringNumbers(to).includes(there) ? there : null;
}

/** By how much string numbers differ between two instruments. */
export function stringShift(from: Setup, to: Setup): number {
  const [a, b] = [from.instrument.strings, to.instrument.strings];
  if (a.length === b.length) return 0;
  let best = { shift: 0, same: -1 };
  for (let shift = -11; shift <= 11; shift++) {
    let same = 0;
    for (let string = 1; string <= a.length; string++) {
      const one = a[a.length - string];
      const other = b[b.length - (string + shift)];
      if (one && other && (one.pitch - other.pitch) % 12 === 0) same++;
    }
    if (same > best.same || (same === best.same && Math.abs(shift) < Math.abs(best.shift))) best = { shift, same };
  }
  return best.shift;
}

/** Strings that sound the same open in both, thick to thin: what is gripped on them carries over untouched. */
export function equalStrings(from: Setup, to: Setup): StringNumber[] {
  return stringNumbers(from).filter((string) => {
    const there = counterpart(from, to, string);
    return (
      there !== null && openPitch(from, string) === openPitch(to, there) && nutOf(from, string) === nutOf(to, there)
    );
  });
}
