import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { addClaim, insertSection, setRoute, setRow } from '../command';
import { applyEdit } from '../edit';
import { fullCapo, makeSetup } from '../instrument';
import { makePart, type Claim, type Note, type Piece, type Riff } from '../score';
import { quarter, ZERO } from '../time';
import { checkClaim, parseClaim } from './claims';
import { changed, eventsOf, GUITAR, pieceOf, riffOf, twoGuitars } from './test-support/made';

/** What is said of how it is played, held against what is written: one kind of claim after another. */

const LINE = '5.0 5.3 4.0 4.2 3.0 3.2 4.2 4.0';
const claim = (words: string, about: Partial<Claim> = {}): Claim => ({
  ...{ id: 'c1', words, part: 'g', riff: 'r1' },
  ...about,
});
const saidOf = (riff: Riff, words: string, about: Partial<Claim> = {}, extra: Parameters<typeof pieceOf>[1] = {}) =>
  checkClaim(pieceOf([riff], extra), claim(words, about));
const said = (text: string, words: string): string[] => saidOf(riffOf(text, 1), words).map((one) => one.words);
/** A line whose notes at some places are changed. */
const noted = (text: string, at: readonly number[], change: (note: Note) => Note): Riff =>
  at.reduce(
    (riff, index) => changed(riff, index, (event) => ({ ...event, notes: event.notes.map(change) })),
    riffOf(text, 1),
  );

describe('what is said of a move', () => {
  it.each([
    ['same as bar 2 up an octave', { by: 'semitones', steps: 12 }],
    ['same as bar 2, an octave lower', { by: 'semitones', steps: -12 }],
    ['same as bar 2 two octaves up', { by: 'semitones', steps: 24 }],
    ['same as bar 2 up three frets', { by: 'frets', steps: 3 }],
    ['same as bar 2 moved down 2 frets', { by: 'frets', steps: -2 }],
    ['same as bar 2 one string up', { by: 'strings', steps: 1 }],
    ['same as bar 2 but five semitones higher', { by: 'semitones', steps: 5 }],
  ] as const)('%s', (words, move) => expect(parseClaim(words)).toMatchObject({ kind: 'copy', bar: 1, move }));

  it('that is none is kept as it was said', () => {
    for (const words of ['same as bar 0', 'same as bar 2 but nicer', 'same as bar 3 to 2', 'same as before'])
      expect(parseClaim(words), words).toBeNull();
  });

  it('names the riff it is a copy of, or asks which', () => {
    const other = {
      ...riffOf(LINE, 1, { name: 'Lamp' }),
      id: 'r2',
      events: eventsOf(LINE, 0.5, GUITAR, 'x'),
    };
    const piece = pieceOf([riffOf(LINE, 1), other]);
    expect(checkClaim(piece, claim('same as bar 1 of Lamp'))).toEqual([]);
    expect(checkClaim(piece, claim('same as bar 1 of "lamp"'))).toEqual([]);
    expect(checkClaim(piece, claim('same as bar 1 of Moth'))[0]?.words).toContain('has no riff "Moth"');
  });

  it('that can’t be made says why', () => {
    expect(saidOf(riffOf(LINE, 1), 'same as bar 1 down nine frets')[0]?.words).toContain('that can’t be');
  });
});

describe('bends', () => {
  const bent = (cents: number) => noted('2.8 - - - - - - -', [0], (note) => ({ ...note, technique: { bend: cents } }));
  it('reach the note that is said, in any octave', () => {
    expect(saidOf(bent(200), 'bent to A')).toEqual([]);
    expect(saidOf(bent(200), 'bend it up to the A')).toEqual([]);
    expect(saidOf(bent(100), 'bent to A')[0]?.words).toContain('comes to G♯4');
    expect(saidOf(bent(150), 'bent to B')[0]?.words).toContain('and a quarter tone');
  });
});

describe('ways', () => {
  const slid = (text: string) => noted(text, [0], (note) => ({ ...note, join: 'slide' }));
  it('of slides are read off their notes', () => {
    expect(saidOf(slid('5.3 5.5'), 'slides up')).toEqual([]);
    expect(saidOf(slid('5.5 5.3'), 'slides up')[0]?.words).toContain('it goes down');
    expect(saidOf(slid('5.5 5.3'), 'it slides down')).toEqual([]);
  });

  it('of a slide from nowhere are read off where it comes from', () => {
    const into = (from: 'lower' | 'higher') =>
      noted('5.5 - -', [0], (note) => ({ ...note, technique: { slideIn: from } }));
    expect(saidOf(into('lower'), 'slides up')).toEqual([]);
    expect(saidOf(into('higher'), 'slides up')[0]?.words).toContain('from higher frets');
    expect(saidOf(into('lower'), 'slides down')[0]?.words).toContain('from lower frets');
  });

  it('of a line are read off its first and last note', () => {
    expect(said('5.0 5.3 4.0 4.2', 'runs up')).toEqual([]);
    expect(said('4.2 4.0 5.3 5.0', 'walks up')[0]).toContain('it goes down');
    expect(said('5.0 4.2 5.0', 'goes up')).toEqual([]);
  });
});

describe('strokes', () => {
  it('are mended by the riff’s picking where nobody said them one by one', () => {
    const [found] = saidOf(riffOf(LINE, 1), 'all downstrokes');
    const [mend] = found?.mends ?? [];
    if (!mend) throw new Error('no mend');
    const mended = must(applyEdit(pieceOf([riffOf(LINE, 1)]), mend.edit));
    expect(checkClaim(mended, claim('all downstrokes'))).toEqual([]);
    expect(checkClaim(mended, claim('strict alternate'))).toHaveLength(1);
  });

  it('that were said on notes are told so, and left to be decided', () => {
    const riff = changed(riffOf(LINE, 1, { picking: 'down' }), 2, (event) => ({ ...event, stroke: 'up' as const }));
    const [found] = saidOf(riff, 'all down');
    expect(found?.words).toContain('at bar 1, beat 2 of "Trap" it is struck up');
    expect(found?.evidence).toBe('That stroke was said on the note.');
    expect(found?.mends).toEqual([]);
  });

  it('all upward are none of the usual, and hold only where each goes so', () => {
    const up = riffOf(LINE, 1);
    const all = { ...up, events: up.events.map((event) => ({ ...event, stroke: 'up' as const })) };
    expect(saidOf(all, 'all upstrokes')).toEqual([]);
    expect(saidOf(up, 'all upstrokes')[0]?.words).toContain('struck down');
  });
});

describe('positions', () => {
  it.each([
    ['in second position', '5.2 5.5 4.2 4.5', true],
    ['position 2', '5.1 5.6 4.2 4.5', true],
    ['in the 7th position', '5.7 4.9 3.10', true],
    ['in second position', '5.2 5.8', false],
    ['position 9', '5.7', false],
    ['in fifth position', '5.0 5.5 4.0 4.7', true],
  ] as const)('%s with %s', (words, text, holds) => expect(said(text, words).length === 0).toBe(holds));
});

describe('a capo', () => {
  const at = (fret: number): Piece =>
    pieceOf([riffOf(LINE, 1)], {}, { setup: { ...GUITAR, ...(fret > 0 ? { capos: fullCapo(fret) } : {}) } });
  it('is where it is said to be', () => {
    expect(checkClaim(at(3), claim('capo 3'))).toEqual([]);
    expect(checkClaim(at(3), claim('capo at fret 2'))[0]?.words).toContain('has a capo at 3');
    expect(checkClaim(at(3), claim('without a capo'))[0]?.evidence).toContain('3 semitones higher than open');
  });

  it('said of the piece is that of any of its parts', () => {
    const bass = makePart('b', 'Bass', must(makeSetup({ instrument: 'bass-4' })).setup);
    const piece = { ...at(3), parts: [...at(3).parts, bass] };
    const ofPiece = { part: undefined, riff: undefined };
    expect(checkClaim(piece, claim('capo 3', ofPiece))).toEqual([]);
    expect(checkClaim(piece, claim('capo 5', ofPiece))).toHaveLength(1);
  });
});

describe('a tempo', () => {
  const of = (words: string, context: object = {}) =>
    checkClaim(
      pieceOf([riffOf(LINE, 1)], { context: { tempo: [{ at: ZERO, bpm: 180 }], key: [], ...context } }),
      claim(words, { part: undefined, riff: undefined }),
    );
  it('that is double or half is told so, and mended for the piece', () => {
    const [double] = of('felt at 90');
    expect(double?.evidence).toContain('It is double');
    expect(double?.mends[0]?.words).toBe('Set the tempo to 90');
    expect(of('the pulse is 360')[0]?.evidence).toBe('It is half.');
    expect(of('tempo is 150')[0]?.evidence).toBeNull();
    expect(of('tempo 181')).toEqual([]);
  });

  it('has a click of its own', () => {
    expect(of('felt at 180, click at 360', { click: 2 })).toEqual([]);
    expect(of('felt at 180, click at 180', { click: 2 })[0]?.words).toContain('2 clicks to the beat make 360');
  });
});

describe('how often', () => {
  const plays = (times: number): Piece => {
    const start = pieceOf([riffOf(LINE, 1, { plays: undefined })]);
    const made = insertSection(start, { name: 'Verse', bars: 4 });
    const piece = must(applyEdit(start, made.edit));
    return must(applyEdit(piece, must(setRow(piece, made.id, 'g', [{ riff: 'r1', plays: times }]))));
  };
  it('is that of the form where the riff says nothing', () => {
    expect(checkClaim(plays(4), claim('4 times'))).toEqual([]);
    const [found] = checkClaim(plays(4), claim('played twice'));
    expect(found?.words).toContain('is played 4 times in all');
    expect(found?.mends[0]?.words).toContain('played 4 times');
  });

  it('"repeat" is asked about even where one reading holds', () => {
    expect(checkClaim(plays(3), claim('repeat twice'))[0]?.words).toContain('2 times in all or 3 times in all');
    expect(checkClaim(plays(5), claim('repeat twice'))[0]?.likely).toBe(0.75);
  });

  it('of a section is that of its place in the form, where it has one', () => {
    const laid = plays(4);
    const section = laid.sections[0]?.id ?? '';
    const about = { part: undefined, riff: undefined, section };
    expect(checkClaim(laid, claim('played 3 times', about))).toEqual([]);
    const form = must(
      applyEdit(laid, must(setRoute(laid, [{ section, name: 'Verse', plays: 2, stop: null, from: 0, to: 0 }]))),
    );
    expect(checkClaim(form, claim('played twice', about))).toEqual([]);
    expect(checkClaim(form, claim('played 3 times', about))[0]?.words).toContain('"Verse" is played 2 times in all');
  });
});

describe('lists', () => {
  it.each([
    ['frets 0 3 on string 5', '5.0 5.3', true],
    ['frets 3 0 on string 5', '5.0 5.3', false],
    ['A, C', '5.0 5.3', true],
    ['C A', '5.0 5.3', false],
    ['A C, frets 0 3, string 5', '5.0 5.3', true],
    ['A C#, frets 0 4, string 5', '5.0 5.3', false],
    ['A C#, frets 0 3, string 5', '5.0 5.3', false],
  ] as const)('%s of %s', (words, text, holds) => expect(said(text, words).length === 0).toBe(holds));

  it('say that a note is missing where they tell more than is written', () => {
    const [found] = saidOf(riffOf('5.0 5.3 4.0', 1), 'A C D E', { from: ZERO, to: quarter(4) });
    expect(found?.words).toContain('tells 4 notes, and 3 are written there');
  });
});

describe('intervals', () => {
  const together = (voice: string): Piece => twoGuitars(LINE, voice, 1);
  const octave = '3.2 3.5 2.3 2.5 1.3 1.5 2.5 2.3';
  const of = (piece: Piece, words: string) => checkClaim(piece, claim(words, { part: 'h', riff: 'r2' }));

  it('hold over the whole stretch, or name the note that leaves it', () => {
    expect(of(together(octave), 'an octave above Guitar 1')).toEqual([]);
    const off = octave.replace('1.3', '1.4');
    expect(of(together(off), 'an octave above the Guitar 1')[0]?.words).toContain('of Guitar 1: meant?');
    expect(of(together(octave), 'an octave below Guitar 1')).toHaveLength(1);
    expect(of(together(octave), 'a third above Guitar 1')).toHaveLength(1);
  });

  it('to nobody are asked about', () => {
    expect(of(together(octave), 'a third above Cello')[0]?.words).toContain('no part is called "Cello"');
  });
});

describe('any words', () => {
  it('are read or kept, never a stumble, and what is asked of them can be answered', () => {
    const piece = pieceOf([riffOf(LINE, 1)]);
    const word = fc.constantFrom(
      ...['same', 'as', 'bar', '1', '2', 'up', 'down', 'an', 'octave', 'all', 'strokes', 'E', 'G#', 'minor', 'third'],
      ...['of', 'above', 'Guitar', 'frets', '0', '3', '5', 'string', '6', 'twice', 'repeat', 'capo', 'in', 'fifth'],
      ...['position', 'felt', 'at', '90', 'click', 'bent', 'to', 'slides', 'chord', 'power', 'Dorian', ',', '-'],
    );
    fc.assert(
      fc.property(
        fc.oneof(
          fc.array(word, { maxLength: 9 }).map((all) => all.join(' ')),
          fc.string(),
        ),
        (words) => {
          const added = addClaim(piece, words, { part: 'g', riff: 'r1' });
          if (!added.ok) return;
          const after = must(applyEdit(piece, added.value));
          for (const one of after.claims ?? [])
            for (const found of checkClaim(after, one)) {
              expect(found.words.length).toBeGreaterThan(10);
              for (const { edit } of found.mends) expect(applyEdit(after, edit).ok).toBe(true);
            }
        },
      ),
      { numRuns: 400 },
    );
  });
});
