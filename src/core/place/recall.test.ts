import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup, openPitch, type Setup } from '../instrument';
import { makeEvent, makeNote, makePlace, makeRiff, type Riff } from '../score';
import { quarter } from '../time';
import { placedPhrase, recallShape, signatureOf, signatureText } from './index';

const guitar = must(makeSetup({ instrument: 'guitar-6' })).setup;
const lowered = must(makeSetup({ instrument: 'guitar-6', tuning: 'drop-c' })).setup;

const riffOf = (setup: Setup, places: readonly (readonly [number, number])[], length = quarter(1, 2)): Riff =>
  makeRiff('r', 'r', {
    events: places.map(([string, fret], i) =>
      makeEvent(`e${i}`, quarter(i, length === quarter(1, 2) ? 2 : 4), length, [
        makeNote(`n${i}`, openPitch(setup, string) + fret, 'instructor', {
          place: makePlace(string, fret, 'instructor'),
        }),
      ]),
    ),
  });

const CELL = [
  [5, 5],
  [5, 7],
  [4, 5],
  [5, 7],
  [4, 7],
] as const;

describe('a phrase by what recurs', () => {
  it('is the same in another key and place, not in another rhythm or with another step', () => {
    const here = signatureOf(riffOf(guitar, CELL).events);
    expect(
      signatureOf(
        riffOf(
          guitar,
          CELL.map(([s, f]) => [s, f + 3]),
        ).events,
      ),
    ).toEqual(here);
    expect(signatureOf(riffOf(lowered, CELL).events)).toEqual(here);
    expect(signatureOf(riffOf(guitar, CELL, quarter(1, 4)).events).tokens).not.toEqual(here.tokens);
    expect(signatureOf(riffOf(guitar, [...CELL.slice(0, 4), [4, 8]]).events).tokens).not.toEqual(here.tokens);
  });
  it('is found within a longer one by whole tokens only', () => {
    const part = signatureText(signatureOf(riffOf(guitar, CELL).events.slice(1, 4)).tokens);
    expect(signatureText(signatureOf(riffOf(guitar, CELL).events).tokens)).toContain(part);
  });
});

describe('a shape recalled', () => {
  const source = placedPhrase(riffOf(guitar, CELL).events, guitar);
  const laid = (riff: Riff, setup = guitar, from = 0) =>
    source ? recallShape(source, from, riff, riff.events, setup) : null;
  it('lies on the same strings, all frets moved alike, and sounds the notes', () => {
    const riff = riffOf(
      guitar,
      CELL.map(([s, f]) => [s, f + 2]),
    );
    const shape = laid(riff);
    expect(shape?.moved).toBe(2);
    expect(shape?.places.map((place) => [place.string, place.fret])).toEqual(CELL.map(([s, f]) => [s, f + 2]));
  });
  it('is not offered where it would leave the neck, tear apart, or move an open string', () => {
    expect(
      laid(
        riffOf(
          guitar,
          CELL.map(([s, f]) => [s, f + 17]),
        ),
      ),
    ).toBeNull();
    expect(laid(riffOf(guitar, CELL), must(makeSetup({ instrument: 'guitar-6', tuning: 'open-g' })).setup)).toBeNull();
    const open = placedPhrase(
      riffOf(guitar, [
        [5, 0],
        [5, 2],
        [4, 0],
        [5, 2],
        [4, 2],
      ]).events,
      guitar,
    );
    const up = riffOf(guitar, [
      [5, 3],
      [5, 5],
      [4, 3],
      [5, 5],
      [4, 5],
    ]);
    expect(open && recallShape(open, 0, up, up.events, guitar)).toBeNull();
  });
  it('begins anywhere in what was placed', () => {
    const riff = riffOf(guitar, CELL.slice(2));
    expect(laid(riff, guitar, 2)?.places.map((place) => place.fret)).toEqual([5, 7, 7]);
    expect(laid(riff, guitar, 1)).toBeNull();
  });
  it('is kept only when every note has a place', () => {
    const riff = makeRiff('r', 'r', {
      events: [makeEvent('e', quarter(0), quarter(1), [makeNote('n', 60, 'instructor')])],
    });
    expect(placedPhrase(riff.events, guitar)).toBeNull();
  });
});
