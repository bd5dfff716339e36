import type { Finger, Fret, Midi, Result, StringNumber } from '../base';
import { fail, ok } from '../base';
import { fretsLeft, openPitch, stringNumbers, type Setup } from '../instrument';
import type { Profile } from '../hand';
import { bestWay, DEFAULT_OPTIONS, solve } from '../place';
import { quarter, ZERO } from '../time';
import { pitchClass } from '../pitch';
import { classesOf, type ChordSymbol } from './chords';

/** A grip as a chord frame: what every string does. */
export interface ChordFrame {
  /** Thick to thin: fret from the string's own zero, or null where the string is not struck. */
  readonly frets: readonly (Fret | null)[];
  /** Finger of each string, 0 open, null where not struck. */
  readonly fingers: readonly (Finger | null)[];
  readonly pitches: readonly Midi[];
  /** Open strings in it. */
  readonly open: number;
  /** True where at least one string is open and all fingers lie in the first four frets: an open grip. */
  readonly isOpen: boolean;
  /** The hand model's cost of holding it, and the strings left out inside: lower is easier. */
  readonly cost: number;
}

const mod12 = (n: number): number => ((n % 12) + 12) % 12;

/** Frets looked at: near the nut for open grips; further up only where there is none. */
const NEAR = 4;
const FAR = 8;
/** Grips the hand model is asked about. */
const TRIED = 14;
const SPAN = 3;

interface Candidate {
  readonly frets: (Fret | null)[];
  readonly promise: number;
}

/** Tones of a chord that may be left out, in that order: what names the chord is never among them. */
function sparable(chord: ChordSymbol, bass: number): { readonly pc: number; readonly name: string }[] {
  const [root = 0, ...rest] = classesOf(chord);
  const has = (semitones: number): boolean => rest.includes(mod12(root + semitones));
  return [
    ...(has(7) ? [{ pc: mod12(root + 7), name: 'fifth' }] : []),
    ...(rest.length >= 4 && root !== bass ? [{ pc: root, name: 'root' }] : []),
    ...(rest.length >= 4 && has(2) && !/^(add|m?9$|sus)/.test(chord.kind)
      ? [{ pc: mod12(root + 2), name: 'ninth' }]
      : []),
  ].filter(({ pc }) => pc !== bass);
}

/**
 * A chord as it is called: the fullest grip near the nut whose tones make the chord, and the names of those it leaves
 * out because no hand here holds all of them: the fifth first, never what names it. Fails where none is left.
 */
export function chordCalled(
  chord: ChordSymbol,
  setup: Setup,
): Result<{ readonly pitches: readonly Midi[]; readonly left: readonly string[] }> {
  const classes = classesOf(chord);
  const bass = bassClass(chord, classes);
  const wanted = classes.includes(bass) ? classes : [...classes, bass];
  const spare = sparable(chord, bass);
  for (let left = 0; left <= spare.length; left++) {
    const without = spare.slice(0, left).map(({ pc }) => pc);
    const needed = wanted.filter((pc) => !without.includes(pc));
    // Near the nut and further up are weighed together: a full grip at the fifth fret may be the one that is meant.
    const found = [NEAR, FAR].flatMap((reach) =>
      grips(setup, { wanted, needed, bass, reach, tried: CALLED_TRIED }, DEFAULT_OPTIONS.profile),
    );
    const [best] = found.sort((a, b) => called(a, wanted, setup) - called(b, wanted, setup));
    if (!best) continue;
    const sounding = new Set(best.pitches.map(mod12));
    return ok({
      pitches: [...best.pitches].sort((a, b) => a - b),
      left: spare.filter(({ pc }) => !sounding.has(pc)).map(({ name }) => name),
    });
  }
  return fail('no-grip', `No hand grips this chord in the first ${FAR} frets of this set-up: call its notes instead.`);
}

/**
 * How far a grip is from what is meant by a chord's name: its ease for the hand, and as a voicing. A tone doubled at
 * one pitch says nothing, a third close above the bass is muddy, full grips and low ones are usual.
 */
function called(frame: ChordFrame, wanted: readonly number[], setup: Setup): number {
  const pitches = [...frame.pitches].sort((a, b) => a - b);
  const unisons = pitches.filter((pitch, i) => pitch === pitches[i - 1]).length;
  const close = (pitches[1] ?? 0) - (pitches[0] ?? 0) < VOICING.close && pitches.length > 3 ? 1 : 0;
  const missing = wanted.filter((pc) => !pitches.some((pitch) => mod12(pitch) === pc)).length;
  const unused = setup.open.length - setup.absent.length - pitches.length;
  const stopped = frame.frets.filter((fret): fret is Fret => fret !== null && fret > 0);
  const up = stopped.length > 0 ? Math.min(...stopped) - 1 : 0;
  return (
    frame.cost +
    unisons * VOICING.unison +
    close * VOICING.muddy +
    missing * VOICING.missing +
    unused * VOICING.unused +
    up * VOICING.up
  );
}

/** Costs of a voicing, beside the hand's own; `close` in semitones. */
const VOICING = { close: 5, unison: 1.2, muddy: 1.8, missing: 0.5, unused: 0.6, up: 0.22 } as const;
const CALLED_TRIED = 40;

const bassClass = ({ bass }: ChordSymbol, classes: readonly number[]): number =>
  bass ? mod12(pitchClass(bass)) : (classes[0] ?? 0);

/**
 * The easiest grips of a sounding chord in a set-up: root (or the bass asked for) on the thickest string
 * struck, every needed tone present (a fifth may be missing from four tones on), no silent string
 * inside unless nothing else is found, playable by the hand. Easiest first.
 */
export function chordFrames(
  chord: ChordSymbol,
  setup: Setup,
  howMany = 3,
  profile: Profile = DEFAULT_OPTIONS.profile,
): Result<ChordFrame[]> {
  const classes = classesOf(chord);
  const bass = bassClass(chord, classes);
  const wanted = chord.bass && !classes.includes(bass) ? [...classes, bass] : classes;
  const fifth = classes.length >= 4 ? mod12((classes[0] ?? 0) + 7) : -1;
  const needed = wanted.filter((c) => c !== fifth);
  const found = framesOf(setup, wanted, needed, bass, profile);
  if (found.length > 0) return ok(found.sort((a, b) => a.cost - b.cost).slice(0, howMany));
  return fail('no-grip', `No hand grips this chord in the first ${FAR} frets of this set-up.`);
}

/** Grips that hold every needed tone: near the nut, and further up only where there is none. */
function framesOf(
  setup: Setup,
  wanted: readonly number[],
  needed: readonly number[],
  bass: number,
  profile: Profile,
): ChordFrame[] {
  for (const reach of [NEAR, FAR]) {
    const found = grips(setup, { wanted, needed, bass, reach, tried: TRIED }, profile);
    if (found.length > 0) return found;
  }
  return [];
}

interface Tones {
  readonly wanted: readonly number[];
  readonly needed: readonly number[];
  readonly bass: number;
  readonly reach: number;
  /** Grips tried by the hand model, the most promising first. */
  readonly tried: number;
}

const grips = (setup: Setup, { wanted, needed, bass, reach, tried }: Tones, profile: Profile): ChordFrame[] =>
  candidates(setup, wanted, needed, bass, reach)
    .sort((a, b) => b.promise - a.promise)
    .slice(0, tried)
    .flatMap((candidate) => judged(candidate.frets, setup, profile));

function candidates(
  setup: Setup,
  wanted: readonly number[],
  needed: readonly number[],
  bass: number,
  reach: number,
): Candidate[] {
  const strings = stringNumbers(setup);
  const out: Candidate[] = [];
  const frets: (Fret | null)[] = new Array<Fret | null>(setup.open.length).fill(null);
  const choose = (i: number, low: number, high: number, sounding: number, muted: number): void => {
    const string = strings[i];
    if (string === undefined) {
      finish(setup, frets, needed, reach, out, muted);
      return;
    }
    const at = setup.open.length - string;
    const open = openPitch(setup, string);
    for (let fret = 0; fret <= Math.min(reach, fretsLeft(setup, string)); fret++) {
      const pc = mod12(open + fret);
      if (!wanted.includes(pc) || (sounding === 0 && pc !== bass)) continue;
      const lo = fret === 0 ? low : Math.min(low, fret);
      const hi = fret === 0 ? high : Math.max(high, fret);
      if (hi - lo > SPAN && hi > 0) continue;
      frets[at] = fret;
      choose(i + 1, lo, hi, sounding + 1, muted);
    }
    // Thick strings may stay out before the bass; one string inside or at the thin end at most.
    frets[at] = null;
    if (sounding === 0 || muted < 1) choose(i + 1, low, high, sounding, sounding === 0 ? muted : muted + 1);
  };
  choose(0, 99, 0, 0, 0);
  return out;
}

function finish(
  setup: Setup,
  frets: readonly (Fret | null)[],
  needed: readonly number[],
  reach: number,
  out: Candidate[],
  muted: number,
): void {
  const struck = frets.flatMap((fret, i) =>
    fret === null ? [] : [{ f: fret, pc: mod12(openPitch(setup, setup.open.length - i) + fret) }],
  );
  const least = Math.min(needed.length === 2 ? 2 : 3, setup.open.length);
  if (struck.length < least || !needed.every((n) => struck.some((one) => one.pc === n))) return;
  const stopped = struck.filter((one) => one.f > 0);
  // An open string inside a grip far up is played past a hand that lies across the neck: only near the nut.
  if (reach > NEAR && stopped.length < struck.length) return;
  const tops = new Set(stopped.map((one) => one.f)).size;
  out.push({
    frets: [...frets],
    promise:
      struck.length * 2 - stopped.length - tops * 0.5 - muted * 2.5 - Math.max(0, ...stopped.map((one) => one.f)) * 0.2,
  });
}

function judged(frets: readonly (Fret | null)[], setup: Setup, profile: Profile): ChordFrame[] {
  const notes = frets.flatMap((fret, i) => {
    const string: StringNumber = setup.open.length - i;
    return fret === null
      ? []
      : [{ pitch: openPitch(setup, string) + fret, lock: { string, fret, finger: null }, dur: null }];
  });
  const solution = solve({
    setup,
    tempo: [{ at: ZERO, bpm: 60 }],
    meters: [{ bar: 0, beats: 4, unit: 4 }],
    events: [{ id: 'grip', at: ZERO, dur: quarter(4), link: null, ring: false, notes }],
    options: { ...DEFAULT_OPTIONS, profile },
  });
  if (solution.blocked.length > 0) return [];
  const event = bestWay(solution).events[0];
  if (!event) return [];
  const fingers = frets.map(
    (_, i): Finger | null => event.notes.find((place) => place?.string === setup.open.length - i)?.finger ?? null,
  );
  const open = frets.filter((fret) => fret === 0).length;
  const struck = frets.findIndex((fret) => fret !== null);
  // Thick strings below the bass are easily left out; a string inside or on the thin side has to be damped.
  const below = frets.filter((_, i) => i < struck && !setup.absent.includes(setup.open.length - i)).length;
  const damped = setup.open.length - setup.absent.length - notes.length - below;
  // The liking for mid-neck is a matter of lines, not of grips: taken out; every string that sounds makes the chord
  // fuller.
  const hold = event.hold
    .filter((term) => !['low', 'high', 'open', 'openThin', 'openFar'].includes(term.name))
    .reduce((sum, term) => sum + term.cost, 0);
  return [
    {
      frets,
      fingers,
      pitches: notes.map((one) => one.pitch),
      open,
      isOpen: open > 0 && frets.every((fret) => fret === null || fret <= NEAR),
      cost: hold + below * 0.25 + damped * 0.5,
    },
  ];
}
