import fc from 'fast-check';
import { describe, expect, it, vi } from 'vitest';
import { must } from '@/core/base';
import { makeSetup } from '@/core/instrument';
import { makePart, makePiece, makeRiff } from '@/core/score';
import { FakeDevice, FakeServer, openWindow } from './test-support/world';

/**
 * A fire drill without fire: windows on one piece, a line that comes and goes, answers that get lost, a device that
 * fills up, windows that are killed, in any order. Whatever was typed is somewhere a person can get at it.
 */

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const acts = fc.record({
  act: fc.constantFrom(
    'type',
    'type',
    'type',
    'type',
    'kill',
    'open',
    'line',
    'full',
    'wait',
    'undo',
    'settle',
    'refuse',
  ),
  pick: fc.nat({ max: 1000 }),
  ms: fc.nat({ max: 2500 }),
});

describe('whatever happens between windows, device and server', () => {
  it('nothing that was typed is lost, and at the end everybody sees the same', async () => {
    vi.useFakeTimers();
    let typedInAll = 0;
    let settledInAll = 0;
    await fc.assert(
      fc.asyncProperty(fc.array(acts, { minLength: 10, maxLength: 60 }), async (story) => {
        const server = new FakeServer(makePiece('p1', 'Drill', { parts: [makePart('p0', 'Guitar', setup)] }));
        const device = new FakeDevice();
        let windows = [openWindow(server, device)];
        const typed = new Set<string>();
        const given: string[] = [];
        let undone = 0;
        const type = (pick: number): void => {
          const window = windows[pick % windows.length];
          if (!window || window.state.stale) return;
          const id = `t${typed.size + undone}x${pick}`;
          const riff = makeRiff(id, id, {});
          if (window.state.dispatch({ type: 'addRiff', part: 'p0', riff, at: 0 }).ok) {
            typed.add(id);
            given.push(id);
          }
        };
        for (const { act, pick, ms } of story) {
          const window = windows[pick % Math.max(1, windows.length)];
          if (act === 'type') type(pick);
          else if (act === 'undo') {
            const top = window?.state.history.undo.at(-1)?.steps[0]?.edit;
            if (window && !window.state.stale && top?.type === 'addRiff') {
              typed.delete(top.riff.id);
              undone++;
              window.state.undo();
            }
          } else if (act === 'kill' && window && !window.state.atRisk()) {
            window.kill();
            windows = windows.filter((one) => one !== window);
          } else if (act === 'open' && windows.length < 3) windows.push(openWindow(server, device));
          else if (act === 'line') server.line = () => (['up', 'down', 'answer-lost'] as const)[pick % 3] ?? 'up';
          else if (act === 'full') device.full = pick % 2 === 0;
          else if (act === 'refuse')
            server.refuses = (step) =>
              pick % 2 === 0 && step.edit.type === 'addRiff' && step.edit.riff.id.endsWith('7') ? 'not this one' : null;
          else if (act === 'settle' && window?.state.stale) {
            settledInAll++;
            void window.state.settle(pick % 2 === 0);
          }
          await vi.advanceTimersByTimeAsync(act === 'wait' ? ms : ms % 40);
        }
        // Peace: the line is up, there is room, every window is looked at and decided about.
        server.line = () => 'up';
        server.refuses = () => null;
        device.full = false;
        windows.push(openWindow(server, device));
        for (let round = 0; round < 12; round++) {
          await vi.advanceTimersByTimeAsync(20_000);
          for (const window of windows)
            if (window.state.stale) {
              settledInAll++;
              must(await window.state.settle(true));
            }
        }
        const everywhere = JSON.stringify([
          server.document,
          server.pieces,
          [...server.refused.values()],
          windows.map((one) => [one.state.document, one.state.aside]),
          [...device.asides.values()],
          device.held(),
        ]);
        typedInAll += typed.size;
        expect([...typed].filter((id) => !everywhere.includes(`"${id}"`))).toEqual([]);
        // No window is left with something on its way; one that was idle may be behind, and then says so when it saves.
        for (const window of windows) {
          expect(window.state.saveState).toBe('saved');
          expect(window.state.atRisk()).toBe(false);
        }
        for (const window of windows) window.kill();
      }),
      { numRuns: 600 },
    );
    vi.useRealTimers();
    expect(typedInAll).toBeGreaterThan(1500);
    expect(settledInAll).toBeGreaterThan(20);
  });
});
