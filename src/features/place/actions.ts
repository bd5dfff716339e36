'use server';

import { z } from 'zod';
import { pieceId } from '@/server/ids';
import { action } from '@/server/action';
import { recall, type Recalled } from '@/server/learning';
import { getPiece } from '@/server/repositories/pieces';

/** Ids of what stands in a piece. */
const inPiece = z.string().max(60);

/** The same phrase placed before in the studio, as the piece is saved now. */
export const recallAction = action(
  'read',
  z.tuple([pieceId, inPiece, z.array(inPiece).max(200).readonly()]),
  async ({ actor, db }, piece, riff, events): Promise<Recalled[]> => {
    const found = await getPiece(db, actor, piece);
    return found ? recall(db, actor, found.document, riff, events) : [];
  },
);
