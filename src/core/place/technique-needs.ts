import type { NoteTechnique, Technique } from '../score';
import type { PlaceNote } from './types';

/** What a technique asks of the hand: a kind of note, a finger on the string, frets to slide over, room to bend. */
export type Needs = Partial<Omit<PlaceNote, 'pitch' | 'lock' | 'dur' | 'cents'>>;

const NOTHING: Needs = {};

const slide = (towards: 'lower' | 'higher'): Needs => (towards === 'lower' ? { least: 2 } : { least: 1, above: 1 });

/** What each technique of a note asks. Where several ask for a lowest fret, the highest of them counts. */
const NOTE_NEEDS: { readonly [Name in NoteTechnique]: (value: NonNullable<Technique[Name]>) => Needs } = {
  dead: (dead) => ({ dead }),
  harmonic: (harmonic) => ({ harmonic }),
  slideIn: slide,
  slideInBy: (by) => ({ least: by + 1 }),
  bend: (bend) => ({ bend }),
  bendCurve: () => NOTHING,
  bendShape: () => NOTHING,
  bendDirection: (notEdge) => ({ notEdge }),
  unspecified: (open) => (open.includes('bend') ? { least: 1 } : NOTHING),
  vibrato: () => ({ least: 1 }),
  trill: (trill) => ({ trill }),
  pinched: () => NOTHING,
  tapped: (tapped) => ({ tapped, least: 1 }),
  slideOut: slide,
  slideOutBy: (by) => ({ least: by + 1 }),
  hammered: (hammered) => ({ hammered, least: 1 }),
  pulledOff: () => ({ least: 1 }),
  letRing: () => NOTHING,
  hold: (keep) => ({ keep }),
  anchor: () => NOTHING,
};

/** Everything the techniques of a note ask of the hand together. */
export function handNeeds(technique: Technique = {}): Needs {
  const out: { -readonly [Key in keyof Needs]: Needs[Key] } = {};
  for (const name of Object.keys(technique) as NoteTechnique[]) {
    const ask = NOTE_NEEDS[name] as (value: never) => Needs;
    const { least, ...rest } = ask(technique[name] as never);
    Object.assign(out, rest);
    if (least !== undefined) out.least = Math.max(out.least ?? 0, least);
  }
  // A harmonic is touched, not pressed: no finger holds it to a fret.
  if (!technique.harmonic) return out;
  const { least: _, above: __, notEdge: ___, ...touched } = out;
  return touched;
}
