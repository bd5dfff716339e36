import { finding } from '@/core/base';
import { currentActor, db } from '@/server/context';
import { refusal } from '@/server/http';
import { pieceId, readId } from '@/server/ids';
import { packedPiece } from '@/server/packed';
import { guarded } from '@/server/guarded';

interface Props {
  readonly params: Promise<{ piece: string }>;
}

/**
 * A piece as its pages open it: `OpenPiece` in JSON, gzipped once a revision. The page unpacks it: the framework takes
 * the word for a packing of one's own off an answer, and would pack anew for every reader.
 */
export const GET = guarded(async (_request: Request, { params }: Props): Promise<Response> => {
  const id = readId(pieceId, (await params).piece);
  const bytes = id && (await packedPiece(db(), await currentActor(), id));
  if (!bytes) return refusal(finding('no-piece', 'error', 'This piece is not on the shelf any more.'), 404);
  return new Response(bytes, { headers: { 'content-type': 'application/gzip', 'cache-control': 'private, no-store' } });
});
