import type { Midi, Seconds } from '../base';
import type { Riff } from '../score';
import { toNumber } from '../time';
import type { BarMap } from './bars';

/** Where what was heard and what is written part: a question with two answers. */
export interface Difference {
  readonly kind: 'missing' | 'extra' | 'pitch' | 'time';
  /** In the clip. */
  readonly at: Seconds;
  readonly event: string | null;
  readonly written: Midi | null;
  readonly heard: Midi | null;
  /** Milliseconds heard after written, where the time differs. */
  readonly late: number;
}

/** Nearer than this two times are one. */
const CLOSE: Seconds = 0.11;
/** From so much on a note is early or late. */
const OFF: Seconds = 0.055;

/** Compares a stretch of a clip with what is written there, note by note. `from` and `to` in seconds of the clip. */
export function differences(
  riff: Riff,
  bars: BarMap,
  heard: readonly { readonly at: Seconds; readonly midi: Midi }[],
  from: Seconds,
  to: Seconds,
): Difference[] {
  const written = riff.events
    .flatMap((e) =>
      e.notes
        .filter((n) => !n.technique?.dead)
        .map((n) => ({ event: e.id, at: bars.seconds(toNumber(e.at)), midi: n.pitch.midi })),
    )
    .filter((w) => w.at >= from - 0.02 && w.at < to);
  const rest = heard.filter((h) => h.at >= from - 0.05 && h.at < to).map((h) => ({ ...h, used: false }));
  const out: Difference[] = [];
  const open: typeof written = [];
  for (const w of written) {
    const match = rest
      .filter((h) => !h.used && h.midi === w.midi && Math.abs(h.at - w.at) < CLOSE)
      .sort((a, b) => Math.abs(a.at - w.at) - Math.abs(b.at - w.at))[0];
    if (!match) {
      open.push(w);
      continue;
    }
    match.used = true;
    if (Math.abs(match.at - w.at) > OFF)
      out.push({
        kind: 'time',
        at: match.at,
        event: w.event,
        written: w.midi,
        heard: match.midi,
        late: Math.round((match.at - w.at) * 1000),
      });
  }
  for (const w of open) {
    const near = rest
      .filter((h) => !h.used && Math.abs(h.at - w.at) < CLOSE)
      .sort((a, b) => Math.abs(a.midi - w.midi) - Math.abs(b.midi - w.midi))[0];
    if (near) {
      near.used = true;
      out.push({ kind: 'pitch', at: near.at, event: w.event, written: w.midi, heard: near.midi, late: 0 });
    } else out.push({ kind: 'missing', at: w.at, event: w.event, written: w.midi, heard: null, late: 0 });
  }
  for (const h of rest)
    if (!h.used) out.push({ kind: 'extra', at: h.at, event: null, written: null, heard: h.midi, late: 0 });
  return out.sort((a, b) => a.at - b.at);
}
