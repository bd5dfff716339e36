import { describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { makeSetup } from '@/core/instrument';
import { makeEvent, makeNote, makePart, makePiece, makeRiff } from '@/core/score';
import { quarter } from '@/core/time';
import type { PhraseAnswer } from '@/workers/place.worker';
import { answerEdit, askedPhrase, offered, phraseOf } from './asking';
import { factWords, regionWords } from './way-words';
import { wishWords } from './wishes';

const phrase = (from: string, to: string, sure: number, asks: boolean): PhraseAnswer => ({
  from,
  to,
  sure,
  regions: [],
  ask: asks
    ? {
        event: from,
        note: 0,
        settles: 0.9,
        choices: [
          { string: 5, fret: 5, share: 0.6, region: 0 },
          { string: 4, fret: 0, share: 0.395, region: 1 },
          { string: 6, fret: 10, share: 0.005, region: 2 },
        ],
      }
    : null,
});
const riff = makeRiff('r', 'r', {
  events: ['a', 'b', 'c', 'd'].map((id, i) =>
    makeEvent(id, quarter(i), quarter(1), [makeNote(`n${id}`, 50, 'instructor')]),
  ),
});

describe('which phrase is asked about', () => {
  const sure = phrase('a', 'b', 0.95, true);
  const open = phrase('c', 'd', 0.5, true);
  it('is the one in hand, else the least sure, never a sure one nor one passed over', () => {
    expect(askedPhrase([sure, open], null, new Set())).toBe(open);
    expect(askedPhrase([phrase('a', 'b', 0.7, true), open], phrase('a', 'b', 0.7, true), new Set())?.from).toBe('a');
    expect(askedPhrase([sure], sure, new Set())).toBeNull();
    expect(askedPhrase([open], open, new Set(['c.0']))).toBeNull();
    expect(askedPhrase([phrase('a', 'b', 0.3, false)], null, new Set())).toBeNull();
  });
  it('offers no place that nobody would choose', () => {
    expect(open.ask && offered(open.ask).map((place) => place.string)).toEqual([5, 4]);
  });
  it('is answered by locking the note there', () => {
    const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
    const piece = makePiece('p', 'p', { parts: [makePart('p0', 'g', setup, { riffs: [riff] })] });
    const edit = answerEdit(piece, riff, open, { string: 5, fret: 5, share: 0.6, region: 0 });
    expect(edit).toMatchObject({
      ok: true,
      value: {
        type: 'placeNote',
        event: 'c',
        note: 'nc',
        place: { string: 5, fret: 5, locked: true, by: 'instructor' },
      },
    });
  });
  it('is found by any of its notes', () => {
    expect(phraseOf(riff, [sure, open], 'd')).toBe(open);
    expect(phraseOf(riff, [sure, open], 'b')).toBe(sure);
    expect(phraseOf(riff, [sure, open], null)).toBeNull();
  });
});

describe('words of the panel', () => {
  it('name regions, wishes and facts as one would say them', () => {
    expect(regionWords({ lowest: 0, highest: 0 })).toBe('open strings only');
    expect(regionWords({ lowest: 5, highest: 5 })).toBe('hand at fret 5');
    expect(regionWords({ lowest: 5, highest: 8 })).toBe('hand at frets 5 to 8');
    const wish = { from: quarter(0), to: quarter(4), hand: 7, liking: -1, avoid: [1, 2], prefer: [5] };
    expect(wishWords(wish)).toBe('hand at fret 7; open strings avoided; strings 1, 2 kept free; on string 5');
    expect(factWords({ open: 1, shifts: 0, farthestMm: 0, widestMm: 0, lowest: 5, highest: 5, hardest: null })).toBe(
      '1 open note; no shift.',
    );
    expect(
      factWords({
        open: 0,
        shifts: 2,
        farthestMm: 60.4,
        widestMm: 101.6,
        lowest: 5,
        highest: 8,
        hardest: { event: 'a', words: 'a leap' },
      }),
    ).toBe('No open notes; 2 shifts, up to 60 mm; a stretch of 102 mm; hardest: a leap.');
  });
});
