import { describe, expect, it } from 'vitest';
import { ADULT_HAND, type Profile } from '../hand';
import { openPitch } from '../instrument';
import { quarter } from '../time';
import {
  bestWay,
  DEFAULT_OPTIONS,
  harmonicsOf,
  solve,
  type PlaceEvent,
  type PlaceNote,
  type Problem,
  type Wish,
} from './index';
import { event, problem, setupFor } from './test-support/phrases';

const guitar = setupFor('guitar-6');
const note = (pitch: number, extra: Partial<PlaceNote> = {}): PlaceNote => ({ pitch, lock: null, dur: null, ...extra });
const at = (string: number, fret: number, extra: Partial<PlaceNote> = {}): PlaceNote =>
  note(openPitch(guitar, string) + fret, { lock: { string, fret, finger: null }, ...extra });
const one = (id: string, where: number, notes: readonly PlaceNote[], extra: Partial<PlaceEvent> = {}): PlaceEvent => ({
  ...event(id, where, []),
  notes,
  ...extra,
});
const withHand = (events: readonly PlaceEvent[], profile: Partial<Profile> = {}, setup = guitar): Problem =>
  problem(setup, events, { options: { ...DEFAULT_OPTIONS, profile: { ...ADULT_HAND, ...profile } } });
const placed = (asked: Problem) => bestWay(solve(asked)).events.map((event) => event.notes);
const limits = (asked: Problem): string[] => solve(asked).blocked.map((b) => b.rule);

describe('bends', () => {
  it('need a finger: an open string is never chosen, and locked open it is asked about', () => {
    const [first] = placed(withHand([one('a', 0, [note(64, { bend: 200 })])]));
    expect(first?.[0]?.fret).toBeGreaterThan(0);
    expect(limits(withHand([one('a', 0, [at(1, 0, { bend: 100 })])]))).toEqual(['lock']);
  });
  it('go to a strong finger: a whole tone is not left to the index or the little finger', () => {
    const [first] = placed(withHand([one('a', 0, [at(3, 9, { bend: 200 })])]));
    expect([2, 3]).toContain(first?.[0]?.finger);
  });
  it('cost more on a thicker string and nearer the nut', () => {
    const cost = (string: number, fret: number): number =>
      bestWay(solve(withHand([one('a', 0, [at(string, fret, { bend: 100 })])]))).events[0]?.hold.find(
        (term) => term.name === 'bend',
      )?.amount ?? 0;
    expect(cost(4, 7)).toBeGreaterThan(cost(2, 7));
    expect(cost(3, 2)).toBeGreaterThan(cost(3, 9));
  });
  it('of two strings at once, as in a unison bend, take a finger each', () => {
    const [both] = placed(withHand([one('a', 0, [at(2, 8), at(3, 10, { bend: 200 })])]));
    expect(both?.map((place) => place?.finger)).toHaveLength(2);
    expect(both?.[0]?.finger).not.toBe(both?.[1]?.finger);
  });
});

describe('trills', () => {
  it('give the upper note a finger of its own on the same string', () => {
    const [first] = placed(withHand([one('a', 0, [at(4, 5, { trill: 2 })])]));
    expect(first?.[0]?.trillFinger).toBeGreaterThan(first?.[0]?.finger ?? 9);
  });
  it('from an open string need one finger only', () => {
    const [first] = placed(withHand([one('a', 0, [at(4, 0, { trill: 2 })])]));
    expect(first?.[0]).toMatchObject({ fret: 0, finger: 0 });
    expect(first?.[0]?.trillFinger).toBeGreaterThan(0);
  });
  it('wider than the hand are asked about', () => {
    expect(limits(withHand([one('a', 0, [at(6, 1, { trill: 6 })])])).length).toBe(1);
  });
});

describe('fingers kept down', () => {
  const keep = quarter(2);
  it('stay where they are while others play above them on their string', () => {
    const way = placed(withHand([one('a', 0, [at(4, 5, { keep })]), one('b', 1, [at(4, 7)]), one('c', 2, [at(4, 5)])]));
    expect(way[0]?.[0]?.finger).toBe(way[2]?.[0]?.finger);
    expect(way[1]?.[0]?.finger).toBeGreaterThan(way[0]?.[0]?.finger ?? 9);
  });
  it('can’t stay under a note below them on their string', () => {
    expect(limits(withHand([one('a', 0, [at(4, 7, { keep })]), one('b', 1, [at(4, 5)])]))).toEqual(['ring']);
  });
});

describe('dead notes and harmonics', () => {
  it('a dead note takes a string and no finger, and leaves the hand where it is', () => {
    const way = bestWay(
      solve(withHand([one('a', 0, [at(4, 7)]), one('b', 1, [at(5, 0, { dead: true })]), one('c', 2, [at(4, 7)])])),
    );
    expect(way.events[1]?.notes[0]).toMatchObject({ string: 5, finger: 0 });
    expect(way.events[1]?.hand).toBe(way.events[0]?.hand);
  });
  it('a harmonic is found on every string that has it, and only there', () => {
    expect(harmonicsOf(guitar, 62).map((place) => `${place.string}.${place.fret}`)).toEqual(['4.12']);
    expect(
      harmonicsOf(guitar, 64)
        .map((place) => `${place.string}.${place.node}`)
        .sort(),
    ).toEqual(['5.19', '5.7', '6.24', '6.5'].filter((path) => path !== '6.24'));
    expect(limits(withHand([one('a', 0, [note(65, { harmonic: true })])]))).toEqual(['range']);
  });
  it('a harmonic rings on while its finger plays elsewhere; its string stays taken', () => {
    const ringing = { dur: quarter(4) };
    const way = placed(withHand([one('a', 0, [note(62, { harmonic: true })], ringing), one('b', 1, [at(3, 2)])]));
    expect(way.every((entries) => entries[0])).toBe(true);
    expect(limits(withHand([one('a', 0, [note(62, { harmonic: true })], ringing), one('b', 1, [at(4, 2)])]))).toEqual([
      'ring',
    ]);
  });
});

describe('the slide bar', () => {
  const bar = { bar: true };
  it('lies straight: one fret for all it stops, by the finger that wears it', () => {
    const [chord] = placed(withHand([one('a', 0, [at(4, 5), at(3, 5), at(2, 5)], bar)], { barFinger: 3 }));
    expect(chord?.map((place) => place?.finger)).toEqual([3, 3, 3]);
    expect(limits(withHand([one('a', 0, [at(4, 5), at(3, 7)], bar)])).length).toBe(1);
  });
  it('lies between frets for all strings or none', () => {
    expect(limits(withHand([one('a', 0, [at(3, 5, { cents: 30 }), at(2, 5, { cents: 30 })], bar)]))).toEqual([]);
    expect(limits(withHand([one('a', 0, [at(3, 5, { cents: 30 }), at(2, 5)], bar)])).length).toBe(1);
  });
  it('leaves no open string sounding under it, and pays for what has to be damped', () => {
    expect(limits(withHand([one('a', 0, [at(4, 5), at(3, 0), at(2, 5)], bar)])).length).toBe(1);
    const damp = bestWay(solve(withHand([one('a', 0, [at(4, 5), at(2, 5)], bar)]))).events[0]?.hold.find(
      (term) => term.name === 'damp',
    );
    expect(damp?.amount).toBe(2);
  });
  it('glides along a string, also by less than a fret', () => {
    expect(
      limits(
        withHand([one('a', 0, [at(2, 5)], { ...bar, link: 'slide' }), one('b', 1, [at(2, 5, { cents: 50 })], bar)]),
      ),
    ).toEqual([]);
    expect(
      limits(withHand([one('a', 0, [at(2, 5)], { ...bar, link: 'hammer' }), one('b', 1, [at(2, 7)], bar)])),
    ).toEqual(['link']);
  });
});

describe('wishes', () => {
  const line = (wish: Wish) =>
    placed(withHand([57, 60, 62, 64].map((p, i) => one(`e${i}`, i, [note(p)], { wish })))).map((entries) => entries[0]);
  it('keep strings free, whatever it costs', () => {
    for (const place of line({ avoid: [4, 3] })) expect([4, 3]).not.toContain(place?.string);
  });
  it('draw the hand to a position and notes to strings', () => {
    const hands = (hand: number) =>
      bestWay(
        solve(withHand([57, 60, 62, 64].map((p, i) => one(`e${i}`, i, [note(p)], { wish: { hand } })))),
      ).events.map((event) => event.hand);
    expect(Math.min(...hands(10))).toBeGreaterThan(Math.max(...hands(2)));
    const low = (prefer: number[]) =>
      placed(withHand([50, 52, 53, 55].map((p, i) => one(`e${i}`, i, [note(p)], { wish: { prefer } })))).map(
        (entries) => entries[0]?.string,
      );
    expect(low([5]).filter((string) => string === 5).length).toBeGreaterThanOrEqual(3);
    expect(low([4])).toEqual([4, 4, 4, 4]);
  });
  it('seek open strings or keep off them', () => {
    const opens = (liking: number): number => line({ liking }).filter((place) => place?.fret === 0).length;
    expect(opens(1)).toBeGreaterThan(opens(-1));
  });
  it('give way to a lock', () => {
    expect(placed(withHand([one('a', 0, [at(4, 7)], { wish: { avoid: [4] } })]))[0]?.[0]?.string).toBe(4);
  });
});

describe('hands', () => {
  const chromatic = [5, 6, 7, 8].map((f, i) => one(`e${i}`, i, [at(4, f)]));
  it('use only the fingers they may', () => {
    const fingers = placed(withHand(chromatic, { fingers: [1, 2, 3] })).map((entries) => entries[0]?.finger);
    expect(fingers).not.toContain(4);
  });
  it('without a barre find another grip, or say what clashes', () => {
    const list = [41, 48, 53, 57, 60, 65].map((p) => note(p));
    expect(limits(withHand([one('f', 0, list)]))).toEqual([]);
    expect(limits(withHand([one('f', 0, list)], { barre: [1, 1, 1, 1] })).length).toBeGreaterThan(0);
  });
  it('reach over the neck with the thumb when they have learnt to', () => {
    const grip = [at(6, 2), at(4, 0), at(3, 2), at(2, 3), at(1, 2)];
    const spared = { fingers: [1, 2, 3] as const, barre: [1, 1, 1, 1] as const };
    const thumbed = placed(withHand([one('d', 0, grip)], { ...spared, thumb: true }))[0]?.map((place) => place?.finger);
    expect(thumbed).toEqual([5, 0, 1, 3, 2]);
    expect(limits(withHand([one('d', 0, grip)], spared)).length).toBeGreaterThan(0);
    expect(placed(withHand([one('d', 0, grip)]))[0]?.[0]?.finger).not.toBe(5);
  });
  it('of the 1-2-4 school leave the ring finger out where a finger a fret is too wide, and use it higher up', () => {
    const bass = setupFor('bass-4');
    const on = (fret: number) =>
      [0, 1, 2].map((f, i) => ({
        ...event(`e${i}`, i, []),
        notes: [{ pitch: openPitch(bass, 3) + fret + f, lock: { string: 3, fret: fret + f, finger: null }, dur: null }],
      }));
    const fingers = (fret: number): number[] =>
      placed(withHand(on(fret), { school: 'one-two-four' }, bass)).map((entries) => entries[0]?.finger ?? 0);
    expect(fingers(1)).not.toContain(3);
    expect(fingers(9)).toContain(3);
  });
  it('that are smaller are given other places for the same wide grip, or none', () => {
    const wide = [one('a', 0, [at(6, 1), at(5, 5)])];
    expect(limits(withHand(wide))).toEqual([]);
    const small = { ...ADULT_HAND.maximal, '14': 100, '13': 80, '24': 80, '12': 50 };
    expect(
      limits(withHand(wide, { maximal: small, comfortable: { ...ADULT_HAND.comfortable, '14': 90, '13': 60 } })).length,
    ).toBe(1);
  });
});

describe('pedals', () => {
  it('a low open string that keeps coming back costs less than one that comes once', () => {
    const pedal = [40, 52, 40, 54, 40, 55, 40].map((p, i) => one(`e${i}`, i, [note(p)]));
    const terms = bestWay(solve(withHand(pedal))).events.flatMap((event) => event.hold.map((term) => term.name));
    expect(terms).toContain('pedal');
    const once = bestWay(
      solve(withHand([40, 52, 54, 55, 57].map((p, i) => one(`e${i}`, i, [note(p)])))),
    ).events.flatMap((event) => event.hold.map((term) => term.name));
    expect(once).not.toContain('pedal');
  });
});

describe('grips of two and three strings', () => {
  it('are moved along as one shape', () => {
    const fifths = [
      [41, 48],
      [43, 50],
      [44, 51],
      [43, 50],
    ].map((ps, i) => ({
      ...one(
        `e${i}`,
        i * 4,
        ps.map((p) => note(p)),
      ),
      dur: quarter(1),
    }));
    const strings = placed(withHand(fifths)).map((entries) => entries.map((place) => place?.string).join());
    expect(new Set(strings).size).toBe(1);
  });
});
