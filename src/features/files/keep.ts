/** What the import desk sends to the server: files as they came, and whole pieces. */

/** Keeps a file with a piece; false where the server did not. */
export async function keepOriginal(piece: string, name: string, bytes: Uint8Array): Promise<boolean> {
  const query = new URLSearchParams({ piece, name });
  const answer = await fetch(`/api/originals?${query}`, { method: 'POST', body: new Blob([bytes.slice()]) }).catch(
    () => null,
  );
  return answer?.ok === true;
}

/** Puts a piece file on the shelf as a piece of its own. */
export async function shelvePiece(
  bytes: Uint8Array,
): Promise<{ readonly ok: true; readonly path: string } | { readonly ok: false; readonly words: string }> {
  const answer = await fetch('/api/pieces', { method: 'POST', body: new Blob([bytes.slice()]) }).catch(() => null);
  if (!answer) return { ok: false, words: 'The server did not answer. Try again when it is there.' };
  const said = (await answer.json().catch(() => null)) as { id?: string; error?: { message?: string } } | null;
  return answer.ok && said?.id
    ? { ok: true, path: `/pieces/${said.id}` }
    : { ok: false, words: said?.error?.message ?? 'The server could not keep it.' };
}
