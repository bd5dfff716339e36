import type { Hertz } from '../base';
import { nutOf, openPitch, stringNumbers, type Setup } from '../instrument';
import { frequency } from '../pitch';
import type { Target } from './types';

/**
 * What each string is tuned to, thick to thin: with the capo on (the pitch it sounds there), or
 * open as if there were none, by the instructor's school.
 */
export function targetsOf(setup: Setup, withCapo: boolean, a4: Hertz): Target[] {
  return stringNumbers(setup).map((string) => {
    const midi = openPitch(setup, string) - (withCapo ? 0 : nutOf(setup, string));
    return { string, midi, hz: frequency(midi, 0, a4) };
  });
}
