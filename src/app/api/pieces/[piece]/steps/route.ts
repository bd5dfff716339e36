import { finding } from '@/core/base';
import { readBody, refusal } from '@/server/http';
import { MOST_SAVE_BYTES, ofNewerProgram, save, type SaveInput } from '@/server/saving';
import { guarded } from '@/server/guarded';

interface Props {
  readonly params: Promise<{ piece: string }>;
}

/**
 * Saves steps of a piece: `{ base, save, steps }` in, `SaveAnswer` out. By an address of its own and not as a server
 * action, whose name changes with each build: a window that was open before a release goes on saving.
 */
export const POST = guarded(async (request: Request, { params }: Props): Promise<Response> => {
  const bytes = await readBody(request, MOST_SAVE_BYTES);
  if (!bytes) return refusal(finding('too-large', 'error', 'More than one save can take.'), 413);
  let sent: unknown;
  try {
    sent = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    return refusal(finding('no-json', 'error', 'A save is JSON in UTF-8.'), 400);
  }
  if (ofNewerProgram(sent))
    return refusal(finding('newer', 'error', 'These steps were made by a newer program than this server runs.'), 409);
  const { piece } = await params;
  return Response.json(await save({ ...(sent as Omit<SaveInput, 'piece'>), piece }));
});
