import type { SyntaxNode } from '@lezer/common';
import { tiltCents } from '../instrument';
import type { Join } from '../score';
import type { CallContext, CalledNote } from './types';

/** How an event is joined to the one before, by its word. */
export const joinWord = (node: SyntaxNode): Join =>
  node.getChild('Hammer') ? 'hammer' : node.getChild('Pull') ? 'pull' : node.getChild('Shift') ? 'shift' : 'slide';

/** Notes under a tilted bar sound beside their frets, but where it was said what they sound. */
export function tiltedNotes(setup: CallContext['setup'], notes: readonly CalledNote[], degrees: number): CalledNote[] {
  const thick = Math.max(...notes.map((note) => note.place?.string ?? 0));
  return notes.map((note) =>
    note.place && note.place.fret > 0 && note.cents === undefined
      ? { ...note, cents: tiltCents(setup, note.place, thick, degrees) }
      : note,
  );
}

/** The members of a chord in order, each with the node that says how it alone is joined. */
export const membersOf = (node: SyntaxNode): { member: SyntaxNode; joined: SyntaxNode | null }[] =>
  [...node.getChildren('Member'), ...node.getChildren('JoinedMember')]
    .sort((a, b) => a.from - b.from)
    .flatMap((one): { member: SyntaxNode; joined: SyntaxNode | null }[] => {
      if (one.name === 'Member') return [{ member: one, joined: null }];
      const member = one.getChild('Member');
      return member ? [{ member, joined: one }] : [];
    });
