import { describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { makeSetup } from '@/core/instrument';
import type { Rack } from '@/server/rack';
import { capoRequest, draftOf, FIRST_DRAFT, madeOf, toggleString } from './draft';

const guitar = must(makeSetup({ instrument: 'guitar-6' })).setup.instrument;
const mine = { ...guitar, id: 'r-1', name: 'Loft guitar', scaleMm: 660 };
const rack: Rack = {
  instruments: [{ instrument: mine, description: '', tones: [], revision: 0, changedAt: '' }],
  tunings: [
    { id: 'own-1', name: 'Mine', family: 'altered', spelling: 'E2 A2 D3 G3 B3 D4', instruments: [], source: '' },
  ],
};

describe('a set-up as it is typed', () => {
  it('goes to a draft and back, whatever it is', () => {
    for (const request of [
      { instrument: 'guitar-6' },
      { instrument: 'bass-5', tuning: 'bass-5-drop-a', capo: 2 },
      { instrument: mine, tuning: 'x G2 D3 G3 B3 D4', capo: [{ fret: 2 }, { fret: 5, strings: [1, 2] }] },
      { instrument: mine, tuning: 'own-1' },
    ]) {
      const { setup } = must(makeSetup(request, rack.tunings));
      expect(must(madeOf(draftOf(setup), rack)).setup).toEqual(setup);
    }
  });
  it('knows the studio’s own, and keeps the instrument a piece came with', () => {
    expect(must(madeOf({ ...FIRST_DRAFT, instrument: 'r-1', tuning: 'own-1' }, rack)).setup).toMatchObject({
      instrument: { scaleMm: 660 },
      tuningId: 'own-1',
    });
    const asWas = { ...mine, scaleMm: 640 };
    const draft = draftOf(must(makeSetup({ instrument: asWas })).setup);
    expect(must(madeOf(draft, rack)).setup.instrument.scaleMm).toBe(640);
    expect(must(madeOf({ ...draft, kept: undefined }, rack)).setup.instrument.scaleMm).toBe(660);
    expect(madeOf({ ...FIRST_DRAFT, instrument: 'r-gone' }, rack)).toMatchObject({
      ok: false,
      error: { locus: { path: ['instrument'] } },
    });
  });
  it('leaves out a capo with no fret, and refuses one that is none', () => {
    expect(
      capoRequest([
        { fret: ' ', strings: null },
        { fret: '3', strings: [2, 1] },
      ]),
    ).toEqual([{ fret: 3, strings: [2, 1] }]);
    expect(madeOf({ ...FIRST_DRAFT, capos: [{ fret: 'three', strings: null }] }, rack)).toMatchObject({
      ok: false,
      error: { rule: 'bad-capo' },
    });
  });
  it('takes strings off and puts them back', () => {
    const { setup } = must(madeOf(FIRST_DRAFT, rack));
    const off = must(toggleString(FIRST_DRAFT, setup, 6));
    const made = must(madeOf(off, rack)).setup;
    expect([off.tuning, made.absent]).toEqual(['x A2 D3 G3 B3 E4', [6]]);
    expect(must(madeOf(must(toggleString(off, made, 6)), rack)).setup).toEqual({ ...setup, tuningId: 'standard' });
  });
});
