import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { answerTo, setTempo, setTitle } from '../command';
import { applyEdit, invertEdit } from '../edit';
import { readPiece, type Piece } from '../score';
import { ZERO } from '../time';
import { openOf, proofread, stateOf } from './check';
import { readLoosely } from './loose';
import { RULES, RULE_NAMES } from './rules';
import { ASKED, type CheckFinding } from './types';
import { formArbitrary as wholePiece } from '../form/test-support/arbitrary';
import { pieceOf, riffOf } from './test-support/made';

const BAR = '5.0 5.3 4.0 4.2 5.3 5.0 6.3 5.0';
const slip = (at: number, to: string): string =>
  BAR.split(' ')
    .map((one, i) => (i === at ? to : one))
    .join(' ');
const broken = pieceOf([riffOf(`${BAR} ${slip(3, '4.3')} ${BAR} ${BAR}`, 4)]);

const asked = (piece: Piece): CheckFinding[] =>
  openOf(proofread(piece), piece.answers).filter((one) => one.severity !== 'open');

describe('answers', () => {
  it('keep a question quiet through reload, undo and unrelated edits, until its ground changes', () => {
    const [question] = asked(broken);
    if (!question) throw new Error('nothing was asked');
    const meant = must(applyEdit(broken, answerTo(question, 'meant', 'the lamp flickers there')));
    expect(stateOf(question, meant.answers)).toBe('meant');
    expect(asked(meant)).toEqual([]);
    const reloaded = must(readPiece(JSON.parse(JSON.stringify(meant))));
    expect(asked(reloaded)).toEqual([]);
    const edit = setTempo([{ at: ZERO, bpm: 77 }]);
    const later = must(applyEdit(meant, edit));
    expect(asked(later)).toEqual([]);
    expect(asked(must(applyEdit(later, must(invertEdit(meant, edit)))))).toEqual([]);
    // Another copy fewer is other ground: it is asked again, and says what was answered.
    const [part] = meant.parts;
    const [riff] = part?.riffs ?? [];
    if (!part || !riff) throw new Error('no riff');
    const fewer = { ...meant, parts: [{ ...part, riffs: [{ ...riff, events: riff.events.slice(0, 24) }] }] };
    const [again] = asked(fewer);
    expect(again && stateOf(again, fewer.answers)).toBe('again');
  });

  it('can be taken back', () => {
    const [question] = asked(broken);
    if (!question) throw new Error('nothing was asked');
    const edit = answerTo(question, 'later');
    const after = must(applyEdit(broken, edit));
    expect(stateOf(question, after.answers)).toBe('later');
    expect(must(applyEdit(after, must(invertEdit(broken, edit))))).toEqual(broken);
    expect(must(applyEdit(after, answerTo(question, null))).answers).toBeUndefined();
  });
});

describe('mends', () => {
  it('make their question go and no new one of its kind', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 7 }),
        fc.integer({ min: 0, max: 3 }),
        fc.constantFrom('4.3', '5.1', '4.1', '6.4', '3.1', '-'),
        (at, bar, to) => {
          const bars = [BAR, BAR, BAR, BAR].map((one, i) => (i === bar ? slip(at, to) : one));
          const piece = pieceOf([riffOf(bars.join(' '), 4)]);
          for (const question of asked(piece))
            for (const mend of question.mends) {
              const mended = must(applyEdit(piece, mend.edit));
              const after = asked(mended);
              expect(after.map(({ id }) => id)).not.toContain(question.id);
              const before = asked(piece).filter(({ rule }) => rule === question.rule).length;
              expect(after.filter(({ rule }) => rule === question.rule).length).toBeLessThan(before);
            }
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('reading', () => {
  it('gives each question once, the likeliest first, and the same for the same piece', () => {
    const found = proofread(broken);
    expect(new Set(found.map(({ id }) => id)).size).toBe(found.length);
    expect(found.map(({ likely }) => likely)).toEqual([...found.map(({ likely }) => likely)].sort((a, b) => b - a));
    expect(proofread(JSON.parse(JSON.stringify(broken)) as Piece)).toEqual(found);
  });

  it('does not read again what an edit did not touch', () => {
    const other = { ...riffOf(BAR, 1), id: 'r2', name: 'Boards' };
    const piece = pieceOf([
      riffOf(`${BAR} ${slip(3, '4.3')} ${BAR}`, 3),
      {
        ...other,
        events: other.events.map((event) => ({
          ...event,
          id: `x${event.id}`,
          notes: event.notes.map((note) => ({ ...note, id: `x${note.id}` })),
        })),
      },
    ]);
    const before = proofread(piece).find(({ rule }) => rule === 'copy');
    const titled = must(applyEdit(piece, setTitle('Lantern')));
    expect(proofread(titled).find(({ rule }) => rule === 'copy')).toBe(before);
  });

  it('asks about pitches their places don’t sound, and refuses what is no piece', () => {
    const json = JSON.parse(JSON.stringify(broken)) as {
      parts: { riffs: { events: { notes: { pitch: { midi: number } }[] }[] }[] }[];
    };
    const note = json.parts[0]?.riffs[0]?.events[0]?.notes[0];
    if (note) note.pitch.midi = 46;
    expect(readPiece(json).ok).toBe(false);
    const { findings, piece } = must(readLoosely(json));
    expect(findings).toMatchObject([{ rule: 'name-place', severity: 'error', locus: { note: 'e0n0' } }]);
    expect(piece.parts[0]?.riffs[0]?.events[0]?.notes[0]?.place).toBeNull();
    expect(readLoosely({ schemaVersion: 5 }).ok).toBe(false);
    expect(readLoosely(null).ok).toBe(false);
  });

  it('names every rule, each once', () => {
    expect(new Set(RULES.map(({ id }) => id)).size).toBe(RULES.length);
    for (const { id } of RULES) expect(RULE_NAMES[id]).toBeTruthy();
  });

  it('tells what is unsaid, and the key it sounds in', () => {
    const open = proofread(pieceOf([riffOf(BAR, 1)], { context: { tempo: [{ at: ZERO, bpm: 90 }], key: [] } }));
    const key = open.find(({ words }) => words === 'Not said: the key.');
    expect(key).toMatchObject({ severity: 'open', mends: [{ words: 'A minor' }, {}] });
    expect(open.every(({ severity, likely }) => severity === 'open' || likely < ASKED)).toBe(true);
  });
});

describe('any piece', () => {
  it('is read without stumbling, and every mend offered can be made and taken back', () => {
    fc.assert(
      fc.property(wholePiece, (piece) => {
        for (const { mends, words, id, ground } of proofread(piece)) {
          expect(words.trim()).not.toBe('');
          expect(id).toMatch(/^[a-z0-9.-]{1,80}$/);
          expect(ground).toMatch(/^[a-z0-9]{1,16}$/);
          for (const { edit } of mends) {
            const after = must(applyEdit(piece, edit));
            const back = must(applyEdit(after, must(invertEdit(piece, edit))));
            expect({ ...back, lastId: piece.lastId }).toEqual(piece);
          }
        }
      }),
      { numRuns: 60 },
    );
  });
});
