import { bendShapes, type Join, type Technique } from '../../score';

/** A number or a dead note on one string's line, with the letters round it. */
export interface Cell {
  /** Columns it takes, the last not counted. */
  readonly from: number;
  readonly to: number;
  /** Null for a dead note. */
  readonly fret: number | null;
  readonly technique: Technique;
  readonly ghost: boolean;
  /** In brackets behind a tie or a slide: it sounds on and is not struck. */
  readonly join: Join | null;
}

/** A character that could mean something else, or nothing. */
export interface Doubt {
  readonly from: number;
  readonly to: number;
  readonly words: string;
}

export const MOST_FRET = 36;
/** What two digits together may be as one number. */
const TWO_DIGITS = 27;
/** A slide sign so far before a number belongs to the number before it. */
const NEAR = 4;
const VIBRATO = 40;

type Growing = { -readonly [Name in keyof Cell]: Cell[Name] } & {
  technique: { -readonly [Name in keyof Technique]: Technique[Name] };
};

interface Pending {
  readonly how: 'hammer' | 'pull' | 'up' | 'down' | 'slide';
  readonly at: number;
}

/** Reads what is played on one line of a bar. `columns` are of the line as it is given. */
export function cellsOf(line: string): { readonly cells: readonly Cell[]; readonly doubts: readonly Doubt[] } {
  const cells: Growing[] = [];
  const doubts: Doubt[] = [];
  let pending: Pending | null = null;
  let tapped = false;
  let i = 0;
  const number = (at: number): { value: number; length: number } | null => {
    const digits = /^\d+/.exec(line.slice(at))?.[0];
    if (digits === undefined) return null;
    const two = Number(digits.slice(0, 2));
    const length = digits.length >= 2 && two <= TWO_DIGITS && !digits.startsWith('0') ? 2 : 1;
    return { value: Number(digits.slice(0, length)), length };
  };
  const settle = (): void => {
    // A slide that leads nowhere slides off.
    const last = cells.at(-1);
    if (pending && last && (pending.how === 'up' || pending.how === 'down'))
      last.technique.slideOut = pending.how === 'up' ? 'higher' : 'lower';
    pending = null;
  };
  const add = (from: number, to: number, fret: number | null, extra: Partial<Growing> = {}): void => {
    if (pending && from - pending.at > NEAR && pending.how !== 'hammer' && pending.how !== 'pull') settle();
    const last = cells.at(-1);
    const cell: Growing = { from, to, fret, technique: {}, ghost: false, join: null, ...extra };
    if (fret === null) cell.technique.dead = true;
    if (tapped && fret !== null) cell.technique.tapped = true;
    const how = (pending as Pending | null)?.how;
    if (how && (!last || last.fret === null || fret === null)) {
      if (!last && fret !== null && (how === 'up' || how === 'down'))
        cell.technique.slideIn = how === 'up' ? 'lower' : 'higher';
      else if (!last && fret !== null && how === 'hammer') cell.technique.hammered = true;
    } else if (how && last && last.fret !== null && fret !== null) {
      const wrong = (how === 'hammer' && fret <= last.fret) || (how === 'pull' && fret >= last.fret);
      if (wrong && fret !== last.fret)
        doubts.push({
          from: last.from,
          to,
          words: `${last.fret}${how === 'hammer' ? 'h' : 'p'}${fret} goes ${fret > last.fret ? 'up' : 'down'}: read as a ${fret > last.fret ? 'hammer-on' : 'pull-off'}.`,
        });
      if (fret !== last.fret)
        last.join = how === 'hammer' || how === 'pull' ? (fret > last.fret ? 'hammer' : 'pull') : 'slide';
    }
    pending = null;
    tapped = false;
    cells.push(cell);
  };
  while (i < line.length) {
    const letter = line[i] ?? '';
    const last = cells.at(-1);
    const found = number(i);
    if (found) {
      const { value, length } = found;
      if (/^\d{3,}/.test(line.slice(i)))
        doubts.push({ from: i, to: i + 3, words: `More than two digits: read as fret ${value} and what follows.` });
      add(i, i + length, value);
      i += length;
    } else if (letter === 'x' || letter === 'X') {
      add(i, i + 1, null);
      i++;
    } else if ('(<[{'.includes(letter)) {
      const close = { '(': ')', '<': '>', '[': ']', '{': '}' }[letter] ?? ')';
      const inside = number(i + 1);
      if (inside && line[i + 1 + inside.length] === close) {
        const to = i + 2 + inside.length;
        add(i, to, inside.value, letter === '(' || letter === '{' ? { ghost: true } : {});
        const cell = cells.at(-1);
        if (cell && letter === '<') cell.technique.harmonic = true;
        if (cell && letter === '[') cell.technique.pinched = 12;
        i = to;
      } else if (/[xX]/.test(line[i + 1] ?? '') && line[i + 2] === close) {
        add(i, i + 3, null, { ghost: true });
        i += 3;
      } else {
        doubts.push({ from: i, to: i + 1, words: `A bracket that is not closed was left out.` });
        i++;
      }
    } else if (/[hH]/.test(letter)) {
      pending = { how: 'hammer', at: i };
      i++;
    } else if (/[pP]/.test(letter)) {
      if (/[bB]/.test(line[i + 1] ?? '')) {
        i = bendAt(line, i + 1, last, number, true);
      } else {
        pending = { how: 'pull', at: i };
        i++;
      }
    } else if (letter === '/' || letter === '\\' || letter === 's' || letter === 'S') {
      pending = { how: letter === '/' ? 'up' : letter === '\\' ? 'down' : 'slide', at: i };
      i++;
    } else if (/[bB^]/.test(letter)) {
      if (!last) doubts.push({ from: i, to: i + 1, words: 'A bend without a fret before it was left out.' });
      i = bendAt(line, i, last, number, false);
    } else if (/[rR]/.test(letter)) {
      if (last?.technique.bend !== undefined) {
        const before = last.technique.bendCurve?.[0]?.cents;
        last.technique.bendCurve = [...bendShapes(last.technique.bend)[before ? 'prebend-released' : 'released']];
      } else if (last?.technique.unspecified) last.technique.bendShape = 'released';
      i++;
      const after = number(i);
      if (after && last) i += after.length;
    } else if (/[~vVw]/.test(letter)) {
      if (last && last.fret !== null) last.technique.vibrato = VIBRATO;
      while (/[~vVw]/.test(line[i] ?? '')) i++;
    } else if (/[tT]/.test(letter)) {
      const to = /[rR]/.test(line[i + 1] ?? '') ? number(i + 2) : null;
      if (last && /[rR]/.test(line[i + 1] ?? '')) {
        const by = to && last.fret !== null ? to.value - last.fret : 0;
        if (by >= 1 && by <= 12) last.technique.trill = by;
        else last.technique.unspecified = ['trill'];
        i += 2 + (to?.length ?? 0);
      } else {
        tapped = true;
        i++;
      }
    } else {
      if (!/[-=|: .*o]/.test(letter))
        doubts.push({ from: i, to: i + 1, words: `“${letter}” means nothing here and was left out.` });
      i++;
    }
  }
  settle();
  return { cells, doubts };
}

/** A bend at a place in the line: to a fret written behind it, or how far nobody said. Gives the place behind it. */
function bendAt(
  line: string,
  at: number,
  last: Growing | undefined,
  number: (at: number) => { value: number; length: number } | null,
  before: boolean,
): number {
  let i = at + 1;
  const bracket = line[i] === '(' ? 1 : 0;
  const target = number(i + bracket);
  const half = line[i] === '½';
  if (half) i++;
  if (!last || last.fret === null) return i;
  if (target) {
    i += target.length + bracket + (bracket && line[i + bracket + target.length] === ')' ? 1 : 0);
    const by = target.value - last.fret;
    if (by >= 1 && by <= 7) {
      last.technique.bend = by * 100;
      if (before) last.technique.bendCurve = [...bendShapes(by * 100).prebend];
      return i;
    }
  }
  if (half) last.technique.bend = 100;
  else {
    last.technique.unspecified = ['bend'];
    if (before) last.technique.bendShape = 'prebend';
  }
  return i;
}
