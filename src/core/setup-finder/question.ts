import type { Setup } from '../instrument';
import { problemOf, type PlaceEvent } from '../place';
import type { Riff } from '../score';
import { add, barOf, barStart, cmp, ZERO, type MeterChange, type TempoStep } from '../time';
import type { Clue, FinderLimits, FinderQuestion } from './types';

/** Riffs of a part laid end to end, as the finder is asked about them. */
export interface Asked {
  readonly question: FinderQuestion;
  /** From which bar of the question on each riff stands; its bars are counted from there. */
  readonly starts: readonly { readonly riff: string; readonly bar: number }[];
}

/**
 * Riffs, or the bars of one from `from` up to `to`, as a question. Their places are left behind; what joins, rings and
 * bends stays. `setup` is only what they were written for.
 */
export function questionOf(
  riffs: readonly Riff[],
  setup: Setup,
  tempo: readonly TempoStep[],
  clues: readonly Clue[],
  limits: FinderLimits,
  bars: { readonly from: number; readonly to: number } | null = null,
): Asked {
  const meters: MeterChange[] = [];
  const events: PlaceEvent[] = [];
  const starts: Asked['starts'][number][] = [];
  let bar = 0;
  for (const riff of riffs) {
    for (const one of riff.meters) meters.push({ ...one, bar: one.bar + bar });
    starts.push({ riff: riff.id, bar });
    const start = barStart(meters, bar);
    let last = 0;
    for (const event of problemOf(riff, setup, tempo).events) {
      const here = barOf(riff.meters, event.at).bar;
      if (bars && (here < bars.from || here > bars.to)) continue;
      last = Math.max(last, here);
      const at = add(start, event.at);
      // A pickup before the first bar has nowhere to stand but at its beginning.
      if (cmp(at, ZERO) < 0 && events.length > 0) continue;
      events.push({ ...event, at });
    }
    bar += Math.max(riff.bars, last + 1);
  }
  const known = new Set(events.map((event) => event.id));
  const kept = clues.filter((clue) => ('events' in clue ? clue.events : [clue.event]).every((id) => known.has(id)));
  return { question: { events: forward(events), tempo, meters, clues: kept, limits }, starts };
}

/** Events one after another: of two at one time the later one is left to the first. */
function forward(events: readonly PlaceEvent[]): PlaceEvent[] {
  const out: PlaceEvent[] = [];
  for (const event of [...events].sort((a, b) => cmp(a.at, b.at)))
    if (out.length === 0 || cmp(event.at, out.at(-1)?.at ?? ZERO) > 0) out.push(event);
  return out;
}
