import { gzipSync } from 'node:zlib';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { askJson } from './use-asked';

const asked = (answer: Response | Error) => {
  vi.stubGlobal('fetch', () => (answer instanceof Error ? Promise.reject(answer) : Promise.resolve(answer)));
  return askJson<{ readonly title: string }>('/api/x', 'It is gone.', new AbortController().signal);
};
afterEach(() => vi.unstubAllGlobals());

describe('what a page asks for', () => {
  it('comes as it is or packed', async () => {
    const moth = { title: 'Moth' };
    expect(await asked(Response.json(moth))).toEqual({ ok: true, value: moth });
    const packed = new Response(new Uint8Array(gzipSync(JSON.stringify(moth))), {
      headers: { 'content-type': 'application/gzip' },
    });
    expect(await asked(packed)).toEqual({ ok: true, value: moth });
  });

  it('that is gone is said once; a stumble or silence is asked again', async () => {
    expect(await asked(new Response('', { status: 404 }))).toEqual({ ok: false, words: 'It is gone.', later: false });
    expect(await asked(new Response('', { status: 503 }))).toMatchObject({ ok: false, later: true });
    const silence = await asked(new TypeError('broken off'));
    expect(silence).toMatchObject({ ok: false, later: true });
    expect(silence.ok ? '' : silence.words).toContain('No answer from the server');
  });

  it('that comes cut off or is none of ours is asked again', async () => {
    const cut = gzipSync(JSON.stringify({ title: 'x'.repeat(400) })).subarray(0, 30);
    const answer = new Response(new Uint8Array(cut), { headers: { 'content-type': 'application/gzip' } });
    expect(await asked(answer)).toMatchObject({ ok: false, later: true });
    expect(await asked(new Response('<html>'))).toMatchObject({ ok: false, later: true });
  });
});
