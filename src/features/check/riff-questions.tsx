'use client';

import { Link } from '@/ui/link';
import { useMemo } from 'react';
import { openOf, stateOf, type CheckFinding } from '@/core/check';
import type { Edit } from '@/core/edit';
import type { Piece } from '@/core/score';
import { useFindings } from '@/features/piece/provider';
import { FindingCard } from './finding-card';

/** What the check asks about a riff, the likeliest first; what is unsaid of it is not among them. */
export function useRiffQuestions(piece: Piece, riff: string): readonly CheckFinding[] {
  const { findings } = useFindings();
  return useMemo(
    () => openOf(findings ?? [], piece.answers).filter((one) => one.locus.riff === riff && one.severity !== 'open'),
    [findings, piece.answers, riff],
  );
}

const SHOWN = 3;

/** The questions of a riff beside its strip: a few, and the way to all of them. */
export function RiffQuestions({
  piece,
  questions,
  onEdit,
}: {
  readonly piece: Piece;
  readonly questions: readonly CheckFinding[];
  readonly onEdit: (edit: Edit, what?: string) => void;
}) {
  if (questions.length === 0) return null;
  return (
    <section aria-label="Asked by the check" className="flex flex-col gap-2">
      <h2 className="text-lg">Does this add up?</h2>
      <ul className="flex flex-col gap-3">
        {questions.slice(0, SHOWN).map((finding) => (
          <FindingCard key={finding.id} state={stateOf(finding, piece.answers)} {...{ piece, finding, onEdit }} />
        ))}
      </ul>
      <Link href={`/pieces/${piece.id}/check`} className="text-[15px] underline decoration-line underline-offset-4">
        All questions of the piece
      </Link>
    </section>
  );
}
