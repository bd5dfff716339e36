import { fail, ok, type Result } from '../base';
import { patchOf, type Edit } from '../edit';
import { findRiff, type Piece, type Riff, type RiffEvent } from '../score';
import { cmp, sub, ZERO, type MeterChange, type Quarter, type TempoStep } from '../time';

/** What a riff says of itself beside its events, wishes and alternatives. */
type Frame = Pick<
  Riff,
  'name' | 'bars' | 'pickup' | 'meters' | 'key' | 'tempo' | 'feel' | 'click' | 'plays' | 'picking'
>;

/** A change of a riff's frame: undefined leaves what is there, null takes it out. */
export type FrameChange = { readonly [Key in keyof Frame]?: Frame[Key] | null };

/** Changes name, bars, pickup, meters, key, tempo, feel, click, plays or picking of a riff, and nothing else of it. */
export function setFrame(piece: Piece, riffId: string, change: FrameChange): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  const { part, riff } = found;
  const patch = patchOf<Frame>(riff, change) ?? { set: {}, clear: [] };
  return ok({ type: 'patchRiff', part: part.id, riff: riff.id, ...patch } as Edit);
}

/** Lays notes on other onsets, one for each in order; each lasts to the next, the last as long as before. */
export function retime(piece: Piece, riffId: string, ids: readonly string[], onsets: readonly Quarter[]): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', { riff: riffId });
  const { part, riff } = found;
  const chosen = riff.events.filter((event) => ids.includes(event.id) && !event.grace);
  if (chosen.length === 0) return fail('nothing-chosen', 'Choose the notes to tap first.', { riff: riffId });
  if (onsets.length < chosen.length)
    return fail('too-few', `${chosen.length} notes are chosen and ${onsets.length} were tapped.`, { riff: riffId });
  const last = chosen.at(-1);
  const after = riff.events.find((event) => last && cmp(event.at, last.at) > 0 && !ids.includes(event.id));
  const end = onsets[chosen.length - 1];
  if (after && end !== undefined && cmp(end, after.at) >= 0)
    return fail('no-room', 'The tapped notes run into what follows. Choose more notes, or tap fewer.', {
      event: after.id,
    });
  const put = chosen.map((event, i): RiffEvent => {
    const at = onsets[i] ?? event.at;
    const next = onsets[i + 1];
    const dur =
      i < chosen.length - 1 && next !== undefined
        ? sub(next, at)
        : after && cmp(sub(after.at, at), event.dur) < 0
          ? sub(after.at, at)
          : event.dur;
    return { ...event, at, dur, notes: event.notes.map((note) => ({ ...note, dur: null })) };
  });
  // Grace notes keep their distance to the note they lead to.
  const graces = riff.events.filter(
    (event, i) => event.grace && put.some((event) => event.id === nextMain(riff, i)?.id),
  );
  const moved = graces.map((event) => {
    const main = nextMain(riff, riff.events.indexOf(event));
    const to = put.find((event) => event.id === main?.id);
    return main && to ? { ...event, at: sub(to.at, sub(main.at, event.at)) } : event;
  });
  return ok({ type: 'putEvents', part: part.id, riff: riff.id, put: [...put, ...moved], remove: [] });
}

const nextMain = (riff: Riff, index: number): RiffEvent | undefined =>
  riff.events.slice(index).find((event) => !event.grace);

/** The step of a lane that holds at a time. */
export const stepAt = <T extends { readonly at: Quarter }>(steps: readonly T[], at: Quarter): T | undefined =>
  [...steps].reverse().find((one) => cmp(one.at, at) <= 0);

const around = <T extends { readonly at: Quarter }>(steps: readonly T[], step: T): T[] => [
  ...steps.filter((one) => cmp(one.at, step.at) < 0),
  step,
  ...steps.filter((one) => cmp(one.at, step.at) > 0),
];

/** Meters with another one from a bar on, up to the next change. */
export const withMeter = (
  meters: readonly MeterChange[],
  bar: number,
  meter: { readonly beats: number; readonly unit: number },
): MeterChange[] => [
  ...meters.filter((meter) => meter.bar < bar),
  { bar, ...meter },
  ...meters.filter((meter) => meter.bar > bar),
];

/** A tempo map with another tempo from a time on, up to the next step. */
export const withTempo = (tempo: readonly TempoStep[], at: Quarter, bpm: number): TempoStep[] =>
  around(tempo, { at, bpm });

/** A tempo map whose step at a time changes evenly to the next, or is held. */
export function withRamp(tempo: readonly TempoStep[], at: Quarter, ramp: boolean): TempoStep[] {
  const here = stepAt(tempo, at);
  return tempo.map((step) =>
    step === here ? { at: step.at, bpm: step.bpm, ...(ramp ? { ramp: true as const } : {}) } : step,
  );
}

/** A feel with another step from its time on; null where all of it is straight. */
export function withFeel(
  feel: Riff['feel'],
  step: NonNullable<Riff['feel']>[number],
): NonNullable<Riff['feel']> | null {
  const now = feel ?? [];
  const head =
    step.at !== ZERO && !now.some((one) => cmp(one.at, step.at) < 0)
      ? [{ at: ZERO, swing: 50, unit: '1/2' as const }]
      : [];
  const next = around([...head, ...now], step);
  return next.every((step) => step.swing === 50) ? null : next;
}
