import { beforeEach, describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import type { Finding } from '@/core/base';
import type { Actor, Right, StudioId } from './actor';

/** Whoever asks, with the rights the test gives them. */
const asking = { rights: new Set<Right>() };
vi.mock('./context', () => ({
  db: () => ({ name: 'the database' }),
  currentActor: (): Promise<Actor> =>
    Promise.resolve({ studio: 'here' as StudioId, person: null, rights: asking.rights }),
}));
const { action, Refused } = await import('./action');

const given = z.tuple([z.object({ name: z.string().max(8, 'a name of 8 letters at most') }), z.number()]);

describe('a server action', () => {
  beforeEach(() => {
    asking.rights = new Set(['read', 'write']);
  });

  it('runs for the actor of the request with what its schema read', async () => {
    const run = vi.fn((request: { actor: Actor }, thing: { name: string }, count: number) =>
      Promise.resolve(`${request.actor.studio}: ${thing.name} ${count}`),
    );
    const act = action('write', given, run);
    expect(await act({ name: 'Owl' }, 3)).toBe('here: Owl 3');
    expect(run).toHaveBeenCalledTimes(1);
  });

  it('takes text that can be stored: NUL and half of a sign are mended before it is read', async () => {
    const act = action('write', given, (_, { name }) => Promise.resolve(name));
    expect(await act({ name: 'O\u0000wl' }, 1)).toBe('Owl');
    expect(await act({ name: 'Owl \ud83e' }, 1)).toBe('Owl \ufffd');
  });

  it('does not run on what its schema refuses; the answer names the place without the argument’s number', async () => {
    const run = vi.fn(() => Promise.resolve('ran'));
    const answered: Finding[] = [];
    const act = action('write', given, run, (why) => {
      answered.push(why);
      return 'refused';
    });
    expect(await act({ name: 'far too long' }, 1)).toBe('refused');
    expect(await act(null as never, 1)).toBe('refused');
    expect(run).not.toHaveBeenCalled();
    expect(answered[0]).toMatchObject({
      rule: 'schema',
      words: 'a name of 8 letters at most',
      locus: { path: ['name'] },
    });
  });

  it('without an answer of its own throws what is told apart from a stumble', async () => {
    const act = action('write', given, () => Promise.resolve('ran'));
    await expect(act({ name: 'Owl' }, 'many' as never)).rejects.toBeInstanceOf(Refused);
  });

  it('does not run for who may not, whatever was given', async () => {
    asking.rights = new Set(['read']);
    const run = vi.fn(() => Promise.resolve('ran'));
    const act = action('write', given, run, (why) => why.rule);
    expect(await act({ name: 'Owl' }, 1)).toBe('no-right');
    expect(run).not.toHaveBeenCalled();
    expect(await action('read', given, run)({ name: 'Owl' }, 1)).toBe('ran');
  });
});
