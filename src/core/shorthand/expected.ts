import type { SyntaxNode } from '@lezer/common';

/** What was expected at a place the grammar could not read, in words. */
export function expectedAt(error: SyntaxNode, text: string): string {
  const wording = text.slice(error.from, error.to).trim();
  const got =
    wording === '' ? '' : `"${wording.length > 20 ? `${wording.slice(0, 20)}…` : wording}" is not understood here. `;
  return got + (EXPECTED[error.parent?.name ?? ''] ?? EXPECTED.Calls);
}

const EXPECTED: Record<string, string> = {
  Calls: 'Expected a note ("on 5 3", "A3", "open"), "rest", a length ("eighths"), a bar line or a group in [ ].',
  Event: 'Expected a note after this: a fret, "open", or "on" and a string first.',
  Member: 'Expected a fret or "open" after the string. Say the string first: "on 4 5" is fret 5 on string 4.',
  StringCall: 'Expected a string: its number (1 is the thinnest) or its letter.',
  StringLetter: 'Expected the letter of a string, such as "thick E".',
  Link: 'Expected the fret it goes to, such as "hammer 7".',
  With: 'Expected a finger from 1 (index) to 4 (little).',
  For: 'Expected a length: "for dotted quarter" or "for 3/2".',
  Held: 'Expected a length: "held whole" or "held 4".',
  Lasting: 'Expected a length: "lasting 3/2".',
  Span: 'Expected a length: "dotted quarter" or "3/2".',
  LengthWords: 'Expected whole, half, quarter, eighth, sixteenth or thirty-second.',
  Group: 'Expected "]" and how often: "[ ... ] 3 times".',
  TimesCall: 'Expected "times" after the number.',
  RepeatCall: 'Expected how often.',
  PitchCall: 'Expected a pitch with its octave, such as "note D3".',
  ChordCall: 'Expected a chord name, such as "chord Em7".',
  GripCall: 'Expected a fret for each string, thick to thin, x for one not played.',
};
