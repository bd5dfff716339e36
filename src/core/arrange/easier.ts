import { ADULT_HAND, type Profile } from '../hand';
import { nutOf, pressPoint, type Setup } from '../instrument';
import { barresOf, endOf, type Note, type Riff, type RiffEvent } from '../score';
import { barOf, cmp, meterAt, secondsAt, sub, toNumber, type Quarter, type TempoStep } from '../time';

/**
 * An easier level of a riff, proposed bar by bar by stated rules: a run slower, a reach smaller, no barre. What the
 * instructor locked is never touched: where a rule would have to, it proposes nothing.
 */

export const EASIER_RULES = ['fewer notes', 'smaller reach', 'no barre'] as const;
export type EasierRule = (typeof EASIER_RULES)[number];

/** What would be changed in one bar. */
export interface EasierBar {
  readonly rule: EasierRule;
  /** From 0; a pickup is bar -1. */
  readonly bar: number;
  readonly words: string;
  /** Events as they would be, and those that would go. */
  readonly put: readonly RiffEvent[];
  readonly remove: readonly string[];
}

/** What an easier level asks of its player. */
export interface EasierLimits {
  /** Strokes and slurred notes a second, at most. */
  readonly notesPerSecond: number;
  /** Shares of the hand's comfortable reach from index to little finger. */
  readonly reach: number;
  readonly barre: boolean;
}

export const STARTER: EasierLimits = { notesPerSecond: 4, reach: 0.8, barre: false };

const locked = (event: RiffEvent): boolean => event.notes.some((note) => note.place?.locked);

/** Proposals for a riff in a tempo, in order of its bars; at most one of each rule a bar. */
export function easierBars(
  riff: Riff,
  setup: Setup,
  tempo: readonly TempoStep[],
  limits: EasierLimits = STARTER,
  profile: Profile = ADULT_HAND,
): EasierBar[] {
  const bars = new Map<number, RiffEvent[]>();
  for (const event of riff.events) {
    const { bar } = barOf(riff.meters, event.at);
    bars.set(bar, [...(bars.get(bar) ?? []), event]);
  }
  return [...bars].flatMap(([bar, events]) => [
    ...fewer(riff, bar, events, tempo, limits),
    ...grips(bar, events, 'smaller reach', (event) => tooWide(event, setup, profile, limits)),
    ...(limits.barre ? [] : grips(bar, events, 'no barre', (event) => barresOf(event).length > 0)),
  ]);
}

/** Keeps the notes on the beats, then on halves of beats, of a bar that runs faster than the limit. */
function fewer(
  riff: Riff,
  bar: number,
  events: readonly RiffEvent[],
  tempo: readonly TempoStep[],
  limits: EasierLimits,
): EasierBar[] {
  const played = events.filter((event) => event.notes.length > 0);
  const rate = fastest(played, tempo);
  if (rate <= limits.notesPerSecond) return [];
  for (const parts of [4, 2, 1] as const) {
    const kept = played.filter((event, i) => i === 0 || onGrid(riff, event.at, parts));
    if (kept.length === played.length || fastest(kept, tempo) > limits.notesPerSecond) continue;
    const going = played.filter((event) => !kept.includes(event));
    if (going.length === 0 || going.some(locked)) return [];
    // What is left sounds on through what went; what led to it leads nowhere now.
    const put = kept.flatMap((event) => {
      const next = played[played.indexOf(event) + 1];
      if (!next || !going.includes(next) || locked(event)) return [];
      const follows = kept.find((one) => cmp(one.at, event.at) > 0);
      const end = follows?.at ?? lastEnd(played);
      const notes = event.notes.map(({ join: _, ...note }) => ({ ...note, dur: null }));
      return [{ ...event, dur: sub(end, event.at), notes }];
    });
    const words = `${going.length === 1 ? 'a note less' : `${going.length} notes less`}: ${rateWords(rate)} a second become ${rateWords(fastest(kept, tempo))}`;
    return [{ rule: 'fewer notes', bar, words, put, remove: going.map((event) => event.id) }];
  }
  return [];
}

const lastEnd = (events: readonly RiffEvent[]): Quarter =>
  events.reduce<Quarter>(
    (end, event) => (cmp(endOf(event), end) > 0 ? endOf(event) : end),
    endOf(events[0] as RiffEvent),
  );
const rateWords = (rate: number): string => String(Math.round(rate * 10) / 10);

/** Notes a second at the closest two attacks. */
function fastest(events: readonly RiffEvent[], tempo: readonly TempoStep[]): number {
  let most = 0;
  for (const [i, event] of events.entries()) {
    const next = events[i + 1];
    if (next) most = Math.max(most, 1 / Math.max(1e-3, secondsAt(tempo, next.at) - secondsAt(tempo, event.at)));
  }
  return most;
}

/** Whether a time lies on a whole part of a beat of its meter. */
function onGrid(riff: Riff, at: Quarter, parts: 1 | 2 | 4): boolean {
  const { bar, offset } = barOf(riff.meters, at);
  const { beats, unit } = meterAt(riff.meters, Math.max(0, bar));
  // Three eighths are a beat where there are six, nine or twelve of them.
  const beat = unit === 8 && beats > 3 && beats % 3 === 0 ? 1.5 : 4 / unit;
  const place = (toNumber(offset) / beat) * parts;
  return Math.abs(place - Math.round(place)) < 1e-6;
}

/** Takes the least needed notes out of grips until the rule holds no more. */
function grips(
  bar: number,
  events: readonly RiffEvent[],
  rule: EasierRule,
  asks: (event: RiffEvent) => boolean,
): EasierBar[] {
  const put: RiffEvent[] = [];
  let gone = 0;
  for (const event of events) {
    if (!asks(event) || locked(event)) continue;
    let now = event;
    while (asks(now)) {
      const less = leastNeeded(now.notes);
      if (!less) break;
      now = { ...now, notes: now.notes.filter((note) => note !== less).map(loosened) };
    }
    if (asks(now) || now.notes.length === event.notes.length) continue;
    gone += event.notes.length - now.notes.length;
    put.push(now);
  }
  if (put.length === 0) return [];
  const where = put.length === 1 ? 'one grip' : `${put.length} grips`;
  return [{ rule, bar, words: `${where} with ${gone === 1 ? 'a note' : `${gone} notes`} less`, put, remove: [] }];
}

/** The program's own fingers are open again in a grip that has lost a note. */
function loosened(note: Note): Note {
  const { place } = note;
  if (!place || place.fingerBy === 'instructor' || place.fret === 0) return note;
  const { otherFinger: _, ...kept } = place;
  return { ...note, place: { ...kept, finger: null } };
}

/** An inner note that another doubles, else an inner note; never the lowest, the highest, or the last two. */
function leastNeeded(notes: readonly Note[]): Note | null {
  if (notes.length <= 2) return null;
  const sorted = [...notes].sort((a, b) => a.pitch.midi - b.pitch.midi);
  const inner = sorted.slice(1, -1);
  const doubled = inner.find((note) =>
    sorted.some((other) => other !== note && (other.pitch.midi - note.pitch.midi) % 12 === 0),
  );
  // What is on the thickest strings among the rest makes the grip large and the sound thick.
  return doubled ?? inner[0] ?? null;
}

function tooWide(event: RiffEvent, setup: Setup, profile: Profile, { reach }: EasierLimits): boolean {
  const points = event.notes.flatMap(({ place }) =>
    place && place.fret > 0 ? [pressPoint(setup.instrument.scaleMm, place.fret + nutOf(setup, place.string))] : [],
  );
  return points.length > 1 && Math.max(...points) - Math.min(...points) > reach * profile.comfortable['14'];
}
