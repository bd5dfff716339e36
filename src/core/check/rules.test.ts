import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { insertSection, setContext, setRow } from '../command';
import { applyEdit } from '../edit';
import { fullCapo } from '../instrument';
import { type Piece, type RiffEvent } from '../score';
import { quarter, ZERO } from '../time';
import { askedBy, changed, eventsOf, GUITAR, pieceOf, riffOf, twoGuitars } from './test-support/made';

const BAR = '5.0 5.3 4.0 4.2 5.3 5.0 6.3 5.0';
const rules = (piece: Piece, rule: string) => askedBy(piece, rule).map((one) => one.words);

describe('a copy with a note off', () => {
  const copies = riffOf(`${BAR} ${BAR} ${BAR} ${BAR}`, 4);

  it('is asked about where all other copies agree, with the fret that would mend it', () => {
    const slip = changed(copies, 18, () => eventsOf('4.1')[0] as RiffEvent);
    const moved = {
      ...slip,
      events: slip.events.map((event, i) =>
        i === 18 ? { ...event, id: 'x', at: copies.events[18]?.at ?? ZERO } : event,
      ),
    };
    const [found] = askedBy(pieceOf([moved]), 'copy');
    expect(found?.words).toContain('Bar 3 is bars 1, 2 and 4 again');
    expect(found?.mends[0]?.words).toBe('Make it open');
  });

  it('is quiet where nothing is off, where the last beat turns, and where it comes twice', () => {
    expect(rules(pieceOf([copies]), 'copy')).toEqual([]);
    const turned = riffOf(`${BAR} ${BAR} ${BAR} 5.0 5.3 4.0 4.2 5.3 5.0 5.2 5.3`, 4);
    expect(rules(pieceOf([turned]), 'copy')).toEqual([]);
    const other = BAR.replace('4.2', '4.3');
    expect(rules(pieceOf([riffOf(`${BAR} ${other} ${BAR} ${other}`, 4)]), 'copy')).toEqual([]);
  });

  it('is found in a moved shape, and a shape moved without fault is none', () => {
    const up = '5.5 5.8 4.5 4.7 5.8 5.5 6.8 5.5';
    expect(rules(pieceOf([riffOf(`${BAR} ${up} ${BAR} ${up}`, 4)]), 'copy')).toEqual([]);
    const off = up.replace('4.7', '4.8');
    expect(
      rules(
        pieceOf([riffOf(`${BAR} ${BAR} ${BAR} ${off}`, 4)], { context: { tempo: [{ at: ZERO, bpm: 100 }], key: [] } }),
        'copy',
      )[0],
    ).toContain('moved up 5 frets');
  });
});

describe('counts', () => {
  it('find a note lost in a copy, left as a gap or closed up', () => {
    const gap = BAR.replace('4.0', '-');
    const [lost] = askedBy(pieceOf([riffOf(`${BAR} ${gap} ${BAR}`, 3)]), 'lost-note');
    expect(lost?.words).toContain('without the D3');
    const closed = '5.0 5.3 4.2 5.3 5.0 6.3 5.0 -';
    expect(rules(pieceOf([riffOf(`${BAR} ${closed} ${BAR}`, 3)]), 'lost-note')[0]).toContain('comes eighth early');
    expect(rules(pieceOf([riffOf(`${BAR} ${BAR}`, 2)]), 'lost-note')).toEqual([]);
  });

  it('find that all bars after a lost note come early', () => {
    const other = '4.5 4.7 3.5 3.7 4.7 4.5 5.7 4.5';
    const early = riffOf(`${BAR} ${other} ${BAR} ${other}`, 4);
    const events = early.events
      .filter((_, i) => i !== 11)
      .map((event, i) => (i >= 11 ? { ...event, at: quarter(i, 2) } : event));
    expect(rules(pieceOf([{ ...early, events }]), 'bar-sum')[0]).toContain('comes eighth early');
    expect(rules(pieceOf([early]), 'bar-sum')).toEqual([]);
  });

  it('find a bar over, a length that runs into the next attack, and a bar short by what no rest would be', () => {
    expect(rules(pieceOf([riffOf(BAR, 2)]), 'bar-sum')[0]).toContain('nothing in the last');
    const long = changed(riffOf('6.3 6.3 6.5 6.3 6.3 6.3 6.5 6.3', 1), 0, (event) => ({ ...event, dur: quarter(1) }));
    expect(rules(pieceOf([long]), 'bar-sum')[0]).toContain('beyond the next attack on its string');
    const short = changed(riffOf(BAR, 1), 7, (event) => ({ ...event, dur: quarter(1, 4) }));
    expect(rules(pieceOf([short]), 'bar-sum')).toEqual([]);
  });
});

describe('techniques', () => {
  it('go the way their names say', () => {
    const joined = (join: 'hammer' | 'pull' | 'slide', text: string) =>
      pieceOf([
        changed(riffOf(text, 1), 0, (event) => ({ ...event, notes: event.notes.map((note) => ({ ...note, join })) })),
      ]);
    expect(rules(joined('hammer', '5.5 5.3'), 'direction')[0]).toContain('which is lower');
    expect(rules(joined('pull', '5.3 5.5'), 'direction')[0]).toContain('which is higher');
    expect(rules(joined('slide', '5.5 5.5'), 'direction')[0]).toContain('where it is already');
    expect(rules(joined('hammer', '5.3 5.5'), 'direction')).toEqual([]);
    expect(rules(joined('slide', '5.7 5.5'), 'direction')).toEqual([]);
  });

  it('agree with the words beside them', () => {
    const slid = changed(riffOf('5.7 5.5', 1), 0, (event) => ({
      ...event,
      remark: 'slide up to it',
      notes: event.notes.map((note) => ({ ...note, join: 'slide' as const })),
    }));
    expect(rules(pieceOf([slid]), 'direction')[0]).toContain('the slide goes down');
    const said = (remark: string) => pieceOf([changed(riffOf('5.7 5.5', 1), 0, (event) => ({ ...event, remark }))]);
    expect(rules(said('on the fourth string'), 'name-place')[0]).toContain('string 5, fret 7');
    expect(rules(said('fret 9 here'), 'name-place')).toHaveLength(1);
    expect(rules(said('the open string'), 'name-place')).toHaveLength(1);
    expect(rules(said('fifth string, seventh fret, as the puppet turns'), 'name-place')).toEqual([]);
    expect(rules(said('a soft one'), 'name-place')).toEqual([]);
  });

  it('bend to the note beside them, and alike each time', () => {
    const bent = (riff: ReturnType<typeof riffOf>, index: number, by: number) =>
      changed(riff, index, (event) => ({
        ...event,
        notes: event.notes.map((note, i) => (i === 0 ? { ...note, technique: { bend: by } } : note)),
      }));
    const unison = (by: number) => pieceOf([bent(riffOf('3.7+2.5', 1), 0, by)]);
    expect(rules(unison(100), 'bend-target')[0]).toContain('100 cents short of');
    expect(rules(unison(200), 'bend-target')).toEqual([]);
    const line = riffOf('2.8 - 2.8 - 2.8 - 2.8 -', 1);
    const each = [200, 200, 100, 200].reduce((riff, by, i) => bent(riff, i, by), line);
    expect(rules(pieceOf([each]), 'bend-target')[0]).toContain('every other time a whole tone');
    const all = [200, 200, 200, 200].reduce((riff, by, i) => bent(riff, i, by), line);
    expect(rules(pieceOf([all]), 'bend-target')).toEqual([]);
  });
});

describe('hands', () => {
  const grip = (fingers: readonly (1 | 2 | 3 | 4)[], text = '5.3+4.5+3.5') =>
    pieceOf([
      changed(riffOf(text, 1), 0, (event) => ({
        ...event,
        notes: event.notes.map((note, i) => ({
          ...note,
          place: note.place && { ...note.place, finger: fingers[i] ?? 1 },
        })),
      })),
    ]);

  it('have no crossed fingers, none at two frets, none too far apart', () => {
    expect(rules(grip([3, 1, 1]), 'hand')[0]).toContain('lower fret than finger');
    expect(rules(grip([1, 1, 1]), 'hand')[0]).toContain('two frets at once');
    expect(rules(grip([1, 2, 2], '5.1+4.7+3.7'), 'hand')[0]).toContain('mm apart');
    expect(rules(grip([1, 3, 3]), 'hand')).toEqual([]);
  });

  it('keep a finger on what rings', () => {
    const ring = (second: 1 | 2) => {
      const riff = riffOf('5.3 4.5', 1);
      const fingers = [1, second] as const;
      const events = riff.events.map((event, i) => ({
        ...event,
        letRing: true,
        notes: event.notes.map((note) => ({
          ...note,
          place: note.place && { ...note.place, finger: fingers[i] ?? 1 },
        })),
      }));
      return pieceOf([{ ...riff, events }]);
    };
    expect(rules(ring(1), 'hand')[0]).toContain('is to ring on');
    expect(rules(ring(2), 'hand')).toEqual([]);
  });

  it('pick no faster than they can, and as all other strokes go', () => {
    const fast = riffOf(`${BAR} ${BAR}`, 1, {}, 0.25);
    const at = (bpm: number) => pieceOf([fast], { context: { tempo: [{ at: ZERO, bpm }], key: [] } });
    expect(rules(at(220), 'strokes')[0]).toContain('strokes at 14.7 a second');
    expect(rules(at(100), 'strokes')).toEqual([]);
    const strokes = riffOf(`${BAR}`, 1);
    const said = {
      ...strokes,
      events: strokes.events.map((event, i) => ({
        ...event,
        stroke: (i === 5 ? i % 2 === 1 : i % 2 === 0) ? ('down' as const) : ('up' as const),
      })),
    };
    expect(rules(pieceOf([said]), 'strokes')[0]).toContain('says down');
  });
});

describe('keys', () => {
  const line = `${BAR} 5.0 5.2 5.3 4.0 4.2 4.3 3.0 3.2`;
  it('are those that sound: capo or tuning forgotten', () => {
    const capo = { ...GUITAR, capos: fullCapo(3) };
    const riff = {
      ...riffOf(line, 2),
      events: eventsOf(line, 0.5, capo).map((event) => ({
        ...event,
        notes: event.notes.map((note) => ({ ...note, pitch: { ...note.pitch, midi: note.pitch.midi } })),
      })),
    };
    const piece = pieceOf([riff], {}, { setup: capo });
    const sounding = {
      ...piece,
      parts: piece.parts.map((part) => ({ ...part, riffs: part.riffs.map((one) => ({ ...one, events: one.events })) })),
    };
    const found = askedBy(sounding, 'key');
    expect(found[0]?.words).toContain('was the key of the shapes meant');
    expect(found[0]?.mends[0]?.words).toBe('Set the key to C minor');
  });

  it('are asked about where too much is outside, and left alone where modes or blue notes are', () => {
    const other = pieceOf([riffOf(line, 2)], {
      context: { tempo: [{ at: ZERO, bpm: 100 }], key: [{ at: ZERO, tonic: 'F#', mode: 'major' }] },
    });
    expect(rules(other, 'key')).toHaveLength(1);
    expect(rules(pieceOf([riffOf(line, 2)]), 'key')).toEqual([]);
    const dorian = '5.0 5.2 5.3 4.0 4.2 4.4 3.0 3.2 4.4 4.2 4.0 5.3 5.2 5.0 5.0 5.0';
    expect(rules(pieceOf([riffOf(dorian, 2)]), 'key')).toEqual([]);
  });

  it('hold single strange notes to be slips where they lead nowhere', () => {
    const odd = '5.0 5.3 4.0 4.2 5.3 5.0 4.0 5.1 5.3 4.0 4.2 5.3 4.0 4.2 5.3 5.0';
    expect(rules(pieceOf([riffOf(odd, 2)]), 'odd-note')[0]).toContain('B♭2');
    const passing = '5.0 5.3 4.0 4.2 5.3 5.0 5.1 5.2 5.3 4.0 4.2 5.3 4.0 4.2 5.3 5.0';
    expect(rules(pieceOf([riffOf(passing, 2)]), 'odd-note')).toEqual([]);
  });
});

describe('the form', () => {
  const chords = riffOf('5.0+4.2+3.2+2.1 5.0+4.2+3.2+2.1 5.0+4.2+3.2+2.1 5.0+4.2+3.2+2.1', 1, {}, 1);
  function withSection(chord: string, plays = 2, bars = 2): Piece {
    const start = pieceOf([chords]);
    const made = insertSection(start, { name: 'Verse', bars });
    let piece = must(applyEdit(start, made.edit));
    piece = must(applyEdit(piece, must(setRow(piece, made.id, 'g', [{ riff: 'r1', plays }]))));
    return must(applyEdit(piece, must(setContext(piece, made.id, { chords: [{ at: ZERO, dur: quarter(8), chord }] }))));
  }

  it('names chords as they sound', () => {
    expect(rules(withSection('Am'), 'chord')).toEqual([]);
    expect(rules(withSection('Am7'), 'chord')).toEqual([]);
    const [other] = askedBy(withSection('G'), 'chord');
    expect(other?.words).toContain('G stands over bar 1');
    expect(other?.mends[0]?.words).toBe('Make it Am');
    expect(rules(withSection('A'), 'chord')[0]).toContain('Am?');
    expect(rules(withSection('Am/F#'), 'chord')[0]).toContain('that bass is played by nobody');
  });

  it('fills its sections, and calls no two things alike', () => {
    expect(rules(withSection('Am'), 'rows')).toEqual([]);
    expect(rules(withSection('Am', 3), 'rows')[0]).toContain('more than "Verse" has bars for');
    expect(rules(withSection('Am', 1), 'rows')[0]).toContain('before "Verse" ends');
    const piece = withSection('Am');
    const twice = {
      ...piece,
      sections: [...piece.sections, { id: 's2', name: 'verse', kind: 'verse' as const, bars: 4, rows: [] }],
    };
    expect(askedBy(twice, 'label-twice')[0]?.mends[0]?.words).toContain('Call it');
  });

  it('asks what "repeat twice" means, and holds counts that are said to those that are played', () => {
    const remarked = (remark: string): Piece => {
      const piece = withSection('Am');
      const [section] = piece.sections;
      if (!section) throw new Error('no section');
      const rows = section.rows.map((row) => ({ ...row, uses: row.uses.map((use) => ({ ...use, remark })) }));
      return { ...piece, sections: [{ ...section, rows }] };
    };
    expect(rules(remarked('repeat twice'), 'repeat')[0]).toContain('or 3 times in all');
    expect(rules(remarked('4 times'), 'repeat')[0]).toContain('is played 2 times in all');
    expect(rules(remarked('twice, softly'), 'repeat')).toEqual([]);
    expect(rules(remarked('hands off'), 'repeat')).toEqual([]);
  });

  it('asks how a riff leads back into itself', () => {
    const joined = changed(riffOf('5.0 5.3 4.0 4.2', 1, { plays: 4 }), 3, (event) => ({
      ...event,
      notes: event.notes.map((note) => ({ ...note, join: 'slide' as const })),
    }));
    expect(rules(pieceOf([joined]), 'loop-joint')[0]).toContain('on another string');
    expect(rules(pieceOf([{ ...joined, plays: 1 }]), 'loop-joint')).toEqual([]);
  });
});

describe('two parts', () => {
  const line = '4.2 4.3 3.2 3.4 4.5 3.2 4.3 4.2';
  const together = (voice: string): Piece => twoGuitars(`${line} ${line}`, voice, 2);
  const octave = '2.5 2.6 1.5 1.7 2.8 1.5 2.6 2.5';

  it('that go in octaves are asked about the note that leaves them', () => {
    expect(rules(together(`${octave} ${octave}`), 'voices')).toEqual([]);
    const off = `${octave} ${octave.replace('2.8', '2.9')}`;
    const [found] = askedBy(together(off), 'voices');
    expect(found?.words).toContain('Guitar 2 goes with Guitar 1');
    expect(found?.locus.part).toBe('h');
  });

  it('are left alone where the same note leaves them each time', () => {
    const off = octave.replace('2.8', '2.9');
    expect(rules(together(`${off} ${off}`), 'voices')).toEqual([]);
  });
});

describe('tempo and recordings', () => {
  it('ask whether the click was taken for the pulse', () => {
    const slow = riffOf('6.3 6.3 6.5 6.3 6.3 6.3 6.5 6.3 6.3 6.3 6.5 6.3 6.3 6.3 6.5 6.3', 4, {}, 1);
    const at = (bpm: number) => pieceOf([slow], { context: { tempo: [{ at: ZERO, bpm }], key: [] } });
    expect(rules(at(180), 'tempo-click')[0]).toContain('is 90 felt');
    expect(rules(at(90), 'tempo-click')).toEqual([]);
  });

  it('ask where heard and written part, and once where nearly all of it does', () => {
    const riff = riffOf(BAR, 1);
    const heard = (off: (i: number) => number) => ({
      hearings: [
        {
          riff: 'r1',
          source: 'matinee',
          from: ZERO,
          to: quarter(4),
          notes: riff.events.map((event, i) => ({ at: i / 2, midi: (event.notes[0]?.pitch.midi ?? 0) + off(i) })),
        },
      ],
    });
    expect(
      rules(
        pieceOf(
          [riff],
          heard(() => 0),
        ),
        'recording',
      ),
    ).toEqual([]);
    const [found] = askedBy(
      pieceOf(
        [riff],
        heard((i) => (i === 2 ? 2 : 0)),
      ),
      'recording',
    );
    expect(found?.words).toContain('D3 is written and E3 was heard in "matinee"');
    expect(found?.mends[0]?.words).toBe('Write E3');
    expect(
      rules(
        pieceOf(
          [riff],
          heard((i) => 1 + (i % 3)),
        ),
        'recording',
      ),
    ).toHaveLength(1);
  });
});
