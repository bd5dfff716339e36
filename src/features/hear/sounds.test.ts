import { describe, expect, it } from 'vitest';
import type { SoundSettings } from './sound-settings';
import { balanceOf, CLICK, FIRST_SOUNDS, OWN, rungsOf, stripOf } from './sounds';

const IDS = [OWN, 'bass', CLICK];
const levels = (some: Partial<SoundSettings>): number[] =>
  balanceOf(IDS, { ...FIRST_SOUNDS, ...some }).map((b) => Math.round(b.level * 100) / 100);
const strip = (some: Partial<ReturnType<typeof stripOf>>): ReturnType<typeof stripOf> => ({
  ...stripOf(FIRST_SOUNDS, OWN),
  ...some,
});

describe('the balance of what sounds', () => {
  it('is even at first, follows levels, and silences what is muted', () => {
    expect(levels({})).toEqual([1, 1, 1]);
    expect(levels({ strips: { bass: strip({ level: 40 }) } })).toEqual([1, 0.25, 1]);
    expect(levels({ strips: { own: strip({ muted: true }) } })).toEqual([0, 1, 1]);
  });

  it('lets one sound alone, with the click; a muted one stays silent even then', () => {
    expect(levels({ strips: { bass: strip({ solo: true }) } })).toEqual([0, 1, 1]);
    expect(levels({ strips: { bass: strip({ solo: true, muted: true }) } })).toEqual([0, 0, 1]);
    expect(levels({ click: false })).toEqual([1, 1, 0]);
    // The click has no "only": what is stored under its name silences nobody.
    expect(levels({ strips: { click: strip({ solo: true }) } })).toEqual([1, 1, 1]);
  });
});

describe('the passes', () => {
  it('go round, or once for each version', () => {
    expect(rungsOf(FIRST_SOUNDS, 75, true, 1)).toEqual([{ speed: 0.75, times: Infinity }]);
    expect(rungsOf(FIRST_SOUNDS, 100, false, 2)).toEqual([{ speed: 1, times: 2 }]);
  });

  it('climb while the loop is on, each tempo through all versions', () => {
    const ladder = { on: true, from: 60, to: 80, step: 10, times: 2 };
    expect(rungsOf({ ...FIRST_SOUNDS, ladder }, 100, true, 2)).toEqual([
      { speed: 0.6, times: 4 },
      { speed: 0.7, times: 4 },
      { speed: 0.8, times: Infinity },
    ]);
    expect(rungsOf({ ...FIRST_SOUNDS, ladder }, 100, false, 1)).toEqual([{ speed: 1, times: 1 }]);
  });
});
