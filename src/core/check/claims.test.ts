import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { addClaim } from '../command';
import { applyEdit } from '../edit';
import type { Claim, Piece } from '../score';
import { quarter, ZERO } from '../time';
import { checkClaim, parseClaim } from './claims';
import { askedBy, pieceOf, riffOf } from './test-support/made';

const LINE = '5.0 5.3 4.0 4.2 3.0 3.2 4.2 4.0';
const BAR = { from: ZERO, to: quarter(4) };

/** What the check says of a claim about the first bar of a riff. */
function said(words: string, text = LINE, about: Partial<Claim> = {}): string[] {
  const piece = pieceOf([riffOf(text, Math.ceil(text.split(/\s+/).length / 8))]);
  const claim: Claim = { id: 'c1', words, part: 'g', riff: 'r1', ...about };
  return checkClaim(piece, claim).map((one) => one.words);
}

describe('claims are read', () => {
  it.each([
    ['all A minor pentatonic', 'scale'],
    ['Dorian', 'scale'],
    ['inverted power chord', 'grip'],
    ['a minor third above Guitar 2', 'interval'],
    ['same as bar 1 an octave up', 'copy'],
    ['same as bars 1 to 2', 'copy'],
    ['played twice', 'plays'],
    ['all upstrokes', 'strokes'],
    ['E G A, frets 0 3 5, string 6', 'list'],
    ['the minor third of E', 'degree'],
    ['felt at 90, click at 180', 'tempo'],
    ['in fifth position', 'position'],
    ['capo 3', 'capo'],
    ['bent to E', 'bend'],
    ['slides up', 'direction'],
    ['Am7', 'chord'],
    ['a D/F# chord', 'chord'],
  ])('%s is a claim about %s', (words, kind) => expect(parseClaim(words)?.kind).toBe(kind));

  it.each(['a nice one', 'the singer breathes here', 'string 3', ''])('%s is kept and not checked', (words) =>
    expect(parseClaim(words)).toBeNull(),
  );
});

describe('claims about harmony', () => {
  it('name the note that breaks a scale, and the scale that would hold', () => {
    expect(said('all A minor pentatonic')).toEqual([]);
    expect(said('A major pentatonic')[0]).toContain('C3 at bar 1, beat 1 & of "Trap" is outside A major pentatonic');
    expect(said('Dorian', LINE.replace('4.2', '4.3'))[0]).toContain('F3');
  });

  it('hold a chord name to its notes: wider than them, or other', () => {
    const power = '6.0+5.2 6.0+5.2';
    expect(said('Em', power)[0]).toContain('no G (the ♭3) sounds: it is E5');
    expect(said('E5', power)).toEqual([]);
    expect(said('power chord', power)).toEqual([]);
    expect(said('inverted power chord', power)[0]).toContain('it is E5');
    expect(said('inverted power chord', '5.2+4.2 5.2+4.2')).toEqual([]);
    expect(said('Am', '5.0+4.2+3.2+2.1')).toEqual([]);
    expect(said('A', '5.0+4.2+3.2+2.1')[0]).toContain('C at bar 1, beat 1 of "Trap" is no note of A');
  });

  it('count degrees from their root', () => {
    expect(said('the minor third of A', '5.3')).toEqual([]);
    expect(said('the major third of A', '5.3')[0]).toContain('is the ♭3 of A; its major third is C♯');
  });
});

describe('claims about playing', () => {
  it('take letters and frets in one order, as many of each', () => {
    expect(said('A C D E', '5.0 5.3 4.0 4.2', BAR)).toEqual([]);
    expect(said('A D C E', '5.0 5.3 4.0 4.2', BAR)[0]).toContain('the same in another order');
    expect(said('E G A, frets 0 3 5 7 on string 6')[0]).toContain('3 letters and 4 frets: which one is missing');
    expect(said('E A G, frets 0 3 5 on string 6')[0]).toContain('letters and frets in two orders');
    expect(said('E G A, frets 0 3 6 on string 6')[0]).toContain('fret 6 sounds B♭');
  });

  it('know copies, also moved', () => {
    const twice = `${LINE} ${LINE}`;
    expect(said('same as bar 1', twice, { from: quarter(4), to: quarter(8) })).toEqual([]);
    const off = `${LINE} ${LINE.replace('3.2', '3.3')}`;
    expect(said('same as bar 1', off, { from: quarter(4), to: quarter(8) })[0]).toContain('instead of A');
    const up = '5.2 5.5 4.2 4.4 3.2 3.4 4.4 4.2';
    expect(said('same as bar 1 up two frets', `${LINE} ${up}`, { from: quarter(4), to: quarter(8) })).toEqual([]);
    expect(said('same as bar 1 an octave up', `${LINE} ${up}`, { from: quarter(4), to: quarter(8) })).toHaveLength(1);
  });

  it('know positions, strokes, plays, capo, tempo and bends', () => {
    expect(said('in fifth position', '6.5 6.8 5.5 5.7')).toEqual([]);
    expect(said('in fifth position', '6.5 6.8 5.5 5.12')[0]).toContain('string 5, fret 12');
    expect(said('alternate picking')).toEqual([]);
    expect(said('all downstrokes')[0]).toContain('is struck up');
    expect(said('played once')).toEqual([]);
    expect(said('played 3 times')[0]).toContain('is played once');
    expect(said('capo 2')[0]).toContain('has no capo');
    expect(said('no capo')).toEqual([]);
    expect(said('felt at 100', LINE, { part: undefined, riff: undefined })).toEqual([]);
    expect(said('felt at 50', LINE, { part: undefined, riff: undefined })[0]).toContain('the tempo is 100');
    expect(said('bent to E')[0]).toContain('no bend is written there');
  });

  it('stand against one another where they are said of the same', () => {
    const start = pieceOf([riffOf(LINE, 1)]);
    const say = (piece: Piece, words: string): Piece =>
      must(applyEdit(piece, must(addClaim(piece, words, { part: 'g', riff: 'r1' }))));
    const both = say(say(start, 'A minor pentatonic'), 'A natural minor');
    const [found] = askedBy(both, 'claims-differ');
    expect(found?.words).toContain('earlier "A minor pentatonic"');
    expect(askedBy(say(say(start, 'A minor pentatonic'), 'played once'), 'claims-differ')).toEqual([]);
  });

  it('whose riff is gone are not asked about', () => {
    const piece = pieceOf([riffOf(LINE, 1)]);
    expect(checkClaim(piece, { id: 'c', words: 'F major', riff: 'gone' })).toEqual([]);
  });
});
