import { ok, type Result } from '@/core/base';
import { makeSetup, tuningKey, type Instrument, type MadeSetup, type Setup } from '@/core/instrument';
import { asciiPitch } from '@/core/pitch';
import type { Rack } from '@/server/rack';
import { instrumentBy } from '@/features/rack/rack-context';

/** A capo as it is being typed: its fret, and its strings where they are not all. */
export interface CapoDraft {
  readonly fret: string;
  readonly strings: readonly number[] | null;
}

/** A set-up as it is being typed. */
export interface SetupDraft {
  /** An id of the catalogue or of the studio's own. */
  readonly instrument: string;
  /** A tuning's id or a spelling. */
  readonly tuning: string;
  readonly capos: readonly CapoDraft[];
  /** The instrument a set-up came with, where it is on no list any more. */
  readonly kept?: Instrument | undefined;
}

export const FIRST_DRAFT: SetupDraft = { instrument: 'guitar-6', tuning: 'standard', capos: [] };

/** The draft of a set-up that is in use. */
export function draftOf({ instrument, tuningId, open, absent, capos, signs }: Setup): SetupDraft {
  const key = tuningKey(signs);
  const spelled = open.map((midi, i) => (absent.includes(open.length - i) ? 'x' : asciiPitch(midi, key))).join(' ');
  return {
    instrument: instrument.id,
    tuning: tuningId ?? spelled,
    capos: capos.map((capo) => ({ fret: String(capo.fret), strings: capo.strings })),
    kept: instrument,
  };
}

/** What goes to a server action: the capos as numbers. */
export const capoRequest = (capos: readonly CapoDraft[]): { fret: number; strings: number[] | null }[] =>
  capos
    .filter((one) => one.fret.trim() !== '')
    .map((one) => ({ fret: Number(one.fret), strings: one.strings === null ? null : [...one.strings] }));

/** The set-up a draft stands for, or the fault with its field. */
export function madeOf(draft: SetupDraft, rack: Rack): Result<MadeSetup> {
  // A piece keeps the instrument it was set up with, even when the rack has moved on.
  const listed = instrumentBy(rack, draft.instrument);
  const instrument = draft.kept?.id === draft.instrument ? draft.kept : listed;
  return makeSetup(
    { instrument: instrument ?? draft.instrument, tuning: draft.tuning, capo: capoRequest(draft.capos) },
    rack.tunings,
  );
}

/** Takes a string off or puts it back on, in a draft's spelling. */
export function toggleString(draft: SetupDraft, made: Setup, string: number): Result<SetupDraft> {
  const names = made.open.map((midi, i) => {
    const s = made.open.length - i;
    const off = made.absent.includes(s) !== (s === string);
    return off ? 'x' : asciiPitch(midi, tuningKey(made.signs));
  });
  return ok({ ...draft, tuning: names.join(' ') });
}
