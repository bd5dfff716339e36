import { moveWords, spansOf } from '../../form';
import { soundingName } from '../../instrument';
import { asked, type CheckFinding, type PartRule } from '../types';

/** A riff that is moved where it is used, and had open strings: they are stopped now, or have changed their degree. */
export const movedOpen: PartRule = {
  id: 'moved-open',
  name: 'open strings lost by moving a shape',
  on: 'part',
  reads: (piece) => [piece.sections, piece.form, piece.costs, piece.context],
  find: (part, piece) => {
    const told = new Set<string>();
    return spansOf(piece, part).spans.flatMap(({ use, lostOpen, riff, pass }): CheckFinding[] => {
      if (lostOpen === 0 || !use.move || !riff || told.has(use.id)) return [];
      told.add(use.id);
      const open = [
        ...new Set(
          riff.events.flatMap((event) =>
            event.notes.flatMap((note) => (note.place?.fret === 0 ? [note.place.string] : [])),
          ),
        ),
      ];
      return [
        asked('moved-open', {
          locus: { part: part.id, riff: riff.id, path: ['sections', pass.section.id] },
          about: [use.id],
          ground: [use.move, lostOpen, riff.id, open],
          words: `"${riff.name}" in "${pass.section.name}" goes ${moveWords(use.move)}: ${lostOpen === 1 ? 'a note that was open is' : `${lostOpen} notes that were open are`} stopped there. Is it played so?`,
          evidence: `Open ${open.length === 1 ? 'was string' : 'were strings'} ${open.sort((a, b) => b - a).join(', ')} (${open.map((string) => soundingName(part.setup, string)).join(', ')}). A shape without open strings, or other places, may lie better.`,
          likely: 0.35,
        }),
      ];
    });
  },
};
