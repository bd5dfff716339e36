import { setTempo } from '../../command';
import { type Piece } from '../../score';
import { sub, toNumber, ZERO } from '../../time';
import { ownParts } from '../places';
import { asked, type CheckFinding, type PieceRule } from '../types';

/** The felt tempo against the click: a piece counted at double or half its pulse. */
export const tempo: PieceRule = {
  id: 'tempo-click',
  name: 'a tempo counted at double or half',
  on: 'piece',
  find: (piece) => {
    const [first] = piece.context.tempo;
    if (!first || piece.context.tempo.length > 1) return [];
    const gaps = ownParts(piece).flatMap((part) =>
      part.riffs.flatMap((riff) => {
        const events = riff.events.filter((event) => !event.grace);
        return events.slice(1).map((event, i) => toNumber(sub(event.at, events[i]?.at ?? ZERO)));
      }),
    );
    if (gaps.length < 12) return [];
    const share = (test: (gap: number) => boolean): number => gaps.filter(test).length / gaps.length;
    const slow = first.bpm >= 168 && share((gap) => gap < 0.99) < 0.04;
    const fast = first.bpm <= 66 && share((gap) => gap <= 0.2501) > 0.55 && share((gap) => gap < 0.2499) > 0.15;
    if (!slow && !fast) return [];
    return [question(piece, slow ? first.bpm / 2 : first.bpm * 2, slow)];
  },
};

function question(piece: Piece, bpm: number, slow: boolean): CheckFinding {
  const now = piece.context.tempo[0]?.bpm ?? 0;
  return asked('tempo-click', {
    locus: {},
    about: ['tempo'],
    ground: [now, slow, piece.context.click],
    words: slow
      ? `At ${now} nothing is shorter than a beat: is ${bpm} felt, and ${now} the click?`
      : `At ${now} most of it is sixteenths and shorter: is ${bpm} felt?`,
    evidence: slow
      ? `With a click of 2 to the beat it goes as fast as before; the notes' lengths are then halved by you.`
      : null,
    likely: 0.5,
    mends: [{ words: `Set the tempo to ${bpm}`, edit: setTempo([{ at: ZERO, bpm }]) }],
  });
}
