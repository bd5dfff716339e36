import type { SyntaxNode } from '@lezer/common';
import { LENGTHS, TUPLETS } from '../rhythm';
import { add, cmp, mul, parseQuarter, quarter, toNumber, ZERO, type Quarter } from '../time';
import type { Ear } from './types';

/** Dots of one written length; more is no note anyone writes. */
const MOST_DOTS = 3;
/** Tuplets within tuplets. */
const MOST_TUPLETS = 3;
/** Quarters of the longest length that can be called. */
const LONGEST = 400;

/** What a length is read with: the words, and where a fault is said. */
type Reading = Pick<Ear, 'slice' | 'fault'>;

/** The length called in a node ("for 3/2", "for dotted quarter"); null where none is, or a wrong one, which is said. */
export function spanOf(node: SyntaxNode | null, ear: Reading): Quarter | null {
  const span = node?.getChild('Span');
  if (!span) return null;
  const words = span.getChild('LengthWords');
  const length = words ? lengthOf(words, ear) : parseQuarter(ear.slice(span));
  if (length !== null && cmp(length, ZERO) > 0 && toNumber(length) <= LONGEST) return length;
  ear.fault(span, `A length is above 0 and at most ${LONGEST} quarters, such as 3/2 or "dotted quarter".`);
  return null;
}

/** A length in words ("half and dotted eighth"): the sum of its values. */
export const lengthOf = (words: SyntaxNode, ear: Reading): Quarter =>
  words.getChildren('Value').reduce((sum, value) => add(sum, valueOf(value, ear)), ZERO);

function valueOf(node: SyntaxNode, ear: Reading): Quarter {
  const word = node.getChild('LengthWord');
  const name = word ? ear.slice(word).replace('halves', 'half').replace(/s$/, '') : 'quarter';
  let length = LENGTHS[name] ?? quarter(1);
  const dots = Math.min(node.getChildren('Dotted').length, MOST_DOTS + 1);
  if (dots > MOST_DOTS) ear.fault(node, `A length has ${MOST_DOTS} dots at most.`);
  else if (dots > 0) length = mul(length, 2 ** (dots + 1) - 1, 2 ** dots);
  const tuplets = node.getChildren('Tuplet');
  if (tuplets.length > MOST_TUPLETS) ear.fault(node, `Tuplets stand in one another ${MOST_TUPLETS} deep at most.`);
  for (const tuplet of tuplets.slice(0, MOST_TUPLETS)) {
    const [n, m] = TUPLETS[ear.slice(tuplet)] ?? [1, 1];
    length = mul(length, m, n);
  }
  return length;
}
