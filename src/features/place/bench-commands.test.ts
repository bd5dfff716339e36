import { describe, expect, it } from 'vitest';
import { must } from '@/core/base';
import { makeSetup } from '@/core/instrument';
import { EVENT_SPECS, makePart, makePiece, makeRiff, NOTE_SPECS } from '@/core/score';
import { calledToEvents, FIRST_LENGTH, readCalls } from '@/core/shorthand';
import { ZERO } from '@/core/time';
import { ALSO, benchCommands, type Bench, type BenchActions } from './bench-commands';
import { keyLabel } from './key-sheet';
import type { Chosen } from './selection';
import { keyName } from './use-keys';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const meters = [{ bar: 0, beats: 4, unit: 4 }];

function bench(run: string[]): Bench {
  const called = readCalls('eighths on 5 3 5 7', { setup, meters, at: ZERO, length: FIRST_LENGTH, string: null });
  const riff = makeRiff('r', 'Riff', { events: calledToEvents(called, new Set()) });
  const part = makePart('p0', 'Guitar', setup, { riffs: [riff] });
  const focus = riff.events[1] ?? null;
  const chosen: Chosen = {
    selection: { anchor: null, focus: focus?.id ?? null, note: null, caret: null, picked: null },
    events: focus ? [focus] : [],
    focus,
    focusIndex: 1,
    noteIndex: 0,
    single: null,
    insertAt: ZERO,
    choose: (event) => run.push(`choose ${event?.at ?? 'nothing'}`),
    chooseAll: () => run.push('all'),
    pick: () => undefined,
    toggle: () => undefined,
    setCaret: () => undefined,
  };
  const actions = new Proxy({} as BenchActions, {
    get: (_, name) => (given: unknown) => {
      run.push(`${String(name)}${given === undefined ? '' : ` ${String(given)}`}`);
      return Promise.resolve();
    },
  });
  const piece = makePiece('p', 'P', { parts: [part] });
  const edit = (made: { ok: boolean }): boolean => run.push(made.ok ? 'edit' : 'refused') > 0;
  return {
    piece,
    part,
    riff,
    chosen,
    edit,
    say: (text) => run.push(text),
    actions,
    shown: { wide: false, neck: true },
  };
}

describe('the commands of the bench', () => {
  const all = benchCommands(bench([]));

  it('go by ids, names and keys of their own; every technique is among them', () => {
    for (const of of ['id', 'name', 'key'] as const) {
      const given = all.flatMap((command) => (command[of] ? [command[of]] : []));
      expect(new Set(given).size, of).toBe(given.length);
    }
    const ids = new Set(all.map((command) => command.id));
    for (const spec of [...Object.values(NOTE_SPECS), ...Object.values(EVENT_SPECS)])
      for (const { id } of spec.commands) expect(ids.has(id), id).toBe(true);
    for (const key of Object.values(ALSO))
      expect(
        all.some((command) => command.key === key),
        key,
      ).toBe(true);
  });

  it('do what they are named for', () => {
    const run: string[] = [];
    const by = new Map(benchCommands(bench(run)).map((command) => [command.id, command]));
    for (const id of [
      'next',
      'previous',
      'first',
      'lock',
      'undo',
      'find',
      'answer-2',
      'lane-count',
      'delete',
      'thinner-string',
    ])
      by.get(id)?.run();
    expect(run.slice(0, 9)).toEqual([
      'choose 1',
      'choose 0',
      'choose 0',
      'edit',
      'undo',
      'palette find ',
      'answer 1',
      'lane count',
      'edit',
    ]);
    expect(by.get('lock')?.name).toContain('Lock');
  });

  it('are found by the key that is pressed, however it is held', () => {
    const press = (
      key: string,
      held: Partial<Record<'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey', boolean>> = {},
    ): string => keyName({ key, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...held });
    expect(press('h')).toBe('h');
    expect(press('G', { shiftKey: true })).toBe('Shift+G');
    expect(press('v', { ctrlKey: true })).toBe('Ctrl+V');
    expect(press('V', { metaKey: true, shiftKey: true })).toBe('Ctrl+Shift+V');
    expect(press('ArrowUp', { altKey: true })).toBe('Alt+ArrowUp');
    expect(press('?', { shiftKey: true })).toBe('?');
    expect([keyLabel('Shift+G'), keyLabel(' '), keyLabel('+'), keyLabel('Alt+ArrowUp'), keyLabel('q')]).toEqual([
      'Shift G',
      'Space',
      '+',
      'Alt ↑',
      'Q',
    ]);
  });
});
