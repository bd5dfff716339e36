/**
 * How the default weights were come by: `node --import tsx bench/placement/fit.ts` fits them to the
 * first list of phrases, from the set-up alone and with the first note given, prints the table, and
 * what the same fit is worth on phrases left out.
 */
import { DEFAULT_COSTS } from '@/core/hand';
import { crossChecked, ended, fitting } from '@/core/place';
import { asked, sampleOf, withAsked, withPlace } from './asked';
import { PHRASES } from './phrases';

const all = PHRASES.map(asked);
// Alone, with the first note, and with the note asked for: each is a way the program is used.
const samples = all.flatMap((a) => [sampleOf(a), sampleOf(a, withPlace(a, 0, 0)), sampleOf(a, withAsked(a))]);
const fit = ended(fitting(samples, DEFAULT_COSTS, 4));
console.log(JSON.stringify(fit, null, 1));
if (process.argv.includes('--check')) console.log(JSON.stringify(ended(crossChecked(samples, DEFAULT_COSTS, 3))));
