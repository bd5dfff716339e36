import { finding } from '@/core/base';
import { currentActor, db } from '@/server/context';
import { attachment, refusal } from '@/server/http';
import { originalId, readId } from '@/server/ids';
import { getOriginal } from '@/server/repositories/originals';
import { guarded } from '@/server/guarded';

interface Props {
  readonly params: Promise<{ original: string }>;
}

/** A file a piece was made from, byte by byte as it came. */
export const GET = guarded(async (_request: Request, { params }: Props): Promise<Response> => {
  const id = readId(originalId, (await params).original);
  const file = id && (await getOriginal(db(), await currentActor(), id));
  if (!file) return refusal(finding('no-file', 'error', 'This file is not here.'), 404);
  return attachment(file.name, file.type, file.bytes);
});
