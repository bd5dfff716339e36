import { noteName, type Key } from '../pitch';
import { placeInBars } from '../rhythm';
import { keyOf, type Note, type Part, type Piece, type Riff, type RiffEvent } from '../score';

/** How findings name what they are about. */

/** "bar 3, beat 2". */
export const whereIn = (riff: Riff, event: Pick<RiffEvent, 'at'>): string => placeInBars(riff.meters, event.at);

/** "string 5, fret 3" or "string 5 open". */
export const placeWords = ({ place }: Pick<Note, 'place'>): string =>
  place ? `string ${place.string}${place.fret === 0 ? ' open' : `, fret ${place.fret}`}` : 'no place yet';

/** A note by its name in the key of its riff: "C♯". */
export const toneOf = (midi: number, key: Key | null): string => noteName(midi, { key });

/** The same with its octave, where that tells two apart. */
export const pitchOf = (midi: number, key: Key | null): string => noteName(midi, { key, octave: true });

export const keyIn = (piece: Piece, riff: Riff | null): Key | null => keyOf(piece, riff);

/** What can be spoken of without being an edition of something else. */
export const ownParts = (piece: Piece): readonly Part[] =>
  piece.parts.filter((part) => !piece.parts.some((one) => one.id === part.editionOf && one.id !== part.id));

/** "bars 1 and 5", "bars 1, 3 and 5". */
export function barList(bars: readonly number[]): string {
  const numbers = [...new Set(bars)].sort((a, b) => a - b).map((bar) => String(bar + 1));
  if (numbers.length <= 1) return `bar ${numbers[0] ?? '?'}`;
  return `bars ${numbers.slice(0, -1).join(', ')} and ${numbers.at(-1)}`;
}
