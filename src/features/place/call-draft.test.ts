import { describe, expect, it } from 'vitest';
import { keepDraft, readDraft } from './call-draft';

function tab(full = false) {
  const kept = new Map<string, string>();
  return {
    kept,
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => {
      if (full) throw new DOMException('no room', 'QuotaExceededError');
      kept.set(key, value);
    },
    removeItem: (key: string) => void kept.delete(key),
  };
}

describe('a half-typed call', () => {
  it('is there again for its riff, and gone when the line is empty', () => {
    const store = tab();
    keepDraft('r1', 'on 6 open 3 on 5', store);
    keepDraft('r2', 'A3', store);
    expect([readDraft('r1', store), readDraft('r2', store), readDraft('r3', store)]).toEqual([
      'on 6 open 3 on 5',
      'A3',
      '',
    ]);
    keepDraft('r1', '  ', store);
    expect(readDraft('r1', store)).toBe('');
    expect(store.kept.size).toBe(1);
  });

  it('is not kept where there is no room, no store, or far too much of it, and nothing stumbles', () => {
    keepDraft('r1', 'on 6 3', tab(true));
    keepDraft('r1', 'on 6 3', null);
    expect(readDraft('r1', null)).toBe('');
    const store = tab();
    keepDraft('r1', 'x'.repeat(30_000), store);
    expect(store.kept.size).toBe(0);
  });
});
