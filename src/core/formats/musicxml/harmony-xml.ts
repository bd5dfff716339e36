import { parseName } from '../../pitch';
import { child, childrenOf, numberOf, textOf, type Element } from './xml';

/** Chord kinds of the format, and how they are written in a chord's name here. The first of a name is written. */
const KINDS: readonly (readonly [kind: string, suffix: string])[] = [
  ['major', ''],
  ['minor', 'm'],
  ['dominant', '7'],
  ['major-seventh', 'maj7'],
  ['minor-seventh', 'm7'],
  ['power', '5'],
  ['suspended-fourth', 'sus4'],
  ['suspended-second', 'sus2'],
  ['diminished', 'dim'],
  ['diminished-seventh', 'dim7'],
  ['half-diminished', 'm7b5'],
  ['augmented', 'aug'],
  ['augmented-seventh', '7#5'],
  ['major-minor', 'mMaj7'],
  ['major-sixth', '6'],
  ['minor-sixth', 'm6'],
  ['dominant-ninth', '9'],
  ['major-ninth', 'maj9'],
  ['minor-ninth', 'm9'],
  ['dominant-11th', '11'],
  ['minor-11th', 'm11'],
  ['dominant-13th', '13'],
  ['major-13th', 'maj13'],
  ['minor-13th', 'm13'],
  ['none', 'N.C.'],
];

const SIGNS: Readonly<Record<number, string>> = { [-2]: 'bb', [-1]: 'b', 0: '', 1: '#', 2: '##' };

const nameIn = (one: Element | undefined, what: string): string | null => {
  const step = textOf(one, `${what}-step`);
  if (step === null || !/^[A-G]$/.test(step)) return null;
  return step + (SIGNS[numberOf(one, `${what}-alter`) ?? 0] ?? '');
};

/** The name of a chord mark, empty where it only ends the one before; null where it has no root we know. */
export function chordOf(harmony: Element): string | null {
  const kind = textOf(harmony, 'kind') ?? 'major';
  if (kind === 'none') return child(harmony, 'kind')?.attrs.text === '' ? '' : 'N.C.';
  const root = nameIn(child(harmony, 'root'), 'root');
  if (root === null) return null;
  const shown = child(harmony, 'kind')?.attrs.text;
  const known = KINDS.find(([name]) => name === kind)?.[1];
  const suffix = known ?? shown ?? '';
  const degrees = childrenOf(harmony, 'degree').map((degree) => {
    const value = `${SIGNS[numberOf(degree, 'degree-alter') ?? 0] ?? ''}${numberOf(degree, 'degree-value') ?? ''}`;
    const type = textOf(degree, 'degree-type');
    return type === 'subtract' ? `no${value}` : type === 'add' && !/^[#b]/.test(value) ? `add${value}` : value;
  });
  const bass = nameIn(child(harmony, 'bass'), 'bass');
  return `${root}${suffix}${degrees.join('')}${bass === null || bass === root ? '' : `/${bass}`}`.slice(0, 40);
}

export interface ChordSpelling {
  readonly root: { readonly step: string; readonly alter: number };
  readonly kind: string;
  /** As it is written behind the root. */
  readonly text: string;
  readonly bass: { readonly step: string; readonly alter: number } | null;
}

/** A chord's name taken apart for writing; null for what is no chord ("N.C." has none of it). */
export function spellingOf(chord: string): ChordSpelling | null {
  const match = /^([A-G][#b]{0,2})([^/]*)(?:\/([A-G][#b]{0,2}))?$/.exec(
    chord.replaceAll('♯', '#').replaceAll('♭', 'b'),
  );
  const root = match ? parseName(match[1] ?? '') : null;
  if (!match || !root) return null;
  const text = match[2] ?? '';
  const bass = match[3] ? parseName(match[3]) : null;
  return {
    root: { step: root.letter, alter: root.alteration },
    kind: KINDS.find(([, suffix]) => suffix === text)?.[0] ?? 'other',
    text,
    bass: bass && { step: bass.letter, alter: bass.alteration },
  };
}
