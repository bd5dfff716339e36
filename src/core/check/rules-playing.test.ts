import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { applyEdit } from '../edit';
import { ADULT_HAND } from '../hand';
import { makeSetup } from '../instrument';
import { findRiff, type Piece, type Riff, type RiffEvent } from '../score';
import { quarter, ZERO } from '../time';
import { proofread } from './check';
import { askedBy, changed, eventsOf, pieceOf, riffOf } from './test-support/made';

/** Rules that read how it is played: strokes, places said two ways, words beside notes, what was heard. */

const BAR = '5.0 5.3 4.0 4.2 5.3 5.0 6.3 5.0';
const words = (piece: Piece, rule: string) => askedBy(piece, rule).map((one) => one.words);
const all = (piece: Piece, rule: string) => proofread(piece).filter((one) => one.rule === rule);
const at = (bpm: number) => ({ context: { tempo: [{ at: ZERO, bpm }], key: [] } });

describe('strokes too fast', () => {
  const sixteenths = (picking?: Riff['picking']) => riffOf(`${BAR} ${BAR}`, 1, picking ? { picking } : {}, 0.25);
  const asks = (bpm: number, riff: Riff, level?: 'beginner' | 'player' | 'advanced') =>
    words(
      pieceOf([riff], at(bpm), level ? { player: { id: null, name: 'Ada', profile: { ...ADULT_HAND, level } } } : {}),
      'strokes',
    ).length > 0;

  it('depend on whose hand it is', () => {
    expect(asks(120, sixteenths(), 'beginner')).toBe(true);
    expect(asks(120, sixteenths(), 'player')).toBe(false);
    expect(asks(190, sixteenths(), 'player')).toBe(true);
    expect(asks(190, sixteenths(), 'advanced')).toBe(false);
    expect(asks(240, sixteenths(), 'advanced')).toBe(true);
  });

  it('depend on how they are picked: all down is slower, fingers a little faster', () => {
    expect(asks(125, sixteenths('down'))).toBe(true);
    expect(asks(125, sixteenths())).toBe(false);
    const edge = 175;
    expect(asks(edge, sixteenths())).toBe(true);
    expect(asks(edge, sixteenths('fingers'))).toBe(false);
  });

  it('are none where half of the notes are slurred, nor in a short run', () => {
    const slurred = sixteenths();
    const events = slurred.events.map((event, i) =>
      i % 2 === 0 ? { ...event, notes: event.notes.map((note) => ({ ...note, join: 'hammer' as const })) } : event,
    );
    expect(asks(190, { ...slurred, events })).toBe(false);
    expect(asks(230, riffOf('5.0 5.3 4.0 - - - - -', 1, {}, 0.25))).toBe(false);
  });

  it('are said with the caution that belongs there', () => {
    expect(askedBy(pieceOf([sixteenths()], at(220)), 'strokes')[0]?.evidence).toContain('stop at pain');
  });
});

describe('strokes against their pattern', () => {
  const said = (off: readonly number[], count = 16): Piece => {
    const riff = riffOf(Array.from({ length: count / 8 }, () => BAR).join(' '), count / 8);
    const events = riff.events.map((event, i) => ({
      ...event,
      stroke: (i % 2 === 0) !== off.includes(i) ? ('down' as const) : ('up' as const),
    }));
    return pieceOf([{ ...riff, events }]);
  };

  it('are one or two among many, each mended for itself', () => {
    expect(words(said([]), 'strokes')).toEqual([]);
    const [found] = askedBy(said([5]), 'strokes');
    const [mend] = found?.mends ?? [];
    if (!mend) throw new Error('no mend');
    expect(mend.words).toBe('Make it up');
    expect(words(must(applyEdit(said([5]), mend.edit)), 'strokes')).toEqual([]);
    expect(words(said([3, 8]), 'strokes')).toHaveLength(2);
  });

  it('are a pattern of their own where they are more, or where few were said', () => {
    expect(words(said([1, 2, 3, 5]), 'strokes')).toEqual([]);
    const riff = riffOf(BAR, 1);
    const few = riff.events.map((event, i) => (i < 4 ? { ...event, stroke: 'up' as const } : event));
    expect(words(pieceOf([{ ...riff, events: few }]), 'strokes')).toEqual([]);
  });
});

describe('a bar told two ways', () => {
  const other = BAR.replace('4.0', '5.5');
  it('is asked about where one place differs, and mended to the other', () => {
    const piece = pieceOf([riffOf(`${BAR} ${BAR} ${other} ${BAR}`, 4)]);
    const [found] = askedBy(piece, 'two-ways');
    expect(found?.words).toContain('is said on string 5, fret 5, there on string 4 open');
    const [mend] = found?.mends ?? [];
    if (!mend) throw new Error('no mend');
    const mended = must(applyEdit(piece, mend.edit));
    expect(findRiff(mended, 'r1')?.riff.events[18]?.notes[0]?.place).toMatchObject({ string: 4, fret: 0 });
    expect(words(mended, 'two-ways')).toEqual([]);
  });

  it('is no question where the program chose, where both ways come again, or where all lies elsewhere', () => {
    const proposed = changed(riffOf(`${BAR} ${BAR} ${other} ${BAR}`, 4), 18, (event) => ({
      ...event,
      notes: event.notes.map((note) => ({
        ...note,
        place: note.place && { ...note.place, by: 'solver' as const, locked: false },
      })),
    }));
    expect(words(pieceOf([proposed]), 'two-ways')).toEqual([]);
    expect(words(pieceOf([riffOf(`${BAR} ${other} ${BAR} ${other}`, 4)]), 'two-ways')).toEqual([]);
    const elsewhere = '6.5 6.8 5.5 5.7 6.8 6.5 6.3 6.5';
    expect(words(pieceOf([riffOf(`${BAR} ${BAR} ${elsewhere}`, 3)]), 'two-ways')).toEqual([]);
  });
});

describe('words beside a note', () => {
  const beside = (remark: string, note = '5.7', setup = must(makeSetup({ instrument: 'guitar-6' })).setup): Piece => {
    const riff = riffOf('5.7 5.5', 1);
    const [event] = eventsOf(note, 0.5, setup);
    return pieceOf([changed({ ...riff }, 0, () => ({ ...(event as RiffEvent), remark }))], {}, { setup });
  };
  const asks = (...given: Parameters<typeof beside>) => words(beside(...given), 'name-place').length > 0;

  it('are held against fret, string and letter, however they are said', () => {
    for (const right of ['fret 7', '7th fret', 'the seventh fret', 'string 5', '5th string', 'the A string'])
      expect(asks(right), right).toBe(false);
    for (const wrong of ['fret 8', '8th fret', 'the eighth fret', 'string 4', 'first string', 'the G string', 'open A'])
      expect(asks(wrong), wrong).toBe(true);
  });

  it('may call a retuned string by its old letter or by its sound', () => {
    const { setup } = must(makeSetup({ instrument: 'guitar-6', tuning: 'drop-d' }));
    for (const right of ['the E string', 'the D string', 'low D string'])
      expect(asks(right, '6.5', setup), right).toBe(false);
    expect(asks('the A string', '6.5', setup)).toBe(true);
  });

  it('say a name only where they say a place too', () => {
    expect(asks('E at fret 7')).toBe(false);
    expect(asks('F at fret 7')).toBe(true);
    for (const other of ['A minor here', 'A lamp goes out', 'E minor pentatonic', 'on the beat', 'fretless'])
      expect(asks(other), other).toBe(false);
  });
});

describe('what was heard', () => {
  const riff = riffOf(BAR, 1);
  const heard = (change: (notes: { at: number; midi: number }[]) => { at: number; midi: number }[]): Piece =>
    pieceOf([riff], {
      hearings: [
        {
          ...{ riff: 'r1', source: 'matinee', from: ZERO, to: quarter(4) },
          notes: change(riff.events.map((event, i) => ({ at: i / 2, midi: event.notes[0]?.pitch.midi ?? 0 }))),
        },
      ],
    });

  it('and is not written is a note lost, and what is written and was not heard can be deleted', () => {
    const lost = heard((notes) => [...notes, { at: 3.75, midi: 52 }]);
    expect(words(lost, 'recording')[0]).toContain('nothing is written there');
    const piece = heard((notes) => notes.filter((_, i) => i !== 3));
    const [found] = askedBy(piece, 'recording');
    expect(found?.words).toContain('nothing was heard there in "matinee"');
    const [mend] = found?.mends ?? [];
    if (!mend) throw new Error('no mend');
    expect(mend.words).toBe('Delete it');
    expect(findRiff(must(applyEdit(piece, mend.edit)), 'r1')?.riff.events).toHaveLength(7);
  });

  it('an octave off is less likely a slip: ears that program octaves wrongly are common', () => {
    const off = (by: number) =>
      all(
        heard((notes) => notes.map((note, i) => (i === 2 ? { ...note, midi: note.midi + by } : note))),
        'recording',
      )[0]?.likely ?? 0;
    expect(off(12)).toBeGreaterThan(0);
    expect(off(12)).toBeLessThan(off(2));
  });

  it('late is told with how late, on demand', () => {
    const late = heard((notes) => notes.map((note, i) => (i === 4 ? { ...note, at: note.at + 0.12 } : note)));
    expect(words(late, 'recording')).toEqual([]);
    for (const one of all(late, 'recording')) expect(one.words).toMatch(/was heard \d+ ms after its beat/);
  });

  it('of a riff that is gone says nothing', () => {
    const piece = heard((notes) => notes.slice(1));
    const [hearing] = piece.hearings ?? [];
    if (!hearing) throw new Error('no hearing');
    expect(all({ ...piece, hearings: [{ ...hearing, riff: 'gone' }] }, 'recording')).toEqual([]);
  });
});

describe('the tempo', () => {
  const fast = riffOf(`${BAR} ${BAR} ${BAR} ${BAR}`, 1, {}, 0.125);
  it('that is slow for notes as short as these may be half of what is felt, mended in one step', () => {
    const piece = pieceOf([fast], at(60));
    const [found] = askedBy(piece, 'tempo-click');
    expect(found?.words).toContain('is 120 felt');
    const [mend] = found?.mends ?? [];
    if (!mend) throw new Error('no mend');
    expect(must(applyEdit(piece, mend.edit)).context.tempo[0]?.bpm).toBe(120);
    expect(words(must(applyEdit(piece, mend.edit)), 'tempo-click')).toEqual([]);
    expect(words(pieceOf([fast], at(90)), 'tempo-click')).toEqual([]);
  });

  it('is left alone where it changes, and where there is too little to go by', () => {
    const changes = {
      tempo: [
        { at: ZERO, bpm: 60 },
        { at: quarter(4), bpm: 70 },
      ],
      key: [],
    };
    expect(words(pieceOf([fast], { context: changes }), 'tempo-click')).toEqual([]);
    expect(words(pieceOf([riffOf('5.0 5.3 4.0', 1, {}, 0.125)], at(60)), 'tempo-click')).toEqual([]);
  });
});
