import { describe, expect, it } from 'vitest';
import { finding } from '@/core/base';
import { readBody, readJson, refusal } from './http';
import { clipId, pieceId, readId } from './ids';
import { RecentDocuments } from './recent-documents';
import { makePiece } from '@/core/score';
import type { PieceId } from './ids';

const post = (body: BodyInit, headers: Record<string, string> = {}): Request =>
  new Request('http://x/', { method: 'POST', body, headers, duplex: 'half' } as RequestInit);
const stream = (chunks: readonly Uint8Array[]) =>
  new ReadableStream<Uint8Array>({
    start(controller) {
      chunks.forEach((chunk) => controller.enqueue(chunk));
      controller.close();
    },
  });

describe('the body of a request', () => {
  it('is read whole, however it comes in', async () => {
    const bytes = await readBody(post(stream([new Uint8Array([1, 2]), new Uint8Array([3]), new Uint8Array(0)])), 3);
    expect([...(bytes ?? [])]).toEqual([1, 2, 3]);
    expect(await readBody(new Request('http://x/'), 3)).toHaveLength(0);
  });

  it('is refused when it is too long, whatever length it says or keeps to itself', async () => {
    expect(await readBody(post(stream([new Uint8Array(2), new Uint8Array(2)])), 3)).toBeNull();
    expect(await readBody(post(new Uint8Array(4)), 3)).toBeNull();
    expect(await readBody(post(new Uint8Array(2), { 'content-length': '999' }), 3)).toBeNull();
  });

  it('as JSON is a value, or null for anything else', async () => {
    expect(await readJson(post('{"a":[1]}'))).toEqual({ a: [1] });
    for (const wrong of ['', '{', 'undefined', new Uint8Array([0xff, 0xfe, 0x22])])
      expect(await readJson(post(wrong))).toBeNull();
    expect(await readJson(post(JSON.stringify('x'.repeat(70_000))))).toBeNull();
  });

  it('a refusal names rule, reason and place', async () => {
    const answer = refusal(finding('bad-chunk', 'error', 'Send it again.', { path: ['3'] }), 422);
    expect(answer.status).toBe(422);
    expect(await answer.json()).toEqual({ error: { code: 'bad-chunk', message: 'Send it again.', at: '3' } });
  });
});

describe('ids from outside', () => {
  it('are of our signs, or are none', () => {
    expect(readId(pieceId, 'a1b2c3')).toBe('a1b2c3');
    for (const wrong of ['', 'a b', '../etc', 'x\u0000', 'ü', 'x'.repeat(65), "';--"])
      expect(readId(clipId, wrong)).toBeNull();
  });
});

describe('documents written last', () => {
  const [one, two, three] = ['one', 'two', 'three'].map((id) => makePiece(id, id));
  it('are known by their revision, the latest of so many pieces', () => {
    if (!one || !two || !three) throw new Error('three pieces');
    const recent = new RecentDocuments(2);
    recent.keep('one' as PieceId, 4, one);
    expect([recent.at('one' as PieceId, 4), recent.at('one' as PieceId, 5)]).toEqual([one, null]);
    recent.keep('two' as PieceId, 0, two);
    recent.keep('one' as PieceId, 5, one);
    recent.keep('three' as PieceId, 0, three);
    expect(recent.at('two' as PieceId, 0)).toBeNull();
    expect([recent.at('one' as PieceId, 5), recent.at('three' as PieceId, 0)]).toEqual([one, three]);
  });
});
