import { add, cmp, MAX_BPM, MIN_BPM, quarter, ZERO, type Quarter } from '../../time';
import { joinedSpans, plainSteps, type ChordMark, type Music } from '../music';
import type { ReadMeasure } from './measure';

/** Key, tempo, feel and chords in the time of the whole. */
export function lanesOf(
  parts: readonly (readonly ReadMeasure[])[],
  starts: readonly Quarter[],
): Pick<Music, 'tempo' | 'keys' | 'feel' | 'chords' | 'bass'> {
  const at = (bar: number, time: Quarter): Quarter => {
    const sum = add(starts[bar] ?? ZERO, time);
    return cmp(sum, ZERO) < 0 ? ZERO : sum;
  };
  const tempo: { at: Quarter; bpm: number; ramp?: true }[] = [];
  const keys: Music['keys'][number][] = [];
  const feel: Music['feel'][number][] = [];
  const chords: { at: Quarter; chord: string }[] = [];
  const lead = parts.find((part) => part.some((one) => one.tempo.length > 0)) ?? parts[0] ?? [];
  const change: Quarter[] = [];
  lead.forEach((measure, bar) => {
    for (const one of measure.tempo) {
      if (one.change) change.push(at(bar, one.at));
      if (one.bpm !== null)
        tempo.push({
          at: at(bar, one.at),
          bpm: Math.round(Math.min(MAX_BPM, Math.max(MIN_BPM, one.bpm)) * 1000) / 1000,
        });
    }
  });
  const swinging = parts.find((part) => part.some((one) => one.swing.length > 0)) ?? [];
  swinging.forEach((measure, bar) => {
    for (const one of measure.swing) feel.push({ ...one, at: at(bar, one.at) });
  });
  // Keys stand as written for the part: of one that sounds elsewhere they would be others, and tell less.
  (parts[0] ?? []).forEach((measure, bar) => {
    if (measure.key) keys.push({ at: at(bar, ZERO), ...measure.key });
  });
  const harmonies = parts.find((part) => part.some((one) => one.chords.length > 0)) ?? [];
  harmonies.forEach((measure, bar) => {
    for (const one of measure.chords) chords.push({ chord: one.chord, at: at(bar, one.at) });
  });
  const end = add(starts.at(-1) ?? ZERO, quarter(4));
  return {
    tempo: startingAt(ramped(tempo, change), { bpm: 120 }),
    keys: startedAtZero(plainSteps(inOrder(keys))),
    feel: feel.length > 0 ? startingAt(plainSteps(inOrder(feel)), { swing: 50, unit: '1/2' as const }) : [],
    chords: spansOf(inOrder(chords), end),
    bass: [],
  };
}

/** A step from which the tempo changes evenly to the next one that is said. */
function ramped(
  steps: readonly { at: Quarter; bpm: number }[],
  changes: readonly Quarter[],
): { at: Quarter; bpm: number; ramp?: true }[] {
  const sorted: { at: Quarter; bpm: number; ramp?: true }[] = inOrder(steps).map((step) => ({ ...step }));
  for (const at of changes) {
    const before = sorted.findLastIndex((step) => cmp(step.at, at) <= 0);
    const next = sorted[before + 1];
    if (!next) continue;
    if (sorted[before]?.at === at) sorted[before] = { ...(sorted[before] as { at: Quarter; bpm: number }), ramp: true };
    else sorted.splice(before + 1, 0, { at, bpm: sorted[before]?.bpm ?? next.bpm, ramp: true });
  }
  return plainSteps(sorted);
}

function inOrder<Step extends { readonly at: Quarter }>(steps: readonly Step[]): Step[] {
  const sorted = [...steps].sort((a, b) => cmp(a.at, b.at));
  return sorted.filter((step, i) => sorted[i + 1]?.at !== step.at);
}

/** A lane from 0 on: where nothing is said at the beginning, what is usual or what comes first. */
function startingAt<Step extends { readonly at: Quarter }>(steps: readonly Step[], usual: Omit<Step, 'at'>): Step[] {
  if (steps[0]?.at === ZERO) return [...steps];
  return [{ ...usual, at: ZERO } as Step, ...steps];
}

const startedAtZero = <Step extends { readonly at: Quarter }>(steps: readonly Step[]): Step[] =>
  steps.map((step, i) => (i === 0 ? { ...step, at: ZERO } : step));

/** A chord sounds until the next one. */
function spansOf(chords: readonly { at: Quarter; chord: string }[], end: Quarter): ChordMark[] {
  const last = chords.at(-1);
  const until = last && cmp(end, last.at) > 0 ? end : add(last?.at ?? ZERO, quarter(4));
  const spans = chords.map((one, i) => ({ ...one, to: chords[i + 1]?.at ?? until }));
  return joinedSpans(spans.filter((one) => one.chord !== ''));
}
