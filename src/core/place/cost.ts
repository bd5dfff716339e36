import { apart, comfortableSpan, type Deck, type Neck, type State } from './states';
import type { Slice } from './slices';
import type { CostTable, Term, TermName } from './types';

/** Collects the terms of a cost when reasons are wanted; absent in the solver's inner loop. */
type Sink = Term[] | null;

function note(sink: Sink, name: TermName, cost: number, amount: number): number {
  if (cost > 0) sink?.push({ name, cost, amount });
  return cost;
}

/** The middle of the neck: index positions from the nut between which no zone cost is charged. */
const ZONE = { low: 4, high: 10 } as const;

/** Up to this many strings struck at once are a grip that moves; more are a strummed chord, where open strings weigh less. */
const GRIP_MAX = 3;
const STRUMMED = 0.25;

/** Frets up to here sound clear on the two thickest strings; further up they grow dull. */
const CLEAR_FRETS = 7;

/** Cost of holding a state, by the named weights. Never negative. */
export function holdCost(neck: Neck, slice: Slice, state: State, sink: Sink = null): number {
  const { costs, openLiking, wishedHand } = neck.options;
  let cost = 0;
  let opens = 0;
  let weak = 0;
  let pressed = 0;
  let dull = 0;
  let struck = 0;
  slice.voices.forEach((voice, v) => {
    if (voice.heldFrom >= 0) return;
    struck++;
    const f = state.fingers[v] ?? 0;
    if ((state.frets[v] ?? 0) === 0) {
      opens += (state.strings[v] ?? 0) >= neck.thick - 1 ? 1 : 2;
    } else if (f > 0) {
      weak += costs.finger[f - 1] ?? 0;
      pressed++;
      if ((state.strings[v] ?? 0) >= neck.thick - 1) dull += Math.max(0, (state.frets[v] ?? 0) - neck.base - CLEAR_FRETS);
    }
  });
  // In a strummed chord open strings are what makes it easy; in a line the hand can't shape them.
  cost += note(sink, 'open', costs.open * (1 - openLiking) * opens * (struck > GRIP_MAX ? STRUMMED : 1), opens);
  // A grip of two or three strings is a shape to be moved: an open string in it can't be moved along.
  if (struck >= 2 && struck <= GRIP_MAX && pressed > 0) cost += note(sink, 'openGrip', costs.openGrip * (1 - openLiking) * (struck - pressed), struck - pressed);
  cost += note(sink, 'finger', weak, pressed);
  cost += note(sink, 'dull', costs.dull * dull, dull);
  if (state.free) return cost;
  cost += stretchCost(neck, state, sink);
  cost += patternCost(neck, state, sink);
  cost += barreCost(neck, state, sink);
  cost += gapCost(neck, slice, state, sink);
  const off = state.hand < ZONE.low ? ZONE.low - state.hand : Math.max(0, state.hand - ZONE.high);
  cost += note(sink, 'zone', costs.zone * off, off);
  const far = Math.max(0, state.hand + 1 - neck.setup.instrument.easyFrets);
  cost += note(sink, 'far', costs.far * far, far);
  if (wishedHand !== null) {
    const away = Math.abs(state.hand - neck.base - wishedHand);
    cost += note(sink, 'wish', costs.wish * away, away);
  }
  return cost;
}

/** Squares of millimetres beyond comfort, over all pairs of pressing fingers and the hovering index. */
function stretchCost(neck: Neck, state: State, sink: Sink): number {
  let squares = 0;
  let widest = 0;
  const fretOf = (f: number): number => (f === 1 ? state.hand : (state.on[f]?.fret ?? -1));
  for (let a = 1; a <= 4; a++) {
    const fa = fretOf(a);
    if (fa < 0) continue;
    for (let b = a + 1; b <= 4; b++) {
      const fb = fretOf(b);
      if (fb < 0) continue;
      const mm = apart(neck, fa, fb);
      const beyond = mm - comfortableSpan(neck, a, b);
      if (beyond <= 0) continue;
      squares += beyond * beyond;
      widest = Math.max(widest, mm);
    }
  }
  return note(sink, 'stretch', neck.options.costs.stretch * squares, widest);
}

/** Each barre by the finger that lies, and by the strings it covers beyond the first. */
function barreCost(neck: Neck, state: State, sink: Sink): number {
  const { costs } = neck.options;
  let cost = 0;
  let covered = 0;
  for (let f = 1; f <= 4; f++) {
    let thick = 0;
    let thin = 99;
    state.fingers.forEach((g, v) => {
      if (g !== f) return;
      thick = Math.max(thick, state.strings[v] ?? 0);
      thin = Math.min(thin, state.strings[v] ?? 0);
    });
    if (thick <= thin) continue;
    cost += (costs.barre[f - 1] ?? 0) + costs.barreString * (thick - thin);
    covered += thick - thin;
  }
  return note(sink, 'barre', cost, covered);
}

/** Strings inside a chord that must stay silent: the hand has to damp them. */
function gapCost(neck: Neck, slice: Slice, state: State, sink: Sink): number {
  const struck = slice.voices.filter((v) => v.heldFrom < 0).length;
  if (struck < 2) return 0;
  const gaps = Math.max(0, state.pickLow - state.pickHigh + 1 - slice.voices.length);
  return note(sink, 'gap', neck.options.costs.gap * gaps, gaps);
}

/** Fingers spread or bunched against one finger a fret, in frets, of the finger that departs most. */
function patternCost(neck: Neck, state: State, sink: Sink): number {
  let spread = 0;
  let bunched = 0;
  for (let f = 2; f <= 4; f++) {
    const fret = state.on[f]?.fret ?? -1;
    if (fret < 0) continue;
    const off = fret - state.hand - (f - 1);
    spread = Math.max(spread, off);
    bunched = Math.max(bunched, -off);
  }
  return note(sink, 'spread', neck.options.costs.spread * spread, spread) + note(sink, 'bunched', neck.options.costs.bunched * bunched, bunched);
}

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
}

/** Time a shift needs, in the manner of Fitts: 60 ms and 90 ms for each doubling of mm over a fret's width. */
const shiftSeconds = (mm: number): number => 0.06 + 0.09 * Math.log2(1 + mm / 20);
/** An open string or a rest lets the hand travel early: so much of the effort remains. */
const FREE_SHARE = 0.5;

/** Builds frames, sharing the travel tables between moves of equal time. */
export function moveFrames(neck: Neck): (slice: Slice) => MoveFrame {
  const width = neck.press.length;
  const tables = new Map<number, { busy: Float64Array; free: Float64Array }>();
  return (slice) => {
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
          table.busy[a * width + b] = neck.options.costs.travel * mm * ease * hurry(slice.gap);
          table.free[a * width + b] = neck.options.costs.travel * mm * FREE_SHARE * hurry(slice.gap * 2);
        }
      }
      tables.set(key, table);
    }
    const haste = Math.min(2, Math.max(0.15, 0.25 / Math.max(0.05, slice.gap))) * (slice.rest > 0.15 ? 0.5 : 1);
    return { busy: table.busy, free: table.free, width, haste, picked: slice.link === null, sliding: slice.link === 'slide', rested: slice.rest > 0.15 };
  };
}

/** The travel part of a move; a free hand stays where it is. */
export function travelCost(frame: MoveFrame, from: Deck, a: number, to: Deck, b: number): number {
  if (to.free[b] === 1) return 0;
  return (from.free[a] === 1 ? frame.free : frame.busy)[(from.hand[a] ?? 0) * frame.width + (to.hand[b] ?? 0)] ?? 0;
}

/** Places in the scratch array of `moveParts`: costs, and the quantities they were made from. */
const CROSS = 0, JUMP = 1, ROLL = 2, DRAG = 3, BLIND = 4;
export const MOVE_PARTS = 5;

/**
 * Everything a move costs beyond travel, written to `out` and not returned: this is the inner
 * loop of the search, and numbers handed over in a typed array need no memory of their own.
 */
export function moveParts(costs: CostTable, frame: MoveFrame, from: Deck, a: number, to: Deck, b: number, out: Float64Array): void {
  const { haste } = frame;
  const freeHand = from.free[a] === 1 || to.free[b] === 1;
  let guided = freeHand || frame.rested;
  let jumps = 0;
  let rolls = 0;
  let drags = 0;
  if (!freeHand) {
    for (let f = 0; f < 4; f++) {
      const x = from.on[a * 4 + f] ?? -1;
      const y = to.on[b * 4 + f] ?? -1;
      if (x < 0 || y < 0) continue;
      if (x >> 6 === y >> 6) {
        guided = true;
        if (x !== y && !frame.sliding) drags++;
      } else if ((x & 63) === (y & 63)) {
        rolls++;
      } else {
        jumps++;
      }
    }
  }
  out[CROSS] = costs.cross * haste * crossed(frame, from, a, to, b);
  out[JUMP] = costs.jump * haste * jumps;
  out[ROLL] = costs.roll * haste * rolls;
  out[DRAG] = costs.drag * haste * drags;
  out[BLIND] = !guided && from.hand[a] !== to.hand[b] ? costs.blindShift * haste : 0;
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

const scratch = new Float64Array(MOVE_PARTS);

/** Cost of moving from state `a` of one deck to state `b` of the next, with its terms where wanted. Never negative. */
export function moveCost(neck: Neck, frame: MoveFrame, from: Deck, a: number, to: Deck, b: number, sink: Sink = null): number {
  const { costs } = neck.options;
  const travel = travelCost(frame, from, a, to, b);
  moveParts(costs, frame, from, a, to, b, scratch);
  if (sink !== null) {
    const times = (part: number, each: number): number => Math.round((scratch[part] ?? 0) / (each * frame.haste || 1));
    note(sink, 'travel', travel, apart(neck, from.hand[a] ?? 0, to.hand[b] ?? 0));
    note(sink, 'cross', scratch[CROSS] ?? 0, crossed(frame, from, a, to, b));
    note(sink, 'jump', scratch[JUMP] ?? 0, times(JUMP, costs.jump));
    note(sink, 'roll', scratch[ROLL] ?? 0, times(ROLL, costs.roll));
    note(sink, 'drag', scratch[DRAG] ?? 0, times(DRAG, costs.drag));
    note(sink, 'blindShift', scratch[BLIND] ?? 0, 1);
  }
  return travel + scratch.reduce((sum, part) => sum + part, 0);
}

/** Whether anything but a free hand's rest binds the moves into a slice. */
export const isBound = (slice: Slice): boolean => slice.linked.length > 0 || slice.voices.some((v) => v.heldFrom >= 0);

/** Whether a hand may go from one state to the next at all: held notes stay, links keep their string and direction, a free hand stays. */
export function moveAllowed(slice: Slice, from: State, to: State): boolean {
  if (to.free && from.hand !== to.hand) return false;
  for (let v = 0; v < slice.voices.length; v++) {
    const h = slice.voices[v]?.heldFrom ?? -1;
    if (h < 0) continue;
    if (from.strings[h] !== to.strings[v] || from.frets[h] !== to.frets[v] || from.fingers[h] !== to.fingers[v]) return false;
  }
  for (const [a, b] of slice.linked) {
    if (from.strings[a] !== to.strings[b]) return false;
    const fretA = from.frets[a] ?? 0;
    const fretB = to.frets[b] ?? 0;
    const fingerA = from.fingers[a] ?? 0;
    const fingerB = to.fingers[b] ?? 0;
    if (slice.link === 'hammer' && !(fretB > fretA && fingerB > 0 && fingerB !== fingerA && (fretA === 0 || fingerB > fingerA))) return false;
    if (slice.link === 'pull' && !(fretB < fretA && (fretB === 0 || fingerB < fingerA))) return false;
    if (slice.link === 'slide' && !(fretA > 0 && fretB > 0 && fretA !== fretB && fingerA === fingerB)) return false;
  }
  return true;
}
