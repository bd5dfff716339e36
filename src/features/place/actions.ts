'use server';

import { z } from 'zod';
import { action } from '@/server/action';
import { recall, type Recalled } from '@/server/learning';
import { getPiece } from '@/server/repositories/pieces';

const id = z.string().max(60);

/** The same phrase placed before in the studio, as the piece is saved now. */
export const recallAction = action(
  'read',
  z.tuple([id, id, z.array(id).max(200).readonly()]),
  async ({ actor, db }, piece, riff, events): Promise<Recalled[]> => {
    const found = await getPiece(db, actor, piece);
    return found ? recall(db, actor, found.document, riff, events) : [];
  },
);
