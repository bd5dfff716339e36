import type { System } from './systems';

/** One bar of a system: columns of the contents, the last not counted. */
export interface TabBar {
  readonly from: number;
  readonly to: number;
  readonly opens: boolean;
  /** How often what ends here is played; null where nothing is repeated. */
  readonly closes: number | null;
  /** Cut off by a line that ends without a bar line. */
  readonly open: boolean;
}

/** Where strings do not reach as far as the others. */
export interface Ragged {
  readonly line: number;
  readonly missing: number;
}

/** The bars of a system by the columns where most strings have a bar line, and which lines are too short. */
export function barsOf({ strings }: System): { readonly bars: readonly TabBar[]; readonly ragged: readonly Ragged[] } {
  const width = strings.reduce((most, line) => Math.max(most, lengthOf(line.content)), 0);
  const ragged = strings.flatMap((line, i) => {
    const missing = width - lengthOf(line.content);
    return missing > 0 ? [{ line: i, missing }] : [];
  });
  const lines = strings.map((line) => line.content.padEnd(width, '-'));
  const isBar = (column: number): boolean => lines.filter((line) => line[column] === '|').length * 2 > lines.length;
  const signs = (column: number): boolean => lines.some((line) => /[:*o]/.test(line[column] ?? ''));
  const bars: TabBar[] = [];
  let from = 0;
  let opens = false;
  for (let column = 0; column <= width; column++) {
    const ends = column === width;
    if (!ends && !isBar(column)) continue;
    let to = column;
    while (to > from && signs(to - 1) && dashesBefore(lines, to - 1)) to--;
    const closes = to < column ? 2 : null;
    // Where only the frame of the line was between there was no bar.
    if (lines.some((line) => /[^\s|:*o]/.test(line.slice(from, to))))
      bars.push({ from, to, opens, closes, open: ends });
    else if (closes !== null && bars.length > 0) bars[bars.length - 1] = { ...(bars.at(-1) as TabBar), closes };
    let next = column + 1;
    while (next < width && isBar(next)) next++;
    opens = next < width && signs(next);
    while (next < width && signs(next) && !lines.some((line) => /[\dxX]/.test(line[next] ?? ''))) next++;
    from = next;
    column = next - 1;
  }
  const last = bars.at(-1);
  const times = timesOf(strings.map((line) => line.content));
  if (last && times !== null) bars[bars.length - 1] = { ...last, closes: times };
  // Of a line without any bar line the whole is a bar.
  return {
    bars: bars.map((bar) => (bar.open && bars.length > 1 && tiny(bar) ? null : bar)).filter((bar) => bar !== null),
    ragged,
  };
}

const tiny = (bar: TabBar): boolean => bar.to - bar.from < 2;

/** Signs of a repeat stand between dashes or at a bar line, on all but the outer strings mostly: never a note. */
const dashesBefore = (lines: readonly string[], column: number): boolean =>
  lines.every((line) => /[-:*o| ]/.test(line[column] ?? '-'));

/** How far what is played reaches; words behind the last bar line do not count. */
function lengthOf(content: string): number {
  const last = content.lastIndexOf('|');
  const rest = content.slice(last + 1);
  if (last >= 0 && !/--/.test(rest)) return last + 1;
  return content.trimEnd().length;
}

/** "x3" or "(3 times)" behind a system: how often its last bar, or what is repeated there, is played in all. */
function timesOf(contents: readonly string[]): number | null {
  for (const content of contents) {
    const rest = content.slice(content.lastIndexOf('|') + 1);
    if (/--/.test(rest)) continue;
    const found = /[x×]\s*(\d{1,2})\b|\b(\d{1,2})\s*(?:x|×|times)/i.exec(rest);
    const times = Number(found?.[1] ?? found?.[2] ?? 0);
    if (times >= 2 && times <= 32) return times;
  }
  return null;
}
