import type { Piece } from '@/core/score';
import type { PieceId } from './ids';

/**
 * Documents this process has just written or read, by piece and revision, so that a small save need not read the
 * whole piece. Nothing rests on it: a document never changes under its revision, and who finds none here reads it.
 */
export class RecentDocuments {
  private readonly kept = new Map<PieceId, { readonly revision: number; readonly document: Piece }>();

  constructor(private readonly most: number) {}

  at(id: PieceId, revision: number): Piece | null {
    const known = this.kept.get(id);
    return known?.revision === revision ? known.document : null;
  }

  keep(id: PieceId, revision: number, document: Piece): void {
    this.kept.delete(id);
    this.kept.set(id, { revision, document });
    for (const oldest of this.kept.keys()) {
      if (this.kept.size <= this.most) break;
      this.kept.delete(oldest);
    }
  }
}
