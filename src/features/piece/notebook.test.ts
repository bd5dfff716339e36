import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { setTitle } from '@/core/command';
import type { Step } from '@/core/edit';
import { SCHEMA_VERSION } from '@/core/score';
import type { Note } from './device';
import { Notebook, type Unsent } from './notebook';

const stepOf = (name: string): Step => ({
  version: SCHEMA_VERSION,
  kind: 'do',
  edit: setTitle(name),
  inverse: setTitle('before'),
  what: name,
});
const standing = (first: number, ...names: readonly string[]): Unsent => ({
  base: 3,
  sending: null,
  first,
  steps: names.map(stepOf),
});

/** A device that writes when it is let, and can be full. */
class SlowDevice {
  readonly notes: Note[] = [];
  full = false;
  private go: (() => void)[] = [];

  readonly note = async (note: Note): Promise<void> => {
    await new Promise<void>((resolve) => this.go.push(resolve));
    if (this.full) throw new Error('no room');
    this.notes.push(note);
  };

  /** Lets the write that is under way be done. */
  async let(): Promise<void> {
    this.go.shift()?.();
    await vi.advanceTimersByTimeAsync(0);
  }
}

describe('the notebook of what is unsent', () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  it('writes each step once, and what comes meanwhile with the next write', async () => {
    const device = new SlowDevice();
    const kept: boolean[] = [];
    const notebook = new Notebook(device, standing(0), (now) => kept.push(now));
    void notebook.keep(standing(0, 'a'));
    void notebook.keep(standing(0, 'a', 'b'));
    void notebook.keep(standing(0, 'a', 'b', 'c'));
    await device.let();
    expect(device.notes.map((note) => note.steps.map((step) => step.what))).toEqual([['a']]);
    // Not before all of it is there.
    expect(kept).toEqual([]);
    await device.let();
    expect(device.notes.map((note) => [note.from, note.steps.map((step) => step.what)])).toEqual([
      [0, ['a']],
      [1, ['b', 'c']],
    ]);
    expect(kept).toEqual([true]);
  });

  it('forgets what was taken, and says when nothing is owed', async () => {
    const device = new SlowDevice();
    const notebook = new Notebook(device, standing(0), () => undefined);
    void notebook.keep(standing(0, 'a', 'b'));
    await device.let();
    void notebook.keep(standing(1, 'b'));
    await device.let();
    void notebook.keep(standing(2));
    await device.let();
    expect(device.notes.map(({ done, owes, steps }) => [done, owes, steps.length])).toEqual([
      [0, true, 2],
      [1, true, 0],
      [2, false, 0],
    ]);
  });

  it('says that it is not kept where there is no room, tries again, and writes all that was missed', async () => {
    const device = new SlowDevice();
    const kept: boolean[] = [];
    const notebook = new Notebook(device, standing(0), (now) => kept.push(now));
    device.full = true;
    void notebook.keep(standing(0, 'a'));
    await device.let();
    void notebook.keep(standing(0, 'a', 'b'));
    await device.let();
    expect(kept).toEqual([false, false]);
    device.full = false;
    await vi.advanceTimersByTimeAsync(3000);
    await device.let();
    expect(device.notes.map((note) => note.steps.map((step) => step.what))).toEqual([['a', 'b']]);
    expect(kept.at(-1)).toBe(true);
  });

  it('without a device keeps nothing and says so', () => {
    const kept: boolean[] = [];
    const notebook = new Notebook(null, standing(0), (now) => kept.push(now));
    void notebook.keep(standing(0, 'a'));
    void notebook.keep(standing(1));
    expect(kept).toEqual([false, true]);
  });

  it('writes nothing more when its page is closed', async () => {
    const device = new SlowDevice();
    const notebook = new Notebook(device, standing(0), () => undefined);
    void notebook.keep(standing(0, 'a'));
    void notebook.keep(standing(0, 'a', 'b'));
    notebook.close();
    await device.let();
    await device.let();
    expect(device.notes).toHaveLength(1);
  });
});
