import { SECTION_KINDS, type Section } from '../../score';
import { cutsOf } from './order';
import type { BarRange, Music, Repeat } from './types';

/** Bars that become a section. */
export interface Block extends BarRange {
  readonly name: string;
  readonly cue: string | null;
}

/** A section in the order of playing, with what its last bars are on other passes. */
export interface Step {
  readonly block: number;
  readonly plays: number;
  readonly endings: readonly (BarRange & { readonly passes: readonly number[] })[];
}

interface Unit extends BarRange {
  readonly plays: number;
  readonly endings: Step['endings'];
}

/** Fewer bars than this are never cut where nobody marked them. */
const LEAST_FOLDED = 8;

/**
 * The sections of written music and the order they are played in: cut at marks and jumps, or by what comes again where
 * there are neither. `keys`: what each bar holds; blocks that hold the same and are named alike are one section.
 */
export function routeOfBlocks(
  music: Music,
  keys: readonly string[],
  fold: (keys: readonly string[]) => readonly BarRange[] | null,
): { readonly blocks: readonly Block[]; readonly route: readonly Step[] } {
  const straight = music.marks.length === 0 && music.order.length <= 1 && music.repeats.length === 0;
  const folded = straight && music.bars >= LEAST_FOLDED ? fold(keys) : null;
  const units: Unit[] = folded ? folded.map((range) => ({ ...range, plays: 1, endings: [] })) : unitsOf(music);
  const blocks: Block[] = [];
  const seen: { key: string; unit: Unit; name: string | null; index: number }[] = [];
  const route: Step[] = [];
  for (const unit of units) {
    const mark = music.marks.find((one) => one.bar === unit.from);
    const key = keys.slice(unit.from, unit.to).join('\n');
    const known = seen.find(
      (one) => one.key === key && (one.unit.from === unit.from || mark === undefined || one.name === mark.name),
    );
    let index = known?.index;
    if (index === undefined) {
      index = blocks.length;
      const name = (mark?.name ?? unmarked(music, unit, index, units.length)).slice(0, 80);
      blocks.push({ from: unit.from, to: unit.to, name, cue: mark?.cue ?? null });
      seen.push({ key, unit, name: mark?.name ?? null, index });
    }
    const last = route.at(-1);
    if (last?.block === index && last.endings.length === 0 && unit.endings.length === 0 && !mark)
      route[route.length - 1] = { ...last, plays: last.plays + unit.plays };
    else route.push({ block: index, plays: unit.plays, endings: unit.endings });
  }
  return { blocks, route };
}

/** A name for bars nobody named: those of the mark before, going on; else a letter; the title where all is one. */
function unmarked(music: Music, unit: BarRange, index: number, count: number): string {
  if (count === 1) return music.title || 'Whole';
  const before = music.marks.findLast((one) => one.bar < unit.from);
  if (before) return `${before.name.slice(0, 60)}, from bar ${unit.from + 1}`;
  return `Section ${letter(index)}`;
}

const letter = (n: number): string =>
  String.fromCharCode(65 + (n % 26)) + (n >= 26 ? String(Math.floor(n / 26) + 1) : '');

/** The played order cut into stretches; a repeat with endings of one length is one of them. */
function unitsOf(music: Music): Unit[] {
  const whole = music.repeats.filter((repeat) => isUnit(music, repeat));
  const cuts = cutsOf(
    music.order,
    music.marks.map((one) => one.bar),
    music.bars,
  );
  const sequence = music.order.flatMap((range): BarRange[] => {
    const inside = [range.from, ...cuts.filter((cut) => cut > range.from && cut < range.to), range.to];
    return inside.slice(1).map((to, i) => ({ from: inside[i] ?? range.from, to }));
  });
  const units: Unit[] = [];
  for (let i = 0; i < sequence.length;) {
    const range = sequence[i] as BarRange;
    const repeat = whole.find((one) => one.from === range.from);
    const length = repeat ? matched(sequence, i, repeat) : 0;
    if (repeat && length > 0) {
      const [first] = repeat.endings;
      units.push({
        from: repeat.from,
        to: first?.to ?? repeat.to,
        plays: repeat.times,
        endings: repeat.endings.slice(1),
      });
      i += length;
      continue;
    }
    units.push({ ...range, plays: 1, endings: [] });
    i++;
  }
  return units;
}

/** Endings of one length, no mark inside, every pass with an ending. */
function isUnit(music: Music, repeat: Repeat): boolean {
  const [first] = repeat.endings;
  if (!first) return !music.marks.some((one) => one.bar > repeat.from && one.bar < repeat.to);
  const end = repeat.endings.at(-1)?.to ?? repeat.to;
  const passes = new Set(repeat.endings.flatMap((one) => one.passes));
  return (
    first.passes.includes(1) &&
    repeat.endings.every((one) => one.to - one.from === first.to - first.from) &&
    !music.marks.some((one) => one.bar > repeat.from && one.bar < end) &&
    Array.from({ length: repeat.times }, (_, i) => passes.has(i + 1)).every(Boolean)
  );
}

/** How many stretches of the order from an index on a repeat takes as it is written; 0 where they are others. */
function matched(sequence: readonly BarRange[], from: number, repeat: Repeat): number {
  const body = repeat.endings[0]?.from ?? repeat.to;
  let i = from;
  const take = (start: number, end: number): boolean => {
    for (let at = start; at < end; i++) {
      const range = sequence[i];
      if (!range || range.from !== at || range.to > end) return false;
      at = range.to;
    }
    return true;
  };
  for (let pass = 1; pass <= repeat.times; pass++) {
    if (!take(repeat.from, body)) return 0;
    const ending = repeat.endings.find((one) => one.passes.includes(pass));
    if (ending && !take(ending.from, ending.to)) return 0;
  }
  return i - from;
}

const KIND_WORDS: readonly (readonly [RegExp, Section['kind']])[] = [
  [/^intro|vorspiel|prelude/i, 'intro'],
  [/vers|strophe/i, 'verse'],
  [/refrain|chorus/i, 'refrain'],
  [/bridge/i, 'bridge'],
  [/solo/i, 'solo'],
  [/interlude|break/i, 'interlude'],
  [/ending|outro|coda|finale/i, 'ending'],
];

/** What kind of section a name tells of. */
export const kindOfSection = (name: string): Section['kind'] =>
  KIND_WORDS.find(([words]) => words.test(name))?.[1] ?? SECTION_KINDS[SECTION_KINDS.length - 1] ?? 'other';
