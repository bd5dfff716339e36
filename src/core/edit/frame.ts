import { fail, ok, type Result } from '../base';
import { findRiff, type Piece, type Riff, type RiffEvent } from '../score';
import { cmp, sub, type Quarter } from '../time';
import { FRAME, said } from './apply';
import type { Edit } from './types';

type Frame = Pick<Riff, 'name' | 'bars' | 'pickup' | 'meters' | (typeof FRAME)[number]>;

/** A change of a riff's frame: undefined leaves what is there, null takes it away. */
export type FrameChange = { readonly [K in keyof Frame]?: Frame[K] | null };

/** Changes name, bars, pickup, meters, tempo, feel, click, plays or picking of a riff. */
export function setFrame(piece: Piece, riffId: string, change: FrameChange): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', riffId);
  const { part, riff } = found;
  const next = { ...said(riff, ['name', 'bars', 'pickup', 'meters', ...FRAME]), ...change } as Record<string, unknown>;
  const kept = Object.fromEntries(Object.entries(next).filter(([, v]) => v !== null && v !== undefined)) as unknown as Frame;
  return ok({ type: 'setRiff', part: part.id, riff: riff.id, ...kept });
}

/** Lays notes on other onsets, one for each in order; each lasts to the next, the last as long as before. */
export function retime(piece: Piece, riffId: string, ids: readonly string[], onsets: readonly Quarter[]): Result<Edit> {
  const found = findRiff(piece, riffId);
  if (!found) return fail('no-riff', 'That riff is not there any more.', riffId);
  const { part, riff } = found;
  const chosen = riff.events.filter((e) => ids.includes(e.id) && !e.grace);
  if (chosen.length === 0) return fail('nothing-chosen', 'Choose the notes to tap first.', riffId);
  if (onsets.length < chosen.length) return fail('too-few', `${chosen.length} notes are chosen and ${onsets.length} were tapped.`, riffId);
  const last = chosen.at(-1);
  const after = riff.events.find((e) => last && cmp(e.at, last.at) > 0 && !ids.includes(e.id));
  const end = onsets[chosen.length - 1];
  if (after && end !== undefined && cmp(end, after.at) >= 0) return fail('no-room', 'The tapped notes run into what follows. Choose more notes, or tap fewer.', after.id);
  const put = chosen.map((event, i): RiffEvent => {
    const at = onsets[i] ?? event.at;
    const next = onsets[i + 1];
    const dur = i < chosen.length - 1 && next !== undefined ? sub(next, at) : after && cmp(sub(after.at, at), event.dur) < 0 ? sub(after.at, at) : event.dur;
    return { ...event, at, dur, notes: event.notes.map((n) => ({ ...n, dur: null })) };
  });
  // Grace notes keep their distance to the note they lead to.
  const graces = riff.events.filter((e, i) => e.grace && put.some((p) => p.id === nextMain(riff, i)?.id));
  const moved = graces.map((g) => {
    const main = nextMain(riff, riff.events.indexOf(g));
    const to = put.find((p) => p.id === main?.id);
    return main && to ? { ...g, at: sub(to.at, sub(main.at, g.at)) } : g;
  });
  return ok({ type: 'putEvents', part: part.id, riff: riff.id, put: [...put, ...moved], remove: [] });
}

const nextMain = (riff: Riff, index: number): RiffEvent | undefined => riff.events.slice(index).find((e) => !e.grace);
