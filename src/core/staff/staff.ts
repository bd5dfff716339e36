import { shapeShift, type Setup } from '../instrument';
import { fifthsOf, octaveOf, parseName, spell, type Key, type Spelled } from '../pitch';
import { endOf, type Riff, type RiffEvent, joinOf } from '../score';
import { add, barStart, cmp, meterAt, minQuarter, mul, quarter, sub, toRatio, ZERO, type Quarter } from '../time';

/** A note head: spelled as written (an octave above the sound for guitar and bass). */
export interface Head {
  readonly note: string;
  readonly letter: Spelled['letter'];
  readonly alteration: number;
  readonly octave: number;
  /** The sign to write before it, where key and bar so far don't say it: "#", "b", "n", "##", "bb". */
  readonly sign: string | null;
  readonly dead: boolean;
  readonly harmonic: boolean;
}

/** One written sign: a chord of heads or, without heads, a rest. */
export interface Sign {
  readonly at: Quarter;
  /** 1 whole, 2 half, 4 quarter ... 64. */
  readonly base: number;
  readonly dots: number;
  readonly heads: readonly Head[];
  readonly event: string | null;
  /** Tied to the sign that follows: the same notes go on. */
  readonly tied: boolean;
  /** Struck by a slash instead of heads: a hit, a scrape, a hole. */
  readonly slash: boolean;
  readonly graces: readonly { readonly event: string; readonly heads: readonly Head[]; readonly slurred: boolean }[];
  /** Slurred to the next struck sign. */
  readonly slur: boolean;
}

export interface Tuplet {
  /** First and last sign of the bar that belong to it. */
  readonly from: number;
  readonly to: number;
  /** So many in the time of so many. */
  readonly notes: number;
  readonly time: number;
}

export interface StaffBar {
  readonly bar: number;
  readonly from: Quarter;
  readonly to: Quarter;
  readonly signs: readonly Sign[];
  readonly tuplets: readonly Tuplet[];
  /** Indices of signs under one beam, beat by beat. */
  readonly beams: readonly (readonly number[])[];
}

export interface StaffChoice {
  readonly key: Key | null;
  /** At the pitch that sounds, or at that of the shape (as if in standard tuning without capo). */
  readonly pitch: 'sounding' | 'shape';
}

export const clefOf = (setup: Setup): 'treble' | 'bass' => (setup.instrument.kind === 'bass' ? 'bass' : 'treble');

/** Sharps (above 0) or flats of a key's signature. */
export function signatureOf(key: Key | null): number {
  const tonic = key ? parseName(key.tonic) : null;
  return tonic && key ? fifthsOf(tonic) - (key.mode === 'major' ? 1 : 4) : 0;
}

const SHARPS = ['F', 'C', 'G', 'D', 'A', 'E', 'B'] as const;

/** Guitar and bass are written an octave above their sound. */
const WRITTEN = 12;

/**
 * Bars of a riff as written signs: lengths cut into note values at beats and bar lines with ties,
 * silence into rests, tuplets found beat by beat, spelling by the key, signs by bar.
 */
export function staffBars(
  riff: Riff,
  setup: Setup,
  bars: { readonly from: number; readonly count: number },
  choice: StaffChoice,
): StaffBar[] {
  const shift = WRITTEN - (choice.pitch === 'shape' ? shapeShift(setup) : 0);
  const out: StaffBar[] = [];
  const first = bars.from === 0 && riff.pickup !== ZERO ? -1 : bars.from;
  const counted = near(
    riff,
    first < 0 ? null : barStart(riff.meters, first),
    barStart(riff.meters, bars.from + bars.count),
  );
  for (let bar = first; bar < bars.from + bars.count; bar++) {
    const from = bar < 0 ? sub(ZERO, riff.pickup) : barStart(riff.meters, bar);
    const to = bar < 0 ? ZERO : barStart(riff.meters, bar + 1);
    out.push(oneBar(riff, counted, bar, from, to, { ...choice, shift }));
  }
  return out;
}

/** Counted events that may sound between two times: those in between, the one before, and the one after. */
function near(riff: Riff, from: Quarter | null, to: Quarter): RiffEvent[] {
  const counted = riff.events.filter((event) => !event.grace);
  const first = from === null ? 0 : Math.max(0, counted.findIndex((event) => cmp(event.at, from) >= 0) - 1);
  const start =
    from !== null && counted.every((event) => cmp(event.at, from) < 0) ? Math.max(0, counted.length - 1) : first;
  const after = counted.findIndex((event) => cmp(event.at, to) >= 0);
  return counted.slice(start, after < 0 ? counted.length : after + 1);
}

interface Piece {
  readonly at: Quarter;
  readonly to: Quarter;
  readonly event: RiffEvent | null;
  /** The event goes on after this piece. */
  readonly goesOn: boolean;
  readonly begins: boolean;
}

function oneBar(
  riff: Riff,
  counted: readonly RiffEvent[],
  bar: number,
  from: Quarter,
  to: Quarter,
  choice: StaffChoice & { readonly shift: number },
): StaffBar {
  const pieces = piecesIn(counted, from, to);
  const beat = beatLength(riff, bar);
  const windows = windowsOf(pieces, from, to, beat);
  const signs: Sign[] = [];
  const tuplets: Tuplet[] = [];
  const speller = new Speller(choice);
  for (const window of windows) {
    const start = signs.length;
    for (const piece of pieces) {
      const a = cmp(piece.at, window.from) > 0 ? piece.at : window.from;
      const b = minQuarter(piece.to, window.to);
      if (cmp(a, b) >= 0) continue;
      const values = valuesOf(sub(b, a), sub(a, from), window, beat);
      let at = a;
      values.forEach((value, i) => {
        const begins = piece.begins && at === piece.at;
        const last = i === values.length - 1 && b === piece.to;
        const { event } = piece;
        const pitched = event !== null && event.notes.length > 0;
        signs.push({
          at,
          base: value.base,
          dots: value.dots,
          event: event?.id ?? null,
          slash: event !== null && !pitched,
          heads: pitched ? speller.heads(event, begins) : [],
          tied: pitched && !event.notes.every((note) => note.technique?.dead) && (!last || piece.goesOn),
          graces: begins && event ? gracesBefore(riff, event, speller) : [],
          slur:
            last &&
            !piece.goesOn &&
            (joinOf(event) === 'hammer' || joinOf(event) === 'pull' || joinOf(event) === 'slide'),
        });
        at = add(at, value.length);
      });
    }
    if (window.notes > 1 && signs.length > start)
      tuplets.push({ from: start, to: signs.length - 1, notes: window.notes, time: window.time });
  }
  return { bar, from, to, signs, tuplets, beams: beamsOf(signs, from, beat) };
}

/** Events and silences of a bar, cut at its ends. */
function piecesIn(events: readonly RiffEvent[], from: Quarter, to: Quarter): Piece[] {
  const pieces: Piece[] = [];
  let at = from;
  events.forEach((event, i) => {
    const next = events[i + 1];
    const end = next ? minQuarter(endOf(event), next.at) : endOf(event);
    if (cmp(end, from) <= 0 || cmp(event.at, to) >= 0) return;
    const a = cmp(event.at, from) > 0 ? event.at : from;
    const b = minQuarter(end, to);
    if (cmp(at, a) < 0) pieces.push({ at, to: a, event: null, goesOn: false, begins: false });
    pieces.push({ at: a, to: b, event, goesOn: cmp(end, b) > 0, begins: a === event.at });
    at = b;
  });
  if (cmp(at, to) < 0) pieces.push({ at, to, event: null, goesOn: false, begins: false });
  return pieces;
}

function beatLength(riff: Riff, bar: number): Quarter {
  const { beats, unit } = meterAt(riff.meters, Math.max(0, bar));
  return unit >= 8 && beats % 3 === 0 ? quarter(12, unit) : quarter(4, unit);
}

/** A stretch written in one division: plain, or so many notes in the time of so many. */
interface Window {
  readonly from: Quarter;
  readonly to: Quarter;
  readonly notes: number;
  readonly time: number;
}

/** The usual number a tuplet takes the time of: 3 for 2, 5, 6, 7 for 4, 9 for 8; 2 or 4 for 3 in threes. */
const inTimeOf = (notes: number, compound: boolean): number =>
  compound ? (notes < 6 ? 3 : 6) : notes < 3 ? 1 : notes === 3 ? 2 : notes < 8 ? 4 : 8;

function windowsOf(pieces: readonly Piece[], from: Quarter, to: Quarter, beat: Quarter): Window[] {
  const cuts = pieces.flatMap((piece) => [piece.at, piece.to]);
  const compound = toRatio(beat).n % 3 === 0;
  const windows: Window[] = [];
  let at = from;
  for (let guard = 0; cmp(at, to) < 0 && guard < 512; guard++) {
    const end = minQuarter(add(at, beat), to);
    const pair = minQuarter(add(at, mul(beat, 2)), to);
    const even =
      !compound &&
      (toRatio(sub(at, from)).n / toRatio(sub(at, from)).d) % (2 * (toRatio(beat).n / toRatio(beat).d)) === 0;
    // Three notes over two beats: their cuts are thirds of the pair and none lies on the beat between.
    if (even && pair === add(at, mul(beat, 2)) && divisionOf(cuts, at, pair) === 3 && !cuts.includes(end)) {
      windows.push({ from: at, to: pair, notes: 3, time: 2 });
      at = pair;
      continue;
    }
    const division = divisionOf(cuts, at, end);
    const plain = compound ? division % 3 === 0 && isPower(division / 3) : isPower(division);
    const notes = plain || division === 1 ? 1 : division;
    windows.push({ from: at, to: end, notes, time: notes === 1 ? 1 : inTimeOf(notes, compound) });
    at = end;
  }
  // Plain beats side by side are one window: a note may be longer than a beat.
  return windows.reduce<Window[]>((all, one) => {
    const last = all.at(-1);
    if (last && last.notes === 1 && one.notes === 1) all[all.length - 1] = { ...last, to: one.to };
    else all.push(one);
    return all;
  }, []);
}

const isPower = (n: number): boolean => Number.isInteger(Math.log2(n));

/** Into how many equal parts the cuts divide a stretch: the least number on which all of them lie. */
function divisionOf(cuts: readonly Quarter[], from: Quarter, to: Quarter): number {
  const length = toRatio(sub(to, from));
  let parts = 1;
  for (const cut of cuts) {
    if (cmp(cut, from) <= 0 || cmp(cut, to) >= 0) continue;
    const { n, d } = toRatio(sub(cut, from));
    const share = { n: n * length.d, d: d * length.n };
    const g = gcd(share.n, share.d);
    parts = (parts / gcd(parts, share.d / g)) * (share.d / g);
    if (parts > 64) return 64;
  }
  return parts;
}

function gcd(a: number, b: number): number {
  while (b !== 0) [a, b] = [b, a % b];
  return Math.abs(a) || 1;
}

interface Value {
  readonly base: number;
  readonly dots: number;
  readonly length: Quarter;
}

const BASES = [1, 2, 4, 8, 16, 32, 64] as const;

/**
 * A length as note values, largest first from where it starts; in a tuplet, in its own measure. Off the beat no value
 * reaches over the next one but the plain syncopation.
 */
function valuesOf(length: Quarter, offset: Quarter, window: Window, beat: Quarter): Value[] {
  const out: Value[] = [];
  let left = length;
  let at = offset;
  for (let guard = 0; cmp(left, ZERO) > 0 && guard < 16; guard++) {
    const value = largest(left, at, window, beat) ?? { base: 64, dots: 0, length: left };
    out.push(value);
    left = sub(left, value.length);
    at = add(at, value.length);
  }
  return out;
}

function largest(left: Quarter, at: Quarter, window: Window, beat: Quarter): Value | null {
  for (const base of BASES) {
    for (const dots of [2, 1, 0] as const) {
      const plain = mul(quarter(4, base), 2 ** (dots + 1) - 1, 2 ** dots);
      const length = mul(plain, window.time, window.notes);
      if (cmp(length, left) > 0) continue;
      if (dots === 2 && length !== left) continue;
      const syncopated =
        length === left && dots === 0 && mul(remainder(at, beat), 2) === beat && cmp(length, beat) <= 0;
      if (window.notes > 1 || syncopated || allowed(length, at, beat)) return { base, dots, length };
    }
  }
  return null;
}

/** Whether a value may begin there: on a beat anything; within one, what ends within it. */
function allowed(length: Quarter, at: Quarter, beat: Quarter): boolean {
  const into = remainder(at, beat);
  if (into === ZERO) return true;
  return cmp(add(into, length), beat) <= 0;
}

function remainder(at: Quarter, beat: Quarter): Quarter {
  const { n, d } = toRatio(at);
  const b = toRatio(beat);
  const whole = Math.floor((n * b.d) / (d * b.n));
  return sub(at, mul(beat, whole));
}

/**
 * Beams: neighbouring signs shorter than a quarter within one beat; two beats together where both hold plain eighths
 * only.
 */
function beamsOf(signs: readonly Sign[], from: Quarter, beat: Quarter): number[][] {
  const groups: number[][] = [];
  let group: number[] = [];
  let current = -1;
  const close = (): void => {
    if (group.length > 1) groups.push(group);
    group = [];
  };
  signs.forEach((sign, i) => {
    const { n, d } = toRatio(sub(sign.at, from));
    const b = toRatio(beat);
    const index = Math.floor((n * b.d) / (d * b.n) + 1e-9);
    const short = sign.base >= 8 && (sign.heads.length > 0 || sign.slash);
    if (!short || index !== current) close();
    current = index;
    if (short) group.push(i);
  });
  close();
  return groups;
}

function gracesBefore(riff: Riff, event: RiffEvent, speller: Speller): Sign['graces'] {
  const at = riff.events.indexOf(event);
  const out: { event: string; heads: readonly Head[]; slurred: boolean }[] = [];
  for (let i = at - 1; i >= 0 && riff.events[i]?.grace; i--) {
    const grace = riff.events[i];
    if (grace) out.unshift({ event: grace.id, heads: speller.heads(grace, true), slurred: joinOf(grace) !== null });
  }
  return out;
}

/** Spells heads in a key and says which signs a bar needs, as it goes along. */
class Speller {
  private readonly said = new Map<string, number>();
  private readonly signature: ReadonlyMap<string, number>;

  constructor(private readonly choice: StaffChoice & { readonly shift: number }) {
    const count = signatureOf(choice.key);
    this.signature = new Map(
      count > 0
        ? SHARPS.slice(0, count).map((line) => [line, 1])
        : [...SHARPS]
            .reverse()
            .slice(0, -count)
            .map((line) => [line, -1]),
    );
  }

  heads(event: RiffEvent, fresh: boolean): Head[] {
    return [...event.notes]
      .sort((a, b) => a.pitch.midi - b.pitch.midi)
      .map((note): Head => {
        const midi = note.pitch.midi + this.choice.shift;
        const spelled = spell(((midi % 12) + 12) % 12, this.choice.key);
        const octave = octaveOf(midi, spelled);
        const place = `${spelled.letter}${octave}`;
        const now = this.said.get(place) ?? this.signature.get(spelled.letter) ?? 0;
        // A tied note carries its sign on; one over a bar line needs none.
        const sign =
          fresh && now !== spelled.alteration
            ? spelled.alteration === 0
              ? 'n'
              : (spelled.alteration > 0 ? '#' : 'b').repeat(Math.abs(spelled.alteration))
            : null;
        if (fresh) this.said.set(place, spelled.alteration);
        return {
          note: note.id,
          ...spelled,
          octave,
          sign,
          dead: note.technique?.dead === true,
          harmonic: note.technique?.harmonic === true || note.technique?.pinched !== undefined,
        };
      });
  }
}

/** Length of a bar by its signs, in quarters: what an engraver's voice must add up to. */
export function lengthOfSigns(bar: StaffBar): Quarter {
  return bar.signs.reduce((sum, sign, i) => {
    const plain = mul(quarter(4, sign.base), 2 ** (sign.dots + 1) - 1, 2 ** sign.dots);
    const tuplet = bar.tuplets.find((one) => one.from <= i && i <= one.to);
    return add(sum, tuplet ? mul(plain, tuplet.time, tuplet.notes) : plain);
  }, ZERO);
}

/**
 * A riff with its swing written out: where eighths or sixteenths swing, each pair becomes two
 * thirds and one, whatever the exact ratio. What is straight stays.
 */
export function swingWrittenOut(riff: Riff): Riff {
  if (!riff.feel) return riff;
  const warp = (at: Quarter): Quarter => {
    const feel = [...(riff.feel ?? [])].reverse().find((step) => cmp(step.at, at) <= 0);
    if (!feel || feel.swing === 50) return at;
    const pair = feel.unit === '1/2' ? quarter(1) : quarter(1, 2);
    const into = remainder(at, pair);
    const start = sub(at, into);
    const half = mul(pair, 1, 2);
    const share = cmp(into, half) < 0 ? mul(into, 4, 3) : add(mul(pair, 2, 3), mul(sub(into, half), 2, 3));
    return add(start, share);
  };
  const events = riff.events.map((event) => {
    const at = warp(event.at);
    return { ...event, at, dur: sub(warp(endOf(event)), at) };
  });
  const { feel: _, ...rest } = riff;
  return { ...rest, events };
}
