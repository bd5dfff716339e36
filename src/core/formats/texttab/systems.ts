import { parseChord } from '../../harmony';

/** Finding tab in text: which lines are strings, which stand together, and what the words between them are. */

/** One string's line of a system. */
export interface StringLine {
  /** Where its contents begin in the whole text. */
  readonly offset: number;
  /** What stands before the first bar line: a letter of the tuning, a number, or nothing. */
  readonly label: string;
  /** From behind the first bar line to the end. */
  readonly content: string;
  /** How far into the text line the content begins. */
  readonly column: number;
}

export interface System {
  /** In the order they are written. */
  readonly strings: readonly StringLine[];
  /** Lines over it and under it that belong to its columns; columns count from the contents. */
  readonly above: readonly TextLine[];
  readonly below: readonly TextLine[];
}

export interface TextLine {
  readonly text: string;
  readonly offset: number;
}

export type Block =
  { readonly kind: 'system'; readonly system: System } | { readonly kind: 'words'; readonly line: TextLine };

/** A line of a string: what stands before the bar line, and dashes with what is played. */
const TAB_LINE = /^(\s*)([A-Ga-gHh][#b♯♭]?\d?|[1-9]\d?|)\s*([|:‖][|:‖o*]*|(?=[-–—]{2}))(.*)$/u;
const PLAYED = /[-–—|0-9hpbrxtsv~/\\()<>[\]{}^=.:*o XHPBRTSV½]/u;
const MOST_STRINGS = 12;

export function linesOf(text: string): TextLine[] {
  let offset = 0;
  return text.split('\n').map((line) => {
    const one = { text: line.replace(/\r$/, ''), offset };
    offset += line.length + 1;
    return one;
  });
}

function stringLine({ text, offset }: TextLine): StringLine | null {
  const match = TAB_LINE.exec(text);
  if (!match) return null;
  const content = match[4] ?? '';
  const column = text.length - content.length;
  const dashes = (content.match(/[-–—]/g) ?? []).length;
  // A bar may be short where a letter and a bar line say what it is.
  if (dashes < (match[2] && match[3] ? 2 : 3)) return null;
  // Words may follow the last bar line; before it nearly all is what tab is made of.
  const body = content.slice(0, Math.max(content.lastIndexOf('|'), content.lastIndexOf('-')) + 1);
  const fits = [...body].filter((letter) => PLAYED.test(letter)).length;
  const labelled = Boolean(match[2] && match[3]);
  if (fits < body.length * 0.85 || (!labelled && dashes < body.length * 0.25)) return null;
  // The signs of a repeat belong to what is played.
  const bar = match[3] ?? '';
  const opened = bar.length > 1 ? bar.slice(1) : '';
  return {
    offset: offset + column - opened.length,
    label: match[2] ?? '',
    content: (opened + content).replace(/[–—]/g, '-'),
    column: column - opened.length,
  };
}

/** Blocks of a text in order: systems with what belongs to their columns, and other words. */
export function blocksOf(text: string): Block[] {
  const lines = linesOf(text);
  const read = lines.map(stringLine);
  const out: Block[] = [];
  for (let i = 0; i < lines.length;) {
    if (!read[i]) {
      const line = lines[i] as TextLine;
      if (line.text.trim() !== '') out.push({ kind: 'words', line });
      i++;
      continue;
    }
    let end = i;
    while (read[end] && end - i < 400) end++;
    const group = read.slice(i, end).flatMap((one) => one ?? []);
    for (const strings of splitGroup(group)) out.push({ kind: 'system', system: { strings, above: [], below: [] } });
    i = end;
  }
  return withMargins(out);
}

/** Systems that stand under each other without a space between are told apart by their labels, or by their count. */
function splitGroup(group: readonly StringLine[]): StringLine[][] {
  if (group.length <= 4) return [[...group]];
  const labels = group.map((line) => line.label);
  for (let count = 4; count <= Math.min(MOST_STRINGS, group.length / 2); count++) {
    if (group.length % count !== 0) continue;
    const repeats = labels.every((label, i) => label === labels[i % count]);
    if (repeats && (labels[0] !== '' || group.length > MOST_STRINGS)) return chunks(group, count);
  }
  if (group.length > MOST_STRINGS && group.length % 6 === 0) return chunks(group, 6);
  return [group.slice(0, MOST_STRINGS)];
}

const chunks = (group: readonly StringLine[], count: number): StringLine[][] =>
  Array.from({ length: group.length / count }, (_, i) => group.slice(i * count, (i + 1) * count));

/** Chords, counts, lengths and marks over or under a system go with it. */
function withMargins(blocks: readonly Block[]): Block[] {
  const out: Block[] = [];
  let waiting: TextLine[] = [];
  const flush = (): void => {
    for (const line of waiting) out.push({ kind: 'words', line });
    waiting = [];
  };
  for (const block of blocks) {
    if (block.kind === 'words') {
      const last = out.at(-1);
      if (waiting.length === 0 && last?.kind === 'system' && isCount(block.line.text))
        out[out.length - 1] = {
          ...last,
          system: { ...last.system, below: [...last.system.below, block.line] },
        };
      else waiting.push(block.line);
      continue;
    }
    const above: TextLine[] = [];
    for (let line = waiting.at(-1); line && isMargin(line.text); line = waiting.at(-1)) {
      above.unshift(line);
      waiting.pop();
    }
    flush();
    out.push({ ...block, system: { ...block.system, above } });
  }
  flush();
  return out;
}

/** "1 & 2 e & a": counted beats. */
export const isCount = (text: string): boolean =>
  /\d/.test(text) &&
  /^[\s|.]*(?:(?:[1-9]\d?|[&+eaA]|and|trip|let|la|li)[\s|.]*)+$/.test(text) &&
  /[&+ea]|\d\s+\d/.test(text);

const LENGTHS = /^[\s|]*(?:[whqest][.\d]?[\s|]*)+$/i;
export const isLengths = (text: string): boolean => LENGTHS.test(text) && text.trim().length > 1;

/** Chord names alone. */
export const isChords = (text: string): boolean => {
  const words = text
    .trim()
    .split(/[\s|]+/)
    .filter(Boolean);
  return words.length > 0 && words.every((word) => /^(N\.?C\.?|%)$/.test(word) || parseChord(word).ok);
};

const SPANS = /^[\s\-–|.]*((p\.?m\.?|let ring|lr|palm mute|n\.?h\.?|harm\.?)[\s\-–|.]*)+$/i;
export const isSpan = (text: string): boolean => SPANS.test(text);

const isMargin = (text: string): boolean => isCount(text) || isLengths(text) || isChords(text) || isSpan(text);
