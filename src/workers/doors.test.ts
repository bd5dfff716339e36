import { describe, expect, it, vi } from 'vitest';
import { must } from '@/core/base';
import { pieceToMidi } from '@/core/formats/midi';
import { makeSetup } from '@/core/instrument';
import { readKey } from '@/core/harmony';
import { frequency } from '@/core/pitch';
import { checkPart, makeEvent, makeNote, makePart, makePiece, makeRiff } from '@/core/score';
import { quarter } from '@/core/time';
import { findSetup, questionOf } from '@/core/setup-finder';
import { targetsOf } from '@/core/tuner';
import type { CapoDoor } from './capo.worker';
import type { ImportDoor } from './import.worker';
import type { OnsetDoor } from './onset.worker';
import type { SetupDoor } from './setup.worker';
import type { TunerDoor } from './tuner.worker';
import { comlinkStandIn, openDoor } from './test-support/door';

vi.mock('comlink', () => comlinkStandIn());

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const RATE = 44_100;

describe('the door to files of music', () => {
  const line = makeRiff('r', 'Curtain up', {
    events: [40, 43, 45, 47, 45, 43].map((midi, i) =>
      makeEvent(`e${i}`, quarter(i, 2), quarter(1, 2), [makeNote(`n${i}`, midi, 'instructor')]),
    ),
  });
  const song = pieceToMidi(makePiece('p', 'Curtain', { parts: [makePart('p0', 'Guitar', setup, { riffs: [line] })] }));
  const options = { grid: 'auto', answers: {} } as const;
  const nothing = (): void => undefined;

  it('keeps the music and shows its parts; chosen parts become a piece that holds on a set-up', async () => {
    const door = await openDoor<ImportDoor>(() => import('./import.worker'));
    const shares: number[] = [];
    const read = must(await door.read('a', song, options, (share) => shares.push(share)));
    expect(read.kind).toBe('midi');
    expect(read.parts).toMatchObject([{ name: 'Guitar', notes: 6, low: 40, high: 47 }]);
    const { best, inRange } = await door.onSetup('a', 0, setup);
    expect(inRange[best]).toBe(Math.max(...Object.values(inRange)));
    const choice = { index: 0, name: 'Guitar', setup, shift: best, trust: 'pitches' } as const;
    const { piece } = must(await door.take('a', [choice], 'Curtain', 40));
    expect(piece.parts.map((part) => checkPart(part).ok)).toEqual([true]);
    expect(piece.lastId).toBeGreaterThan(40);
  });

  it('reads text tab with its doubts, and a whole piece as it is', async () => {
    const door = await openDoor<ImportDoor>(() => import('./import.worker'));
    const text = 'G|--------|\nD|--2-?--|\nA|0-----3-|\nE|--------|\n';
    const tab = must(await door.read('t', new TextEncoder().encode(text), options, nothing));
    expect(tab).toMatchObject({ kind: 'texttab', text, bars: 1 });
    expect(tab.doubts.map((doubt) => text.slice(doubt.locus.text?.from, doubt.locus.text?.to))).toEqual(['?']);
    const whole = makePiece('p', 'Whole', { parts: [makePart('p0', 'Guitar', setup, { riffs: [line] })] });
    const file = new TextEncoder().encode(JSON.stringify(whole));
    expect(must(await door.read('w', file, options, nothing)).piece).toEqual(whole);
  });

  it('tells what is no music, and a file that is not there', async () => {
    const door = await openDoor<ImportDoor>(() => import('./import.worker'));
    expect(await door.take('none', [], 'None', 0)).toMatchObject({ ok: false, error: { rule: 'no-file' } });
    expect(await door.onSetup('none', 3, setup)).toEqual({ questions: [], best: 0, inRange: {} });
    const wrong = await door.read('a', new TextEncoder().encode('no music here'), options, nothing);
    expect(wrong).toMatchObject({ ok: false, error: { rule: 'unknown-kind' } });
    expect(await door.kind(song)).toBe('midi');
    // A file that can't be read leaves nothing of the one before it behind.
    must(await door.read('a', song, options, nothing));
    await door.read('a', new Uint8Array(3), options, nothing);
    expect((await door.take('a', [], 'None', 0)).ok).toBe(false);
  });
});

describe('the door to the capo planner', () => {
  it('plans for a key and tells what is no chord', async () => {
    const door = await openDoor<CapoDoor>(() => import('./capo.worker'));
    const plan = must(await door.plan({ setup, key: must(readKey('Bb')), chords: [], maxCapo: 9 }));
    expect(plan.length).toBeGreaterThan(1);
    expect((await door.plan({ setup, key: null, chords: ['Hx9'], maxCapo: 9 })).ok).toBe(false);
  });
});

describe('the door to strokes', () => {
  it('finds the strokes of the simulated player where they were struck', async () => {
    const door = await openDoor<OnsetDoor>(() => import('./onset.worker'));
    const times = [0.3, 0.8, 1.05, 1.55, 2.3];
    const sound = await door.strike(times, 110, RATE, 4);
    expect(sound.length).toBeGreaterThan(2.3 * RATE);
    const onsets = await door.onsets(sound, RATE);
    expect(onsets).toHaveLength(times.length);
    onsets.forEach((at, i) => expect(Math.abs(at - (times[i] ?? 0))).toBeLessThan(0.05));
    expect(await door.onsets(new Float32Array(RATE), RATE)).toEqual([]);
  });
});

describe('the door to the tuner', () => {
  const open = async () => {
    const door = await openDoor<TunerDoor>(() => import('./tuner.worker'));
    const targets = targetsOf(setup, false, 440);
    await door.begin(RATE, targets);
    return { door, targets };
  };
  const hear = async (door: Awaited<ReturnType<typeof open>>['door'], hz: number) => {
    const sound = await door.pluck(hz, 1.2, RATE, 1);
    let shown = null;
    for (let at = 0; at + 1024 <= sound.length; at += 1024)
      shown = (await door.push(sound.slice(at, at + 1024))) ?? shown;
    return shown;
  };

  it('tells the string and how far it is off', async () => {
    const { door } = await open();
    const flat = await hear(door, frequency(45) * 2 ** (-14 / 1200));
    expect(flat?.string).toBe(5);
    expect(flat?.cents).toBeCloseTo(-14, 0);
  });

  it('measures against the string that was fixed, and against new aims', async () => {
    const { door, targets } = await open();
    await door.fix(6);
    expect((await hear(door, frequency(41)))?.string).toBe(6);
    await door.fix(null);
    await door.aim(targets.map((target) => ({ ...target, hz: target.hz / 2 ** (2 / 12) })));
    const shown = await hear(door, frequency(43));
    expect(shown?.string).toBe(5);
    expect(Math.abs(shown?.cents ?? 99)).toBeLessThan(2);
  });
});

describe('the door to set-ups', () => {
  const events = [40, 43, 45, 47, 40, 43].map((midi, i) =>
    makeEvent(`e${i}`, quarter(i, 2), quarter(1, 2), [makeNote(`n${i}`, midi, 'instructor')]),
  );
  const riff = makeRiff('r', 'Curtain up', { events });
  const tempo = [{ at: quarter(0), bpm: 100 }];

  it('finds, tells how far it is, and answers as the core does', async () => {
    const door = await openDoor<SetupDoor>(() => import('./setup.worker'));
    const { question } = questionOf([riff], setup, tempo, [], { instruments: [setup.instrument] });
    const told: number[] = [];
    const answer = await door.find(question, (share) => void told.push(share));
    expect(told.length).toBeGreaterThan(3);
    expect(told.every((share) => share >= 0 && share < 1)).toBe(true);
    expect(answer).toEqual(findSetup(question));
    const pair = await door.findPair(question, question, () => undefined);
    expect(pair.pairs.length).toBeGreaterThan(0);
  });

  it('places, carries and moves a riff', async () => {
    const door = await openDoor<SetupDoor>(() => import('./setup.worker'));
    const placed = await door.placed(riff, setup, tempo);
    expect(placed.events.every((event) => event.notes.every((note) => note.place !== null))).toBe(true);
    const [carried] = await door.carry([{ riff: placed, from: setup, to: setup, keep: 'sound', tempo, key: null }]);
    expect(carried?.losses).toEqual([]);
    const request = { setup, events: placed.events, meters: riff.meters, tempo, root: null };
    const moved = await door.move({ ...request, move: { by: 'semitones', steps: 2 } });
    expect(must(moved).events[0]?.notes[0]?.pitch.midi).toBe(42);
  });
});
