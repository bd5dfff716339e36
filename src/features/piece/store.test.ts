import type { RefusedId } from '@/server/ids';
import { setTitle, setTempo } from '@/core/command';
import { makePiece } from '@/core/score';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Step } from '@/core/edit';
import type { OpenPiece, SaveAnswer } from '@/server/pieces';
import type { SaveInput } from './actions';
import { createPieceStore } from './store';

const open = (revision = 0, steps: OpenPiece['steps'] = []): OpenPiece => ({
  document: makePiece('p1', 'Start'),
  revision,
  steps,
});
const rename = setTitle;

/** A device's storage, and a server whose answers the test writes. */
function bench(answer: (input: SaveInput) => SaveAnswer | Error) {
  const kept = new Map<string, string>();
  const storage = {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  };
  const sent: SaveInput[] = [];
  const save = (input: SaveInput): Promise<SaveAnswer> => {
    sent.push(input);
    const a = answer(input);
    return a instanceof Error ? Promise.reject(a) : Promise.resolve(a);
  };
  return { kept, storage, sent, save };
}

const saved = (input: SaveInput): SaveAnswer => ({ status: 'saved', revision: input.base + input.steps.length });

describe('the open piece', () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  it('saves by itself, in order, each batch on the revision before', async () => {
    const b = bench(saved);
    const store = createPieceStore(open(4), b.save, b.storage);
    store.getState().recover();
    store.getState().dispatch(rename('A'));
    store.getState().dispatch(rename('B'));
    expect(store.getState().saveState).toBe('saving');
    await vi.advanceTimersByTimeAsync(400);
    store.getState().dispatch(rename('C'));
    await vi.advanceTimersByTimeAsync(400);
    expect(b.sent.map((one) => [one.base, one.steps.length])).toEqual([
      [4, 2],
      [6, 1],
    ]);
    expect(store.getState().saveState).toBe('saved');
    expect(b.kept.size).toBe(0);
  });

  it('goes on saving in order while saves take longer than the pauses between keys', async () => {
    let revision = 0;
    const b = bench(saved);
    const seen = new Map<string, SaveAnswer>();
    // As the server does: what rests on another revision is stale, a save seen before gets its old answer.
    const slow = (input: SaveInput): Promise<SaveAnswer> => {
      b.sent.push(input);
      const answer: SaveAnswer =
        seen.get(input.save) ??
        (input.base === revision
          ? { status: 'saved', revision: (revision += input.steps.length) }
          : { status: 'stale', current: open(revision), refusedId: 'r' as RefusedId });
      seen.set(input.save, answer);
      return new Promise((resolve) => setTimeout(() => resolve(answer), 900));
    };
    const store = createPieceStore(open(), slow, b.storage);
    store.getState().recover();
    for (let i = 0; i < 30; i++) {
      store.getState().dispatch(rename(`Typed ${i}`));
      await vi.advanceTimersByTimeAsync(i % 3 === 2 ? 500 : 140);
      expect(store.getState().saveState).toBe('saving');
    }
    await vi.advanceTimersByTimeAsync(3000);
    expect(store.getState().saveState).toBe('saved');
    expect(revision).toBe(30);
    expect(new Set(b.sent.map((one) => one.save)).size).toBe(b.sent.length);
  });

  it('undoes and redoes, a follow-up together with its step', () => {
    const b = bench(saved);
    const store = createPieceStore(open(), b.save, b.storage);
    store.getState().recover();
    store.getState().dispatch(rename('A'));
    store.getState().follow(setTempo([{ at: '0' as never, bpm: 50 }]));
    store.getState().undo();
    expect(store.getState().document).toEqual(open().document);
    store.getState().redo();
    expect([store.getState().document.title, store.getState().document.context.tempo[0]?.bpm]).toEqual(['A', 50]);
  });

  it('keeps what was typed while the server is away and sends the very same save when it is back', async () => {
    let down = true;
    const b = bench((input) => (down ? new Error('no connection') : saved(input)));
    const store = createPieceStore(open(), b.save, b.storage);
    store.getState().recover();
    store.getState().dispatch(rename('Typed offline'));
    await vi.advanceTimersByTimeAsync(2000);
    expect(store.getState().saveState).toBe('offline');
    expect(store.getState().message).toContain('kept on this device');
    expect(b.kept.get('unsaved:p1')).toContain('Typed offline');
    down = false;
    await vi.advanceTimersByTimeAsync(20_000);
    expect(store.getState().saveState).toBe('saved');
    expect(new Set(b.sent.map((one) => one.save)).size).toBe(1);
    expect(b.kept.size).toBe(0);
  });

  it('does again after a crash what the device still owed', async () => {
    const lost = bench(() => new Error('crash'));
    const before = createPieceStore(open(), lost.save, lost.storage);
    before.getState().recover();
    before.getState().dispatch(rename('Before the crash'));
    await vi.advanceTimersByTimeAsync(400);
    before.getState().dispatch(rename('And after'));
    const b = bench(saved);
    const store = createPieceStore(open(), b.save, lost.storage);
    store.getState().recover();
    expect(store.getState().document.title).toBe('And after');
    await vi.advanceTimersByTimeAsync(1000);
    expect(b.sent.flatMap((one) => one.steps.map((step: Step) => step.edit))).toEqual([
      rename('Before the crash'),
      rename('And after'),
    ]);
    expect(b.sent[0]?.save).toBe(lost.sent[0]?.save);
    expect(store.getState().saveState).toBe('saved');
  });

  it('stops at a stale answer, shows it, and goes on with the other version when told', async () => {
    const theirs: OpenPiece = { document: makePiece('p1', 'Theirs'), revision: 9, steps: [] };
    const b = bench(() => ({ status: 'stale', current: theirs, refusedId: 'kept' as RefusedId }));
    const store = createPieceStore(open(), b.save, b.storage);
    store.getState().recover();
    store.getState().dispatch(rename('Mine'));
    await vi.advanceTimersByTimeAsync(400);
    expect(store.getState()).toMatchObject({ saveState: 'stale', stale: { refusedId: 'kept' } });
    expect(store.getState().document.title).toBe('Mine');
    store.getState().takeTheirs();
    expect(store.getState()).toMatchObject({ saveState: 'saved', stale: null, document: { title: 'Theirs' } });
    expect(b.kept.size).toBe(0);
  });
});
