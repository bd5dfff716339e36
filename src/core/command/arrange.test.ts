import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { easierBars, reduce } from '../arrange';
import { must } from '../base';
import { applyEdit, invertEdit } from '../edit';
import { resolve, resolveAll } from '../form';
import { formArbitrary } from '../form/test-support/arbitrary';
import { readPiece, tempoOf, type Piece } from '../score';
import { acceptEasier, levelPart, reducedParts, voicePart } from './index';

const valid = (piece: Piece): boolean => readPiece(JSON.parse(JSON.stringify(piece))).ok;

describe('parts made of parts', () => {
  it('a second voice plays where its model plays, the interval away; undone, the piece is as it was', () => {
    fc.assert(
      fc.property(formArbitrary, fc.constantFrom(2, -2, 12), (piece, semitones) => {
        const model = piece.parts[0];
        if (!model) return;
        const made = voicePart(piece, model.id, { by: 'semitones', semitones }, 'Second voice');
        if (!made.ok) return;
        const after = must(applyEdit(piece, made.value.edit));
        expect(valid(after)).toBe(true);
        const back = must(applyEdit(after, must(invertEdit(piece, made.value.edit))));
        expect({ ...back, lastId: 0 }).toEqual({ ...piece, lastId: 0 });
        // Moves by chord or by strings make other sounds of the same riff, and may leave the neck.
        const plainly = piece.sections.every((section) =>
          section.rows.every((row) => row.uses.every((use) => !use.move)),
        );
        if (!plainly) return;
        const [mine, theirs] = [resolve(after, model.id), resolve(after, made.value.part)];
        const pitches = (line: typeof mine, by: number) =>
          line?.riff.events.map((event) => [event.at, event.notes.map((note) => note.pitch.midi + by).sort()]);
        expect(pitches(theirs, 0)).toEqual(pitches(mine, semitones));
      }),
      { numRuns: 60 },
    );
  });
  it('a level begins as its model; what is made easier in it leaves the model alone, and the other way round', () => {
    fc.assert(
      fc.property(formArbitrary, (piece) => {
        const model = piece.parts[0];
        if (!model) return;
        const made = must(levelPart(piece, model.id, 'starter', 'Starter'));
        const after = must(applyEdit(piece, made.edit));
        expect(valid(after)).toBe(true);
        const sounds = (id: string, of: Piece) =>
          resolve(of, id)?.riff.events.map((event) => [
            event.at,
            event.dur,
            event.notes.map((note) => [note.pitch.midi, note.place?.string, note.place?.fret]),
          ]);
        const level = after.parts.find((part) => part.id === made.part);
        expect(level).toMatchObject({ level: 'starter', editionOf: model.id });
        expect(sounds(made.part, after)).toEqual(sounds(model.id, after));
        let easier = after;
        for (const riff of level?.riffs ?? [])
          for (const bar of easierBars(riff, model.setup, tempoOf(piece, riff), {
            notesPerSecond: 1,
            reach: 0.3,
            barre: false,
          })) {
            const done = applyEdit(easier, acceptEasier(made.part, riff.id, bar));
            if (done.ok) easier = done.value;
          }
        expect(easier.parts.find((part) => part.id === model.id)).toBe(
          after.parts.find((part) => part.id === model.id),
        );
        expect(sounds(model.id, easier)).toEqual(sounds(model.id, piece));
      }),
      { numRuns: 40 },
    );
  });
  it('what fewer players play becomes parts of its own that make a valid piece', () => {
    fc.assert(
      fc.property(formArbitrary, (piece) => {
        const lines = resolveAll(piece).filter((line) => line.riff.events.length > 0);
        if (lines.length < 2) return;
        const made = reduce(lines, lines.length - 1);
        const edit = must(reducedParts(piece, made, (part) => `${part.name}, alone`));
        const after = must(applyEdit(piece, edit));
        expect(valid(after)).toBe(true);
        expect(after.parts).toHaveLength(piece.parts.length + lines.length - 1);
      }),
      { numRuns: 40 },
    );
  });
});
