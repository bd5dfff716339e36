import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { writeWav } from '@/core/formats/wav';
import { CLIP_LIMITS, emptyClip } from '@/core/hearing';
import type { ClipEntry } from '@/server/repositories/clips';
import { fileFault, nameOf, sendClip } from './upload';

/** A server that takes chunks in turn, as the real one does, on a line that can be cut. */
class Line {
  readonly chunks: Uint8Array[] = [];
  begun = 0;
  /** Requests that are still to fail on the way there, or after the chunk was taken. */
  lost = 0;
  swallowed = 0;
  requests = 0;

  readonly fetch = async (url: string, init: RequestInit): Promise<Response> => {
    this.requests++;
    if (init.signal?.aborted) throw new DOMException('aborted', 'AbortError');
    if (this.lost > 0) {
      this.lost--;
      throw new TypeError('network');
    }
    if (url === '/api/clips') {
      this.begun++;
      return Response.json({ id: 'clip' });
    }
    const number = Number(/chunks\/(\d+)$/.exec(url)?.[1]);
    if (number > this.chunks.length)
      return Response.json(
        { error: { code: 'out-of-turn', message: 'too early', at: String(this.chunks.length) } },
        { status: 409 },
      );
    if (number === this.chunks.length) this.chunks.push(new Uint8Array(await new Response(init.body).arrayBuffer()));
    if (this.swallowed > 0) {
      this.swallowed--;
      throw new TypeError('network');
    }
    return Response.json({ next: this.chunks.length });
  };
}

const sound = writeWav({
  rate: 44_100,
  channels: [Float32Array.from({ length: 1_300_000 }, (_, i) => Math.sin(i / 20))],
});
const file = (bytes: Uint8Array = sound, name = 'Cellar take.wav'): File =>
  new File([bytes as Uint8Array<ArrayBuffer>], name);
const half = (some: Partial<ClipEntry>): ClipEntry =>
  ({
    id: 'clip',
    state: 'arriving',
    bytes: sound.length,
    chunks: 0,
    document: emptyClip('Cellar take'),
    ...some,
  }) as ClipEntry;
let line: Line;

beforeEach(() => {
  line = new Line();
  vi.stubGlobal('fetch', line.fetch);
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

/** Sends, with waits between tries gone by at once. */
async function sent(
  what: File,
  unfinished: readonly ClipEntry[] = [],
  signal = new AbortController().signal,
  shares: number[] = [],
) {
  const sending = sendClip('piece', what, unfinished, signal, (s) => shares.push(s));
  let done = false;
  void sending.finally(() => (done = true)).catch(() => undefined);
  while (!done) await vi.advanceTimersByTimeAsync(500);
  return sending;
}
const whole = (): Uint8Array => Uint8Array.from(line.chunks.flatMap((bytes) => [...bytes]));

describe('sending a recording', () => {
  it('goes in chunks of a megabyte, byte for byte, and says how far it is', async () => {
    const shares: number[] = [];
    expect(await sent(file(), [], undefined, shares)).toEqual({ ok: true, value: 'clip' });
    expect(line.chunks.map((bytes) => bytes.length)).toEqual([
      CLIP_LIMITS.chunk,
      CLIP_LIMITS.chunk,
      sound.length - 2 * CLIP_LIMITS.chunk,
    ]);
    expect(Buffer.from(whole()).equals(Buffer.from(sound))).toBe(true);
    expect(shares).toEqual([1 / 3, 2 / 3, 1]);
  });

  it('goes on through a line that breaks, before and after a chunk was taken', async () => {
    line.swallowed = 2;
    const sending = sent(file());
    expect((await sending).ok).toBe(true);
    expect(Buffer.from(whole()).equals(Buffer.from(sound))).toBe(true);
    expect(line.requests).toBe(6);
  });

  it('goes on with one that stayed half sent, by its name and size', async () => {
    line.chunks.push(sound.slice(0, CLIP_LIMITS.chunk));
    expect((await sent(file(), [half({ chunks: 1 })])).ok).toBe(true);
    expect(line.begun).toBe(0);
    expect(line.chunks.length).toBe(3);
    // Another recording of that name begins anew.
    await sent(file(), [half({ chunks: 1, bytes: 5 })]);
    expect(line.begun).toBe(1);
  });

  it('asks where to go on when the server is elsewhere than it thought', async () => {
    expect((await sent(file(), [half({ chunks: 2 })])).ok).toBe(true);
    expect(Buffer.from(whole()).equals(Buffer.from(sound))).toBe(true);
  });

  it('rests when the line stays away, and says what is kept; stops when told to', async () => {
    line.chunks.push(sound.slice(0, CLIP_LIMITS.chunk));
    line.lost = 100;
    const gone = await sent(file(), [half({ chunks: 1 })]);
    expect(gone).toMatchObject({
      ok: false,
      error: { rule: 'no-answer', words: expect.stringContaining('33 % is kept') },
    });
    const stopping = new AbortController();
    line.lost = 0;
    stopping.abort();
    expect(await sent(file(), [half({ chunks: 1 })], stopping.signal)).toMatchObject({
      ok: false,
      error: { rule: 'stopped' },
    });
  });

  it('refuses what is empty or no sound before anything is sent', async () => {
    expect(await sent(file(new Uint8Array(0)))).toMatchObject({ ok: false, error: { rule: 'empty' } });
    expect(await sent(file(new TextEncoder().encode('Dear Theatre, no sound.')))).toMatchObject({
      ok: false,
      error: { rule: 'not-sound' },
    });
    expect(await fileFault({ name: 'opera.wav', size: 300 * 1048576 } as File)).toMatchObject({
      rule: 'too-large',
      locus: { path: ['opera.wav'] },
      words: expect.stringContaining('300 MB'),
    });
    expect(line.requests).toBe(0);
  });

  it('is named after its file', () => {
    expect(nameOf(file(sound, 'Act two.take 3.flac'))).toBe('Act two.take 3');
    expect(nameOf(file(sound, '.wav'))).toBe('Clip');
  });
});
