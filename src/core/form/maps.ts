import { parseChord, shiftChord } from '../harmony';
import { parseName, pitchClass, type Key } from '../pitch';

/** Maps of bars that are laid as a section in one step, by the steps of a key: chords for each bar. */
export interface BarMap {
  readonly id: string;
  readonly name: string;
  /** A chord for each bar, thought in C major or A minor. */
  readonly bars: readonly string[];
  readonly mode: Key['mode'];
}

export const BAR_MAPS: readonly BarMap[] = [
  {
    id: 'twelve',
    name: '12 bars, major',
    mode: 'major',
    bars: ['C7', 'C7', 'C7', 'C7', 'F7', 'F7', 'C7', 'C7', 'G7', 'F7', 'C7', 'G7'],
  },
  {
    id: 'twelve-quick',
    name: '12 bars, to the IV in bar 2',
    mode: 'major',
    bars: ['C7', 'F7', 'C7', 'C7', 'F7', 'F7', 'C7', 'C7', 'G7', 'F7', 'C7', 'G7'],
  },
  {
    id: 'twelve-minor',
    name: '12 bars, minor',
    mode: 'minor',
    bars: ['Am', 'Am', 'Am', 'Am', 'Dm', 'Dm', 'Am', 'Am', 'F', 'E7', 'Am', 'E7'],
  },
  { id: 'eight', name: '8 bars, major', mode: 'major', bars: ['C7', 'C7', 'F7', 'F7', 'C7', 'G7', 'C7', 'G7'] },
  {
    id: 'sixteen',
    name: '16 bars, major',
    mode: 'major',
    bars: ['C7', 'C7', 'C7', 'C7', 'C7', 'C7', 'C7', 'C7', 'F7', 'F7', 'C7', 'C7', 'G7', 'F7', 'C7', 'G7'],
  },
];

/** The chords of a map in a key, as a typed line. Where the key is of the other mode its own tonic is kept. */
export function mapChords(map: BarMap, key: Key | null): string {
  const home: Key = map.mode === 'minor' ? { tonic: 'A', mode: 'minor' } : { tonic: 'C', mode: 'major' };
  const wanted = key ? { ...key, mode: map.mode } : home;
  const from = parseName(home.tonic);
  const to = parseName(wanted.tonic);
  const by = from && to ? pitchClass(to) - pitchClass(from) : 0;
  const chords = map.bars.map((name) => {
    const read = parseChord(name);
    if (!read.ok) return name;
    const moved = shiftChord(read.value, by, wanted);
    return `${ascii(moved.root.letter, moved.root.alteration)}${moved.kind}`;
  });
  return `| ${chords.join(' | ')} |`;
}

const ascii = (letter: string, alteration: number): string =>
  letter + (alteration >= 0 ? '#'.repeat(alteration) : 'b'.repeat(-alteration));

/** Which step of the key a root is, in Roman numerals, for names of moved uses. */
export function stepName(root: string, key: Key): string {
  const [one, tonic] = [parseName(root), parseName(key.tonic)];
  if (!one || !tonic) return '';
  const up = (((pitchClass(one) - pitchClass(tonic)) % 12) + 12) % 12;
  return ['I', '♭II', 'II', '♭III', 'III', 'IV', '♯IV', 'V', '♭VI', 'VI', '♭VII', 'VII'][up] ?? '';
}
