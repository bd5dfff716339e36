import type { ClipId } from '@/server/ids';
import { z } from 'zod';
import { fail, ok, type Result, type Finding, finding } from '@/core/base';
import { CLIP_LIMITS, clipKind } from '@/core/hearing';
import type { ClipEntry } from '@/server/repositories/clips';

const answer = z.object({
  id: z.string().optional(),
  next: z.number().optional(),
  error: z.object({ code: z.string(), message: z.string(), at: z.string().optional() }).optional(),
});

/** So many times a chunk is sent again before the upload rests, each time after a longer wait. */
const TRIES = 6;
const rest = (ms: number, signal: AbortSignal): Promise<void> =>
  new Promise((resolve) => {
    const one = setTimeout(resolve, ms);
    signal.addEventListener(
      'abort',
      () => {
        clearTimeout(one);
        resolve();
      },
      { once: true },
    );
  });

const stopped = (): { readonly ok: false; readonly error: Finding } =>
  fail('stopped', 'Stopped. Drop the same file again to go on from there.', 'file');

async function asked(url: string, init: RequestInit): Promise<Result<z.infer<typeof answer>>> {
  const response = await fetch(url, init);
  const reply = answer.safeParse(await response.json().catch(() => ({})));
  if (reply.success && reply.data.error)
    return fail(reply.data.error.code, reply.data.error.message, reply.data.error.at);
  return reply.success && response.ok ? ok(reply.data) : fail('no-answer', `The server answered ${response.status}.`);
}

/** What is wrong with a file, as far as its size and first bytes tell: asked before anything of it is read. */
export async function fileFault(file: File): Promise<Finding | null> {
  const phrase = (rule: string, words: string): Finding => finding(rule, 'error', words, { path: [file.name] });
  if (file.size === 0) return phrase('empty', 'The file is empty. Save the recording again.');
  if (file.size > CLIP_LIMITS.bytes)
    return phrase(
      'too-large',
      `The file has ${Math.round(file.size / 1048576)} MB; ${CLIP_LIMITS.bytes / 1048576} MB at most. Cut out the part you work on, or save it as FLAC.`,
    );
  if (!clipKind(new Uint8Array(await file.slice(0, 16).arrayBuffer())))
    return phrase(
      'not-sound',
      `“${file.name}” is no WAV, FLAC, MP3, Ogg or M4A, whatever its name says. Save the recording as one of these.`,
    );
  return null;
}

/**
 * Sends a recording in chunks. A chunk that does not get through is sent again; a recording that
 * stayed half sent (`unfinished`) is gone on with where it stopped. Gives the clip's id.
 */
export async function sendClip(
  piece: string,
  file: File,
  unfinished: readonly ClipEntry[],
  signal: AbortSignal,
  onShare: (share: number) => void,
): Promise<Result<ClipId>> {
  const fault = await fileFault(file);
  if (fault) return { ok: false, error: fault };
  const half = unfinished.find(
    (clip) => clip.state === 'arriving' && clip.bytes === file.size && clip.document.name === nameOf(file),
  );
  let id = half?.id ?? null;
  let next = half?.chunks ?? 0;
  if (id === null) {
    const begun = await asked('/api/clips', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ piece, name: nameOf(file), bytes: file.size }),
      signal,
    }).catch(() => fail('no-answer', 'No answer from the server. Try again when it is back.'));
    if (!begun.ok) return begun;
    id = (begun.value.id ?? '') as ClipId;
  }
  const count = Math.ceil(file.size / CLIP_LIMITS.chunk);
  for (let tries = 0; next < count;) {
    if (signal.aborted) return stopped();
    const body = file.slice(next * CLIP_LIMITS.chunk, Math.min(file.size, (next + 1) * CLIP_LIMITS.chunk));
    try {
      const put = await asked(`/api/clips/${id}/chunks/${next}`, { method: 'PUT', body, signal });
      if (put.ok) {
        next = put.value.next ?? next + 1;
        tries = 0;
        onShare(next / count);
        continue;
      }
      if (put.error.rule === 'out-of-turn') next = Number(put.error.locus.path?.[0] ?? 0);
      else if (put.error.rule !== 'no-answer') return put;
    } catch {
      // The connection dropped; what is there stays there.
    }
    if (signal.aborted) return stopped();
    if (++tries >= TRIES)
      return fail(
        'no-answer',
        `The connection is gone; ${Math.round((100 * next) / count)} % is kept. Drop the same file again to go on from there.`,
        file.name,
      );
    await rest(400 * 2 ** tries, signal);
  }
  return ok(id);
}

export const nameOf = (file: File): string =>
  file.name
    .replace(/\.[a-z0-9]{1,5}$/i, '')
    .trim()
    .slice(0, 120) || 'Clip';
