import type { SaveAnswer } from '@/server/pieces';
import type { SaveInput } from '@/server/saving';
import { NewVersion } from './outbox';

/** What a browser still sends of a page that is closed, in characters; it takes 64 KB of all that is under way. */
const LAST_WORDS = 30_000;

/**
 * Sends steps to be saved. Silence, and a server that stumbles, are thrown: it is tried again. A server of another
 * version is told apart, and what it can't read at all is answered as refused, with its words.
 */
export async function sendSave({ piece, ...sent }: SaveInput): Promise<SaveAnswer> {
  const body = JSON.stringify(sent);
  const answer = await fetch(`/api/pieces/${piece}/steps`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body,
    // What was typed last goes out though the window closes over it.
    keepalive: body.length < LAST_WORDS,
  });
  if (answer.ok) return (await answer.json()) as SaveAnswer;
  if (answer.status === 409) throw new NewVersion();
  if (answer.status === 400 || answer.status === 413) {
    const { error } = (await answer.json()) as { readonly error: { readonly message: string } };
    return { status: 'rejected', message: error.message, step: null };
  }
  throw new Error(`a save was answered ${answer.status}`);
}
