import type { Midi } from '../base';
import { parseName, pitchClass, spell, type Key } from '../pitch';
import { chordsOfKey, classesOf, type ChordSymbol } from './chords';

/** A note by when it sounds, in quarters. */
export interface SoundingNote {
  readonly at: number;
  readonly until: number;
  readonly midi: Midi;
}

export interface ChordUnder {
  readonly from: number;
  readonly to: number;
  readonly chord: ChordSymbol;
  /** Share of what sounds that belongs to the chord, 0 to 1. */
  readonly explains: number;
}

const mod12 = (n: number): number => ((n % 12) + 12) % 12;
const KINDS = ['', 'm'] as const;
/**
 * What speaks for a chord beside its own notes, as shares of all that sounds: its root in the bass, and belonging to
 * the key.
 */
const FOR = { bass: 0.22, root: 0.12, key: 0.16 } as const;
/** A stretch is halved where two chords explain so much more than one. */
const WORTH_HALVING = 0.22;

/**
 * The plain chord under each stretch: the major or minor chord whose notes sound longest there, its
 * root in the bass and its belonging to the key weighing with it. A proposal for playing along, not
 * a naming of what the notes are. A stretch where nothing sounds keeps the chord before it; two
 * stretches with one chord become one.
 * @param bounds ascending times in quarters: bar lines, as a rule
 */
export function chordsUnder(notes: readonly SoundingNote[], bounds: readonly number[], key: Key | null): ChordUnder[] {
  const out: ChordUnder[] = [];
  const put = (from: number, to: number, found: Found): void => {
    const last = out.at(-1);
    const same = last && found.root === mod12(pitchClass(last.chord.root)) && found.kind === last.chord.kind;
    if (last && (same || found.total === 0)) {
      const share = (last.to - last.from) / (to - last.from);
      out[out.length - 1] = {
        ...last,
        to,
        explains: found.total === 0 ? last.explains : last.explains * share + found.explains * (1 - share),
      };
    } else if (found.total > 0)
      out.push({
        from: out.length === 0 ? (bounds[0] ?? from) : from,
        to,
        chord: { root: spell(found.root, key), kind: found.kind, bass: null },
        explains: found.explains,
      });
  };
  for (let i = 0; i + 1 < bounds.length; i++) {
    const [from, to] = [bounds[i] as number, bounds[i + 1] as number];
    const middle = (from + to) / 2;
    const [whole, left, right] = [
      best(notes, from, to, key),
      best(notes, from, middle, key),
      best(notes, middle, to, key),
    ];
    const parted =
      (left.explains * left.total + right.explains * right.total) / Math.max(1e-9, left.total + right.total);
    if (left.total > 0 && right.total > 0 && parted - whole.explains > WORTH_HALVING) {
      put(from, middle, left);
      put(middle, to, right);
    } else put(from, to, whole);
  }
  return out;
}

interface Found {
  readonly root: number;
  readonly kind: (typeof KINDS)[number];
  readonly explains: number;
  /** How much sounds there. */
  readonly total: number;
}

function best(notes: readonly SoundingNote[], from: number, to: number, key: Key | null): Found {
  const weight = new Float64Array(12);
  let lowest: SoundingNote | null = null;
  for (const one of notes) {
    const held = Math.min(one.until, to) - Math.max(one.at, from);
    if (held <= 1e-9) continue;
    // What begins there says more than what only rings on into it.
    weight[mod12(one.midi)] = (weight[mod12(one.midi)] as number) + held * (one.at >= from - 1e-9 ? 1 : 0.5);
    if (!lowest || one.midi < lowest.midi || (one.midi === lowest.midi && one.at < lowest.at)) lowest = one;
  }
  const total = weight.reduce((sum, w) => sum + w, 0);
  const own = new Set(key ? chordsOfKey(key).map((chord) => `${mod12(pitchClass(chord.root))}${chord.kind}`) : []);
  // The chord of its fifth step is major in minor keys too.
  const tonic = key?.mode === 'minor' ? parseName(key.tonic) : null;
  if (tonic) own.add(`${mod12(pitchClass(tonic) + 7)}`);
  let found: Found = { root: 0, kind: '', explains: 0, total };
  let top = -Infinity;
  for (let root = 0; root < 12; root++) {
    for (const kind of KINDS) {
      const inside = [0, kind === 'm' ? 3 : 4, 7].reduce((sum, up) => sum + (weight[mod12(root + up)] as number), 0);
      const score =
        inside +
        total * ((lowest && mod12(lowest.midi) === root ? FOR.bass : 0) + (own.has(`${root}${kind}`) ? FOR.key : 0)) +
        FOR.root * (weight[root] as number);
      if (score > top + 1e-9) [top, found] = [score, { root, kind, explains: total > 0 ? inside / total : 0, total }];
    }
  }
  return found;
}

/** The chord's notes from its root up, close together, at or above `lowest`. */
export function voiced(chord: ChordSymbol, lowest: Midi): Midi[] {
  const [root = 0, ...rest] = classesOf(chord);
  const first = lowest + mod12(root - lowest);
  return [first, ...rest.map((c) => first + mod12(c - root))];
}
