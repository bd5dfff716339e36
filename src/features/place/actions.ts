'use server';

import { z } from 'zod';
import { currentStudio, db } from '@/server/context';
import { recall, type Recalled } from '@/server/learning';
import { getPiece } from '@/server/repositories/pieces';

const id = z.string().max(60);

/** The same phrase placed before in the studio, as the piece is saved now. */
export async function recallAction(piece: string, riff: string, events: readonly string[]): Promise<Recalled[]> {
  const found = await getPiece(db(), currentStudio(), id.parse(piece));
  return found ? recall(db(), currentStudio(), found.document, id.parse(riff), z.array(id).max(200).parse(events)) : [];
}
