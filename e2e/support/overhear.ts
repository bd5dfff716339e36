import { expect, type Page } from '@playwright/test';

/** What a page really sounds: what it hands to the loudspeaker, and each buffer it starts, with when. */
interface Overheard {
  readonly sides: readonly Float32Array[][];
  readonly started: { readonly when: number; readonly samples: Float32Array; readonly rate: number }[];
}
type Global = { overheard: Overheard };

/** Listens to a page from its next load on. */
export async function overhear(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const overheard: Overheard = { sides: [[], []], started: [] };
    (globalThis as unknown as Global).overheard = overheard;
    const connect = AudioNode.prototype.connect as (this: AudioNode, ...args: unknown[]) => AudioNode;
    AudioNode.prototype.connect = function (this: AudioNode, ...args: unknown[]) {
      const [target] = args;
      if (target instanceof AudioDestinationNode && target.context instanceof AudioContext) {
        const { context } = target;
        void context.audioWorklet.addModule('/worklets/capture.js').then(() => {
          const split = context.createChannelSplitter(2);
          connect.call(this, split);
          overheard.sides.forEach((blocks, index) => {
            const node = new AudioWorkletNode(context, 'capture', { numberOfOutputs: 0 });
            node.port.onmessage = (event: MessageEvent<Float32Array>) => (blocks as Float32Array[]).push(event.data);
            connect.call(split, node, index);
          });
        });
      }
      return connect.apply(this, args);
    } as typeof AudioNode.prototype.connect;
    const start = AudioBufferSourceNode.prototype.start;
    AudioBufferSourceNode.prototype.start = function (
      this: AudioBufferSourceNode,
      ...args: [number?, number?, number?]
    ) {
      if (this.buffer)
        overheard.started.push({
          when: args[0] ?? 0,
          samples: this.buffer.getChannelData(0).slice(),
          rate: this.buffer.sampleRate,
        });
      start.apply(this, args);
    };
  });
}

/** How many samples the loudspeaker was handed so far. */
export const handed = (page: Page): Promise<number> =>
  page.evaluate(() => ((globalThis as unknown as Global).overheard.sides[0] ?? []).length * 1024);
/** How many buffers were started so far. */
export const started = (page: Page): Promise<number> =>
  page.evaluate(() => (globalThis as unknown as Global).overheard.started.length);

const samplesOf = (text: string): Float32Array => {
  const bytes = Buffer.from(text, 'base64');
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
};

/** What the loudspeaker is handed from now on, left and right, for so many seconds. */
export async function loudspeaker(page: Page, seconds: number, rate = 44_100): Promise<readonly Float32Array[]> {
  const from = await handed(page);
  await expect.poll(() => handed(page), { timeout: 1000 * seconds + 20_000 }).toBeGreaterThan(from + seconds * rate);
  const texts = await page.evaluate(
    ([first, count]) => {
      const text = (blocks: readonly Float32Array[]): string => {
        let out = '';
        for (const block of blocks) out += String.fromCharCode(...new Uint8Array(block.buffer));
        return btoa(out);
      };
      return (globalThis as unknown as Global).overheard.sides.map((blocks) =>
        text(blocks.slice(first, first + count)),
      );
    },
    [Math.floor(from / 1024), Math.ceil((seconds * rate) / 1024)] as const,
  );
  return texts.map(samplesOf);
}

/**
 * The buffers started from number `from` on, laid end to end as they were started, once they last so long; the first
 * voice where several start together.
 */
export async function laid(
  page: Page,
  from: number,
  seconds: number,
): Promise<{ readonly samples: Float32Array; readonly rate: number }> {
  const length = (): Promise<number> =>
    page.evaluate((first) => {
      const list = (globalThis as unknown as Global).overheard.started
        .slice(first)
        .filter((one, i, all) => i === 0 || one.when > (all[i - 1]?.when ?? 0));
      return list.reduce((n, one) => n + one.samples.length / one.rate, 0);
    }, from);
  await expect.poll(length, { timeout: 1000 * seconds + 30_000 }).toBeGreaterThanOrEqual(seconds);
  const { text, rate } = await page.evaluate((first) => {
    const list = (globalThis as unknown as Global).overheard.started
      .slice(first)
      .filter((one, i, all) => i === 0 || one.when > (all[i - 1]?.when ?? 0));
    let out = '';
    for (const { samples } of list) {
      const bytes = new Uint8Array(samples.buffer);
      for (let i = 0; i < bytes.length; i += 32_768) out += String.fromCharCode(...bytes.subarray(i, i + 32_768));
    }
    return { text: btoa(out), rate: list[0]?.rate ?? 44_100 };
  }, from);
  return { samples: samplesOf(text), rate };
}
