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
  readonly hearing: Midi | null;
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
  bars: Pick<BarMap, 'seconds'>,
  listening: readonly { readonly at: Seconds; readonly midi: Midi }[],
  from: Seconds,
  to: Seconds,
): Difference[] {
  const written = riff.events
    .flatMap((event) =>
      event.notes
        .filter((note) => !note.technique?.dead)
        .map((note) => ({ event: event.id, at: bars.seconds(toNumber(event.at)), midi: note.pitch.midi })),
    )
    .filter((one) => one.at >= from - 0.02 && one.at < to);
  const rest = listening.filter((one) => one.at >= from - 0.05 && one.at < to).map((one) => ({ ...one, used: false }));
  const out: Difference[] = [];
  const open: typeof written = [];
  for (const one of written) {
    const match = rest
      .filter((other) => !other.used && other.midi === one.midi && Math.abs(other.at - one.at) < CLOSE)
      .sort((a, b) => Math.abs(a.at - one.at) - Math.abs(b.at - one.at))[0];
    if (!match) {
      open.push(one);
      continue;
    }
    match.used = true;
    if (Math.abs(match.at - one.at) > OFF)
      out.push({
        kind: 'time',
        at: match.at,
        event: one.event,
        written: one.midi,
        hearing: match.midi,
        late: Math.round((match.at - one.at) * 1000),
      });
  }
  for (const one of open) {
    const near = rest
      .filter((other) => !other.used && Math.abs(other.at - one.at) < CLOSE)
      .sort((a, b) => Math.abs(a.midi - one.midi) - Math.abs(b.midi - one.midi))[0];
    if (near) {
      near.used = true;
      out.push({ kind: 'pitch', at: near.at, event: one.event, written: one.midi, hearing: near.midi, late: 0 });
    } else out.push({ kind: 'missing', at: one.at, event: one.event, written: one.midi, hearing: null, late: 0 });
  }
  for (const one of rest)
    if (!one.used) out.push({ kind: 'extra', at: one.at, event: null, written: null, hearing: one.midi, late: 0 });
  return out.sort((a, b) => a.at - b.at);
}
