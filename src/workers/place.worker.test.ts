import { beforeEach, describe, expect, it, vi } from 'vitest';
import { must } from '@/core/base';
import { makeSetup } from '@/core/instrument';
import { bestWay, optionsFor, problemOf, solve } from '@/core/place';
import { differenceOf, makeEvent, makeNote, makePiece, makePlace, makeRiff, tempoOf, type Riff } from '@/core/score';
import { quarter } from '@/core/time';
import type { PlaceDoor } from './place.worker';
import type { Task } from './place-tasks';
import { comlinkStandIn, openDoor } from './test-support/door';

vi.mock('comlink', () => comlinkStandIn());

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const document = makePiece('p', 'Piece');
const options = optionsFor(document, {});

/** Eighths, each pitch a note. */
const riffOf = (id: string, midis: readonly number[]): Riff =>
  makeRiff(id, 'Strings up', {
    events: midis.map((midi, i) =>
      makeEvent(`${id}e${i}`, quarter(i, 2), quarter(1, 2), [makeNote(`${id}n${i}`, midi, 'import')]),
    ),
  });
const taskOf = (riff: Riff, version: number): Task => ({
  riff,
  setup,
  tempo: tempoOf(document, riff),
  options,
  version,
});
const LINE = [52, 55, 57, 59, 57, 55, 52, 50];
const line = riffOf('r', LINE);

let door: Awaited<ReturnType<typeof openDoor<PlaceDoor>>>;
beforeEach(async () => {
  door = await openDoor<PlaceDoor>(() => import('./place.worker'));
});

describe('placing behind the door', () => {
  it('proposes for every note what the solver finds, and says where the hand is at each', async () => {
    const placed = await door.solve(taskOf(line, 1));
    const way = bestWay(solve(problemOf(line, setup, tempoOf(document, line), options)));
    expect(placed?.blocked).toEqual([]);
    expect(placed?.hands).toEqual(way.events.map((event) => event.hand));
    expect(placed?.changes.map(({ note, place }) => [note, place?.string, place?.fret])).toEqual(
      way.events.map((event, i) => [`rn${i}`, event.notes[0]?.string, event.notes[0]?.fret]),
    );
  });

  it('answers the same where only what changed was sent as where the whole riff was', async () => {
    const long = riffOf('r', [...LINE, ...LINE, ...LINE]);
    const moved: Riff = {
      ...long,
      events: long.events.map((event, i) =>
        i === 9 ? { ...event, notes: [makeNote('rn9', 64, 'instructor')] } : event,
      ),
    };
    await door.solve(taskOf(long, 1));
    const changed = differenceOf(long, moved);
    if (!changed) throw new Error('one event of 24 is a difference');
    const renewed = await door.solve({ version: 2, since: 1, changed });
    const fresh = await openDoor<PlaceDoor>(() => import('./place.worker'));
    expect(renewed).toEqual(await fresh.solve(taskOf(moved, 2)));
  });

  it('tells a version that was never handed over', async () => {
    await expect(door.why({ version: 7 }, 0)).rejects.toThrow('version 7 was never handed over');
  });

  it('drops what is under way when something newer is asked, and answers the newer', async () => {
    const older = riffOf(
      'a',
      Array.from({ length: 900 }, (_, i) => 45 + ((i * 7) % 24)),
    );
    const dropped = door.solve(taskOf(older, 1));
    const answered = door.solve(taskOf(line, 2));
    expect(await dropped).toBeNull();
    expect((await answered)?.changes).toHaveLength(LINE.length);
    const stopped = door.solve(taskOf({ ...older, id: 'b' }, 3));
    await door.stop();
    expect(await stopped).toBeNull();
  });

  it('leaves out what no hand can play, with the reason, and places the rest', async () => {
    const riff = riffOf('r', [30, 52, 55]);
    const placed = await door.solve(taskOf(riff, 1));
    expect(placed?.blocked.map((one) => one.locus.event)).toEqual(['re0']);
    expect(placed?.changes.filter((change) => change.place)).toHaveLength(2);
    const [blocked] = placed?.blocked ?? [];
    if (!blocked) throw new Error('nothing blocked');
    const { mends } = await door.mends(taskOf(riff, 1), blocked);
    expect(mends.length).toBeGreaterThan(0);
  });
});

describe('what else the door is asked', () => {
  it('gives ways that differ, the cheapest first, and touches only the events chosen', async () => {
    await door.solve(taskOf(line, 1));
    const ways = await door.ways(
      { version: 1 },
      line.events.slice(0, 4).map((event) => event.id),
      4,
    );
    expect(ways.length).toBeGreaterThan(1);
    expect(ways[0]?.extra).toBe(0);
    expect(ways.map((way) => way.extra)).toEqual([...ways.map((way) => way.extra)].sort((a, b) => a - b));
    for (const way of ways) expect(way.places.map((place) => place.event)).toEqual(['re0', 're1', 're2', 're3']);
    expect(new Set(ways.map((way) => JSON.stringify(way.places.map((p) => [p.string, p.fret])))).size).toBe(
      ways.length,
    );
  });

  it('a mixture of the best places costs what the best way costs; another costs no less', async () => {
    const task = taskOf(line, 1);
    const [best, other] = await door.ways(
      task,
      line.events.map((event) => event.id),
      3,
    );
    if (!best || !other) throw new Error('two ways are there');
    const whole = await door.mixed(task, best.places);
    const mixture = await door.mixed(task, [...best.places.slice(0, 4), ...other.places.slice(4)]);
    expect(mixture.cost).toBeGreaterThanOrEqual(whole.cost - 1e-9);
    const impossible = await door.mixed(task, [{ event: 're0', note: 'rn0', string: 1, fret: 40, finger: 1 }]);
    expect(impossible.blocked).toBeGreaterThan(0);
  });

  it('prices every place of a note, its own at nothing, and says why', async () => {
    await door.solve(taskOf(line, 1));
    const { list, why } = await door.alternatives({ version: 1 }, 1, 0);
    expect(list.length).toBeGreaterThan(1);
    expect(Math.min(...list.map((one) => one.extra ?? Infinity))).toBeCloseTo(0, 6);
    expect(why).toMatch(/[a-z]/);
    const terms = await door.why({ version: 1 }, 1);
    expect([...terms.hold, ...terms.move].every((term) => term.cost > 0 && term.words.length > 0)).toBe(true);
  });

  it('shows the regions of each phrase with shares that add up, or only those of the phrase asked about', async () => {
    const all = await door.phrases(taskOf(line, 1), null);
    expect(all?.length).toBeGreaterThan(0);
    for (const phrase of all ?? [])
      expect(phrase.regions.reduce((sum, region) => sum + region.share, 0)).toBeCloseTo(1, 1);
    const one = await door.phrases({ version: 1 }, 're0');
    expect(one?.map((phrase) => phrase.from)).toEqual(['re0']);
  });

  it('places a riff for a hand as if nothing lay yet, but for what is the instructor’s', async () => {
    const locked: Riff = {
      ...line,
      events: line.events.map((event, i) =>
        i === 2
          ? {
              ...event,
              notes: event.notes.map((note) => ({ ...note, place: makePlace(4, 7, 'instructor', { locked: true }) })),
            }
          : event,
      ),
    };
    const answer = await door.hand(taskOf(locked, 1));
    expect(answer.blocked).toBe(0);
    expect(answer.places.find((place) => place.note === 'rn2')).toMatchObject({ string: 4, fret: 7 });
  });
});
