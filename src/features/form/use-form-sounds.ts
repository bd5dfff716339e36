import { useMemo } from 'react';
import { levelsOf, mapOf, resolveAll, writtenChords, type FormMap, type Line } from '@/core/form';
import { keyOf, makeRiff, modelOf, type Piece, type Riff } from '@/core/score';
import { BACKINGS, backingTrack, chordsOf, type Track } from '@/core/synth';
import { ZERO } from '@/core/time';
import { CLICK, useSoundSettings, type Sounds } from '@/features/hear/sounds';

/** All parts of a piece as its form plays them, and what is to sound with them. */
export interface FormSounds extends Sounds {
  readonly lines: readonly Line[];
  readonly map: FormMap;
  /** The time everything runs in: bars, tempo and feel of the whole. */
  readonly frame: Riff;
}

export function useFormSounds(piece: Piece): FormSounds {
  const { settings: kept, change } = useSoundSettings(piece.id);
  // Levels of one part are not heard on top of each other, unless somebody turns one on.
  const settings = useMemo(() => {
    const editions = piece.parts.filter((part) => modelOf(piece, part));
    const silent = Object.fromEntries(editions.map((part) => [part.id, { level: 80, muted: true, solo: false }]));
    return { ...kept, strips: { ...silent, ...kept.strips } };
  }, [kept, piece]);
  const map = useMemo(() => mapOf(piece), [piece]);
  const lines = useMemo(() => resolveAll(piece).filter((line) => line.riff.events.length > 0), [piece]);
  const frame = useMemo(
    () =>
      makeRiff('form', piece.title, {
        ...{ bars: Math.max(1, map.bars), meters: [...map.meters], tempo: [...map.tempo] },
        ...(map.feel.length > 0 ? { feel: [...map.feel] } : {}),
        ...(map.click === undefined ? {} : { click: map.click }),
      }),
    [map, piece.title],
  );
  const { backing } = settings;
  const written = useMemo(() => writtenChords(map, ZERO, map.end), [map]);
  const chords = useMemo(() => {
    if (backing.length === 0 || written.length > 0) return written;
    return chordsOf([frame, ...lines.map((line) => line.riff)], keyOf(piece, null));
  }, [backing, written, frame, lines, piece]);
  const tracks = useMemo((): Track[] => {
    const parts = lines.map((line): Track => {
      const levels = levelsOf(map, line.part.id);
      return { setup: line.part.setup, versions: [line.riff], ...(levels.length > 0 ? { levels } : {}) };
    });
    const beside = BACKINGS.filter((one) => backing.includes(one)).map((one) => backingTrack(frame, chords, one));
    const all = [...parts, ...beside];
    // Where nobody plays yet the click runs alone, through a silent part.
    const [part] = piece.parts;
    return all.length > 0 || !part ? all : [{ setup: part.setup, versions: [frame] }];
  }, [lines, map, backing, frame, chords, piece.parts]);
  return {
    ...{ settings, change, tracks, chords, lines, map, frame },
    others: [],
    voices: [
      ...(lines.length > 0 || backing.length > 0
        ? lines.map(({ part }) => ({ id: part.id, name: part.name }))
        : piece.parts.slice(0, 1).map((part) => ({ id: part.id, name: part.name }))),
      ...BACKINGS.filter((one) => backing.includes(one)).map((one) => ({
        id: one,
        name: one === 'bass' ? 'A plain bass' : 'Plain chords',
      })),
      { id: CLICK, name: 'Click' },
    ],
    chordsSaid: written.length > 0,
    chordWords: '',
    turns: [],
  };
}
