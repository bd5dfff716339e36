import type { SyntaxNode } from '@lezer/common';
import { fretsLeft, stringNumbers, type Setup } from '../instrument';
import type { CalledEvent, Ear } from './types';

/** How the pick is scraped along strings ("over 6 to 5 from 12 lower"); null where it can't be, which is said. */
export function scrapeOf(node: SyntaxNode, setup: Setup, ear: Ear): NonNullable<CalledEvent['scraped']> | null {
  const numbers = node.getChildren('Number').map((number) => Number(ear.slice(number)));
  const strings = stringNumbers(setup);
  const [thick = 0, thin = thick] = [...numbers].sort((a, b) => b - a);
  if (!strings.includes(thick) || !strings.includes(thin)) {
    ear.fault(node, `Strings are ${strings.join(', ')} here: "scrape over 6 to 5 lower".`);
    return null;
  }
  const from = node.getChild('ScrapedFrom')?.getChild('Number');
  const fret = from ? Number(ear.slice(from)) : null;
  if (fret !== null && !(fret >= 1 && fret <= fretsLeft(setup, thick))) {
    ear.fault(node, `There is no fret ${fret} to scrape from.`);
    return null;
  }
  const way = node.getChild('ScrapedWay');
  const to = way && ear.slice(way) === 'higher' ? 'higher' : 'lower';
  ear.understood(
    node,
    `along string ${thick === thin ? thick : `${thick} to ${thin}`}${fret === null ? '' : `, from fret ${fret}`}, to ${to} frets`,
  );
  return { thick, thin, fret, to };
}
