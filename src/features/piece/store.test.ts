import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { renamePart, setTempo, setTitle } from '@/core/command';
import { LIMITS, makePart, makePiece, SCHEMA_VERSION } from '@/core/score';
import { makeSetup } from '@/core/instrument';
import { must } from '@/core/base';
import { applied, type Step } from '@/core/edit';
import type { Piece } from '@/core/score';
import { NewVersion } from './outbox';
import { createPieceStore } from './store';
import { FakeDevice, FakeServer, openWindow } from './test-support/world';

const rename = setTitle;
const stepOf = (piece: Piece, title: string): Step => ({
  version: SCHEMA_VERSION,
  kind: 'do',
  edit: rename(title),
  inverse: applied(piece, rename(title)).inverse,
  what: `named it ${title}`,
});
const pass = (ms: number) => vi.advanceTimersByTimeAsync(ms);

let server: FakeServer;
let device: FakeDevice;
beforeEach(() => {
  vi.useFakeTimers();
  server = new FakeServer();
  device = new FakeDevice();
});
afterEach(() => void vi.useRealTimers());

describe('saving', () => {
  it('goes by itself, in order, each save on the revision before', async () => {
    const { store } = openWindow(server, device);
    store.getState().dispatch(rename('A'));
    store.getState().dispatch(rename('B'));
    expect(store.getState().saveState).toBe('saving');
    await pass(400);
    store.getState().dispatch(rename('C'));
    await pass(400);
    expect(server.sent.map((one) => [one.base, one.steps.length])).toEqual([
      [0, 2],
      [2, 1],
    ]);
    expect(store.getState()).toMatchObject({ saveState: 'saved', kept: true });
    expect(device.windows.size).toBe(0);
  });

  it('goes on in order while saves take longer than the pauses between keys', async () => {
    server.slow = 900;
    const { store } = openWindow(server, device);
    await pass(0);
    for (let i = 0; i < 30; i++) {
      store.getState().dispatch(rename(`Typed ${i}`));
      await pass(i % 3 === 2 ? 500 : 140);
      expect(store.getState().saveState).toBe('saving');
    }
    await pass(4000);
    expect(store.getState().saveState).toBe('saved');
    expect(server.revision).toBe(30);
    expect(new Set(server.sent.map((one) => one.save)).size).toBe(server.sent.length);
  });

  it('saves every two seconds at the latest however steadily is typed', async () => {
    const { store } = openWindow(server, device);
    for (let i = 0; i < 90; i++) {
      store.getState().dispatch(rename(`Typed ${i}`));
      await pass(220);
    }
    expect(server.sent.length).toBeGreaterThan(7);
    expect(server.revision).toBeGreaterThan(75);
  });

  it('sends what was collected offline in portions', async () => {
    server.line = () => 'down';
    const { store } = openWindow(server, device);
    await pass(0);
    for (let i = 0; i < 2300; i++) store.getState().dispatch(rename(`Offline ${i}`));
    await pass(1000);
    server.line = () => 'up';
    await pass(20_000);
    expect(store.getState().saveState).toBe('saved');
    expect(server.document.title).toBe('Offline 2299');
    expect(server.revision).toBe(2300);
    expect(Math.max(...server.sent.map((one) => one.steps.length))).toBeLessThanOrEqual(500);
  });
});

describe('undo', () => {
  it('takes a follow-up back together with its step', async () => {
    const { store } = openWindow(server, device);
    const start = store.getState().document;
    store.getState().dispatch(rename('A'));
    store.getState().follow(setTempo([{ at: '0' as never, bpm: 50 }]));
    store.getState().undo();
    expect(store.getState().document).toEqual(start);
    store.getState().redo();
    expect([store.getState().document.title, store.getState().document.context.tempo[0]?.bpm]).toEqual(['A', 50]);
    await pass(3000);
    expect(server.document).toEqual(store.getState().document);
  });

  it('reads what was done before the page was opened when it is wanted, page by page to the start', async () => {
    const before = openWindow(server, device);
    for (const title of ['A', 'B', 'C', 'D', 'E', 'F', 'G']) before.state.dispatch(rename(title));
    await pass(500);
    before.kill();
    const { store } = openWindow(server, device);
    expect(store.getState().older).toEqual({ undo: true, redo: false });
    store.getState().dispatch(rename('Here'));
    const titles: string[] = [];
    for (let i = 0; i < 9; i++) {
      store.getState().undo();
      await pass(10);
      titles.push(store.getState().document.title);
    }
    expect(titles).toEqual(['G', 'F', 'E', 'D', 'C', 'B', 'A', 'Start', 'Start']);
    for (let i = 0; i < 8; i++) store.getState().redo();
    expect(store.getState().document.title).toBe('Here');
  });

  it('counts every press while what was done before is being read', async () => {
    const before = openWindow(server, device);
    for (const title of ['A', 'B', 'C']) before.state.dispatch(rename(title));
    await pass(500);
    before.kill();
    const { store } = openWindow(server, device);
    await pass(0);
    server.slow = 400;
    store.getState().undo();
    store.getState().undo();
    await pass(500);
    expect(store.getState().document.title).toBe('A');
    server.line = () => 'down';
    const third = openWindow(server, device);
    third.state.undo();
    await pass(500);
    expect(third.state.message).toContain('can’t be read now');
  });

  it('makes again what was taken back before the page was opened', async () => {
    const before = openWindow(server, device);
    before.state.dispatch(rename('A'));
    before.state.undo();
    await pass(500);
    before.kill();
    const { store } = openWindow(server, device);
    expect(store.getState().older.redo).toBe(true);
    store.getState().redo();
    await pass(10);
    expect(store.getState().document.title).toBe('A');
  });
});

describe('what can’t be kept', () => {
  const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
  const withPart = (): FakeServer =>
    new FakeServer(makePiece('p1', 'Start', { parts: [makePart('p0', 'Guitar', setup)] }));

  it('is refused on the page, with the reason, before it is on its way', async () => {
    server = withPart();
    const { store } = openWindow(server, device);
    const made = store.getState().dispatch(renamePart('p0', 'x'.repeat(121)));
    expect(made.ok).toBe(false);
    expect(store.getState().message).toContain('"name" can\'t be kept');
    store.getState().dispatch(renamePart('p0', 'Owls \ud83e'));
    expect(store.getState().document.parts[0]?.name).toBe('Owls \ufffd');
    await pass(500);
    expect(server.document.parts[0]?.name).toBe('Owls \ufffd');
    expect(store.getState()).toMatchObject({ saveState: 'saved', message: null });
  });

  it('of a size that could not be read again is refused', () => {
    server = new FakeServer(
      makePiece('p1', 'Full', {
        parts: Array.from({ length: LIMITS.parts }, (_, i) => makePart(`p${i}`, 'Guitar', setup)),
      }),
    );
    const { store } = openWindow(server, device);
    const made = store.getState().dispatch({ type: 'addPart', at: 0, part: makePart('more', 'One more', setup) });
    expect(made.ok ? '' : made.error.words).toContain(`${LIMITS.parts} at most`);
  });

  it('is set aside by name when the server refuses it, and the rest goes on without it', async () => {
    server = withPart();
    server.refuses = (step) => (JSON.stringify(step.edit).includes('Bad') ? 'The server does not like it.' : null);
    const window = openWindow(server, device);
    window.state.dispatch(rename('One'));
    window.state.dispatch(renamePart('p0', 'Bad'));
    window.state.dispatch(rename('Two'));
    await pass(3000);
    expect(window.state.saveState).toBe('saved');
    expect(server.document).toMatchObject({ title: 'Two', parts: [{ name: 'Guitar' }] });
    expect(window.state.document).toEqual(server.document);
    expect(window.state.aside).toMatchObject([{ why: 'The server does not like it.', step: { kind: 'do' } }]);
    expect(window.state.aside[0]?.step.edit).toEqual(renamePart('p0', 'Bad'));
    // It is there in the next window too, until somebody decides; then made again it goes through.
    window.kill();
    const next = openWindow(server, device);
    await pass(10);
    expect(next.state.aside).toHaveLength(1);
    server.refuses = () => null;
    next.state.tryAside(next.state.aside[0]?.id ?? '');
    await pass(3000);
    expect(server.document.parts[0]?.name).toBe('Bad');
    expect(next.state.aside).toEqual([]);
    expect(device.asides.size).toBe(0);
  });

  it('asks before the page is left while the device has no room for it, and is kept when there is', async () => {
    server = withPart();
    server.refuses = (step) => (step.edit.type === 'patchPart' ? 'no' : null);
    device.full = true;
    const window = openWindow(server, device);
    window.state.dispatch(renamePart('p0', 'Nowhere to put it'));
    await pass(1000);
    expect([window.state.saveState, window.state.aside.length]).toEqual(['saved', 1]);
    expect(window.state.atRisk()).toBe(true);
    device.full = false;
    await pass(4000);
    expect(window.state.atRisk()).toBe(false);
    expect(device.asides.size).toBe(1);
    window.state.dropAside(window.state.aside[0]?.id ?? '');
    await pass(0);
    expect(device.asides.size).toBe(0);
  });

  it('takes what rests on it along, and what undo can reach is what is there', async () => {
    server = withPart();
    server.refuses = (step) => (step.edit.type === 'addPart' ? 'no' : null);
    const { store } = openWindow(server, device);
    store.getState().dispatch(rename('Before'));
    store.getState().dispatch({ type: 'addPart', at: 1, part: makePart('p9', 'Bass', setup) });
    store.getState().dispatch(renamePart('p9', 'Deep bass'));
    store.getState().dispatch(rename('After'));
    await pass(4000);
    expect(store.getState().aside.map((one) => one.step.edit.type)).toEqual(['addPart', 'patchPart']);
    expect(store.getState().document).toEqual(server.document);
    store.getState().undo();
    store.getState().undo();
    expect(store.getState().document.title).toBe('Start');
  });
});

describe('an outage', () => {
  it('keeps what was typed on the device and sends the very same save when the server is back', async () => {
    server.line = () => 'down';
    const { store } = openWindow(server, device);
    store.getState().dispatch(rename('Typed offline'));
    await pass(2000);
    expect(store.getState()).toMatchObject({ saveState: 'offline', kept: true });
    expect(store.getState().message).toContain('kept on this device');
    expect(device.held().map((step) => step.edit)).toEqual([rename('Typed offline')]);
    expect(store.getState().atRisk()).toBe(false);
    server.line = () => 'up';
    await pass(20_000);
    expect(store.getState().saveState).toBe('saved');
    expect(server.revision).toBe(1);
    expect(device.windows.size).toBe(0);
  });

  it('says so where the device can’t keep it either, and asks before the page is left', async () => {
    server.line = () => 'down';
    device.full = true;
    const { store } = openWindow(server, device);
    store.getState().dispatch(rename('Nowhere'));
    await pass(2000);
    expect(store.getState()).toMatchObject({ saveState: 'offline', kept: false });
    expect(store.getState().message).toContain('Leave this page open');
    expect(store.getState().atRisk()).toBe(true);
    device.full = false;
    await pass(4000);
    expect(store.getState()).toMatchObject({ kept: true });
    expect(store.getState().atRisk()).toBe(false);
    expect(device.held()).toHaveLength(1);
  });

  it('of a server of another version says so, and that reloading loses nothing', async () => {
    const window = openWindow(server, device);
    await pass(0);
    server.line = () => {
      throw new NewVersion();
    };
    window.state.dispatch(rename('Across'));
    await pass(1000);
    expect(window.state.message).toContain('Reload this page');
    expect(window.state.atRisk()).toBe(false);
    window.kill();
    server.line = () => 'up';
    const next = openWindow(server, device);
    await pass(1000);
    expect([next.state.document.title, server.document.title]).toEqual(['Across', 'Across']);
  });

  it('is survived by a piece that is taken off the shelf: nothing is thrown away', async () => {
    const window = openWindow(server, device);
    server.gone = true;
    window.state.dispatch(rename('Orphan'));
    await pass(1000);
    expect(window.state).toMatchObject({ saveState: 'gone', message: 'not on the shelf' });
    window.kill();
    server.gone = false;
    const next = openWindow(server, device);
    await pass(1000);
    expect([next.state.document.title, server.document.title]).toEqual(['Orphan', 'Orphan']);
  });
});

describe('a device that misbehaves', () => {
  it('by never answering keeps nothing from the server', async () => {
    const mute = { ...device.window('mute'), left: () => new Promise<never>(() => undefined) };
    const store = createPieceStore(server.open(), server.doors, mute);
    void store.getState().recover();
    store.getState().dispatch(rename('All the same'));
    await pass(2000);
    expect(server.revision).toBe(0);
    await pass(4000);
    expect(server.document.title).toBe('All the same');
  });

  it('a piece that was put back on the shelf is saved when the page comes back to it', async () => {
    const window = openWindow(server, device);
    server.gone = true;
    window.state.dispatch(rename('Waiting'));
    await pass(1000);
    expect(window.state.saveState).toBe('gone');
    server.gone = false;
    window.state.resume();
    await pass(1000);
    expect([window.state.saveState, server.document.title]).toEqual(['saved', 'Waiting']);
  });
});

describe('windows that are gone', () => {
  it('leave what they owed to the next one, with the same save', async () => {
    server.line = () => 'answer-lost';
    const lost = openWindow(server, device);
    lost.state.dispatch(rename('Before the crash'));
    await pass(400);
    lost.state.dispatch(rename('And after'));
    await pass(1);
    lost.kill();
    server.line = () => 'up';
    const { store } = openWindow(server, device);
    await pass(1000);
    expect(store.getState().document.title).toBe('And after');
    expect(server.document.title).toBe('And after');
    expect(server.revision).toBe(2);
    expect(store.getState().saveState).toBe('saved');
    expect(device.windows.size).toBe(0);
  });

  it('are not taken up while they live', async () => {
    server.line = () => 'down';
    const first = openWindow(server, device);
    first.state.dispatch(rename('Of the first'));
    await pass(10);
    const second = openWindow(server, device);
    await pass(10);
    expect(second.state.document.title).toBe('Start');
    expect(device.held()).toHaveLength(1);
  });

  it('two of them, both offline: one goes on, the other is offered, and neither is lost', async () => {
    server.line = () => 'down';
    const [first, second] = [openWindow(server, device), openWindow(server, device)];
    first.state.dispatch(rename('Of the first'));
    second.state.dispatch(rename('Of the second'));
    second.state.dispatch(setTempo([{ at: '0' as never, bpm: 61 }]));
    await pass(10);
    first.kill();
    second.kill();
    server.line = () => 'up';
    const next = openWindow(server, device);
    await pass(3000);
    expect(next.state.document.title).toBe('Of the first');
    expect(next.state.stale).toMatchObject({ window: second.name });
    expect(must(await next.state.settle(true))).toBe('/pieces/mine1');
    expect(server.pieces[0]).toMatchObject({ title: 'Of the second', context: { tempo: [{ bpm: 61 }] } });
    await pass(1000);
    expect(next.state).toMatchObject({ saveState: 'saved', stale: null, document: { title: 'Of the first' } });
    expect(device.windows.size).toBe(0);
  });
});

describe('a stale save', () => {
  it('stops, shows the other version, and goes on with it when told', async () => {
    const window = openWindow(server, device);
    window.state.dispatch(rename('Mine'));
    server.byOther(stepOf(server.document, 'Theirs'));
    await pass(400);
    expect(window.state).toMatchObject({ saveState: 'stale', stale: { current: { document: { title: 'Theirs' } } } });
    expect(window.state.document.title).toBe('Mine');
    must(await window.state.settle(false));
    expect(window.state).toMatchObject({ saveState: 'saved', stale: null, document: { title: 'Theirs' } });
    await pass(10);
    expect(device.windows.size).toBe(0);
    window.state.dispatch(rename('On top'));
    await pass(500);
    expect(server.document.title).toBe('On top');
  });

  it('keeps what was typed while the answer was slow, on the version it was typed on', async () => {
    server.slow = 1500;
    const window = openWindow(server, device);
    await pass(0);
    window.state.dispatch(rename('Mine'));
    server.byOther(stepOf(server.document, 'Theirs'));
    await pass(500);
    window.state.dispatch(setTempo([{ at: '0' as never, bpm: 44 }]));
    window.state.dispatch(rename('Mine, and more'));
    await pass(3000);
    expect(window.state.saveState).toBe('stale');
    const settled = window.state.settle(true);
    await pass(3000);
    expect(must(await settled)).toBe('/pieces/mine1');
    expect(server.pieces[0]).toMatchObject({ title: 'Mine, and more', context: { tempo: [{ bpm: 44 }] } });
  });

  it('can be decided again after an answer that failed', async () => {
    const window = openWindow(server, device);
    window.state.dispatch(rename('Mine'));
    server.byOther(stepOf(server.document, 'Theirs'));
    await pass(400);
    server.line = () => 'down';
    expect((await window.state.settle(true)).ok).toBe(false);
    expect(window.state.stale).not.toBeNull();
    server.line = () => 'up';
    expect(must(await window.state.settle(true))).toBe('/pieces/mine1');
    expect(window.state.stale).toBeNull();
  });
});
