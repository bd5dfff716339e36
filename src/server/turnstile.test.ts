import { afterEach, describe, expect, it, vi } from 'vitest';
import { Turnstile } from './turnstile';

afterEach(() => vi.useRealTimers());

/** Everyone at once: who was inside when, and in which order they came through. */
async function crowd(most: number, people: number): Promise<{ readonly order: number[]; readonly fullest: number }> {
  const door = new Turnstile(most);
  const order: number[] = [];
  let inside = 0;
  let fullest = 0;
  await Promise.all(
    Array.from({ length: people }, async (_, i) => {
      const leave = await door.enter();
      inside++;
      fullest = Math.max(fullest, inside);
      await new Promise((resolve) => setTimeout(resolve, i % 3));
      order.push(i);
      inside--;
      leave();
      leave();
    }),
  );
  return { order, fullest };
}

describe('the turnstile', () => {
  it('lets so many in at a time and no more, everyone in the end, in their order', async () => {
    const one = await crowd(1, 12);
    expect(one).toEqual({ order: Array.from({ length: 12 }, (_, i) => i), fullest: 1 });
    const some = await crowd(4, 40);
    expect(some.fullest).toBe(4);
    expect(some.order.toSorted((a, b) => a - b)).toEqual(Array.from({ length: 40 }, (_, i) => i));
  });

  it('does not wait for ever for one who never leaves', async () => {
    vi.useFakeTimers();
    const door = new Turnstile(1);
    await door.enter();
    const second = door.enter();
    let through = false;
    void second.then(() => (through = true));
    await vi.advanceTimersByTimeAsync(10_000);
    expect(through).toBe(false);
    await vi.advanceTimersByTimeAsync(6000);
    expect(through).toBe(true);
  });
});
