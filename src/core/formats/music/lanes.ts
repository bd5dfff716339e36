import equal from 'fast-deep-equal';
import { add, bpmAt, cmp, maxQuarter, minQuarter, sub, ZERO, type Quarter, type TempoStep } from '../../time';

/** Lanes of steps and of spans, cut to a stretch and put at its beginning. */

/** The steps that hold between two times, from 0 on: what held before comes first. */
export function stepsIn<Step extends { readonly at: Quarter }>(
  lane: readonly Step[],
  from: Quarter,
  to: Quarter,
): Step[] {
  const before = lane.findLast((step) => cmp(step.at, from) <= 0);
  const inside = lane.filter((step) => cmp(step.at, from) > 0 && cmp(step.at, to) < 0);
  return [...(before ? [{ ...before, at: ZERO }] : []), ...inside.map((step) => ({ ...step, at: sub(step.at, from) }))];
}

/** The same for tempo: within a change from one tempo to another the tempo reached counts. */
export function tempoIn(lane: readonly TempoStep[], from: Quarter, to: Quarter): TempoStep[] {
  const [first, ...rest] = stepsIn(lane, from, to);
  return first ? [{ ...first, bpm: bpmAt(lane, from) }, ...rest] : [];
}

/** Spans that sound between two times, cut at its ends, from 0 on. */
export function spansIn<Span extends { readonly at: Quarter; readonly to: Quarter }>(
  spans: readonly Span[],
  from: Quarter,
  to: Quarter,
): Span[] {
  return spans.flatMap((span) =>
    cmp(span.to, from) <= 0 || cmp(span.at, to) >= 0
      ? []
      : [{ ...span, at: sub(maxQuarter(span.at, from), from), to: sub(minQuarter(span.to, to), from) }],
  );
}

export const moved = <Step extends { readonly at: Quarter }>(steps: readonly Step[], by: Quarter): Step[] =>
  steps.map((step) => ({ ...step, at: add(step.at, by) }));

export const movedSpans = <Span extends { readonly at: Quarter; readonly to: Quarter }>(
  spans: readonly Span[],
  by: Quarter,
): Span[] => spans.map((span) => ({ ...span, at: add(span.at, by), to: add(span.to, by) }));

/** Without steps that say what the step before says, the later of two at one time. */
export function plainSteps<Step extends { readonly at: Quarter }>(steps: readonly Step[]): Step[] {
  const out: Step[] = [];
  for (const step of steps) {
    if (out.at(-1)?.at === step.at) out.pop();
    const before = out.at(-1);
    if (!before || 'ramp' in before || !equal({ ...before, at: '' }, { ...step, at: '' })) out.push(step);
  }
  return out;
}

/** Spans that touch and say the same, joined. */
export function joinedSpans<Span extends { readonly at: Quarter; readonly to: Quarter }>(
  spans: readonly Span[],
): Span[] {
  const out: Span[] = [];
  for (const span of spans) {
    const before = out.at(-1);
    if (before && before.to === span.at && equal({ ...before, at: '', to: '' }, { ...span, at: '', to: '' }))
      out[out.length - 1] = { ...before, to: span.to };
    else out.push(span);
  }
  return out;
}
