import type { EmbeddedFace, Lettering, PaperLayout } from '@/core/paper';

/** The faces a layout uses, as data to be carried in a file: read from the page's own style sheets. */

const CSS_NAMES: Readonly<Record<Lettering['family'], RegExp>> = {
  text: /atkinson hyperlegible next/i,
  figures: /atkinson hyperlegible mono/i,
  display: /fraunces/i,
  music: /^['"]?bravura/i,
};

export async function facesOf(layout: Pick<PaperLayout, 'items'>): Promise<EmbeddedFace[]> {
  const used = new Map<Lettering['family'], Set<number>>();
  for (const item of layout.items)
    if (item.kind === 'text') {
      const points = used.get(item.family) ?? new Set<number>();
      for (const letter of item.text) points.add(letter.codePointAt(0) ?? 0);
      used.set(item.family, points);
    }
  const rules = [...document.styleSheets].flatMap((sheet) => {
    try {
      return [...sheet.cssRules]
        .filter((rule) => rule instanceof CSSFontFaceRule)
        .map((rule) => ({ rule, base: sheet.href }));
    } catch {
      // A sheet of another origin tells nothing.
      return [];
    }
  });
  const faces: EmbeddedFace[] = [];
  for (const [family, points] of used)
    for (const { rule, base } of rules) {
      const style = rule.style;
      if (!CSS_NAMES[family].test(style.getPropertyValue('font-family').replace(/^['"]/, ''))) continue;
      if (!covers(style.getPropertyValue('unicode-range'), points)) continue;
      const url = /url\(["']?([^"')]+)["']?\)/.exec(style.getPropertyValue('src'))?.[1];
      const data = url ? await dataOf(new URL(url, base ?? document.baseURI).href) : null;
      if (data)
        faces.push({
          ...{ family, italic: style.getPropertyValue('font-style') === 'italic', source: data },
          weight: style.getPropertyValue('font-weight') || '400',
        });
    }
  return faces;
}

/** Whether a range of letters holds any that are used; a face without a range holds all. */
function covers(range: string, points: ReadonlySet<number>): boolean {
  if (!range) return true;
  return range.split(',').some((part) => {
    const [from, to] = part
      .trim()
      .replace(/^U\+/i, '')
      .split('-')
      .map((hex) => parseInt(hex, 16));
    if (from === undefined || Number.isNaN(from)) return true;
    for (const point of points) if (point >= from && point <= (to ?? from)) return true;
    return false;
  });
}

async function dataOf(url: string): Promise<string | null> {
  const answer = await fetch(url).catch(() => null);
  if (!answer?.ok) return null;
  const blob = await answer.blob();
  return new Promise((resolve) => {
    const reader = new FileReader();
    reader.onload = () => resolve(typeof reader.result === 'string' ? reader.result : null);
    reader.onerror = () => resolve(null);
    reader.readAsDataURL(blob);
  });
}
