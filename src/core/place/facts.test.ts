import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { lockAt, chooseWay } from '../command';
import { makeEvent, makeNote, makePart, makePiece, makeRiff } from '../score';
import { applyEdit } from '../edit';
import { quarter, ZERO } from '../time';
import { bestWays, differing, LOOKED_THROUGH, problemOf, solve, wayFacts } from './index';
import { complaints, event, problem, setupFor } from './test-support/phrases';

const setup = setupFor('guitar-6');
const asked = problem(
  setup,
  [57, 60, 62, 64, 67, 69].map((pitch, i) => event(`e${i}`, i, [pitch])),
);
const solution = solve(asked);

describe('ways side by side', () => {
  const ways = differing(bestWays(solution, LOOKED_THROUGH), 4);
  it('begin with the easiest and differ as a player would say', () => {
    expect(ways.length).toBeGreaterThan(1);
    expect(ways[0]).toEqual(bestWays(solution, 1)[0]);
    for (const way of ways) expect(complaints(asked, way)).toEqual([]);
    for (const [i, a] of ways.entries()) {
      for (const b of ways.slice(i + 1)) {
        const strings = (way: typeof a): (number | undefined)[] => way.events.map((event) => event.notes[0]?.string);
        const moved = strings(a).filter((s, index) => s !== strings(b)[index]).length;
        const away = a.events.reduce((sum, event, k) => sum + Math.abs(event.hand - (b.events[k]?.hand ?? 0)), 0);
        expect(moved >= 6 * 0.2 || away >= 12).toBe(true);
      }
    }
  });
  it('come with the figures a player compares', () => {
    for (const way of ways) {
      const facts = wayFacts(solution, way);
      const hands = way.events.map((event) => event.hand);
      expect(facts.open).toBe(way.events.flatMap((event) => event.notes).filter((place) => place?.fret === 0).length);
      expect(facts.shifts).toBe(hands.filter((fret, i) => i > 0 && fret !== hands[i - 1]).length);
      expect([facts.lowest, facts.highest]).toEqual([Math.min(...hands), Math.max(...hands)]);
      expect(facts.shifts === 0).toBe(facts.farthestMm === 0);
    }
  });
});

describe('taking a way', () => {
  const riff = makeRiff('r', 'r', {
    events: [57, 60, 62].map((m, i) =>
      makeEvent(`e${i}`, i === 0 ? ZERO : quarter(i), quarter(1), [makeNote(`n${i}`, m, 'instructor')]),
    ),
  });
  const start = makePiece('p', 'p', { parts: [makePart('p0', 'g', setup, { riffs: [riff] })] });
  it('locks every place as the instructor’s, in one step, and keeps reasons', () => {
    const piece = must(
      applyEdit(start, must(lockAt(start, { riff: 'r', event: 'e0', note: 'n0' }, 4, 7, 'seen live'))),
    );
    const places = [
      { event: 'e0', note: 'n0', string: 3, fret: 2, finger: 2 as const },
      { event: 'e1', note: 'n1', string: 2, fret: 1, finger: 1 as const },
    ];
    const edit = must(chooseWay(piece, 'r', places, 'took a way'));
    expect(edit.type).toBe('batch');
    const after = must(applyEdit(piece, edit)).parts[0]?.riffs[0]?.events.map((event) => event.notes[0]?.place);
    expect(after?.[0]).toMatchObject({
      string: 3,
      fret: 2,
      finger: 2,
      by: 'instructor',
      fingerBy: 'solver',
      locked: true,
      reason: 'seen live',
    });
    expect(after?.[1]).toMatchObject({ string: 2, fret: 1, locked: true, reason: null });
    expect(after?.[2]).toBeNull();
  });
  it('says when there is nothing to take', () => {
    expect(chooseWay(start, 'gone', [], 'x')).toMatchObject({ ok: false, error: { rule: 'no-riff' } });
    expect(chooseWay(start, 'r', [], 'x')).toMatchObject({ ok: false, error: { rule: 'no-place' } });
    expect(problemOf(riff, setup, start.context.tempo).events).toHaveLength(3);
  });
});
