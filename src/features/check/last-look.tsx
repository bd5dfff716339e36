'use client';

import { Link } from '@/ui/link';
import { useMemo } from 'react';
import { openOf } from '@/core/check';
import { useFindings, usePiece } from '@/features/piece/provider';

/** A last look before a sheet is handed out: how much is still asked and unsaid. Not printed. */
export function LastLook() {
  const { findings } = useFindings();
  const id = usePiece((state) => state.document.id);
  const answers = usePiece((state) => state.document.answers);
  const words = useMemo(() => {
    if (findings === null) return null;
    const open = openOf(findings, answers);
    const questions = open.filter((one) => one.severity !== 'open').length;
    const unsaid = open.length - questions;
    if (open.length === 0) return 'Ready to hand out: no question is open';
    return [
      ...(questions > 0 ? [`${questions} ${questions === 1 ? 'question' : 'questions'} open`] : []),
      ...(unsaid > 0 ? [`${unsaid} unsaid`] : []),
    ].join(', ');
  }, [findings, answers]);
  if (words === null) return null;
  return (
    <Link
      href={`/pieces/${id}/check`}
      className="no-print min-h-6 text-[15px] leading-6 text-question underline decoration-line underline-offset-4"
    >
      {words}
    </Link>
  );
}
