import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { must } from '@/core/base';
import { makeSetup } from '@/core/instrument';
import { frequency } from '@/core/pitch';
import { targetsOf, type Shown } from '@/core/tuner';

/** The session with the real ear behind its door, and neither thread nor loudspeaker. */
const opened = vi.hoisted(() => ({ door: null as unknown as Record<string, (...args: unknown[]) => unknown> }));
vi.mock('comlink', () => ({
  expose: (door: typeof opened.door) => (opened.door = door),
  transfer: <T>(value: T): T => value,
  wrap: () =>
    Object.fromEntries(
      Object.entries(opened.door).map(([name, does]) => [name, (...args: unknown[]) => Promise.resolve(does(...args))]),
    ),
}));

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const targets = targetsOf(setup, false, 440);

class SilentContext {
  static readonly opened: SilentContext[] = [];
  readonly destination = {};
  started = 0;
  closed = false;
  constructor() {
    SilentContext.opened.push(this);
  }
  resume = (): Promise<void> => Promise.resolve();
  close = (): Promise<void> => Promise.resolve(void (this.closed = true));
  createBuffer = (_channels: number, length: number) => ({ getChannelData: () => new Float32Array(length) });
  createGain = () => ({ gain: { value: 1 }, connect: () => ({}) });
  createBufferSource = () => ({
    buffer: null,
    connect: (to: object) => Object.assign(to, { connect: () => ({}) }),
    start: () => void this.started++,
    stop: () => undefined,
  });
}

beforeEach(() => {
  vi.useFakeTimers();
  SilentContext.opened.length = 0;
  vi.stubGlobal('AudioContext', SilentContext);
  vi.stubGlobal(
    'Worker',
    class {
      terminate = (): void => undefined;
    },
  );
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

async function begun() {
  await import('@/workers/tuner.worker');
  const { TunerSession } = await import('./tuner-session');
  const shown: (Shown | null)[] = [];
  const session = new TunerSession((one) => shown.push(one));
  session.aim(targets);
  return { session, shown, last: () => shown.findLast((one) => one !== null) ?? null };
}

describe('a tuner at work', () => {
  it('hears the simulated instrument as fast as it sounds, and tells the string and the cents', async () => {
    const { session, shown, last } = await begun();
    await session.simulate();
    await session.strike(frequency(50) * 2 ** (11 / 1200), false);
    await vi.advanceTimersByTimeAsync(20);
    expect(shown).toEqual([]);
    await vi.advanceTimersByTimeAsync(2600);
    expect(last()?.string).toBe(4);
    expect(last()?.cents ?? 0).toBeCloseTo(11, 0);
    session.end();
  });

  it('measures against one string where that is asked for', async () => {
    const { session, last } = await begun();
    session.fix(6);
    await session.simulate();
    await session.strike(frequency(42), false);
    await vi.advanceTimersByTimeAsync(2600);
    expect(last()).toMatchObject({ string: 6, verdict: 'sharp' });
    session.end();
  });

  it('strikes nothing before there is an instrument, and shows nothing after it was put away', async () => {
    const { session, shown } = await begun();
    await session.strike(frequency(50), false);
    await vi.advanceTimersByTimeAsync(500);
    expect(shown).toEqual([]);
    await session.simulate();
    await session.strike(frequency(50), false);
    await vi.advanceTimersByTimeAsync(300);
    session.stop();
    const then = shown.length;
    expect(shown.at(-1)).toBeNull();
    await vi.advanceTimersByTimeAsync(3000);
    expect(shown).toHaveLength(then);
    session.end();
  });

  it('sounds a reference aloud, and ends what it opened', async () => {
    const { session } = await begun();
    await session.tone(440);
    await session.simulate();
    await session.strike(frequency(50), true);
    const [context] = SilentContext.opened;
    expect([SilentContext.opened.length, context?.started]).toEqual([1, 2]);
    session.end();
    expect(context?.closed).toBe(true);
  });
});

describe('what keeps a microphone from being heard', () => {
  it('is told with its mend', async () => {
    const { microphoneFault } = await import('./tuner-session');
    const words = ['NotAllowedError', 'NotFoundError', 'NotReadableError'].map((name) =>
      microphoneFault(new DOMException('no', name)),
    );
    expect(new Set(words).size).toBe(3);
    for (const one of words) expect(one).toMatch(/\. .+\./);
    expect(microphoneFault(new Error('unplugged'))).toContain('unplugged');
    expect(microphoneFault('strange')).toContain('strange');
  });
});
