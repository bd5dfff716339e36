import { resolve, rowOver } from '../../form';
import { amountWords } from '../../rhythm';
import { barStart, cmp, mul, toNumber, ZERO } from '../../time';
import { asked, type PartRule } from '../types';

/** Rows that don't fill their section, moves that can't be made, variants that lost their riff. */
export const rows: PartRule = {
  id: 'rows',
  name: 'a part with more or less than a section’s bars',
  on: 'part',
  reads: (piece) => [piece.sections, piece.form, piece.parts, piece.costs, piece.context],
  find: (part, piece) => {
    const own = (resolve(piece, part.id)?.findings ?? []).map((found) =>
      asked('rows', {
        ...{ locus: found.locus, words: found.words, evidence: found.evidence, severity: found.severity },
        about: [part.id, found.rule, found.locus],
        ground: [found.words],
        likely: 0.7,
      }),
    );
    const short = piece.sections.flatMap((section) => {
      const row = section.rows.find((one) => one.part === part.id);
      if (!row || row.uses.length === 0) return [];
      const off = rowOver(piece, section, row);
      if (cmp(off, ZERO) >= 0) return [];
      const lacks = mul(off, -1);
      const bar = barStart(part.riffs.find((riff) => riff.id === row.uses.at(-1)?.riff)?.meters ?? FOUR, 1);
      // Some bars short may be a rest nobody wrote; part of a bar short is a wrong count.
      const odd = !Number.isInteger(toNumber(lacks) / toNumber(bar));
      return [
        asked('rows', {
          locus: { part: part.id, path: ['sections', section.id] },
          about: [part.id, section.id, 'short'],
          ground: [off, section.bars],
          words: `${part.name} stops ${amountWords(lacks)} before "${section.name}" ends: a rest, or one time too few?`,
          likely: odd ? 0.7 : 0.5,
        }),
      ];
    });
    return [...own, ...short];
  },
};

const FOUR = [{ bar: 0, beats: 4, unit: 4 }] as const;
