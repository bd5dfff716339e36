import { describe, expect, it } from 'vitest';
import { quarter } from '../time';
import { bestWay, phrasesOf, solve, viewOf } from './index';
import { complaints, event, problem, setupFor } from './test-support/phrases';

const setup = setupFor('guitar-6');
const METERS = [{ bar: 0, beats: 4, unit: 4 }];
const line = (pitches: readonly number[]) =>
  problem(
    setup,
    pitches.map((p, i) => event(`e${i}`, i, [p])),
  );
const whole = (asked: ReturnType<typeof line>) => viewOf(asked, { from: 0, to: asked.events.length - 1 });

describe('phrases', () => {
  it('end at a silence of a quarter or more', () => {
    const events = [0, 1, 2, 7, 8].map((at) => event(`e${at}`, at, [60]));
    expect(phrasesOf(events, METERS)).toEqual([
      { from: 0, to: 2 },
      { from: 3, to: 4 },
    ]);
  });
  it('end at the bar line once they are two bars long', () => {
    const events = Array.from({ length: 16 }, (_, i) => ({
      ...event(`e${i}`, 0, [60]),
      at: quarter(i),
      dur: quarter(1),
    }));
    expect(phrasesOf(events, METERS)).toEqual([
      { from: 0, to: 7 },
      { from: 8, to: 15 },
    ]);
  });
  it('cover every event once, in order', () => {
    const events = Array.from({ length: 130 }, (_, i) => event(`e${i}`, i, [60]));
    const covered = phrasesOf(events, METERS).flatMap((phrase) =>
      Array.from({ length: phrase.to - phrase.from + 1 }, (_, i) => phrase.from + i),
    );
    expect(covered).toEqual(events.map((_, i) => i));
    expect(phrasesOf([], METERS)).toEqual([]);
  });
});

describe('regions of a phrase', () => {
  const asked = line([57, 60, 62, 64, 67, 64, 62, 60]);
  const view = whole(asked);
  it('begin with the optimum, add up to one, and lie apart', () => {
    expect(view.regions.length).toBeGreaterThan(1);
    expect(view.regions[0]?.way.cost).toBeCloseTo(bestWay(solve(asked)).cost, 9);
    expect(view.regions.reduce((s, region) => s + region.share, 0)).toBeCloseTo(1, 9);
    expect(view.sure).toBe(view.regions[0]?.share);
    for (const region of view.regions) expect(complaints(asked, region.way)).toEqual([]);
  });
  it('ask for a note that lies in different places, and say how likely each is', () => {
    const { ask } = view;
    expect(ask).not.toBeNull();
    expect(ask?.choices.length).toBeGreaterThan(1);
    expect(ask?.choices.reduce((s, place) => s + place.share, 0)).toBeCloseTo(1, 6);
    for (const place of ask?.choices ?? [])
      expect(setup.open[6 - place.string] ?? 0).toBe(
        (asked.events.find((event) => event.id === ask?.event)?.notes[0]?.pitch ?? 0) - place.fret,
      );
  });
  it('are settled further by the answer', () => {
    const { ask } = view;
    const choice = ask?.choices.at(-1);
    if (!ask || !choice) throw new Error('nothing asked');
    const answered = {
      ...asked,
      events: asked.events.map((event) =>
        event.id === ask.event
          ? {
              ...event,
              notes: event.notes.map((note) => ({
                ...note,
                lock: { string: choice.string, fret: choice.fret, finger: null },
              })),
            }
          : event,
      ),
    };
    const after = whole(answered);
    expect(after.ask?.event).not.toBe(ask.event);
    for (const region of after.regions)
      expect(region.way.events.find((event) => event.id === ask.event)?.notes[0]).toMatchObject({
        string: choice.string,
        fret: choice.fret,
      });
  });
  it('are one, and nothing is asked, where every place is locked or there is but one', () => {
    const low = whole(line([40, 41, 42]));
    expect(low.regions).toHaveLength(1);
    expect(low.ask).toBeNull();
    expect(low.sure).toBe(1);
  });
});
