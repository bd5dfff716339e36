import { itemsOn, pageCuts, type PageCut } from './cuts';
import type { Lettering, PaperItem, PaperLayout, Shape } from './paper';

/** A face to be carried in the file. */
export interface EmbeddedFace {
  readonly family: Lettering['family'];
  readonly italic: boolean;
  readonly weight: string;
  /** "data:font/woff2;base64,..." */
  readonly source: string;
}

/** By family the name a face has in the file, and what stands in where it can't be read. */
const NAMES: Readonly<Record<Lettering['family'], string>> = {
  text: "'Atkinson Hyperlegible Next', sans-serif",
  figures: "'Atkinson Hyperlegible Mono', monospace",
  display: "'Fraunces', serif",
  music: "'Bravura', serif",
};

const escape = (text: string): string =>
  text
    .toWellFormed()
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;');

const round = (n: number): number => Math.round(n * 1000) / 1000;

/** A layout as one SVG: its pages one under the other, or, without paper round it, as the long sheet it is. */
export function paperSvg(layout: PaperLayout, faces: readonly EmbeddedFace[], paged: boolean): string {
  const { page } = layout;
  const cuts: readonly PageCut[] = paged ? pageCuts(layout) : [{ from: 0, to: layout.height }];
  const margin = paged ? page.margin : 12;
  const width = paged ? page.width : layout.width + 2 * margin;
  const each = paged ? page.height : layout.height + 2 * margin;
  const height = each * cuts.length;
  const scale = paged ? Math.min(1, (page.width - 2 * margin) / layout.width) : 1;
  const pages = cuts.map(
    (cut, i) =>
      `<g transform="translate(${round(margin)} ${round(i * each + margin)}) scale(${round(scale)}) translate(0 ${round(-cut.from)})">\n${itemsOn(layout.items, cut).map(itemSvg).join('\n')}\n</g>`,
  );
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${round(width)}" height="${round(height)}" viewBox="0 0 ${round(width)} ${round(height)}" role="img" aria-labelledby="title">`,
    `<title id="title">${escape(layout.title)}</title>`,
    ...(layout.author ? [`<desc>${escape(layout.author)}</desc>`] : []),
    `<style>${faces.map(faceCss).join('')}text{white-space:pre}</style>`,
    `<rect width="100%" height="100%" fill="#ffffff"/>`,
    ...pages,
    '</svg>',
    '',
  ].join('\n');
}

const faceCss = ({ family, italic, weight, source }: EmbeddedFace): string =>
  `@font-face{font-family:${NAMES[family].split(',')[0]};font-style:${italic ? 'italic' : 'normal'};font-weight:${weight};src:url(${source})}`;

const itemSvg = (item: PaperItem): string => (item.kind === 'text' ? textSvg(item) : shapeSvg(item));

const placed = (matrix: PaperItem['matrix']): string => {
  const rounded = matrix.map(round);
  return rounded.join(' ') === '1 0 0 1 0 0' ? '' : ` transform="matrix(${rounded.join(' ')})"`;
};

function shapeSvg({ d, matrix, fill, stroke, width, dash, round: ends, opacity }: Shape): string {
  const line = stroke
    ? ` stroke="${stroke}" stroke-width="${round(width)}"${dash.length > 0 ? ` stroke-dasharray="${dash.join(' ')}"` : ''}${ends ? ' stroke-linecap="round"' : ''}`
    : '';
  return `<path d="${d}" fill="${fill ?? 'none'}"${line}${opacity < 1 ? ` opacity="${round(opacity)}"` : ''}${placed(matrix)}/>`;
}

function textSvg({ text, x, y, matrix, family, size, weight, italic, fill, opacity }: Lettering): string {
  return `<text x="${round(x)}" y="${round(y)}" font-family="${escape(NAMES[family])}" font-size="${round(size)}" font-weight="${weight}"${italic ? ' font-style="italic"' : ''} fill="${fill ?? '#000000'}"${opacity < 1 ? ` opacity="${round(opacity)}"` : ''}${placed(matrix)}>${escape(text)}</text>`;
}
