import type { FormEntry, PassName, Use } from '../score';

/** Which version of a riff sounds on which pass. */

/** Whether a pass, counted from 1, is one of those named. */
export const isPass = (names: readonly PassName[], pass: number, passes: number): boolean =>
  names.some((name) =>
    name === 'last'
      ? pass === passes
      : name === 'odd'
        ? pass % 2 === 1
        : name === 'even'
          ? pass % 2 === 0
          : name === pass,
  );

export interface Pass {
  /** Of the use within its section. */
  readonly play: number;
  readonly plays: number;
  /** Of the section within its place in the form. */
  readonly pass: number;
  readonly passes: number;
}

/** Where a use is in its repeats: by its own plays where it has several, else by those of its section. */
export const countedBy = (use: Use, at: Pass): readonly [number, number] =>
  use.plays > 1 ? [at.play, at.plays] : [at.pass, at.passes];

/**
 * The variant of a use on a pass; null plays nothing. What the form says of this place goes before what the use says
 * of its endings; the joint leads back on every pass but the last; else the use's own variant, or the riff as written.
 */
export function variantOn(use: Use, entry: FormEntry | null, at: Pass): string | undefined | null {
  const here = entry?.differences?.find((one) => one.use === use.id && isPass(one.passes, at.pass, at.passes));
  if (here?.leaveOut || (use.leaveOut && !here?.variant)) return null;
  if (here?.variant) return here.variant;
  const [n, of] = countedBy(use, at);
  const ending = use.endings?.find((one) => isPass(one.passes, n, of));
  if (ending) return ending.variant;
  const joint =
    at.pass < at.passes && at.play === at.plays ? entry?.joints?.find((one) => one.use === use.id) : undefined;
  return joint?.variant ?? use.variant;
}

/** "first", "2nd", "21st"; beyond words from the fourth on. */
export function ordinal(n: number): string {
  const tens = n % 100;
  const end = tens > 10 && tens < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th');
  return `${n}${end}`;
}

/** Passes in words, as they are typed too: "2nd", "1st, 3rd", "last", "every other from the 1st". */
export function passWords(names: readonly PassName[]): string {
  return names
    .map((name) =>
      typeof name === 'number' ? ordinal(name) : name === 'odd' ? 'odd' : name === 'even' ? 'even' : 'last',
    )
    .join(', ');
}

/** A count of plays so that nobody takes it for repeats: "once", "2 times in all". */
export const playsWords = (plays: number): string => (plays === 1 ? 'once' : `${plays} times in all`);

/** Passes as they are said: "2nd time", "1st and 3rd time", "every even time", "last time". */
export function passTimes(names: readonly PassName[]): string {
  const words = names.map((name) => (name === 'odd' || name === 'even' ? `every ${name}` : passWords([name])));
  return `${words.length > 1 ? `${words.slice(0, -1).join(', ')} and ${words.at(-1)}` : (words[0] ?? '')} time`;
}
