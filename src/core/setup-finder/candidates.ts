import {
  changesFromReference,
  fullCapo,
  tuningPitches,
  tuningsFor,
  type Instrument,
  type Setup,
  type Tuning,
  type TuningFamily,
} from '../instrument';
import type { Candidate, FinderLimits, Member } from './types';

/** How far all strings of a tuning are moved alike, in semitones, and the highest capo looked at. */
const SHIFTS: { readonly from: number; readonly to: number } = { from: -7, to: 2 };
const HIGHEST_CAPO = 9;
/** A string is not taken farther from what it is made for: it would hang loose, or snap. */
const CHANGE = { from: -9, to: 4 } as const;

/**
 * How common set-ups are, as logarithms beside standard tuning without capo: a judgement of practice in one table. The
 * usual ones of each family by id, then what the others of the family are worth.
 */
const USUAL: ReadonlySet<string> = new Set([
  ...['standard', 'down-1', 'down-2', 'drop-d', 'drop-c', 'open-g', 'open-d', 'modal-dadgad', 'tenor-fifths'],
  ...['seven-standard', 'seven-drop-a', 'eight-standard', 'eight-drop-e', 'baritone-b', 'baritone-a'],
  ...['bass-standard', 'bass-down-1', 'bass-down-2', 'bass-drop-d', 'bass-drop-c', 'bass-bead', 'bass-5-standard'],
  ...['bass-5-high-c', 'bass-6-standard'],
]);
const FAMILY: Readonly<Record<TuningFamily, number>> = {
  standard: 0,
  detuned: -1.9,
  dropped: -1.6,
  extended: 0,
  baritone: 0,
  open: -2.6,
  modal: -2,
  altered: -3,
};
const LESS_USUAL = -2.4;
const OWN = -1;
/** A tuning moved to where the catalogue has no name for it, and each further semitone. */
const UNNAMED = -3;
const A_SEMITONE = -0.3;
/** By fret; an electric guitar or a bass wears one less often. */
const CAPO = [0, -2.8, -2.5, -2.8, -3, -3, -3.8, -3.3, -4.5, -4.5];
const CAPO_ELECTRIC = -0.7;
const WITHOUT_CAPO: readonly Instrument['kind'][] = ['electric', 'bass', 'baritone'];
/** A thick string taken off an open tuning, as some players do. */
const STRING_OFF = -2.5;

/**
 * Every set of open strings that could have been used, each once: catalogue tunings and one's own, all strings moved
 * alike, with a capo or none. Detuning and capo are shifts of one shape, so those that sound alike stand together as
 * members of one candidate.
 */
export function candidatesFor(limits: FinderLimits): Candidate[] {
  const found = new Map<
    string,
    { instrument: Instrument; open: number[]; absent: number[]; members: Map<string, Member> }
  >();
  const add = (
    instrument: Instrument,
    tuning: Tuning | null,
    open: number[],
    absent: number[],
    common: number,
  ): void => {
    for (let capo = 0; capo <= (limits.capo === false ? 0 : HIGHEST_CAPO); capo++) {
      const sounding = open.map((midi) => midi + capo);
      const key = `${instrument.id}:${sounding.join()}:${absent.join()}`;
      let one = found.get(key);
      if (!one) found.set(key, (one = { instrument, open: sounding, absent, members: new Map() }));
      const own = `${open.join()}:${capo}`;
      const known = one.members.get(own);
      const price =
        common + (CAPO[capo] ?? -5) + (capo > 0 && WITHOUT_CAPO.includes(instrument.kind) ? CAPO_ELECTRIC : 0);
      if (known && known.common >= price) continue;
      const setup: Setup = { instrument, tuningId: tuning?.id ?? null, open, absent, capos: fullCapo(capo) };
      one.members.set(own, { setup, common: price });
    }
  };
  for (const instrument of limits.instruments) {
    const all = tuningsFor(instrument, limits.tunings);
    const named = new Set(all.map((tuning) => tuningPitches(tuning).join()));
    for (const tuning of all) {
      if (limits.families && !limits.families.includes(tuning.family)) continue;
      const base = tuningPitches(tuning);
      const plain = limits.tunings?.includes(tuning)
        ? OWN
        : FAMILY[tuning.family] + (USUAL.has(tuning.id) ? 0 : LESS_USUAL);
      for (let shift = SHIFTS.from; shift <= SHIFTS.to; shift++) {
        const open = base.map((midi) => midi + shift);
        const changes = changesFromReference(instrument, open);
        if (Math.min(...changes) < CHANGE.from || Math.max(...changes) > CHANGE.to) continue;
        // What the catalogue has under a name of its own comes in under that.
        if (shift !== 0 && named.has(open.join())) continue;
        const common = shift === 0 ? plain : plain + UNNAMED + A_SEMITONE * Math.abs(shift);
        add(instrument, shift === 0 ? tuning : null, open, [], common);
        if (tuning.family === 'open' && shift === 0 && open.length > 4)
          add(instrument, null, open, [open.length], common + STRING_OFF);
      }
    }
  }
  return [...found.values()].map((one): Candidate => {
    const members = [...one.members.values()].sort((a, b) => b.common - a.common || compare(a.setup, b.setup));
    return { ...one, members, common: Math.log(members.reduce((sum, member) => sum + Math.exp(member.common), 0)) };
  });
}

const compare = (a: Setup, b: Setup): number =>
  (a.capos[0]?.fret ?? 0) - (b.capos[0]?.fret ?? 0) || (a.open.join() < b.open.join() ? -1 : 1);
