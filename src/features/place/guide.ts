/** The little Markdown the call-line guide is written in: headings, paragraphs, two-column tables. */
export type GuideBlock =
  | { readonly kind: 'title'; readonly text: string }
  | { readonly kind: 'heading'; readonly text: string }
  | { readonly kind: 'text'; readonly text: string }
  | { readonly kind: 'table'; readonly rows: readonly (readonly string[])[] };

export function parseGuide(markdown: string): GuideBlock[] {
  const blocks: GuideBlock[] = [];
  let rows: string[][] = [];
  const flush = (): void => {
    // The first two lines of a table are its head and the rule under it.
    if (rows.length > 2) blocks.push({ kind: 'table', rows: rows.slice(2) });
    rows = [];
  };
  for (const line of markdown.split('\n')) {
    if (line.startsWith('|')) {
      rows.push(
        line
          .split(/(?<!\\)\|/)
          .slice(1, -1)
          .map((letter) => letter.trim().replaceAll('\\|', '|')),
      );
      continue;
    }
    flush();
    if (line.startsWith('# ')) blocks.push({ kind: 'title', text: line.slice(2) });
    else if (line.startsWith('## ')) blocks.push({ kind: 'heading', text: line.slice(3) });
    else if (line.trim()) blocks.push({ kind: 'text', text: line });
  }
  flush();
  return blocks;
}
