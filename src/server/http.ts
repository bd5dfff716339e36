import { locusWords, type Finding } from '@/core/base';

/** What stood in the way as the JSON routes answer it: the rule, the reason, and the place where there is one. */
export function refusal({ rule, words, locus }: Finding, status: number): Response {
  const at = locusWords(locus);
  return Response.json({ error: { code: rule, message: words, ...(at ? { at } : {}) } }, { status });
}

/**
 * The body of a request, at most `most` bytes; null where there is more, told while reading: a body need not say its
 * length, and may say a wrong one.
 */
export async function readBody(request: Request, most: number): Promise<Uint8Array<ArrayBuffer> | null> {
  if (Number(request.headers.get('content-length') ?? 0) > most) return null;
  const chunks: Uint8Array[] = [];
  let length = 0;
  const reader = request.body?.getReader();
  while (reader) {
    const { done, value } = await reader.read();
    if (done) break;
    length += value.length;
    if (length > most) {
      await reader.cancel();
      return null;
    }
    chunks.push(value);
  }
  const bytes = new Uint8Array(length);
  let at = 0;
  for (const chunk of chunks) {
    bytes.set(chunk, at);
    at += chunk.length;
  }
  return bytes;
}

const MOST_JSON = 64 * 1024;

/** A small JSON body; null where it is no JSON, or more than any route of ours takes. */
export async function readJson(request: Request): Promise<unknown> {
  const bytes = await readBody(request, MOST_JSON);
  try {
    return bytes && (JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes)) as unknown);
  } catch {
    return null;
  }
}

/**
 * A file to be saved under a name. Never shown in place and never kept by anyone between: it may hold anything, and is
 * the studio's own.
 */
export function attachment(name: string, type: string, body: Uint8Array | ReadableStream<Uint8Array>): Response {
  const plain = name.replace(/[^\x20-\x7e]|["\\]/g, '_');
  return new Response(body instanceof Uint8Array ? Buffer.from(body) : body, {
    headers: {
      'content-type': type,
      'content-disposition': `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(name)}`,
      'x-content-type-options': 'nosniff',
      'cache-control': 'private, no-store',
    },
  });
}

/** Chunks as they are made, as the body of an answer: the next is made when the line has room for it. */
export function streamOf(chunks: AsyncGenerator<Uint8Array>): ReadableStream<Uint8Array> {
  return new ReadableStream({
    async pull(controller) {
      const { done, value } = await chunks.next();
      if (done) controller.close();
      else controller.enqueue(value);
    },
    async cancel() {
      await chunks.return(undefined);
    },
  });
}
