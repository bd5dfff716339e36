import type { Result } from '@/core/base';
import { insertEvents, rewriteEvents, saidFrame, together, type Insertion } from '@/core/command';
import type { Edit } from '@/core/edit';
import type { RiffEvent } from '@/core/score';
import type { Called } from '@/core/shorthand';
import type { CallMode } from './call-line';
import type { BenchContext } from './commands';

/**
 * Writes what was called: behind the caret, in place of what is chosen, or as the whole riff. True where it was done.
 */
export function writeCalls(
  { piece, riff, chosen, edit }: BenchContext,
  called: Called,
  made: readonly RiffEvent[],
  mode: CallMode,
  replaced: { readonly ids: readonly string[] } | null,
  how: Insertion = 'over',
): boolean {
  const put = (): Result<Edit> | null => {
    if (made.length === 0) return null;
    if (mode === 'new') return insertEvents(piece, riff.id, made, called.end, how);
    const ids = mode === 'whole' ? riff.events.map((event) => event.id) : (replaced?.ids ?? []);
    return rewriteEvents(piece, riff.id, ids, made, called.end);
  };
  const steps = [saidFrame(piece, riff.id, called.frame, called.end, mode === 'whole'), put()].filter(
    (step) => step !== null,
  );
  const edits: Edit[] = [];
  for (const step of steps) {
    if (!step.ok) return edit(step);
    edits.push(step.value);
  }
  const [only] = edits;
  if (!only) return true;
  const value = edits.length === 1 ? only : together(`called ${made.length} notes`, edits);
  const done = edit({ ok: true, value });
  if (done && mode === 'new') chosen.setCaret(called.end);
  return done;
}
