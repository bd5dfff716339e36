import { setContext, setKey } from '../../command';
import { keyFit, keysOf, scaleFit, SCALES, type KeyReading, type WeighedNote } from '../../harmony';
import { shapeShift } from '../../instrument';
import { keyName, parseName, pitchClass, shiftKey, type Key } from '../../pitch';
import { type Part, type Piece, type Riff } from '../../score';
import { toNumber, ZERO } from '../../time';
import { ownParts } from '../places';
import { heardIn } from '../sounding';
import { asked, type CheckFinding, type Mend, type PieceRule } from '../types';

/**
 * A key in which too much is outside, while another holds; above all the key of the shapes written where what sounds
 * is another, because capo or tuning were forgotten.
 */
export const key: PieceRule = {
  id: 'key',
  name: 'a key that doesn’t fit, capo or tuning forgotten',
  on: 'piece',
  find: (piece) => [...ofPiece(piece), ...ofSections(piece)],
};

const LEAST = { notes: 12, inside: 0.86, gain: 0.12, sure: 0.3 } as const;
/** Where capo or tuning explain another key, less speaks for it. */
const AS_SHAPE = { inside: 0.9, gain: 0.05, times: 1.5 } as const;
/** A tonic is heard as home where it sounds so much, or begins, ends or lies lowest: then its modes are allowed it. */
const HOME = 0.1;

/** Notes of parts as they are written, weighed by how long they last. */
export const weighed = (parts: readonly Part[], riffs: (riff: Riff) => boolean = () => true): WeighedNote[] =>
  parts.flatMap((part) =>
    part.riffs
      .filter(riffs)
      .flatMap((riff) =>
        riff.events.flatMap((event) =>
          event.notes
            .filter((note) => !note.technique?.dead)
            .map((note) => ({ midi: note.pitch.midi, weight: Math.min(4, toNumber(note.dur ?? event.dur)) })),
        ),
      ),
  );

/** Blue notes and the modes of a tonic don't speak against a key: how much is outside all of them. */
function tolerant(notes: readonly WeighedNote[], said: Key): number {
  const tonic = parseName(said.tonic);
  if (!tonic) return 1;
  const home = pitchClass(tonic);
  if (!isHome(notes, home)) return 0;
  const modes =
    said.mode === 'minor'
      ? ['minor', 'dorian', 'phrygian', 'blues', 'harmonic-minor', 'melodic-minor']
      : ['major', 'mixolydian', 'lydian', 'major-blues', 'blues'];
  const total = notes.reduce((sum, one) => sum + one.weight, 0);
  const inside = Math.max(
    ...SCALES.filter((scale) => modes.includes(scale.id)).map((scale) => {
      const { outside } = scaleFit(
        notes.map((one) => one.midi),
        scale,
        home,
      );
      return total - outside.reduce((sum, { index }) => sum + (notes[index]?.weight ?? 0), 0);
    }),
  );
  return total === 0 ? 1 : inside / total;
}

/** Whether a pitch class is heard as home: first, last or lowest, and often enough. */
function isHome(notes: readonly WeighedNote[], home: number): boolean {
  const total = notes.reduce((sum, one) => sum + one.weight, 0);
  const share = notes.reduce((sum, one) => sum + (one.midi % 12 === home ? one.weight : 0), 0) / total;
  const ends = [notes[0]?.midi, notes.at(-1)?.midi, Math.min(...notes.map((one) => one.midi))];
  return share >= 2 * HOME || (share >= HOME && ends.some((midi) => (midi ?? -1) % 12 === home));
}

interface Better {
  readonly said: KeyReading;
  readonly best: KeyReading;
  readonly inside: number;
}

/** A key that holds clearly better than the one said; null where that is as good as any. */
function better(notes: readonly WeighedNote[], said: Key): Better | null {
  if (notes.length < LEAST.notes) return null;
  const there = keyFit(notes, said);
  const [best] = keysOf(notes);
  if (!there || !best) return null;
  const inside = Math.max(there.inside, tolerant(notes, said));
  const clear = inside < LEAST.inside && best.inside - inside >= LEAST.gain && best.sure >= LEAST.sure;
  return clear ? { said: there, best, inside } : null;
}

/** The key said, moved by what capo or tuning shift, holds all that sounds where the one said doesn't. */
function shapeKey(notes: readonly WeighedNote[], said: Key, shift: number): Better | null {
  if (shift === 0 || notes.length < LEAST.notes) return null;
  const [there, moved] = [keyFit(notes, said), keyFit(notes, shiftKey(said, shift))];
  if (!there || !moved || moved.sure < AS_SHAPE.times * there.sure) return null;
  return moved.inside >= AS_SHAPE.inside && moved.inside - there.inside >= AS_SHAPE.gain
    ? { said: there, best: moved, inside: there.inside }
    : null;
}

const percent = (share: number): string => `${Math.round(share * 100)}%`;

function ofPiece(piece: Piece): CheckFinding[] {
  const [said] = piece.context.key;
  if (!said) return [];
  const parts = ownParts(piece);
  const elsewhere = new Set(
    piece.sections
      .filter((one) => one.context?.key)
      .flatMap((one) => one.rows.flatMap((row) => row.uses.map((use) => use.riff))),
  );
  const notes = weighed(parts, (riff) => riff.key === undefined && !elsewhere.has(riff.id));
  const shift = commonShift(parts);
  const found = shapeKey(notes, said, shift) ?? better(notes, said);
  if (!found) return [];
  const { best, inside } = found;
  const asShape = shift !== 0 && same(best.key, shiftKey(said, shift));
  const make = (to: Key): Mend => ({
    words: `Set the key to ${keyName(to)}`,
    edit: setKey([{ at: ZERO, ...to }, ...piece.context.key.slice(1)]),
  });
  return [
    asked('key', {
      locus: {},
      about: ['key'],
      ground: [said.tonic, said.mode, best.key, Math.round(inside * 20)],
      words: asShape
        ? `The key is said as ${keyName(said)}, but with this tuning or capo the music sounds in ${keyName(best.key)}: was the key of the shapes meant?`
        : `The key is said as ${keyName(said)}, but ${percent(1 - inside)} of what sounds is outside it: ${keyName(best.key)}?`,
      evidence: `${percent(best.inside)} of what sounds is in ${keyName(best.key)}.`,
      likely: asShape ? 0.8 : 0.6,
      mends: [make(best.key)],
    }),
  ];
}

const same = (a: Key, b: Key): boolean => {
  const [one, other] = [parseName(a.tonic), parseName(b.tonic)];
  if (!one || !other) return false;
  const apart = (pitchClass(one) - pitchClass(other) + 12) % 12;
  // A relative key has the same notes: the sound alone can't tell it apart.
  return a.mode === b.mode ? apart === 0 : a.mode === 'minor' ? apart === 9 : apart === 3;
};

/** By how much most parts sound beside their shapes. */
function commonShift(parts: readonly Part[]): number {
  const shifts = parts.map((part) => shapeShift(part.setup));
  return shifts.find((shift) => shift !== 0) ?? 0;
}

function ofSections(piece: Piece): CheckFinding[] {
  return heardIn(piece).flatMap(({ section, notes }): CheckFinding[] => {
    const [said] = section.context?.key ?? [];
    if (!said || (section.context?.key?.length ?? 0) > 1) return [];
    const list = notes.map((one) => ({ midi: one.midi, weight: Math.min(4, toNumber(one.event.dur)) }));
    const found = better(list, said);
    if (!found) return [];
    const made = setContext(piece, section.id, { key: [{ at: ZERO, ...found.best.key }] });
    return [
      asked('key', {
        locus: { path: ['sections', section.id] },
        about: ['key', section.id],
        ground: [said.tonic, said.mode, found.best.key, Math.round(found.inside * 20)],
        words: `"${section.name}" is said to be in ${keyName(said)}, but ${percent(1 - found.inside)} of what sounds there is outside it: ${keyName(found.best.key)}?`,
        evidence: `${percent(found.best.inside)} of it is in ${keyName(found.best.key)}.`,
        likely: 0.55,
        mends: made.ok ? [{ words: `Set it to ${keyName(found.best.key)}`, edit: made.value }] : [],
      }),
    ];
  });
}
