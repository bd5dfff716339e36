import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import type { Actor } from './actor';
import type { Db } from './db/connection';
import type { PieceId } from './ids';
import { openPiece } from './pieces';
import { askedFor } from './repositories/desk';
import { pieceHead } from './repositories/pieces';

const pack = promisify(gzip);

/** Bytes of packed pieces a process keeps at most. */
const MOST_BYTES = 24 * 1024 * 1024;

/**
 * Open pieces packed as they are sent, so that a piece many look at is read, written out and packed once a revision.
 * Nothing rests on it: what is kept is found by all that goes into it, and who finds nothing here packs anew.
 */
class PackedPieces {
  private readonly kept = new Map<PieceId, { readonly of: string; readonly bytes: Uint8Array<ArrayBuffer> }>();
  private total = 0;

  at(id: PieceId, of: string): Uint8Array<ArrayBuffer> | null {
    const known = this.kept.get(id);
    return known?.of === of ? known.bytes : null;
  }

  keep(id: PieceId, of: string, bytes: Uint8Array<ArrayBuffer>): void {
    this.drop(id);
    this.kept.set(id, { of, bytes });
    this.total += bytes.length;
    for (const oldest of this.kept.keys()) {
      if (this.total <= MOST_BYTES) break;
      this.drop(oldest);
    }
  }

  private drop(id: PieceId): void {
    this.total -= this.kept.get(id)?.bytes.length ?? 0;
    this.kept.delete(id);
  }
}

const packed = new PackedPieces();

/** A piece as `OpenPiece` in JSON, gzipped; null where the studio has none of this id. */
export async function packedPiece(db: Db, actor: Actor, id: PieceId): Promise<Uint8Array<ArrayBuffer> | null> {
  const [head, asked] = await Promise.all([pieceHead(db, actor, id), askedFor(db, actor, id)]);
  if (!head) return null;
  const known = packed.at(id, JSON.stringify([head.revision, asked]));
  if (known) return known;
  const open = await openPiece(db, actor, id);
  if (!open) return null;
  const bytes = Uint8Array.from(await pack(JSON.stringify(open)));
  // What was read, not what was asked for: it may be newer by now.
  packed.keep(id, JSON.stringify([open.revision, open.asked]), bytes);
  return bytes;
}
