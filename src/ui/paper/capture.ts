import type { Lettering, PaperItem, PaperLayout } from '@/core/paper';

/**
 * What a part of the page looks like, as lines, shapes and letters: read from the laid out document, so that what is
 * saved is what is seen. Only what is drawn counts: no images, no shadows.
 */

type Matrix = PaperItem['matrix'];

const FAMILIES: readonly (readonly [RegExp, Lettering['family']])[] = [
  [/bravura/i, 'music'],
  [/mono/i, 'figures'],
  [/fraunces/i, 'display'],
];

const familyOf = (css: string): Lettering['family'] =>
  FAMILIES.find(([name]) => name.test(css.split(',')[0] ?? ''))?.[1] ?? 'text';

let probe: CanvasRenderingContext2D | null = null;

/** Any CSS colour as "#rrggbb" with its opacity; null where nothing is painted. */
function colourOf(css: string): { readonly hex: string; readonly alpha: number } | null {
  if (!css || css === 'none' || css === 'transparent') return null;
  probe ??= document.createElement('canvas').getContext('2d', { willReadFrequently: true });
  if (!probe) return null;
  probe.clearRect(0, 0, 1, 1);
  probe.fillStyle = '#000000';
  probe.fillStyle = css;
  probe.fillRect(0, 0, 1, 1);
  const [r = 0, g = 0, b = 0, a = 0] = probe.getImageData(0, 0, 1, 1).data;
  if (a === 0) return null;
  const hex = (n: number): string => n.toString(16).padStart(2, '0');
  return { hex: `#${hex(r)}${hex(g)}${hex(b)}`, alpha: a / 255 };
}

const IDENTITY: Matrix = [1, 0, 0, 1, 0, 0];

interface Frame {
  readonly left: number;
  readonly top: number;
}

/** Captures an element. `page`: the paper it is to be put on. */
export function capture(
  root: HTMLElement,
  about: Pick<PaperLayout, 'title' | 'author' | 'footer' | 'page'>,
): PaperLayout {
  const box = root.getBoundingClientRect();
  const style = getComputedStyle(root);
  const [left, top] = [box.left + parseFloat(style.paddingLeft), box.top + parseFloat(style.paddingTop)];
  const frame: Frame = { left, top };
  const width = box.width - parseFloat(style.paddingLeft) - parseFloat(style.paddingRight);
  const items: PaperItem[] = [];
  const whole: [number, number][] = [];
  const breaks: number[] = [];
  const headings: { text: string; y: number; level: number }[] = [];
  const walk = (element: Element, opacity: number): void => {
    const css = getComputedStyle(element);
    if (css.display === 'none' || css.visibility === 'hidden') return;
    const clear = opacity * Number(css.opacity || 1);
    if (element instanceof SVGElement) {
      if (element instanceof SVGGraphicsElement) svgItems(element, frame, clear, items);
      if (!(element instanceof SVGTextElement)) for (const child of element.children) walk(child, clear);
      return;
    }
    const rect = element.getBoundingClientRect();
    // What is there for those who don't see takes a pixel.
    if (css.position === 'absolute' && rect.width <= 1 && rect.height <= 1) return;
    if (css.breakInside === 'avoid' && element !== root) whole.push([rect.top - top, rect.bottom - top]);
    if (css.breakBefore === 'page') breaks.push(rect.top - top);
    const level = /^H([1-6])$/.exec(element.tagName)?.[1];
    if (level)
      headings.push({
        text: (element.textContent ?? '').trim().slice(0, 200),
        y: rect.top - top,
        level: Number(level),
      });
    if (element !== root) boxItems(rect, css, frame, clear, items);
    for (const node of element.childNodes) {
      if (node instanceof Text) textItems(node, css, frame, clear, items);
      else if (node instanceof Element) walk(node, clear);
    }
  };
  walk(root, 1);
  const height = Math.max(1, box.height - parseFloat(style.paddingTop) - parseFloat(style.paddingBottom));
  const lowest = items.reduce((most, item) => Math.max(most, item.kind === 'text' ? item.y : 0), 0);
  return {
    ...about,
    width: Math.max(1, width),
    height: Math.min(height, Math.max(lowest + 40, 60)),
    items,
    whole,
    breaks,
    headings,
  };
}

/** Borders and grounds of a box. */
function boxItems(rect: DOMRect, css: CSSStyleDeclaration, frame: Frame, opacity: number, items: PaperItem[]): void {
  const [x, y] = [rect.left - frame.left, rect.top - frame.top];
  const shape = (d: string, hex: string, alpha: number): void =>
    void items.push({
      ...{ kind: 'shape', d, matrix: IDENTITY, fill: hex, stroke: null, width: 0, dash: [], round: false },
      opacity: alpha * opacity,
    });
  const area = (a: number, b: number, w: number, h: number): string => `M${a} ${b}h${w}v${h}h${-w}Z`;
  const ground = colourOf(css.backgroundColor);
  if (ground && rect.width > 0) shape(area(x, y, rect.width, rect.height), ground.hex, ground.alpha);
  const sides = [
    ['Top', x, y, rect.width, 0],
    ['Bottom', x, y + rect.height, rect.width, 0],
    ['Left', x, y, 0, rect.height],
    ['Right', x + rect.width, y, 0, rect.height],
  ] as const;
  for (const [side, a, b, w, h] of sides) {
    const wide = parseFloat(css[`border${side}Width`]);
    const line = wide > 0 && css[`border${side}Style`] !== 'none' ? colourOf(css[`border${side}Color`]) : null;
    if (!line) continue;
    const [dx, dy] = [side === 'Right' ? -wide : 0, side === 'Bottom' ? -wide : 0];
    shape(area(a + dx, b + dy, w || wide, h || wide), line.hex, line.alpha);
  }
}

/** Letters of a text node, a line an item. */
function textItems(node: Text, css: CSSStyleDeclaration, frame: Frame, opacity: number, items: PaperItem[]): void {
  const fill = colourOf(css.color);
  if (!fill || node.data.trim() === '') return;
  const range = document.createRange();
  const size = parseFloat(css.fontSize);
  let line: { text: string; left: number; bottom: number; top: number } | null = null;
  const flush = (): void => {
    if (!line || line.text.trim() === '') return;
    const shown = css.textTransform === 'uppercase' ? line.text.toUpperCase() : line.text;
    items.push({
      ...{ kind: 'text', text: shown.trimEnd(), matrix: IDENTITY, family: familyOf(css.fontFamily), size },
      ...{ weight: Number(css.fontWeight) || 400, italic: css.fontStyle === 'italic', fill: fill.hex },
      x: line.left - frame.left,
      // The base line lies about a fifth of the letters' height above their box's end.
      y: line.top + (line.bottom - line.top) * 0.5 + size * 0.34 - frame.top,
      opacity: fill.alpha * opacity,
    });
  };
  for (let i = 0; i < node.data.length; i++) {
    range.setStart(node, i);
    range.setEnd(node, i + 1);
    const [rect] = range.getClientRects();
    if (!rect || rect.width === 0) continue;
    if (line && Math.abs(rect.top - line.top) < size * 0.4)
      line.text += node.data[i] === '\n' ? ' ' : (node.data[i] ?? '');
    else {
      flush();
      line = { text: node.data[i] ?? '', left: rect.left, top: rect.top, bottom: rect.bottom };
    }
  }
  flush();
}

/** A drawn element by its own geometry, and where that lies. */
function svgItems(element: SVGGraphicsElement, frame: Frame, opacity: number, items: PaperItem[]): void {
  const place = element.getScreenCTM();
  if (!place) return;
  const css = getComputedStyle(element);
  const matrix: Matrix = [place.a, place.b, place.c, place.d, place.e - frame.left, place.f - frame.top];
  if (element instanceof SVGTextElement) return svgText(element, css, matrix, opacity, items);
  const d = pathOf(element);
  if (d === null) return;
  const fill = colourOf(css.fill);
  const stroke = colourOf(css.stroke);
  const open = element instanceof SVGLineElement || element instanceof SVGPolylineElement;
  const width = parseFloat(css.strokeWidth) || 0;
  const shown = {
    kind: 'shape',
    d,
    matrix,
    width,
    dash: dashOf(css.strokeDasharray),
    round: css.strokeLinecap === 'round',
  } as const;
  const filled = fill && !(open && element instanceof SVGLineElement) ? fill : null;
  if (!filled && !(stroke && width > 0)) return;
  items.push({
    ...shown,
    fill: filled?.hex ?? null,
    stroke: stroke && width > 0 ? stroke.hex : null,
    opacity:
      opacity *
      Math.min(
        filled ? filled.alpha * Number(css.fillOpacity || 1) : 1,
        stroke && width > 0 && !filled ? stroke.alpha * Number(css.strokeOpacity || 1) : 1,
      ),
  });
}

const dashOf = (css: string): number[] =>
  css === 'none'
    ? []
    : css
        .split(/[\s,]+/)
        .map(parseFloat)
        .filter((n) => n >= 0)
        .slice(0, 8);

/** The outline of a shape as path data; null for what has none of its own. */
function pathOf(element: SVGGraphicsElement): string | null {
  const n = (name: string): number => parseFloat(element.getAttribute(name) ?? '0') || 0;
  if (element instanceof SVGPathElement) return (element.getAttribute('d') ?? '').trim() || null;
  if (element instanceof SVGLineElement) return `M${n('x1')} ${n('y1')}L${n('x2')} ${n('y2')}`;
  if (element instanceof SVGRectElement) {
    const box = element.getBBox();
    return `M${box.x} ${box.y}h${box.width}v${box.height}h${-box.width}Z`;
  }
  if (element instanceof SVGCircleElement || element instanceof SVGEllipseElement) {
    const [rx, ry] = element instanceof SVGCircleElement ? [n('r'), n('r')] : [n('rx'), n('ry')];
    return `M${n('cx') - rx} ${n('cy')}a${rx} ${ry} 0 1 0 ${2 * rx} 0a${rx} ${ry} 0 1 0 ${-2 * rx} 0Z`;
  }
  if (element instanceof SVGPolylineElement || element instanceof SVGPolygonElement) {
    const points = [...element.points].map((point) => `${point.x} ${point.y}`);
    return points.length > 1 ? `M${points.join('L')}${element instanceof SVGPolygonElement ? 'Z' : ''}` : null;
  }
  return null;
}

/** Letters of a drawing: each run that stands by itself where its first letter stands. */
function svgText(
  element: SVGTextElement,
  css: CSSStyleDeclaration,
  matrix: Matrix,
  opacity: number,
  items: PaperItem[],
): void {
  const fill = colourOf(css.fill);
  const text = element.textContent ?? '';
  if (!fill || text.trim() === '') return;
  const runs = [...element.querySelectorAll('tspan')];
  let at = 0;
  const put = (words: string, from: number, style: CSSStyleDeclaration): void => {
    if (words.trim() === '' || from >= element.getNumberOfChars()) return;
    const start = element.getStartPositionOfChar(from);
    const own = colourOf(style.fill) ?? fill;
    items.push({
      ...{ kind: 'text', text: words, x: start.x, y: start.y, matrix, family: familyOf(style.fontFamily) },
      ...{ size: parseFloat(style.fontSize), weight: Number(style.fontWeight) || 400 },
      ...{ italic: style.fontStyle === 'italic', fill: own.hex, opacity: own.alpha * opacity },
    });
  };
  if (runs.length === 0) return put(text, 0, css);
  for (const node of element.childNodes) {
    const words = node.textContent ?? '';
    put(words, at, node instanceof Element ? getComputedStyle(node) : css);
    at += words.length;
  }
}
