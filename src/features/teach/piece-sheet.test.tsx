import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { resolve } from '@/core/form';
import type { Piece } from '@/core/score';
import { buildDemoPiece } from '@/server/demo';
import { DEMO_PIECES } from '../../../demo/pieces';
import { PieceSheet, type SheetChoice } from './piece-sheet';
import { textOf } from '@/ui/test-support/text';

const demo = (title: string): Piece =>
  must(buildDemoPiece(DEMO_PIECES.find((one) => one.title === title) as (typeof DEMO_PIECES)[number]));
const CHOICE: SheetChoice = {
  ...{
    parts: ['p0'],
    sections: null,
    unfolded: false,
    staff: false,
    fingers: true,
    strokes: false,
    spoken: false,
    large: false,
    tones: false,
    together: false,
  },
};
const printed = (piece: Piece, choice: Partial<SheetChoice> = {}): string =>
  renderToStaticMarkup(<PieceSheet piece={piece} choice={{ ...CHOICE, ...choice }} />);
/** How many frets are printed in tabs. */
const tabs = (html: string): string[] =>
  [...html.matchAll(/aria-label="([^"]*tab of bars[^"]*)"/g)].map((match) => match[1] ?? '');

describe('the sheet of a piece', () => {
  const moth = demo('Moth at the Lamp');
  it('says the order, the set-up and each section once; names what returns, and brackets what differs', () => {
    const text = textOf(printed(moth));
    expect(text).toContain(
      'Intro (1) – Verse 2 times in all (5) – Refrain (21) – Verse (29) – Refrain (37) – Bridge , slowing over 2 bars (45) – Refrain , held (49)',
    );
    expect(text).toContain('tuned E A D G B E from thick to thin');
    expect(text).toContain('5–8 Lamp 2 times in all, as at bar 1 Am F Am F');
    expect(text).toContain('2nd time, instead of bar 10 (Wing, 2nd ending)');
    expect(text).toContain('voice enters on three');
    expect(tabs(printed(moth))).toContain('Guitar 1, tab of bars 10 to 10');
  });
  it('says how a lowered string is got to, and prints other parts each with its own head', () => {
    const text = textOf(printed(demo('Trapdoor March'), { parts: ['p0', 'p2'] }));
    expect(text).toContain('(string 6 down 2 to D2)');
    expect(text).toContain('(string 4 down 2 to D1)');
    expect(text).toContain('Bass, under the boards');
    expect(text).toContain('Guitar 1, march, drop D');
  });
  it('every bar: as many as the line has, in order; a score leaves out who is silent', () => {
    const bars = tabs(printed(moth, { unfolded: true })).flatMap((label) => {
      const [, from = 0, to = 0] = (/bars (\d+) to (\d+)/.exec(label) ?? []).map(Number);
      return Array.from({ length: to - from + 1 }, (_, i) => from + i);
    });
    expect(bars).toEqual(Array.from({ length: resolve(moth, 'p0')?.map.bars ?? 0 }, (_, i) => i + 1));
    const score = tabs(printed(moth, { parts: ['p0', 'p1', 'p2'], together: true }));
    expect(score.some((label) => label.startsWith('Guitar 2, tab of bars 1 '))).toBe(false);
    expect(score.some((label) => label.startsWith('Bass, tab of bars 5 '))).toBe(true);
  });
  it('chosen sections only; spoken text beside; nothing chosen says so', () => {
    const refrain = moth.sections.find((one) => one.name === 'Refrain')?.id ?? '';
    const text = textOf(printed(moth, { sections: [refrain], spoken: true, large: true }));
    expect(text).toContain('Glow bar 21 Bar 1. on 1:');
    expect(text).not.toContain('Lamp 2 times');
    expect(textOf(printed(moth, { parts: [] }))).toContain('Choose a part to print.');
    expect(textOf(printed({ ...moth, sections: [], form: [] }))).toContain('There is no form yet');
  });
});
