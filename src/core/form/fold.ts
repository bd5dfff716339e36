import { moveShape, moveSound } from '../carry';
import type { Setup } from '../instrument';
import { barCount, type Riff, type RiffEvent, type UseMove } from '../score';
import { barStart, cmp, meterAt, sub, ZERO } from '../time';
import { differencesOf, type EventDifference } from './differences';

/**
 * Folding a long part: which stretches are told once and used again, exactly, moved, or with few differences. Only
 * proposes: each stretch is taken or left, and what is left stays a riff of its own.
 */

export type FoldKind = 'new' | 'exact' | 'moved' | 'near';

/** A stretch of bars of the long part. */
export interface FoldBlock {
  readonly bar: number;
  readonly bars: number;
  readonly kind: FoldKind;
  /** The block it repeats, by its index; null for one that is told here first. */
  readonly of: number | null;
  readonly move: UseMove | null;
  /** What differs from the block it repeats, after moving; times from the block's beginning. */
  readonly differences: readonly EventDifference[];
}

export interface FoldPlan {
  /** How many bars a block has, but for the last. */
  readonly length: number;
  readonly blocks: readonly FoldBlock[];
}

const LENGTHS = [1, 2, 3, 4, 6, 8, 12, 16] as const;
/** What a plan costs to say: a bar told anew, a riff begun, a repeat, a difference. A plan with less is the better. */
const COST = { bar: 2, riff: 1.5, exact: 0.5, moved: 0.9, near: 1.1, difference: 0.8 } as const;
/** At most so many differences, and at most this share of the events, make a stretch nearly the same. */
const NEAR = { most: 6, share: 0.34 } as const;
/** Bars looked at: a part beyond is folded in its beginning only. */
export const MOST_FOLDED = 600;

/** The events of some bars from their first bar line, those of a pickup left with the bars before. */
export function eventsOf(riff: Riff, bar: number, bars: number): RiffEvent[] {
  const from = barStart(riff.meters, bar);
  const to = barStart(riff.meters, bar + bars);
  return riff.events
    .filter((event) => (bar === 0 || cmp(event.at, from) >= 0) && cmp(event.at, to) < 0)
    .map((event) => ({ ...event, at: sub(event.at, from) }));
}

const sameMeters = (riff: Riff, a: number, b: number, bars: number): boolean => {
  for (let i = 0; i < bars; i++) {
    const [one, other] = [meterAt(riff.meters, a + i), meterAt(riff.meters, b + i)];
    if (one.beats !== other.beats || one.unit !== other.unit) return false;
  }
  return true;
};

/** The step from one event's first note to another's: in frets where the string is the same, else in semitones. */
function stepOf(
  a: RiffEvent | undefined,
  b: RiffEvent | undefined,
): { readonly frets: number | null; readonly semitones: number } | null {
  const [one] = a?.notes ?? [];
  const [other] = b?.notes ?? [];
  if (!one || !other) return null;
  const semitones = other.pitch.midi - one.pitch.midi;
  const alike = one.place && other.place && one.place.string === other.place.string;
  return { frets: alike && one.place && other.place ? other.place.fret - one.place.fret : null, semitones };
}

interface Fit {
  readonly move: UseMove | null;
  readonly differences: readonly EventDifference[];
}

/** How a block fits another: as it is, moved in shape, moved in sound; the fit with the fewest differences. */
function fit(model: readonly RiffEvent[], block: readonly RiffEvent[], setup: Setup): Fit {
  const plain: Fit = { move: null, differences: differencesOf(model, block) };
  if (plain.differences.length === 0 || model.length === 0) return plain;
  const step = stepOf(
    model.find((event) => event.notes.length > 0),
    block.find((event) => event.notes.length > 0),
  );
  if (!step || (step.semitones === 0 && (step.frets ?? 0) === 0)) return plain;
  const tries: Fit[] = [plain];
  if (step.frets !== null && step.frets === step.semitones) {
    const moved = moveShape(setup, model, step.frets);
    if (moved.ok)
      tries.push({ move: { by: 'frets', steps: step.frets }, differences: differencesOf(moved.value.events, block) });
  }
  // Moved in sound, the places are anybody's: only what is heard is compared.
  const sounded = moveSound(setup, model, step.semitones);
  if (sounded.ok && block.every((event) => event.notes.every((note) => !note.place?.locked)))
    tries.push({
      move: { by: 'semitones', steps: step.semitones },
      differences: differencesOf(sounded.value.events, bare(block)),
    });
  return tries.reduce((best, one) => (one.differences.length < best.differences.length ? one : best));
}

const bare = (events: readonly RiffEvent[]): RiffEvent[] =>
  events.map((event) => ({ ...event, notes: event.notes.map((note) => ({ ...note, place: null })) }));

/** The best plan found for a riff; null where nothing of it comes again. */
export function foldPlan(riff: Riff, setup: Setup): FoldPlan | null {
  const bars = Math.min(barCount(riff), MOST_FOLDED);
  let best: { plan: FoldPlan; cost: number } | null = null;
  for (const length of LENGTHS) {
    if (length > bars / 2) break;
    const found = planOf(riff, setup, bars, length);
    if (!best || found.cost < best.cost - 1e-9) best = found;
  }
  return best && best.plan.blocks.some((block) => block.of !== null) ? best.plan : null;
}

function planOf(riff: Riff, setup: Setup, bars: number, length: number): { plan: FoldPlan; cost: number } {
  const blocks: FoldBlock[] = [];
  const models: { readonly index: number; readonly events: readonly RiffEvent[] }[] = [];
  let cost = 0;
  for (let bar = 0; bar < bars; bar += length) {
    const count = Math.min(length, bars - bar);
    const events = eventsOf(riff, bar, count);
    let found: { of: number; fit: Fit; cost: number } | null = null;
    for (const model of models) {
      const source = blocks[model.index];
      if (!source || source.bars !== count || !sameMeters(riff, source.bar, bar, count)) continue;
      // What begins with a pickup can't come again inside.
      if (model.events[0] && cmp(model.events[0].at, ZERO) < 0) continue;
      const tried = fit(model.events, events, setup);
      const n = tried.differences.length;
      if (n > NEAR.most || n > NEAR.share * Math.max(1, events.length)) continue;
      const price =
        n > 0 ? COST.near + n * COST.difference + (tried.move ? COST.moved : 0) : tried.move ? COST.moved : COST.exact;
      if (!found || price < found.cost) found = { of: model.index, fit: tried, cost: price };
      if (price === COST.exact) break;
    }
    if (found && found.cost < count * COST.bar + COST.riff) {
      const { move, differences } = found.fit;
      blocks.push({
        bar,
        bars: count,
        kind: differences.length > 0 ? 'near' : move ? 'moved' : 'exact',
        of: found.of,
        move,
        differences,
      });
      cost += found.cost;
    } else {
      models.push({ index: blocks.length, events });
      blocks.push({ bar, bars: count, kind: 'new', of: null, move: null, differences: [] });
      cost += count * COST.bar + COST.riff;
    }
  }
  return { plan: { length, blocks }, cost };
}

/** A plan with some of its repeats refused: each of those is told anew. */
export function withoutBlocks(plan: FoldPlan, refused: ReadonlySet<number>): FoldPlan {
  return {
    ...plan,
    blocks: plan.blocks.map((block, i) =>
      block.of !== null && refused.has(i) ? { ...block, kind: 'new', of: null, move: null, differences: [] } : block,
    ),
  };
}

/** Letters in the order blocks are told first: A, B, ... Z, A2. */
export const letterOf = (n: number): string =>
  String.fromCharCode(65 + (n % 26)) + (n >= 26 ? String(Math.floor(n / 26) + 1) : '');

/** "bars 5 to 8 are bars 1 to 4 again", "... moved up 5 frets", "... with 2 notes changed". */
export function blockWords(plan: FoldPlan, index: number, moved: (move: UseMove) => string): string {
  const block = plan.blocks[index];
  const source = block?.of === null || !block ? null : plan.blocks[block.of];
  if (!block) return '';
  const where = (one: FoldBlock): string =>
    one.bars === 1 ? `bar ${one.bar + 1}` : `bars ${one.bar + 1} to ${one.bar + one.bars}`;
  if (!source) return `${where(block)}: new`;
  const how = [
    ...(block.move ? [moved(block.move)] : []),
    ...(block.differences.length > 0
      ? [`with ${block.differences.length} ${block.differences.length === 1 ? 'difference' : 'differences'}`]
      : []),
  ];
  return `${where(block)}: ${where(source)} again${how.length > 0 ? `, ${how.join(', ')}` : ''}`;
}
