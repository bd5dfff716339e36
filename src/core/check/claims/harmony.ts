import { checkScale, classesOf, degreeOver, namesOf, scaleName, type ChordReading } from '../../harmony';
import { pitchClass, renderName, type Key } from '../../pitch';
import { findRiff, keyOf, type Piece } from '../../score';
import { pitchOf, toneOf, whereIn } from '../places';
import type { CheckFinding } from '../types';
import type { ParsedClaim } from './parse';
import type { Stretch, StretchNote } from './stretch';
import { broken, reworded } from './told';

/** Claims about scales, modes, chords, grips and degrees. */

type Of<Kind extends ParsedClaim['kind']> = Extract<ParsedClaim, { readonly kind: Kind }>;

const keyOfStretch = ({ piece, riff }: Stretch): Key | null => keyOf(piece, riff);

export const placed = (piece: Piece, at: StretchNote): string => {
  const found = findRiff(piece, at.riff);
  return found ? `${whereIn(found.riff, at.event)} of "${found.riff.name}"` : 'there';
};

export function scale(stretch: Stretch, { claim }: Of<'scale'>): CheckFinding[] {
  const pitches = stretch.notes.map(({ note }) => note.pitch.midi);
  if (pitches.length === 0) return [];
  const key = keyOfStretch(stretch);
  const checked = checkScale(pitches, claim, key);
  const [first] = checked.outside;
  const at = first ? stretch.notes[first.index] : undefined;
  if (!first || !at) return [];
  const name = scaleName(claim.tonic ?? checked.tonic, claim.scale, key);
  const classes = [...new Set(checked.outside.map(({ midi }) => toneOf(midi, key)))];
  const better = checked.better.map((one) => scaleName(one.tonic, one.scale, key));
  return [
    broken('claim-scale', stretch, {
      at,
      ground: [checked.outside.map(({ midi }) => midi)],
      words: `"${stretch.claim.words}" is said, but ${pitchOf(first.midi, key)} at ${placed(stretch.piece, at)} is outside ${name}${checked.outside.length > 1 ? `, as ${checked.outside.length - 1} more ${checked.outside.length === 2 ? 'is' : 'are'} (${classes.join(', ')})` : ''}: another scale, or another note?`,
      evidence:
        better.length > 0 ? `${better.join(', or ')} would hold.` : 'No plain scale on that note holds all of it.',
      mends: better.slice(0, 2).map((one) => reworded(stretch, one)),
    }),
  ];
}

/** Names of what sounds in a stretch taken together. */
function readingsOf(stretch: Stretch): ChordReading[] {
  return namesOf({ pitches: stretch.notes.map(({ note }) => note.pitch.midi), key: keyOfStretch(stretch) });
}

export function chord(stretch: Stretch, { chord: said, name }: Of<'chord'>): CheckFinding[] {
  if (stretch.notes.length === 0) return [];
  const key = keyOfStretch(stretch);
  const tones = classesOf(said);
  const bass = said.bass ? pitchClass(said.bass) : null;
  const sounding = new Set(stretch.notes.map(({ note }) => note.pitch.midi % 12));
  const stranger = stretch.notes.find(
    ({ note }) => !tones.includes(note.pitch.midi % 12) && note.pitch.midi % 12 !== bass,
  );
  const readings = readingsOf(stretch);
  const [best] = readings;
  const instead = best ? [reworded(stretch, ascii(best.sounding))] : [];
  const is = best
    ? `it is ${best.sounding}`
    : `it is only ${[...sounding].map((pc) => toneOf(60 + pc, key)).join(', ')}`;
  if (stranger)
    return [
      broken('claim-chord', stretch, {
        at: stranger,
        ground: [[...sounding].sort((a, b) => a - b)],
        words: `"${stretch.claim.words}" is said, but ${toneOf(stranger.note.pitch.midi, key)} at ${placed(stretch.piece, stranger)} is no note of ${name}: ${is}?`,
        evidence: best?.why ?? null,
        mends: instead,
      }),
    ];
  // A name may leave out the fifth, and nothing else that names it.
  const root = pitchClass(said.root);
  const missing = tones.filter((pc) => !sounding.has(pc) && pc !== (root + 7) % 12);
  if (missing.length > 0)
    return [
      broken('claim-chord', stretch, {
        ground: [[...sounding].sort((a, b) => a - b)],
        words: `"${stretch.claim.words}" is said, but no ${missing.map((pc) => `${toneOf(60 + pc, key)} (the ${degreeOver(60 + pc, said)})`).join(', no ')} sounds: ${is}, or does another player have it?`,
        evidence: best?.why ?? null,
        likely: 0.7,
        mends: instead,
      }),
    ];
  const lowest = Math.min(...stretch.notes.map(({ note }) => note.pitch.midi)) % 12;
  if (bass !== null && lowest !== bass)
    return [
      broken('claim-chord', stretch, {
        ground: [lowest],
        words: `"${stretch.claim.words}" is said, but the lowest note is ${toneOf(60 + lowest, key)}: ${best?.sounding ?? 'another bass'}?`,
        mends: instead,
      }),
    ];
  return [];
}

const ascii = (name: string): string => name.replaceAll('♯', '#').replaceAll('♭', 'b');

const GRIPS = {
  power: 'a power chord is a root and its fifth, nothing else',
  inverted: 'an inverted power chord is a fourth with its root on top',
  'no-third': 'a third sounds',
} as const;

export function grip(stretch: Stretch, { grip: said }: Of<'grip'>): CheckFinding[] {
  // Each attack is a grip of its own.
  const groups = new Map<string, StretchNote[]>();
  for (const one of stretch.notes) groups.set(one.event.id, [...(groups.get(one.event.id) ?? []), one]);
  for (const group of groups.values()) {
    const [at] = group;
    const [best] = namesOf({ pitches: group.map(({ note }) => note.pitch.midi), key: keyOfStretch(stretch) });
    if (!at || group.length < 2) continue;
    const power = best?.chord.kind === '5';
    const fits =
      said === 'power'
        ? power
        : said === 'inverted'
          ? power && best.chord.bass !== null
          : power || best?.sounding.includes('no 3') || best?.chord.kind.includes('sus');
    if (fits) continue;
    return [
      broken('claim-chord', stretch, {
        at,
        ground: [group.map(({ note }) => note.pitch.midi)],
        words: `"${stretch.claim.words}" is said, but at ${placed(stretch.piece, at)} it is ${best?.sounding ?? 'another grip'}: ${GRIPS[said]}. Which is right?`,
        evidence: best?.why ?? null,
        mends: best ? [reworded(stretch, ascii(best.sounding))] : [],
      }),
    ];
  }
  return [];
}

export function degree(stretch: Stretch, said: Of<'degree'>): CheckFinding[] {
  const root = pitchClass(said.root);
  const wanted = said.semitones >= 0 ? [said.semitones] : said.name === 'third' ? [3, 4] : [10, 11];
  const off = stretch.notes.find(({ note }) => !wanted.includes((note.pitch.midi - root + 120) % 12));
  if (!off) return [];
  const key = keyOfStretch(stretch);
  const is = degreeOver(off.note.pitch.midi, said.root);
  const should = wanted.map((step) => toneOf(60 + root + step, key)).join(' or ');
  return [
    broken('claim-degree', stretch, {
      at: off,
      ground: [off.note.pitch.midi],
      words: `"${stretch.claim.words}" is said, but ${toneOf(off.note.pitch.midi, key)} at ${placed(stretch.piece, off)} is the ${is} of ${renderName(said.root)}; its ${said.name} is ${should}. Which is right?`,
    }),
  ];
}
