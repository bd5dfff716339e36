import { freeLabel, patchSectionBy, setFrame } from '../../command';
import type { Riff } from '../../score';
import { asked, type PieceRule } from '../types';

/** Two sections, or two riffs of a part, that go by one name and are not the same. */
export const labels: PieceRule = {
  id: 'label-twice',
  name: 'a name used twice',
  on: 'piece',
  find: (piece) => {
    const plain = (name: string): string => name.trim().toLowerCase();
    const sections = piece.sections.flatMap((section, i) => {
      const first = piece.sections.findIndex((one) => plain(one.name) === plain(section.name));
      const other = piece.sections[first];
      if (first === i || !other) return [];
      const to = freeLabel(piece.sections, section.name);
      const made = patchSectionBy(piece, section.id, { name: to });
      return [
        asked('label-twice', {
          locus: { path: ['sections', section.id] },
          about: [section.id],
          ground: [section.name, other.id],
          words: `Two sections are called "${section.name}": is the second one another?`,
          evidence: `One has ${other.bars} bars, the other ${section.bars}.`,
          likely: 0.7,
          mends: made.ok ? [{ words: `Call it "${to}"`, edit: made.value }] : [],
        }),
      ];
    });
    const riffs = piece.parts.flatMap((part) =>
      part.riffs.flatMap((riff, i) => {
        const first = part.riffs.findIndex((one) => plain(one.name) === plain(riff.name));
        if (first === i) return [];
        const to = freeName(part.riffs, riff.name);
        const made = setFrame(piece, riff.id, { name: to });
        return [
          asked('label-twice', {
            locus: { part: part.id, riff: riff.id },
            about: [riff.id],
            ground: [riff.name, part.riffs[first]?.id],
            words: `${part.name} has two riffs called "${riff.name}": is the second one another?`,
            likely: 0.65,
            mends: made.ok ? [{ words: `Call it "${to}"`, edit: made.value }] : [],
          }),
        ];
      }),
    );
    return [...sections, ...riffs];
  },
};

function freeName(riffs: readonly Riff[], name: string): string {
  const taken = new Set(riffs.map((riff) => riff.name.toLowerCase()));
  for (let n = 2; ; n++) if (!taken.has(`${name} ${n}`.toLowerCase())) return `${name} ${n}`.slice(0, 120);
}
