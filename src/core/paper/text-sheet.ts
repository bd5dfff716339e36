import type { Lettering, PaperLayout } from './paper';

/** A4 at 96 pixels an inch. */
const PAGE = { width: 794, height: 1123, margin: 60 } as const;
const TITLE = { size: 24, below: 34 } as const;
const LINE = { size: 12, high: 15 } as const;
/** Width of a letter of the figures' face, as a part of its size. */
const ADVANCE = 0.632;
const INK = '#20242b';

/**
 * Text of even letters, as text tab is, on sheets of paper: the first line is the title, lines in brackets headings,
 * lines without an empty one between them stay on one page. Lines wider than the paper make all letters smaller.
 * @throws never; text beyond what a layout may hold (20,000 lines) is the caller's to refuse.
 */
export function textSheet(text: string): PaperLayout {
  const [title = '', ...lines] = text.replace(/\n+$/, '').split('\n');
  const items: Lettering[] = [lettering(title, 0, TITLE.size, { family: 'display', size: TITLE.size, weight: 600 })];
  const whole: [number, number][] = [];
  const headings: { text: string; y: number; level: number }[] = [{ text: title.slice(0, 200), y: 0, level: 1 }];
  let y: number = TITLE.below;
  let from: number | null = null;
  let wide = 0;
  for (const line of lines) {
    const heading = /^\[(.{1,198})\]$/.exec(line.trim())?.[1];
    if (heading !== undefined) headings.push({ text: `[${heading}]`, y, level: 2 });
    if (line.trim() === '') {
      // A heading stays with what it is the heading of.
      if (from !== null && (headings.at(-1)?.y ?? 0) < y - LINE.high) {
        whole.push([from, y]);
        from = null;
      }
    } else {
      from ??= y;
      items.push(lettering(line.slice(0, 2000), y, LINE.size, { weight: heading === undefined ? 400 : 700 }));
      wide = Math.max(wide, line.length);
    }
    y += LINE.high;
  }
  if (from !== null) whole.push([from, y]);
  return {
    ...{ title: title.slice(0, 200), author: '', footer: title.slice(0, 400), page: PAGE, breaks: [] },
    width: Math.max(PAGE.width - 2 * PAGE.margin, Math.ceil(wide * LINE.size * ADVANCE)),
    height: y,
    ...{ items, whole, headings },
  };
}

const lettering = (text: string, top: number, drop: number, style: Partial<Lettering>): Lettering => ({
  ...{ kind: 'text', text, x: 0, y: top + drop, matrix: [1, 0, 0, 1, 0, 0], family: 'figures', size: LINE.size },
  ...{ weight: 400, italic: false, fill: INK, opacity: 1 },
  ...style,
});
