import type { Result } from '@/core/base';
import { insertEvents, rewriteEvents, saidFrame, together, type Insertion, type SaidFrame } from '@/core/command';
import type { Edit } from '@/core/edit';
import { endOf, type Riff, type RiffEvent } from '@/core/score';
import { barOf, cmp, ZERO } from '@/core/time';
import type { Called } from '@/core/shorthand';
import type { CallMode } from './call-line';
import type { BenchContext } from './commands';

/** What was said of the riff's frame; a rest at the end fills its bar, which is there then. */
function frameOf(riff: Riff, called: Called, made: readonly RiffEvent[]): SaidFrame {
  const last = made.at(-1);
  if (last && cmp(endOf(last), called.end) >= 0) return called.frame;
  const { bar, offset } = barOf(called.frame.meters ?? riff.meters, called.end);
  return { ...called.frame, bars: bar + (offset === ZERO ? 0 : 1) };
}

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
  const steps = [saidFrame(piece, riff.id, frameOf(riff, called, made), called.end, mode === 'whole'), put()].filter(
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
