import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  itemsOn,
  pageCuts,
  paperSchema,
  paperSvg,
  pointsOf,
  spanOf,
  textSheet,
  type Lettering,
  type PaperLayout,
  type Shape,
} from './index';

const shape = (d: string, extra: Partial<Shape> = {}): Shape => ({
  ...{ kind: 'shape', d, matrix: [1, 0, 0, 1, 0, 0], fill: '#20242b', stroke: null, width: 0, dash: [], round: false },
  opacity: 1,
  ...extra,
});
const text = (words: string, y: number, extra: Partial<Lettering> = {}): Lettering => ({
  ...{ kind: 'text', text: words, x: 10, y, matrix: [1, 0, 0, 1, 0, 0], family: 'text', size: 10, weight: 400 },
  ...{ italic: false, fill: '#20242b', opacity: 1 },
  ...extra,
});
const layout = (extra: Partial<PaperLayout> = {}): PaperLayout => ({
  ...{ title: 'Moth <at> the "Lamp"', author: '', footer: '' },
  page: { width: 500, height: 700, margin: 50 },
  ...{ width: 400, height: 2000, items: [], whole: [], breaks: [], headings: [] },
  ...extra,
});

describe('where things stand', () => {
  it('is read from path data, letters and their matrices', () => {
    expect(pointsOf('M0 0h10v5H2V1z')).toEqual([
      [0, 0],
      [10, 0],
      [10, 5],
      [2, 5],
      [2, 1],
    ]);
    expect(spanOf(shape('M0 10L5 30', { stroke: '#000000', width: 4 }))).toEqual([8, 32]);
    expect(spanOf(shape('M0 0a5 5 0 1 0 10 0', { matrix: [1, 0, 0, 2, 0, 100] }))).toEqual([100, 100]);
    const [top, bottom] = spanOf(text('Am', 100));
    expect(top).toBeLessThan(100);
    expect(bottom).toBeGreaterThan(100);
  });
});

describe('pages', () => {
  it('end where something ends, not within it; longer things are cut', () => {
    const cuts = pageCuts(
      layout({
        whole: [
          [550, 650],
          [1200, 1900],
        ],
      }),
    );
    expect(cuts).toEqual([
      { from: 0, to: 550 },
      { from: 550, to: 1150 },
      { from: 1150, to: 1200 },
      { from: 1200, to: 1800 },
      { from: 1800, to: 2000 },
    ]);
    expect(pageCuts(layout({ height: 300, breaks: [120] }))).toEqual([
      { from: 0, to: 120 },
      { from: 120, to: 300 },
    ]);
  });

  it('hold everything once, in order, whatever stands where', () => {
    const stretch = fc
      .tuple(fc.integer({ min: 0, max: 3000 }), fc.integer({ min: 1, max: 900 }))
      .map(([from, size]): [number, number] => [from, from + size]);
    fc.assert(
      fc.property(
        fc.array(stretch, { maxLength: 30 }),
        fc.array(fc.integer({ min: 0, max: 3000 }), { maxLength: 6 }),
        fc.integer({ min: 50, max: 4000 }),
        (whole, breaks, height) => {
          const items = whole.map(([from], i) => text(`t${i}`, Math.min(from + 9, height - 3)));
          const given = layout({ whole, breaks, height, items });
          const cuts = pageCuts(given);
          expect(cuts[0]?.from).toBe(0);
          expect(cuts.at(-1)?.to).toBe(height);
          cuts.forEach((cut, i) => {
            expect(cut.to).toBeGreaterThan(cut.from);
            expect(cut.to - cut.from).toBeLessThanOrEqual(600.5);
            if (i > 0) expect(cut.from).toBe(cuts[i - 1]?.to);
          });
          expect(cuts.reduce((sum, cut) => sum + itemsOn(items, cut).length, 0)).toBe(items.length);
        },
      ),
    );
  });
});

describe('as SVG', () => {
  it('carries letters as letters, its faces, and a title; nothing of it is markup', () => {
    const items = [
      text('Am & <b>', 40),
      shape('M0 0h5', { fill: null, stroke: '#9c3f2c', width: 1.5, dash: [2, 3], round: true, opacity: 0.5 }),
    ];
    const face = { family: 'text' as const, italic: false, weight: '400', source: 'data:font/woff2;base64,AAAA' };
    const svg = paperSvg(layout({ items, height: 100 }), [face], false);
    expect(svg).toContain('<title id="title">Moth &lt;at&gt; the &quot;Lamp&quot;</title>');
    expect(svg).toContain('>Am &amp; &lt;b&gt;</text>');
    expect(svg).toContain("@font-face{font-family:'Atkinson Hyperlegible Next'");
    expect(svg).toContain('stroke-dasharray="2 3" stroke-linecap="round" opacity="0.5"');
    expect(svg).toContain('viewBox="0 0 424 124"');
    expect(paperSvg(layout({ items }), [], true)).toContain('viewBox="0 0 500 2800"');
  });

  it('takes only what can be drawn', () => {
    expect(paperSchema.safeParse(layout({ items: [text('Am', 4), shape('M0 0h5')] })).success).toBe(true);
    expect(paperSchema.safeParse(layout({ items: [shape('M0 0" onload="x')] })).success).toBe(false);
    expect(paperSchema.safeParse(layout({ items: [text('Am', 4, { fill: 'url(#x)' })] })).success).toBe(false);
    expect(paperSchema.safeParse(layout({ height: 1e9 })).success).toBe(false);
  });
});

describe('text on paper', () => {
  const system = ['E|--0--3--|', 'A|--------|', 'D|--------|', 'G|--------|'].join('\n');
  const tab = `Moth\nTempo: 92\n\n${Array.from({ length: 40 }, (_, i) => `[Part ${i + 1}]\n\n${system}\n`).join('\n')}`;

  it('is a sheet the writers take, with its headings, letter for letter', () => {
    const sheet = textSheet(tab);
    expect(paperSchema.parse(sheet)).toEqual(sheet);
    expect(sheet.title).toBe('Moth');
    expect(sheet.headings.map((one) => one.text).slice(0, 3)).toEqual(['Moth', '[Part 1]', '[Part 2]']);
    expect(sheet.items.map((item) => (item.kind === 'text' ? item.text : ''))).toEqual(
      tab.split('\n').filter((line) => line.trim() !== ''),
    );
    const svg = paperSvg(sheet, [], true);
    expect(svg).toContain('E|--0--3--|');
  });

  it('is cut between systems, never through one, and a heading goes with its system', () => {
    const sheet = textSheet(tab);
    const pages = pageCuts(sheet).map((cut) =>
      itemsOn(sheet.items, cut).map((item) => (item.kind === 'text' ? item.text : '')),
    );
    expect(pages.length).toBeGreaterThan(2);
    for (const page of pages) {
      expect(page.filter((line) => line.startsWith('E|'))).toHaveLength(
        page.filter((line) => line.startsWith('G|')).length,
      );
      expect(page.at(-1)).toMatch(/^G\|/);
    }
  });

  it('of wide lines is made small enough for the paper', () => {
    expect(textSheet(`T\n${'-'.repeat(200)}`).width).toBeGreaterThan(200 * 7);
  });
});
