import type { CostTable } from '../hand';
import { apart, type Neck } from './neck';
import { note, type Sink } from './hold';
import type { Slice } from './slice';
import { FINGERS, THUMB, type Deck, type State } from './states';

/** What time does to one move, the same for all pairs of states. */
export interface MoveFrame {
  /** travel[from * width + to] for a hand that is stopping strings, and for one that is free. */
  readonly busy: Float64Array;
  readonly free: Float64Array;
  readonly width: number;
  /** Factor on finger terms: more when hurried, less after a rest. */
  readonly haste: number;
  /** Picked rather than joined by a link; joined by a slide; after a rest. */
  readonly picked: boolean;
  readonly sliding: boolean;
  readonly rested: boolean;
  /** Into a slide bar. */
  readonly bar: boolean;
}

/** Time a shift needs, in the manner of Fitts: 60 ms and 90 ms for each doubling of mm over a fret's width. */
const shiftSeconds = (mm: number): number => 0.06 + 0.09 * Math.log2(1 + mm / 20);
/** An open string or a rest lets the hand travel early: so much of the effort remains. */
const FREE_SHARE = 0.5;

/** Builds frames, one for all moves of equal time and kind. */
export function moveFrames(neck: Neck): (slice: Slice) => MoveFrame {
  const width = neck.press.length;
  const tables = new Map<number, { busy: Float64Array; free: Float64Array }>();
  const frames = new Map<string, MoveFrame>();
  return (slice) => {
    const same = `${slice.link ?? ''}${slice.picked ? ' p' : ''} ${slice.bar ? 'bar' : ''} ${slice.gap} ${slice.rest}`;
    const known = frames.get(same);
    if (known) return known;
    const key = Math.round(slice.gap * 1e4) * 1e7 + Math.round(slice.rest * 1e4);
    let table = tables.get(key);
    if (!table) {
      table = { busy: new Float64Array(width * width), free: new Float64Array(width * width) };
      for (let a = 0; a < width; a++) {
        for (let b = 0; b < width; b++) {
          const mm = apart(neck, a, b);
          if (mm === 0) continue;
          const needed = shiftSeconds(mm);
          const hurry = (seconds: number): number => 1 + Math.min(25, (needed / Math.max(0.02, seconds)) ** 2);
          const ease = slice.rest >= needed ? FREE_SHARE : 1;
          table.busy[a * width + b] = neck.costs.travel * mm * ease * hurry(slice.gap);
          table.free[a * width + b] = neck.costs.travel * mm * FREE_SHARE * hurry(slice.gap * 2);
        }
      }
      tables.set(key, table);
    }
    const haste = Math.min(2, Math.max(0.15, 0.25 / Math.max(0.05, slice.gap))) * (slice.rest > 0.15 ? 0.5 : 1);
    const made: MoveFrame = {
      busy: table.busy,
      free: table.free,
      width,
      haste,
      picked: slice.picked,
      sliding: slice.link === 'slide',
      rested: slice.rest > 0.15,
      bar: slice.bar,
    };
    frames.set(same, made);
    return made;
  };
}

/** The travel part of a move; a free hand stays where it is. */
export function travelCost(frame: MoveFrame, from: Deck, a: number, to: Deck, b: number): number {
  if (to.free[b] === 1) return 0;
  return (from.free[a] === 1 ? frame.free : frame.busy)[(from.hand[a] ?? 0) * frame.width + (to.hand[b] ?? 0)] ?? 0;
}

/** Places in the terms array of `moveParts`: costs, and the quantities they were made from. */
const CROSS = 0,
  JUMP = 1,
  ROLL = 2,
  DRAG = 3,
  BLIND = 4,
  SKIP = 5,
  RESHAPE = 6,
  SWAP = 7;

/**
 * What a move costs beyond travel, part by part in `out` and as a sum: the inner loop of the
 * search, where numbers handed over in a typed array need no memory of their own.
 */
export function moveParts(
  costs: CostTable,
  frame: MoveFrame,
  from: Deck,
  a: number,
  to: Deck,
  b: number,
  out: Float64Array,
): number {
  const { haste } = frame;
  const freeHand = from.free[a] === 1 || to.free[b] === 1;
  let guided = freeHand || frame.rested;
  let jumps = 0;
  let rolls = 0;
  let drags = 0;
  let swaps = 0;
  const shapeA = from.shape[a] ?? 0;
  const shapeB = to.shape[b] ?? 0;
  // A grip moved along its strings is one movement, however many fingers it has.
  const together = shapeA > 0 && shapeA === shapeB && from.pickLow[a] === to.pickLow[b];
  const one = from.solo[a] ?? -1;
  const other = to.solo[b] ?? -1;
  if (frame.bar) {
    // A bar glides along: no finger is to be found anew.
    guided = true;
  } else if (!freeHand && one >= 0 && other >= 0) {
    if (one === other) {
      const x = from.spot[a] ?? -1;
      const y = to.spot[b] ?? -1;
      if (x >> 6 === y >> 6) {
        guided = true;
        if (x !== y && !frame.sliding) drags = 1;
      } else if ((x & 63) === (y & 63)) rolls = 1;
      else jumps = 1;
    } else {
      // Another finger on the same note, or on the same fret of the next string.
      const x = from.spot[a] ?? -1;
      const y = to.spot[b] ?? -1;
      if (x === y) swaps = 1;
      else if ((x & 63) === (y & 63) && Math.abs((x >> 6) - (y >> 6)) === 1) swaps = BESIDE;
    }
  } else if (!freeHand) {
    for (let f = 0; f < FINGERS; f++) {
      const x = from.on[a * FINGERS + f] ?? -1;
      const y = to.on[b * FINGERS + f] ?? -1;
      if (x >= 0 && x !== y) swaps += takenOver(to, b, f, x);
      if (x < 0 || y < 0) continue;
      if (x >> 6 === y >> 6) {
        guided = true;
        if (x !== y && !frame.sliding && !together) drags++;
      } else if ((x & 63) === (y & 63)) {
        rolls++;
      } else {
        jumps++;
      }
    }
  }
  // A shape that moved along as it is is held as it was.
  const form = from.form[a] ?? 0;
  if (form !== 0 && (form > 0 || frame.sliding) && form === to.form[b] && from.hold[a] !== to.hold[b] && !frame.bar)
    swaps += frame.sliding ? SLID : 2;
  // Between full grips every finger is lifted and set, whichever comes where.
  const leap = (from.down[a] ?? 0) >= FULL && (to.down[b] ?? 0) >= FULL ? LIFTED : 1;
  const swap = (out[SWAP] = (costs.swap ?? 0) * swaps);
  const strings = crossed(frame, from, a, to, b);
  const cross = (out[CROSS] = costs.cross * haste * strings);
  const skip = (out[SKIP] = strings > 1 ? costs.skip * haste * (strings - 1) : 0);
  const jump = (out[JUMP] = costs.jump * haste * jumps * (costs.swap === undefined ? 1 : leap));
  const roll = (out[ROLL] = costs.roll * haste * rolls);
  const drag = (out[DRAG] = costs.drag * haste * drags);
  const blind = (out[BLIND] = !guided && from.hand[a] !== to.hand[b] ? costs.blindShift * haste : 0);
  const reshape = (out[RESHAPE] =
    shapeA > 0 && shapeB > 0 && !together ? costs.reshape * (shapeA === shapeB ? 0.5 : 1) : 0);
  return cross + skip + jump + roll + drag + blind + reshape + swap;
}

/** Fingers changed on a shape while it slides: as good as never. */
const SLID = 12;

/** What it weighs to take another finger for the same fret of the next string, where one could have rolled over. */
const BESIDE = 0.1;

/** From so many fingers on a hand forms a grip anew, and so much of a leap's effort is then left. */
const FULL = 3;
const LIFTED = 0.3;

/** Whether a finger other than `f` is, in a state, where `f` was. */
function takenOver(to: Deck, b: number, f: number, spot: number): number {
  for (let g = 0; g < FINGERS; g++) if (g !== f && to.on[b * FINGERS + g] === spot) return 1;
  return 0;
}

/** Strings the pick crosses between what was struck and what is struck next. */
function crossed(frame: MoveFrame, from: Deck, a: number, to: Deck, b: number): number {
  if (!frame.picked) return 0;
  const above = (from.pickHigh[a] ?? 0) - (to.pickLow[b] ?? 0);
  const below = (to.pickHigh[b] ?? 0) - (from.pickLow[a] ?? 0);
  const apart = above > 0 ? above : below > 0 ? below : 0;
  // From grip to grip the whole stroke moves, by as many strings as its thick end does.
  const gripThen = (from.pickLow[a] ?? 0) > (from.pickHigh[a] ?? 0);
  const gripNow = (to.pickLow[b] ?? 0) > (to.pickHigh[b] ?? 0);
  if (!gripThen || !gripNow) return apart;
  const moved = Math.abs((from.pickLow[a] ?? 0) - (to.pickLow[b] ?? 0));
  return moved > apart ? moved : apart;
}

/** Cost of moving from state `a` of one deck to state `b` of the next, with its terms where wanted. Never negative. */
export function moveCost(
  neck: Neck,
  frame: MoveFrame,
  from: Deck,
  a: number,
  to: Deck,
  b: number,
  sink: Sink = null,
): number {
  const { costs, terms } = neck;
  const travel = travelCost(frame, from, a, to, b);
  const rest = moveParts(costs, frame, from, a, to, b, terms);
  if (sink !== null) {
    const times = (part: number, each: number): number => Math.round((terms[part] ?? 0) / (each * frame.haste || 1));
    note(sink, 'travel', travel, apart(neck, from.hand[a] ?? 0, to.hand[b] ?? 0));
    note(sink, 'cross', terms[CROSS] ?? 0, crossed(frame, from, a, to, b));
    note(sink, 'skip', terms[SKIP] ?? 0, times(SKIP, costs.skip));
    note(sink, 'swap', terms[SWAP] ?? 0, (terms[SWAP] ?? 0) / (costs.swap || 1));
    note(sink, 'reshape', terms[RESHAPE] ?? 0, (terms[RESHAPE] ?? 0) / (costs.reshape || 1));
    note(sink, 'jump', terms[JUMP] ?? 0, times(JUMP, costs.jump));
    note(sink, 'roll', terms[ROLL] ?? 0, times(ROLL, costs.roll));
    note(sink, 'drag', terms[DRAG] ?? 0, times(DRAG, costs.drag));
    note(sink, 'blindShift', terms[BLIND] ?? 0, 1);
  }
  return travel + rest;
}

/** Whether anything but a free hand's rest binds the moves into a slice. */
export const isBound = (slice: Slice): boolean =>
  slice.linked.length > 0 ||
  slice.still.length > 0 ||
  slice.same.length > 0 ||
  slice.voices.some((voice) => voice.heldFrom >= 0);

/**
 * Whether a hand may go from one state to the next at all: held notes stay, links keep their string and direction, a
 * free hand stays.
 */
export function moveAllowed(slice: Slice, from: State, to: State): boolean {
  if (to.free && from.hand !== to.hand) return false;
  for (let v = 0; v < slice.voices.length; v++) {
    const voice = slice.voices[v];
    const h = voice?.heldFrom ?? -1;
    if (h < 0) continue;
    if (from.strings[h] !== to.strings[v]) return false;
    // A harmonic rings on by itself: only its string stays taken.
    if (voice?.kind !== 'harmonic' && (from.frets[h] !== to.frets[v] || from.fingers[h] !== to.fingers[v]))
      return false;
  }
  for (const list of [slice.same, slice.still]) {
    for (const [a, b] of list) {
      if (from.strings[a] !== to.strings[b] || from.frets[a] !== to.frets[b] || from.fingers[a] !== to.fingers[b])
        return false;
    }
  }
  // Where several notes slide, one finger leads the hand; the others may change on the way.
  let slides = 0;
  let guides = 0;
  for (const [a, b, link] of slice.linked) {
    if (from.strings[a] !== to.strings[b]) return false;
    const fretA = from.frets[a] ?? 0;
    const fretB = to.frets[b] ?? 0;
    const fingerA = from.fingers[a] ?? 0;
    const fingerB = to.fingers[b] ?? 0;
    if (
      link === 'hammer' &&
      !(fretB > fretA && fingerB > 0 && fingerB !== fingerA && (fretA === 0 || fingerB > fingerA))
    )
      return false;
    if (link === 'pull' && !(fretB < fretA && (fretB === 0 || fingerB < fingerA))) return false;
    if (
      link === 'slide' &&
      !(fretA > 0 && fretB > 0 && (fretA !== fretB || slice.bar) && fingerA !== THUMB && fingerB !== THUMB)
    )
      return false;
    if (link === 'slide') {
      slides++;
      if (fingerA === fingerB) guides++;
    }
    // Nobody hammers with the thumb over the neck, nor with a bar.
    if (link !== null && link !== 'slide' && (fingerA === THUMB || fingerB === THUMB || (slice.bar && fretB > 0)))
      return false;
  }
  return slides === 0 || guides > 0;
}
