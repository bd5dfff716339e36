import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import { setTitle } from '@/core/command';
import { makePiece, SCHEMA_VERSION } from '@/core/score';
import { applied, type Step } from '@/core/edit';
import { livesByLocks, openDevice, type Note } from './device';

const stepOf = (title: string): Step => ({
  version: SCHEMA_VERSION,
  kind: 'do',
  edit: setTitle(title),
  inverse: applied(makePiece('p', 'Start'), setTitle(title)).inverse,
  what: title,
});
const note = (titles: readonly string[], extra: Partial<Note> = {}): Note => ({
  base: 4,
  sending: null,
  from: 0,
  steps: titles.map(stepOf),
  done: 0,
  owes: true,
  ...extra,
});

/** Windows that are there, as the browser's locks would tell. */
const alive = new Set<string>();
const life = {
  hold: (window: string) => void alive.add(window),
  gone: (window: string) => Promise.resolve(!alive.has(window)),
};
let piece = '';
let count = 0;
beforeEach(() => {
  piece = `piece${count++}`;
  alive.clear();
});
const window = (name: string, old: Storage | null = null) => openDevice(piece, `${piece}-${name}`, life, old);

describe('what a device keeps', () => {
  it('is what a window owes, in order, whatever was taken of it meanwhile', async () => {
    const one = window('one');
    await one.note(note(['a', 'b', 'c']));
    await one.note(note(['d'], { from: 3, done: 1, base: 5, sending: { save: 'save-one', count: 2 } }));
    expect(await window('two').left()).toEqual([]);
    alive.delete(`${piece}-one`);
    const [left, ...others] = await window('two').left();
    expect(others).toEqual([]);
    expect(left).toMatchObject({ base: 5, sending: { save: 'save-one', count: 2 } });
    expect(left?.steps.map((step) => step.what)).toEqual(['b', 'c', 'd']);
  });

  it('is each window’s own, and of this piece alone', async () => {
    await window('one').note(note(['of one']));
    await window('two').note(note(['of two']));
    await openDevice('elsewhere', 'elsewhere-w', life, null).note(note(['of another piece']));
    alive.clear();
    const left = await window('three').left();
    expect(left.map((one) => one.steps[0]?.what)).toEqual(['of one', 'of two']);
  });

  it('is forgotten when all was taken, or when another window took it up', async () => {
    const one = window('one');
    await one.note(note(['a', 'b']));
    await one.note(note([], { from: 2, done: 2, owes: false }));
    const two = window('two');
    await two.note(note(['c']));
    alive.clear();
    const three = window('three');
    expect((await three.left()).map((left) => left.window)).toEqual([`${piece}-two`]);
    await three.forget(`${piece}-two`);
    expect(await three.left()).toEqual([]);
  });

  it('has what was set aside until it is dropped', async () => {
    const one = window('one');
    await one.setAside({ id: 'x', step: stepOf('not kept'), why: 'too long' });
    expect(await window('two').aside()).toEqual([{ id: 'x', step: stepOf('not kept'), why: 'too long' }]);
    await one.dropAside('x');
    expect(await one.aside()).toEqual([]);
  });

  it('takes up what an older program left in the local storage, old edits brought up to date', async () => {
    const kept = new Map<string, string>();
    const old = {
      getItem: (key: string) => kept.get(key) ?? null,
      removeItem: (key: string) => void kept.delete(key),
    } as unknown as Storage;
    const step = {
      kind: 'do',
      edit: { type: 'setTitle', title: 'Old' },
      inverse: { type: 'setTitle', title: 'Start' },
      what: 'named it',
    };
    kept.set(`unsaved:${piece}`, JSON.stringify({ base: 2, save: 'older-save', sent: [step], pending: [step, step] }));
    const one = window('one', old);
    const [left] = await one.left();
    expect(left).toMatchObject({ base: 2, sending: { save: 'older-save', count: 1 } });
    expect(left?.steps.map((each) => each.edit)).toEqual([setTitle('Old'), setTitle('Old'), setTitle('Old')]);
    await one.forget(left?.window ?? '');
    expect(kept.size).toBe(0);
    kept.set(`unsaved:${piece}`, 'no JSON');
    expect(await one.left()).toEqual([]);
  });
});

describe('whether a window is there', () => {
  it('is told by a lock it holds for as long as it lives', async () => {
    const held = new Map<string, () => void>();
    const locks = {
      request: (name: string, options: unknown, run?: (lock: unknown) => unknown) => {
        if (typeof options === 'function') {
          held.set(name, () => held.delete(name));
          return (options as (lock: unknown) => Promise<unknown>)({});
        }
        return Promise.resolve(run?.(held.has(name) ? null : {}));
      },
    } as unknown as LockManager;
    const lives = livesByLocks(locks);
    lives.hold('w');
    expect([await lives.gone('w'), await lives.gone('nobody')]).toEqual([false, true]);
    expect(await livesByLocks(undefined).gone('w')).toBe(true);
  });
});
