import { keysOf, namesOf, scaleName, scalesFor, type KeyReading } from '../harmony';
import { momentAt, mapOf } from '../form';
import { parseName, pitchClass, type Key } from '../pitch';
import { toneOf } from './places';
import { heardIn, overlap } from './sounding';
import { add, toNumber, type Quarter } from '../time';
import type { Piece } from '../score';

/** The harmony of a section as it sounds, beside what was said of it. */
export interface SectionHarmony {
  readonly section: string;
  readonly name: string;
  readonly bar: number;
  readonly said: Key | null;
  /** Keys by how likely they are, two at most. */
  readonly keys: readonly KeyReading[];
  /** The scale that holds most of it on the tonic said, or heard; and which notes are outside. */
  readonly scale: { readonly name: string; readonly share: number; readonly outside: readonly string[] } | null;
  /** Each chord of the lane with what sounds there, by name, the likeliest first. */
  readonly chords: readonly { readonly bar: number; readonly said: string; readonly sounding: readonly string[] }[];
}

/** What counts as sounding under a chord: a share of the time. */
const LONG = 0.15;
/** Names that ask for more belief than this say that no chord is held. */
const PLAIN = 1.3;

/** The harmony of every section on its first pass. */
export function harmonyOf(piece: Piece): SectionHarmony[] {
  const map = mapOf(piece);
  return heardIn(piece).map(({ section, pass, notes }) => {
    const { key } = momentAt(map, pass.from);
    const found = keysOf(notes.map((one) => ({ midi: one.midi, weight: toNumber(one.event.dur) }))).slice(0, 2);
    const home = key ?? found[0]?.key ?? null;
    const spelled = home ? parseName(home.tonic) : null;
    const tonic = spelled ? pitchClass(spelled) : null;
    const pitches = notes.map((one) => one.midi);
    const [scale] =
      tonic === null
        ? []
        : scalesFor(pitches, tonic).filter((one) => one.tonic === tonic && one.scale.id !== 'chromatic');
    const chords = (section.context?.chords ?? []).map((step) => {
      const span = { at: step.at as Quarter, to: add(step.at as Quarter, step.dur as Quarter) };
      const length = toNumber(step.dur as Quarter);
      const long = new Map<number, number>();
      for (const note of notes) long.set(note.midi, (long.get(note.midi) ?? 0) + overlap(note, span));
      const classes = new Map<number, number>();
      for (const [midi, time] of long) classes.set(midi % 12, (classes.get(midi % 12) ?? 0) + time);
      const held = [...long.keys()].filter((midi) => (classes.get(midi % 12) ?? 0) >= LONG * length);
      const names = namesOf({ pitches: held, key: momentAt(map, add(pass.from, span.at)).key });
      const { bar } = momentAt(map, add(pass.from, span.at));
      return {
        bar: bar + 1,
        said: step.chord,
        sounding: names
          .filter((one) => one.cost <= PLAIN)
          .slice(0, 2)
          .map((one) => one.sounding),
      };
    });
    return {
      ...{ section: section.id, name: section.name, bar: pass.firstBar + 1, said: key, keys: found, chords },
      scale: scale
        ? {
            name: scaleName(scale.tonic, scale.scale, home),
            share: scale.share,
            outside: [...new Set(scale.outside.map(({ midi }) => toneOf(midi, home)))],
          }
        : null,
    };
  });
}
