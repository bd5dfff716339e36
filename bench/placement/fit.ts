/**
 * How the default weights were come by: `node --import tsx bench/placement/fit.ts` fits them to the
 * phrases, from the set-up alone, with the first note given, and with the note asked for; with --check it also prints
 * what such a fit is worth on phrases left out of it. The table that ships is this one, rounded, with
 * stretches and weak fingers kept dearer than the figures ask: strings and frets don't show them.
 */
import { DEFAULT_COSTS } from '@/core/hand';
import { crossChecked, ended, fitting } from '@/core/place';
import { asked, sampleOf, withAsked, withPlace } from './asked';
import { PHRASES } from './phrases';
import { MORE } from './more';

const all = [...PHRASES, ...MORE].map(asked);
// Alone, with the first note, and with the note asked for: each is a way the program is used.
const samples = all.flatMap((a) => [sampleOf(a), sampleOf(a, withPlace(a, 0, 0)), sampleOf(a, withAsked(a))]);
const fit = ended(fitting(samples, DEFAULT_COSTS, 4));
console.log(JSON.stringify(fit, null, 1));
if (process.argv.includes('--check')) console.log(JSON.stringify(ended(crossChecked(samples, DEFAULT_COSTS, 3))));
