import type { CheckFinding } from '@/core/check';
import { findPart, findRiff, type Piece } from '@/core/score';
import { placeInBars } from '@/core/rhythm';

/** Where a finding stands: in words, the page that shows it, and the place it is grouped under. */
export interface FindingPlace {
  readonly group: string;
  readonly words: string;
  readonly href: string;
  /** Where the group stands in the piece. */
  readonly order: number;
}

export function placeOf(piece: Piece, { locus, rule }: CheckFinding): FindingPlace {
  const root = `/pieces/${piece.id}`;
  const found = locus.riff === undefined ? null : findRiff(piece, locus.riff);
  const index = (part: string): number => piece.parts.findIndex((one) => one.id === part);
  if (found) {
    const { part, riff } = found;
    const event = riff.events.find((one) => one.id === locus.event);
    const at = event ? placeInBars(riff.meters, event.at) : locus.bar === undefined ? '' : `bar ${locus.bar + 1}`;
    const query = event
      ? `?note=${event.id}`
      : locus.bar === undefined || locus.bar < 0
        ? rule === 'unsaid'
          ? '?show=riff'
          : ''
        : `?bar=${locus.bar + 1}`;
    return {
      group: `${part.name}, ${riff.name}`,
      words: at || riff.name,
      href: `${root}/riffs/${riff.id}${query}`,
      order: 1000 + index(part.id) * 500 + part.riffs.indexOf(riff),
    };
  }
  const section = locus.path?.[0] === 'sections' ? piece.sections.find((one) => one.id === locus.path?.[1]) : undefined;
  if (section)
    return {
      ...{ group: section.name, words: locus.bar === undefined ? section.name : `bar ${locus.bar + 1}` },
      href: `${root}/form?section=${section.id}`,
      order: 100 + piece.sections.indexOf(section),
    };
  const part = locus.part === undefined ? undefined : findPart(piece, locus.part);
  if (part)
    return { group: part.name, words: part.name, href: `${root}/parts/${part.id}`, order: 900 + index(part.id) };
  const first = piece.parts[0]?.id;
  return { group: 'The piece', words: 'the piece', href: first ? `${root}/parts/${first}` : `${root}/about`, order: 0 };
}
