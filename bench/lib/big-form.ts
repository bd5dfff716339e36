import { must } from '../../src/core/base';
import { insertSection, setRoute, setRow } from '../../src/core/command';
import { applyEdit } from '../../src/core/edit';
import { makeSetup } from '../../src/core/instrument';
import { makeEvent, makeNote, makePart, makePiece, makePlace, makeRiff, type Piece } from '../../src/core/score';
import { quarter } from '../../src/core/time';

const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
const OPEN = [64, 59, 55, 50, 45, 40];

/** Eight eighths a bar, 20 bars of riffs a part, ten uses each in ten sections of 8 bars, played five times over. */
export function bigPiece(): Piece {
  const parts = Array.from({ length: 6 }, (_, p) =>
    makePart(`p${p}`, `Part ${p}`, setup, {
      riffs: Array.from({ length: 5 }, (_, r) =>
        makeRiff(`p${p}r${r}`, `Riff ${r}`, {
          bars: 4,
          events: Array.from({ length: 32 }, (_, e) => {
            const string = 1 + ((e + r + p) % 6);
            const fret = 1 + ((e * 7 + r) % 9);
            const place = makePlace(string, fret, 'instructor', { finger: 1 });
            const id = `p${p}r${r}e${e}`;
            return makeEvent(id, quarter(e, 2), quarter(1, 2), [
              makeNote(`${id}n`, (OPEN[string - 1] ?? 64) + fret, 'instructor', { place }),
            ]);
          }),
        }),
      ),
    }),
  );
  let piece = makePiece('big', 'Big', { parts });
  for (let s = 0; s < 10; s++) {
    const made = insertSection(piece, { name: `Section ${s}`, bars: 8 });
    piece = must(applyEdit(piece, made.edit));
    for (const [p, part] of parts.entries())
      piece = must(
        applyEdit(
          piece,
          must(
            setRow(piece, made.id, part.id, [
              { riff: `p${p}r${s % 5}`, plays: 2, ...(s % 3 === 0 ? { move: { by: 'frets', steps: 2 } } : {}) },
            ]),
          ),
        ),
      );
  }
  const items = Array.from({ length: 5 }, () => piece.sections)
    .flat()
    .map((one) => ({ section: one.id, name: one.name, plays: 1, stop: null, from: 0, to: 0 }));
  return must(applyEdit(piece, must(setRoute(piece, items))));
}
