import { must } from '../src/core/base';
import { classesOf, namesOf, nameOf, parseChord, type ChordReading } from '../src/core/harmony';
import { fretsLeft, makeSetup, openPitch, stringNumbers, TUNINGS, type Setup } from '../src/core/instrument';
import { keyOn } from '../src/core/harmony';
import { noteName, pitchClass } from '../src/core/pitch';
import { pick, randomOf } from './lib/random';

/**
 * Voicings made on the neck from a chord that is known: strings beside each other within four frets, every tone that
 * names the chord in it, the fifth left out now and then, the root or another tone lowest, or the root only in the
 * bass player's hand. How often the first name is that chord, and one of three. Some notes have two names that nobody
 * can tell apart by ear: a sixth chord over its sixth is a minor seventh, a suspended second over its fifth a suspended
 * fourth, and every tone of an augmented chord may be its root. There the name whose root is lowest counts as right
 * too; without that allowance the figure stands beside. The costs were set on other seeds; the baseline is the strict
 * naming that knows no bass and no missing tone.
 */

const KINDS = [
  '',
  'm',
  '5',
  '7',
  'm7',
  'maj7',
  'sus4',
  'sus2',
  '6',
  'm6',
  'add9',
  'dim',
  'm7b5',
  'aug',
  '9',
  'dim7',
  '7sus4',
  'm9',
] as const;
/** As often as players use them. */
const WEIGHTS = [8, 8, 8, 6, 6, 4, 3, 3, 2, 1, 3, 1, 1, 1, 2, 1, 1, 1];
const bag = KINDS.flatMap((kind, i) => Array.from({ length: WEIGHTS[i] ?? 1 }, () => kind));

interface Voicing {
  readonly setup: Setup;
  readonly pitches: readonly number[];
  readonly bass: number | null;
  readonly root: number;
  readonly kind: string;
  readonly lowest: number;
}

function voicing(seed: number): Voicing | null {
  const random = randomOf(seed);
  const guitars = TUNINGS.filter((one) => one.instruments.includes('guitar-6'));
  const tuning = pick(random, guitars);
  const made = makeSetup({ instrument: 'guitar-6', tuning: tuning.id });
  if (!made.ok) return null;
  const { setup } = made.value;
  const root = Math.floor(random() * 12);
  const kind = pick(random, bag);
  const symbol = must(
    parseChord(
      `${noteName(60 + root)
        .replace('♯', '#')
        .replace('♭', 'b')}${kind}`,
    ),
  );
  const tones = classesOf(symbol);
  const laned = random() < 0.4;
  // A bass player has the root, now and then the third or fifth.
  const bass = laned ? (random() < 0.8 ? root : pick(random, tones)) : null;
  const hand = Math.floor(random() * 9);
  const strings = stringNumbers(setup);
  const many = 2 + Math.floor(random() * 4);
  const first = Math.floor(random() * (strings.length - many + 1));
  const pitches: number[] = [];
  for (const string of strings.slice(first, first + many)) {
    const frets = Array.from({ length: 4 }, (_, i) => hand + i).filter((fret) => fret <= fretsLeft(setup, string));
    const fits = frets.map((fret) => openPitch(setup, string) + fret).filter((midi) => tones.includes(midi % 12));
    const open = openPitch(setup, string);
    if (hand > 0 && hand < 4 && tones.includes(open % 12)) fits.push(open);
    if (fits.length > 0) pitches.push(pick(random, fits));
  }
  const held = new Set([...pitches.map((midi) => midi % 12), ...(bass === null ? [] : [bass])]);
  const fifth = (root + 7) % 12;
  const needed = tones.filter(
    (pc) => pc !== fifth || kind === '5' || kind.includes('6') || kind.includes('sus') || tones.length < 4,
  );
  if (pitches.length < 2 || needed.some((pc) => !held.has(pc))) return null;
  const lowest = bass ?? Math.min(...pitches) % 12;
  return { setup, pitches, bass, root, kind, lowest };
}

const WANTED = 300;
let [n, first, three, exact, strict, seed] = [
  0,
  0,
  0,
  0,
  0,
  Number(process.argv.find((one) => one.startsWith('--seed='))?.slice(7) ?? 9000),
];
const confused = new Map<string, number>();
while (n < WANTED) {
  const made = voicing(seed++);
  if (!made) continue;
  n++;
  const { pitches, bass, root, kind, lowest } = made;
  // Half of them in a key that has the root.
  const key = seed % 2 === 0 ? keyOn(root, kind.startsWith('m') && kind !== 'maj7' ? 'minor' : 'major') : null;
  const names = namesOf({ pitches, bass, key });
  const same = ({ chord }: ChordReading): boolean =>
    pitchClass(chord.root) === root && chord.kind === kind && (chord.bass ? pitchClass(chord.bass) : root) === lowest;
  /** Another name of just these notes, whose root is the bass; or the triad of the chord over the bass it has. */
  const alike = ({ chord }: ChordReading): boolean =>
    lowest !== root &&
    ((chord.bass === null && pitchClass(chord.root) === lowest) ||
      (pitchClass(chord.root) === root &&
        kind.startsWith(chord.kind) &&
        chord.bass !== null &&
        pitchClass(chord.bass) === lowest));
  const right = names.findIndex((one) => same(one) || alike(one));
  if (names[0] && same(names[0])) exact++;
  if (right === 0) first++;
  if (right >= 0 && right < 3) three++;
  if (right !== 0) {
    const said = `${kind || 'major'}${lowest === root ? '' : ' inverted'} as ${names[0] ? `${names[0].chord.kind || 'major'}${names[0].chord.bass ? ' over a bass' : ''}` : 'nothing'}`;
    confused.set(said, (confused.get(said) ?? 0) + 1);
  }
  const plain = nameOf(pitches, key);
  const read = plain ? parseChord(plain.replaceAll('♯', '#').replaceAll('♭', 'b')) : null;
  if (read?.ok && pitchClass(read.value.root) === root && read.value.kind === kind) strict++;
}
const percent = (x: number): string => `${((100 * x) / WANTED).toFixed(1)} %`;
console.log(
  `${WANTED} voicings in ${new Set(TUNINGS.map((one) => one.id)).size} tunings: first name right ${percent(first)} (goal 95; ${percent(exact)} without the allowance), among three ${percent(three)} (goal 99); strict naming without bass ${percent(strict)}`,
);
for (const [said, times] of [...confused].sort((a, b) => b[1] - a[1])) console.log(`  ${times} x ${said}`);
