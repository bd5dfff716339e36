import type { Edit } from '../edit';
import type { Tone } from '../instrument';
import type { Part, Piece, PieceContext, Source } from '../score';

/** Fields of a piece and its parts, each set by itself: an edit touches what is named and nothing else. */

export const setTitle = (title: string): Edit => ({ type: 'patchPiece', set: { title }, clear: [] });

/** Who it is by; null takes it out. */
export const setCredit = (credit: string | null): Edit =>
  credit === null
    ? { type: 'patchPiece', set: {}, clear: ['credit'] }
    : { type: 'patchPiece', set: { credit: credit.slice(0, 300) }, clear: [] };

/** How a part should sound: in words, and as settings by name; null or none leaves it open. */
export function setTone(
  part: string,
  sound: { readonly tone?: string | null; readonly tones?: readonly Tone[] },
): Edit {
  const set = {
    ...(sound.tone ? { tone: sound.tone.slice(0, 300) } : {}),
    ...(sound.tones && sound.tones.length > 0
      ? { tones: sound.tones.map((tone) => ({ ...tone, knobs: [...tone.knobs] })) }
      : {}),
  };
  const clear: ('tone' | 'tones')[] = [
    ...(sound.tone === null || sound.tone === '' ? (['tone'] as const) : []),
    ...(sound.tones?.length === 0 ? (['tones'] as const) : []),
  ];
  return { type: 'patchPart', part, set, clear };
}

/** What the piece was worked out from; null leaves it open. */
export const setSource = (source: Source | null): Edit =>
  source === null
    ? { type: 'patchPiece', set: {}, clear: ['source'] }
    : { type: 'patchPiece', set: { source }, clear: [] };

export const setTempo = (tempo: PieceContext['tempo']): Edit => ({ type: 'patchContext', set: { tempo }, clear: [] });

/** The key as it sounds; empty leaves it open. */
export const setKey = (key: PieceContext['key']): Edit => ({ type: 'patchContext', set: { key }, clear: [] });

/** The weights a piece is placed by; null for the program's own. */
export const setCosts = (costs: Piece['costs'] | null): Edit =>
  costs ? { type: 'patchPiece', set: { costs }, clear: [] } : { type: 'patchPiece', set: {}, clear: ['costs'] };

export const renamePart = (part: string, name: string): Edit => ({ type: 'patchPart', part, set: { name }, clear: [] });

/** Whose hand a part is placed for; null for an adult hand. */
export const setPlayer = (part: string, player: Part['player'] | null): Edit =>
  player
    ? { type: 'patchPart', part, set: { player }, clear: [] }
    : { type: 'patchPart', part, set: {}, clear: ['player'] };

/** Says that what was taken for granted is right: the tempo of the piece, or the tuning of a part. */
export const confirm = (part: string | null): Edit =>
  part === null
    ? { type: 'patchPiece', set: {}, clear: ['unspecified'] }
    : { type: 'patchPart', part, set: {}, clear: ['unspecified'] };

/** Several edits as one step of the history. */
export const together = (what: string, edits: readonly Edit[]): Edit => ({
  type: 'batch',
  what: what.slice(0, 200),
  edits: edits.flatMap((edit) => (edit.type === 'batch' ? edit.edits : [edit])),
});
