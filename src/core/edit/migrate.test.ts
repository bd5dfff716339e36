import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { readPiece, type Json, type Piece } from '../score';
import { applyEdit, EDITS, migrateStep, simpleOf, stepSchema, type Step } from './index';

const fixture = (file: string): unknown => JSON.parse(readFileSync(new URL(file, import.meta.url), 'utf8'));

/** Edits of every kind as the program of document version 4 wrote them, one after the other on one piece. */
const OLD = fixture('./fixtures/edits-v4.json') as { edit: Json; inverse: Json }[];
const start = must(readPiece(fixture('../score/fixtures/piece-v4.json')));
const end = must(readPiece(fixture('./fixtures/after-v4.json')));
const plain = (piece: Piece): Piece => ({ ...piece, lastId: 0 });
const steps = OLD.map((old): Step => migrateStep({ ...old, kind: 'do', what: 'as before' }));

describe('edits of document version 4', () => {
  it('do to the piece of today what they did to the piece of then', () => {
    const last = steps.reduce((piece, step) => must(applyEdit(piece, step.edit)), start);
    expect(plain(last)).toEqual(plain(end));
  });

  it('are taken back by their inverses to where they began', () => {
    const first = steps.reduceRight((piece, step) => must(applyEdit(piece, step.inverse)), end);
    expect(plain(first)).toEqual(plain(start));
  });

  it('pass the schema of today, and are not touched a second time', () => {
    for (const step of steps) {
      expect(stepSchema.safeParse(step).error?.issues ?? []).toEqual([]);
      expect(migrateStep(step)).toEqual(step);
    }
  });

  it('are of every kind there is, but for sections and form, which came later', () => {
    const kinds = new Set(
      steps.flatMap(({ edit, inverse }) => [...simpleOf(edit), ...simpleOf(inverse)].map((one) => one.type)),
    );
    const later = ['addSection', 'removeSection', 'patchSection', 'setForm', 'patchEvents', 'moveRiff'].concat([
      'putClaim',
      'answerFinding',
      'putHearing',
    ]);
    expect(Object.keys(EDITS).filter((kind) => !kinds.has(kind as never))).toEqual(
      later.sort((a, b) => Object.keys(EDITS).indexOf(a) - Object.keys(EDITS).indexOf(b)),
    );
  });
});
