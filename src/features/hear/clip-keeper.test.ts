import { describe, expect, it } from 'vitest';
import { fail, ok, type Result } from '@/core/base';
import { emptyClip, type ClipDocument } from '@/core/hearing';
import { ClipKeeper, type Laid } from './clip-keeper';

const doc = (...markers: number[]): ClipDocument => ({
  ...emptyClip('Take one'),
  markers: markers.map((at) => ({ at, say: String(at) })),
});
const FIRST: Laid = { document: doc(), revision: 1 };

/** A server with one recording on it, and a device; windows on both. */
function world() {
  const server = {
    laid: { ...FIRST } as Laid | null,
    away: false,
    loseAnswer: false,
    saves: 0,
    slow: null as Promise<void> | null,
  };
  const held = new Map<string, string>();
  const save = async (revision: number, document: ClipDocument): Promise<Result<number>> => {
    if (server.slow) await server.slow;
    if (server.away || !server.laid) throw new Error('connection refused');
    server.saves++;
    if (revision !== server.laid.revision) return fail('stale', 'changed in another window');
    server.laid = { document, revision: revision + 1 };
    if (server.loseAnswer) {
      server.loseAnswer = false;
      throw new Error('connection reset');
    }
    return ok(revision + 1);
  };
  let time = 1000;
  const window = (first: Laid = server.laid ?? FIRST) => {
    const seen = { laid: first, said: [] as string[] };
    const keeper = new ClipKeeper('clip', first, {
      save,
      read: async () => {
        if (server.away) throw new Error('connection refused');
        return server.laid;
      },
      show: (laid) => {
        seen.laid = laid;
      },
      say: (words) => seen.said.push(words),
      now: () => time++,
      device: {
        getItem: (key) => held.get(key) ?? null,
        setItem: (key, value) => void held.set(key, value),
        removeItem: (key) => void held.delete(key),
      },
    });
    return {
      keeper,
      seen,
      refused: () => keeper.state.getState().refused.map((one) => one.document),
      waiting: () => keeper.state.getState().waiting,
    };
  };
  return { server, held, window };
}

describe('what is laid on a recording', () => {
  it('is shown at once and kept, one save at a time, only the newest of several', async () => {
    const { server, window, held } = world();
    const { keeper, seen } = window();
    let go = (): void => undefined;
    server.slow = new Promise((resolve) => {
      go = resolve;
    });
    const first = keeper.keep(doc(1));
    expect(seen.laid.document).toEqual(doc(1));
    void keeper.keep(doc(1, 2));
    void keeper.keep(doc(1, 2, 3));
    go();
    await first;
    expect(server.laid).toEqual({ document: doc(1, 2, 3), revision: 3 });
    expect(server.saves).toBe(2);
    expect(seen.laid).toEqual(server.laid);
    expect(held.size).toBe(0);
  });

  it('waits on the device while the server is away, and goes when it is back', async () => {
    const { server, window, held } = world();
    const one = window();
    server.away = true;
    await one.keeper.keep(doc(1));
    await one.keeper.keep(doc(1, 2));
    expect(one.waiting()).toBe(true);
    expect(held.size).toBe(1);
    server.away = false;
    await one.keeper.send();
    expect(one.waiting()).toBe(false);
    expect(server.laid?.document).toEqual(doc(1, 2));
    expect(held.size).toBe(0);
  });

  it('is taken up by the page that is opened next', async () => {
    const { server, window } = world();
    server.away = true;
    await window().keeper.keep(doc(4));
    server.away = false;
    const next = window();
    await next.keeper.resume();
    expect(server.laid?.document).toEqual(doc(4));
    expect(next.seen.laid).toEqual(server.laid);
  });

  it('that waited on an older revision is held to be decided about, not sent', async () => {
    const { server, window } = world();
    server.away = true;
    await window().keeper.keep(doc(4));
    server.away = false;
    server.laid = { document: doc(9), revision: 7 };
    const next = window();
    await next.keeper.resume();
    expect(server.laid).toEqual({ document: doc(9), revision: 7 });
    expect(next.refused()).toEqual([doc(4)]);
    await next.keeper.use();
    expect(server.laid?.document).toEqual(doc(4));
    expect(next.refused()).toEqual([doc(9)]);
  });

  it('gives way to another window, is held through a reload, and can be laid over it', async () => {
    const { window, server } = world();
    const one = window();
    const two = window();
    await one.keeper.keep(doc(1));
    await two.keeper.keep(doc(2));
    expect(two.seen.laid).toEqual({ document: doc(1), revision: 2 });
    expect(two.refused()).toEqual([doc(2)]);
    const reloaded = window();
    await reloaded.keeper.resume();
    expect(reloaded.refused()).toEqual([doc(2)]);
    await reloaded.keeper.use();
    expect(server.laid?.document).toEqual(doc(2));
    const gone = reloaded.keeper.drop();
    expect(gone?.document).toEqual(doc(1));
    expect(reloaded.refused()).toEqual([]);
    if (gone) reloaded.keeper.putBack(gone);
    expect(reloaded.refused()).toEqual([doc(1)]);
  });

  it('whose answer was lost is no quarrel: what stands there is what was sent', async () => {
    const { server, window } = world();
    const { keeper, refused, seen, waiting } = window();
    server.loseAnswer = true;
    await keeper.keep(doc(1));
    expect(waiting()).toBe(true);
    await keeper.keep(doc(1));
    expect(refused()).toEqual([]);
    expect(waiting()).toBe(false);
    expect(seen.laid).toEqual(server.laid);
    await keeper.keep(doc(1, 2));
    expect(server.laid?.document).toEqual(doc(1, 2));
  });

  it('goes on being laid while another window’s is read', async () => {
    const { server, window } = world();
    const { keeper, refused, seen } = window();
    server.laid = { document: doc(5), revision: 3 };
    await Promise.all([keeper.keep(doc(1)), keeper.keep(doc(1, 2))]);
    // All that was laid here is held together, not the first of it alone.
    expect(refused()).toEqual([doc(1, 2)]);
    expect(seen.laid).toEqual(server.laid);
  });

  it('is not lost with a recording that was taken away', async () => {
    const { server, window } = world();
    const { keeper, refused, seen } = window();
    server.laid = { document: doc(5), revision: 3 };
    const save = keeper.keep(doc(1));
    server.laid = null;
    await save;
    expect(refused()).toEqual([doc(1)]);
    expect(seen.said.join()).toMatch(/not here any more/);
  });

  it('is held five times at most, the newest, and does without a device that is full', async () => {
    const { server, window, held } = world();
    const one = window();
    for (let i = 0; i < 7; i++) {
      server.laid = { document: doc(100 + i), revision: 50 + i * 10 };
      await one.keeper.keep(doc(i));
    }
    expect(one.refused()).toEqual([2, 3, 4, 5, 6].map((i) => doc(i)));
    held.set = () => {
      throw new Error('quota');
    };
    server.away = true;
    await one.keeper.keep(doc(8));
    expect(one.waiting()).toBe(true);
    server.away = false;
    await one.keeper.send();
    expect(server.laid?.document).toEqual(doc(8));
  });

  it('is still there when the recording is looked at again, though the device could take nothing', async () => {
    const { server, window, held } = world();
    const { keeper, refused } = window();
    await keeper.resume();
    held.set = () => {
      throw new Error('quota');
    };
    server.laid = { document: doc(5), revision: 3 };
    await keeper.keep(doc(1));
    await keeper.resume();
    expect(refused()).toEqual([doc(1)]);
  });

  it('is not read over by a list that comes in while it is on its way', async () => {
    const { window, server } = world();
    const { keeper } = window();
    const before = { ...FIRST };
    const saving = keeper.keep(doc(1));
    expect(keeper.fresh(before).document).toEqual(doc(1));
    await saving;
    server.laid = { document: doc(3), revision: 9 };
    expect(keeper.fresh(server.laid)).toEqual(server.laid);
    await keeper.keep(doc(3, 4));
    expect(server.laid).toEqual({ document: doc(3, 4), revision: 10 });
  });

  it('falls back where the device holds something that is no such thing', async () => {
    const { window, held } = world();
    held.set('clip-waiting:clip', '{"revision":1}');
    held.set('clip-refused:clip', 'not even this');
    const { keeper, refused, seen } = window();
    await keeper.resume();
    expect(refused()).toEqual([]);
    expect(seen.laid).toEqual(FIRST);
  });
});
