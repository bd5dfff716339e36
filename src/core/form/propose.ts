import { chordName, chordsUnder, type SoundingNote } from '../harmony';
import { noteEnd, type Piece, type Section } from '../score';
import { barStart, cmp, quarter, sub, toNumber, type Quarter } from '../time';
import type { ChordLane } from './chord-line';
import { mapOf, metersOf, momentAt } from './map';
import { resolveAll } from './resolve';

/**
 * Chords for a section from what all its parts sound on its first pass: plain ones, a bar or half a bar each. A
 * proposal; empty where nothing sounds or the section is not played.
 */
export function proposeChords(piece: Piece, section: Section): ChordLane {
  const map = mapOf(piece);
  const pass = map.passes.find((one) => one.section.id === section.id);
  if (!pass) return [];
  const notes = resolveAll(piece).flatMap((line) =>
    line.riff.events
      .filter((event) => cmp(event.at, pass.from) >= 0 && cmp(event.at, pass.to) < 0)
      .flatMap((event) =>
        event.notes
          .filter((note) => !note.technique?.dead)
          .map((note): SoundingNote => ({
            at: toNumber(sub(event.at, pass.from)),
            until: toNumber(sub(noteEnd(event, note), pass.from)),
            midi: note.pitch.midi,
          })),
      ),
  );
  const meters = metersOf(piece, section);
  const bounds = Array.from({ length: section.bars + 1 }, (_, bar) => toNumber(barStart(meters, bar)));
  const { key } = momentAt(map, pass.from);
  return chordsUnder(notes, bounds, key).map((one) => {
    const [at, to] = [exact(one.from), exact(one.to)];
    return { at, dur: sub(to, at), chord: chordName(one.chord).replaceAll('♯', '#').replaceAll('♭', 'b') };
  });
}

/** Halves of bars, told exactly. */
const exact = (q: number): Quarter => quarter(Math.round(q * 16), 16);
