import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Deck, RATE, type Passage } from './deck';

/** What of the audio interface the deck uses, on a clock the test moves. */
class FakeContext {
  static last: FakeContext;
  currentTime = 0;
  readonly destination = {};
  readonly started: { readonly at: number; readonly samples: Float32Array; stopped: number | null; end: () => void }[] =
    [];
  readonly gains: { gain: { value: number } }[] = [];
  closed = false;

  constructor() {
    FakeContext.last = this;
  }
  private param(): { value: number; setTargetAtTime: (v: number) => void } {
    const param = {
      value: 1,
      setTargetAtTime: (v: number) => {
        param.value = v;
      },
    };
    return param;
  }
  private node<T extends object>(own: T): T & { connect: (to: object) => object; disconnect: () => void } {
    return { ...own, connect: (to: object) => to, disconnect: () => undefined };
  }
  createGain = () => {
    const node = this.node({ gain: this.param() });
    this.gains.push(node);
    return node;
  };
  createStereoPanner = () => this.node({ pan: this.param() });
  createAnalyser = () => this.node({ fftSize: 0, getFloatTimeDomainData: (out: Float32Array) => out.fill(0.1) });
  createBuffer = (channels: number, frames: number) => {
    const data = Array.from({ length: channels }, () => new Float32Array(frames));
    return { data, copyToChannel: (samples: Float32Array, c: number) => data[c]?.set(samples) };
  };
  createBufferSource = () => {
    const node = this.node({
      buffer: null as { data: Float32Array[] } | null,
      onended: null as (() => void) | null,
      start: (at = 0) => {
        entry.at = at;
        entry.samples = node.buffer?.data[0] ?? entry.samples;
        this.started.push(entry);
      },
      stop: (at: number) => {
        entry.stopped = at;
      },
    });
    const entry = {
      at: 0,
      samples: new Float32Array(0) as Float32Array,
      stopped: null as number | null,
      end: () => node.onended?.(),
    };
    return node;
  };
  resume = async (): Promise<void> => undefined;
  close = async (): Promise<void> => {
    this.closed = true;
  };
}

const spec: boolean[] = [];
const faults: unknown[] = [];
let deck: Deck<number>;
/** Passages of a length in seconds, marked by their number. */
const passages = (count: number, seconds: number, value = 0.5) => {
  let n = 0;
  return async (): Promise<Passage<number> | null> =>
    n < count ? { voices: [[new Float32Array(Math.round(seconds * RATE)).fill(value)]], mark: n++ } : null;
};
const turn = async (ms = 130): Promise<void> => {
  await vi.advanceTimersByTimeAsync(ms);
};

beforeEach(() => {
  vi.stubGlobal('AudioContext', FakeContext);
  vi.useFakeTimers();
  spec.length = faults.length = 0;
  deck = new Deck(
    (playing) => spec.push(playing),
    (reason) => faults.push(reason),
  );
});
afterEach(() => {
  deck.close();
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe('the deck', () => {
  it('lays passages end to end to the sample, no further ahead than it must', async () => {
    await deck.start(passages(100, 0.7));
    await turn();
    const { started } = FakeContext.last;
    expect(started.length).toBe(4);
    started.forEach((one, i) => {
      if (i > 0) expect(Math.round((one.at - (started[i - 1]?.at ?? 0)) * RATE)).toBe(Math.round(0.7 * RATE));
    });
    FakeContext.last.currentTime = 2;
    await turn();
    expect(started.length).toBe(7);
    expect(spec).toEqual([true]);
  });

  it('says what sounds now, and ends after the last', async () => {
    await deck.start(passages(3, 0.5));
    await turn();
    const begin = FakeContext.last.started[0]?.at ?? 0;
    expect(deck.now()).toMatchObject({ mark: 0, seconds: 0 });
    FakeContext.last.currentTime = begin + 0.75;
    expect(deck.now()?.mark).toBe(1);
    expect(deck.now()?.seconds).toBeCloseTo(0.25, 6);
    expect(deck.level()).toBeCloseTo(-20, 1);
    FakeContext.last.currentTime = begin + 1.6;
    await turn();
    await turn();
    expect(spec).toEqual([true, false]);
    expect(deck.now()).toBeNull();
    expect(deck.level()).toBeNull();
  });

  it('keeps what sounds until the next start has its first passage, and drops answers that come too late', async () => {
    await deck.start(passages(9, 1));
    const before = FakeContext.last.started.length;
    let give: (one: Passage<number> | null) => void = () => undefined;
    const slow = deck.start(() => new Promise((resolve) => (give = resolve)));
    await turn();
    expect(FakeContext.last.started.slice(0, before).every((one) => one.stopped === null)).toBe(true);
    const quick = deck.start(passages(9, 1, 0.25));
    await quick;
    expect(FakeContext.last.started.slice(0, before).every((one) => one.stopped !== null)).toBe(true);
    give({ voices: [[new Float32Array(100)]], mark: 77 });
    await slow;
    await turn();
    expect(deck.now()?.mark).not.toBe(77);
  });

  it('goes on from now where its source could not keep up', async () => {
    let give: (one: Passage<number> | null) => void = () => undefined;
    let n = 0;
    await deck.start(() =>
      n++ === 0
        ? Promise.resolve({ voices: [[new Float32Array(0.3 * RATE)]], mark: 0 })
        : new Promise((resolve) => (give = resolve)),
    );
    FakeContext.last.currentTime = 5;
    give({ voices: [[new Float32Array(RATE)]], mark: 1 });
    await turn();
    expect(FakeContext.last.started[1]?.at).toBeGreaterThanOrEqual(5);
  });

  it('tells a fault of its source: of the first passage to who starts, of a later one by itself', async () => {
    await expect(deck.start(() => Promise.reject(new Error('nothing there')))).rejects.toThrow('nothing there');
    let n = 0;
    await deck.start(() =>
      n++ === 0
        ? Promise.resolve({ voices: [[new Float32Array(1000)]], mark: 0 })
        : Promise.reject(new Error('broke off')),
    );
    await turn();
    expect(faults).toMatchObject([{ message: 'broke off' }]);
    expect(spec.at(-1)).toBe(false);
  });

  it('changes the balance of voices without a new start', async () => {
    deck.setBalance([{ level: 0.5, pan: 0 }]);
    await deck.start(passages(9, 1));
    await turn();
    const count = FakeContext.last.started.length;
    const voice = FakeContext.last.gains.at(-1);
    expect(voice?.gain.value).toBe(0.5);
    deck.setBalance([{ level: 0, pan: 0 }]);
    expect(voice?.gain.value).toBe(0);
    expect(FakeContext.last.started.length).toBe(count);
    deck.stop();
    expect(spec.at(-1)).toBe(false);
  });

  it('is silent where there is nothing at all', async () => {
    await deck.start(async () => null);
    expect(spec).toEqual([false]);
  });
});
