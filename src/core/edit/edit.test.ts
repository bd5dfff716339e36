import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { DEFAULT_COSTS, sizedHand } from '../hand';
import { makeSetup } from '../instrument';
import { carryPart } from '../carry';
import {
  addGrace,
  changeEvents,
  deleteAlternative,
  keepAlternative,
  moveNotes,
  putSpecial,
  retime,
  setEvidence,
  setFingerOption,
  setFrame,
  setArticulation,
  setTechniqueOfAll,
  setTilt,
  swapAlternative,
  insertEvents,
  lockAt,
  moveEvents,
  removeEvents,
  setSlideBar,
  setCents,
  setFinger,
  setLength,
  setJoin,
  setTechnique,
  setWish,
  setLetRing,
  shiftPitch,
  toNextString,
  unlock,
  type NoteRef,
  type FrameChange,
  type ArticulationChange,
  confirm,
  renamePart,
  setCosts,
  setKey,
  setPlayer,
  setTempo,
  setTitle,
  together,
} from '../command';
import {
  type TechniqueChange,
  checkPiece,
  makeEvent,
  makeNote,
  makePart,
  makePiece,
  makeRiff,
  type Piece,
  SCHEMA_VERSION,
} from '../score';
import { pieceArbitrary } from '../score/test-support/arbitrary';
import {
  applied,
  applyEdit,
  compactEdit,
  describeEdit,
  EMPTY_HISTORY,
  editSchema,
  invertEdit,
  logged,
  readEdit,
  redoStep,
  replayed,
  undoStep,
  type Edit,
  type History,
  type Step,
} from './index';
import { quarter, ZERO } from '../time';

/** Numbers of ids are never taken back: two pieces are the same without them. */
const withoutNumbers = (piece: Piece): Piece => ({ ...piece, lastId: 0 });

/** Any edit a user can make at a random spot, or null where it is refused. */
function randomEdit(piece: Piece, pick: (n: number) => number): Edit | null {
  const part = piece.parts[pick(piece.parts.length)];
  const riff = part?.riffs[pick(part.riffs.length)];
  if (!part || !riff) return null;
  const event = riff.events[pick(Math.max(1, riff.events.length))];
  const note = event?.notes[pick(event.notes.length)];
  const ref: NoteRef = { riff: riff.id, event: event?.id ?? '', note: note?.id ?? '' };
  const ids = event ? [event.id] : [];
  const made = [
    () => lockAt(piece, ref, pick(7), pick(15)),
    () => unlock(piece, ref),
    () => toNextString(piece, ref, pick(2) === 0 ? 1 : -1),
    () => shiftPitch(piece, ref, pick(5) - 2),
    () => setFinger(piece, ref, ([null, 1, 2, 3, 4] as const)[pick(5)] ?? null),
    () => setLength(piece, riff.id, ids, quarter(pick(6) + 1, 3)),
    () => setJoin(piece, riff.id, ids, (['hammer', 'pull', 'slide', null] as const)[pick(4)] ?? null),
    () => setLetRing(piece, riff.id, ids, pick(2) === 0),
    () =>
      changeEvents(piece, riff.id, ids, (event) => ({
        ...event,
        notes: event.notes.map((note) => ({ ...note, certainty: 'guess' as const })),
      })),
    () => removeEvents(piece, riff.id, ids),
    () => moveEvents(piece, riff.id, ids, quarter(pick(9) - 4, 4)),
    () =>
      insertEvents(
        piece,
        riff.id,
        [makeEvent('x', quarter(pick(32), 4), quarter(1, 2), [makeNote('y', 60, 'instructor')])],
        quarter(pick(40), 4),
      ),
    () => ({ ok: true as const, value: setTempo([{ at: ZERO, bpm: 60 + pick(100) }]) }),
    () => ({
      ok: true as const,
      value: setKey(pick(2) === 0 ? [] : [{ at: ZERO, tonic: 'G', mode: 'minor' }]),
    }),
    () => ({
      ok: true as const,
      value: {
        type: 'patchRiff',
        part: part.id,
        riff: riff.id,
        set: { name: 'Renamed', bars: pick(5) + 1, meters: [{ bar: 0, beats: 5, unit: 4 }] },
        clear: pick(2) === 0 ? ['tempo', 'plays', 'key'] : [],
      } as Edit,
    }),
    () => ({ ok: true as const, value: { type: 'removeRiff', part: part.id, riff: riff.id } as Edit }),
    () => {
      const to = piece.parts[pick(piece.parts.length)]?.id ?? part.id;
      return {
        ok: true as const,
        value: { type: 'moveRiff', part: part.id, riff: riff.id, to, at: pick(3) } as Edit,
      };
    },
    () => ({
      ok: true as const,
      value: { type: 'addRiff', part: part.id, riff: makeRiff(`new${pick(1000)}`, 'New'), at: pick(3) } as Edit,
    }),
    () => {
      const { setup } = must(makeSetup({ instrument: part.setup.instrument.id, capo: pick(5) }));
      return {
        ok: true as const,
        value: {
          type: 'setSetup',
          part: part.id,
          setup,
          riffs: carryPart(part, setup, pick(2) === 0 ? 'sound' : 'shape').riffs,
        } as Edit,
      };
    },
    () =>
      setTechnique(
        piece,
        ref,
        (
          [
            { bend: 100 },
            { trill: 2 },
            { dead: true },
            { harmonic: true },
            { hold: quarter(2) },
            { bend: null, trill: null, dead: null, harmonic: null, hold: null },
          ] satisfies TechniqueChange[]
        )[pick(6)] ?? {},
      ),
    () => setSlideBar(piece, riff.id, ids, pick(2) === 0),
    () => setCents(piece, ref, pick(120) - 60),
    () =>
      setWish(
        piece,
        riff.id,
        pick(2) === 0 ? null : 'w0',
        pick(4) === 0
          ? null
          : {
              from: quarter(pick(4)),
              to: quarter(pick(6)),
              hand: pick(9) + 1,
              liking: null,
              avoid: [pick(6) + 1],
              prefer: [],
            },
      ),
    () =>
      setArticulation(
        piece,
        riff.id,
        ids,
        (
          [
            { mute: 'palm' },
            { gate: 50 },
            { stroke: 'up' },
            { roll: 'thin-first' },
            { tremolo: quarter(1, 8) },
            { free: { kind: 'fill', remark: 'or a run' } },
            { remark: 'seen so' },
            { mute: null, gate: null, stroke: null, roll: null, tremolo: null, free: null, remark: null },
          ] satisfies ArticulationChange[]
        )[pick(8)] ?? {},
      ),
    () =>
      setTechniqueOfAll(
        piece,
        riff.id,
        ids,
        (
          [
            { vibrato: 40 },
            { tapped: true },
            {
              bend: 200,
              bendCurve: [
                { at: 0, cents: 200 },
                { at: 50, cents: 0 },
              ],
            },
            { unspecified: ['bend'] },
            { slideIn: 'lower' },
            { slideOut: 'higher' },
            { tapped: null, vibrato: null, bend: null, unspecified: null, slideIn: null, slideOut: null },
          ] satisfies TechniqueChange[]
        )[pick(7)] ?? {},
      ),
    () =>
      setEvidence(piece, riff.id, ids, {
        certainty: 'likely',
        evidence: { basis: 'isolated', at: 3.5, remark: 'left side' },
      }),
    () => setFingerOption(piece, ref, ([null, 2, 3] as const)[pick(3)] ?? null),
    () =>
      putSpecial(
        piece,
        riff.id,
        (['hole', 'hit', 'scrape'] as const)[pick(3)] ?? 'hole',
        quarter(pick(20), 2),
        quarter(1),
      ),
    () => addGrace(piece, riff.id, event?.id ?? ''),
    () => setTilt(piece, riff.id, event?.id ?? '', pick(20) - 10),
    () => {
      const made = moveNotes(
        piece,
        riff.id,
        riff.events.slice(0, pick(6) + 1).map((event) => event.id),
        { by: (['frets', 'strings', 'semitones'] as const)[pick(3)] ?? 'frets', steps: pick(7) - 3 },
      );
      return made.ok ? { ok: true as const, value: made.value.edit } : made;
    },
    () => keepAlternative(piece, riff.id, quarter(pick(4)), quarter(pick(4) + 4), 'as on the record', 'heard so'),
    () => swapAlternative(piece, riff.id, riff.alternatives?.[0]?.id ?? ''),
    () => deleteAlternative(piece, riff.id, riff.alternatives?.[0]?.id ?? ''),
    () =>
      setFrame(
        piece,
        riff.id,
        (
          [
            { plays: 3 },
            {
              tempo: [
                { at: ZERO, bpm: 90, ramp: true },
                { at: quarter(4), bpm: 60 },
              ],
            },
            { feel: [{ at: ZERO, swing: 66, unit: '1/2' }] },
            { click: 2, picking: 'down' },
            { plays: null, tempo: null, feel: null, click: null, picking: null },
          ] satisfies FrameChange[]
        )[pick(5)] ?? {},
      ),
    () =>
      retime(
        piece,
        riff.id,
        riff.events.slice(0, pick(5) + 1).map((event) => event.id),
        Array.from({ length: 6 }, (_, i) => quarter(i * 3 + pick(3), 4)),
      ),
    () => ({
      ok: true as const,
      value: (pick(3) === 0
        ? confirm(pick(2) === 0 ? null : part.id)
        : pick(2) === 0
          ? { type: 'patchPiece', set: { unspecified: ['tempo'] }, clear: [] }
          : { type: 'patchPart', part: part.id, set: { unspecified: ['tuning'] }, clear: [] }) as Edit,
    }),
    () => ({
      ok: true as const,
      value: setPlayer(part.id, pick(3) === 0 ? null : { id: null, name: 'Small hand', profile: sizedHand(0.88) }),
    }),
    () => ({
      ok: true as const,
      value: setCosts(pick(3) === 0 ? null : { name: 'Mine', version: 1 + pick(5), weights: DEFAULT_COSTS }),
    }),
    () => ({
      ok: true as const,
      value: together('two things', [setTitle('Other'), renamePart(part.id, 'Other part')]),
    }),
  ][pick(39)]?.();
  return made?.ok ? made.value : null;
}

const withNumbers = fc.tuple(pieceArbitrary, fc.infiniteStream(fc.nat({ max: 1_000_000 })));
const picker = (stream: Iterable<number>): ((n: number) => number) => {
  const numbers = stream[Symbol.iterator]();
  return (n) => (n <= 0 ? 0 : (numbers.next().value as number) % n);
};

describe('edits', () => {
  it('keep every invariant, invert exactly and survive being stored, in any sequence', () => {
    let made = 0;
    let shorter = 0;
    fc.assert(
      fc.property(withNumbers, ([start, stream]) => {
        const pick = picker(stream);
        let piece = start;
        for (let i = 0; i < 25; i++) {
          const edit = randomEdit(piece, pick);
          if (!edit) continue;
          const next = applyEdit(piece, edit);
          if (!next.ok) continue;
          made++;
          const inverse = must(invertEdit(piece, edit));
          expect(checkPiece(next.value).ok).toBe(true);
          expect(withoutNumbers(must(applyEdit(next.value, inverse)))).toEqual(withoutNumbers(piece));
          expect(editSchema.parse(JSON.parse(JSON.stringify(edit)))).toEqual(edit);
          expect(describeEdit(piece, edit).length).toBeGreaterThan(3);
          // Said shortest it is the same edit, there and back, and both sides take it as it is.
          const short = compactEdit(piece, edit);
          if (short !== edit) shorter++;
          expect(must(applyEdit(piece, short))).toEqual(next.value);
          const back = must(invertEdit(piece, short));
          expect(withoutNumbers(must(applyEdit(next.value, back)))).toEqual(withoutNumbers(piece));
          expect(must(readEdit(JSON.parse(JSON.stringify(short))))).toEqual(short);
          piece = next.value;
        }
      }),
      { numRuns: 80 },
    );
    expect(made).toBeGreaterThan(400);
    expect(shorter).toBeGreaterThan(60);
  });

  it('leave the document alone when refused', () => {
    fc.assert(
      fc.property(pieceArbitrary, (piece) => {
        const before = JSON.stringify(piece);
        expect(applyEdit(piece, { type: 'removePart', part: 'nobody' }).ok).toBe(false);
        expect(applyEdit(piece, { type: 'removeRiff', part: 'p0', riff: 'nothing' }).ok).toBe(false);
        expect(applyEdit(piece, { type: 'addPart', at: 0, part: piece.parts[0] as Piece['parts'][number] }).ok).toBe(
          false,
        );
        expect(JSON.stringify(piece)).toBe(before);
      }),
      { numRuns: 10 },
    );
  });

  it('never let a proposal move a locked place', () => {
    const { setup } = must(makeSetup({ instrument: 'guitar-6' }));
    const riff = makeRiff('r', 'r', { events: [makeEvent('e', ZERO, quarter(1), [makeNote('n', 57, 'instructor')])] });
    let piece = makePiece('p', 'p', { parts: [makePart('p0', 'g', setup, { riffs: [riff] })] });
    piece = must(applyEdit(piece, must(lockAt(piece, { riff: 'r', event: 'e', note: 'n' }, 4, 7, 'seen live'))));
    const place = piece.parts[0]?.riffs[0]?.events[0]?.notes[0]?.place;
    expect(place).toMatchObject({ string: 4, fret: 7, locked: true, by: 'instructor', reason: 'seen live' });
    if (!place) throw new Error('not placed');
    const move = {
      type: 'proposePlaces',
      part: 'p0',
      riff: 'r',
      places: [{ note: 'n', place: { ...place, string: 5, fret: 12 } }],
    } as const;
    const refused = applyEdit(piece, move);
    expect(refused.ok ? '' : refused.error.rule).toBe('locked');
    const fingered = applyEdit(piece, { ...move, places: [{ note: 'n', place: { ...place, finger: 3 } }] });
    expect(fingered.ok).toBe(true);
  });
});

describe('history', () => {
  it('is the same replayed from its log as it was in memory, and undo to the start gives the start', () => {
    fc.assert(
      fc.property(withNumbers, ([start, stream]) => {
        const pick = picker(stream);
        let piece = start;
        let history: History = EMPTY_HISTORY;
        const log: Step[] = [];
        const take = (step: Step): void => {
          piece = must(applyEdit(piece, step.edit));
          history = logged(history, step);
          log.push(step);
        };
        for (let i = 0; i < 20; i++) {
          const turn = pick(6);
          const travel = turn === 0 ? undoStep(history) : turn === 1 ? redoStep(history) : null;
          if (travel) {
            take(travel);
            continue;
          }
          const edit = randomEdit(piece, pick);
          if (!edit || !applyEdit(piece, edit).ok) continue;
          take({
            version: SCHEMA_VERSION,
            kind: pick(4) === 0 && history.undo.length > 0 ? 'follow' : 'do',
            edit,
            inverse: applied(piece, edit).inverse,
            what: 'something',
          });
        }
        expect(replayed(log)).toEqual(history);
        for (let step = undoStep(history); step; step = undoStep(history)) take(step);
        expect(withoutNumbers(piece)).toEqual(withoutNumbers(start));
        for (let step = redoStep(history); step; step = redoStep(history)) take(step);
        for (let step = undoStep(history); step; step = undoStep(history)) take(step);
        expect(withoutNumbers(piece)).toEqual(withoutNumbers(start));
      }),
      { numRuns: 40 },
    );
  });
});
