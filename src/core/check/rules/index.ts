import type { Rule } from '../types';
import { claims, claimsDiffer } from '../claims';
import { bars } from './bars';
import { bend } from './bend';
import { chord } from './chord';
import { copy } from './copy';
import { direction } from './direction';
import { hand } from './hand';
import { key } from './key';
import { labels } from './labels';
import { joint } from './loop-joint';
import { lostNote } from './lost-note';
import { movedOpen } from './moved-open';
import { oddNote } from './odd-note';
import { recording } from './recording';
import { repeat } from './repeat';
import { rows } from './rows';
import { strokes } from './strokes';
import { tempo } from './tempo';
import { twoWays } from './two-ways';
import { unsaid } from './unsaid';
import { voices } from './voices';
import { words } from './words';

/** Everything that is asked about a piece. A rule more is a file and a line here. */
export const RULES: readonly Rule[] = [
  ...[words, direction, bend, copy, voices, lostNote, bars, joint, chord, key, oddNote],
  ...[hand, strokes, movedOpen, labels, repeat, tempo, twoWays, rows, claims, claimsDiffer, recording, unsaid],
];

/** Findings a rule makes under a name of its own: claims are told apart by what they are about. */
export const RULE_NAMES: Readonly<Record<string, string>> = {
  ...Object.fromEntries(RULES.map((rule) => [rule.id, rule.name])),
  'claim-scale': 'a scale or mode that a note breaks',
  'claim-chord': 'a chord name that is not what sounds',
  'claim-degree': 'a degree that is another',
  'claim-interval': 'an interval to another part that isn’t',
  'claim-copy': 'a stretch said to be another again, and isn’t',
  'claim-bend': 'a bend that goes elsewhere',
  'claim-direction': 'a way that goes the other way',
  'claim-strokes': 'strokes that are others',
  'claim-position': 'a position out of reach',
  'claim-setup': 'a capo that is elsewhere',
  'claim-tempo': 'a tempo that is another',
  'letters-frets': 'letters, frets and strings that don’t agree',
};
