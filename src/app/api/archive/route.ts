import { finding } from '@/core/base';
import { may } from '@/server/actor';
import { readArchive } from '@/server/archive/read';
import { writeArchive } from '@/server/archive/write';
import { currentActor, db } from '@/server/context';
import { attachment, refusal, streamOf } from '@/server/http';
import { guarded } from '@/server/guarded';

export const dynamic = 'force-dynamic';

const NO_RIGHT = finding('no-right', 'error', 'You may not do this here.');

/** Everything of the studio as one zip. */
export const GET = guarded(async (): Promise<Response> => {
  const actor = await currentActor();
  if (!may(actor, 'manage')) return refusal(NO_RIGHT, 403);
  const now = new Date();
  const name = `studio-${now.toISOString().slice(0, 10)}.zip`;
  return attachment(name, 'application/zip', streamOf(writeArchive(db(), actor, now)));
});

/** Puts an archive back: the zip as the body. All of it or nothing. */
export const POST = guarded(async (request: Request): Promise<Response> => {
  const actor = await currentActor();
  if (!may(actor, 'manage')) return refusal(NO_RIGHT, 403);
  if (!request.body) return refusal(finding('empty', 'error', 'The archive is empty.'), 400);
  const done = await readArchive(db(), actor, request.body as unknown as AsyncIterable<Uint8Array>);
  return done.ok ? Response.json(done.value) : refusal(done.error, 422);
});
