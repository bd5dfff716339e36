import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makePiece } from '../score';
import { buildDemoPiece } from '@/server/demo';
import { DEMO_PIECES } from '../../../demo/pieces';
import { formWords } from './index';

describe('a form as spoken', () => {
  it('tells the order, then each section: bars, chords, who plays what, what differs', () => {
    const demo = DEMO_PIECES.find((one) => one.title === 'Moth at the Lamp');
    if (!demo) throw new Error('the demo has lost a piece');
    const words = formWords(must(buildDemoPiece(demo)));
    expect(words[0]).toBe(
      '56 bars in all. Intro from bar 1; Verse from bar 5, 2 times in all; Refrain from bar 21; Verse from bar 29; Refrain from bar 37; Bridge from bar 45, slowing over 2 bars; Refrain from bar 49, held.',
    );
    expect(words[1]).toContain('Bass: rests; then Low lamp. Guitar 2 silent.');
    expect(words[2]).toContain('Verse, 8 bars, 3 times in all: 2, then 1. Chords: bar 5 Am, bar 6 F');
    expect(words[2]).toContain('Guitar 1: Lamp, 2 times in all; then Wing; then Lamp.');
    expect(words[2]).toContain(
      'Guitar 1, 2nd time: 2nd ending (5 notes differ): bar 2, beat the and of 1: B instead of E',
    );
    expect(words[3]).toContain('Guitar 1: Glow; then Glow, up an octave.');
  });
  it('says that there is none', () => {
    expect(formWords(makePiece('p', 'P'))).toEqual(['There is no section yet.']);
  });
});
