import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../../base';
import { pieceArbitrary } from '../../score/test-support/arbitrary';
import { barOf, ZERO } from '../../time';
import { musicOf, type Music, type MusicPart } from '../music';
import { formedPiece } from '../test-support/formed';
import { looksLikeTab, readTextTab, TEXT_TAB_LIMITS, writeTextTab, type TabReading } from './index';

const read = (text: string, answers = {}): TabReading => must(readTextTab(text, { answers }));
const part = (reading: TabReading): MusicPart => reading.music.parts[0] as MusicPart;
/** "0 6.0" : when, and string and fret of each note. */
const placed = (reading: TabReading): string[] =>
  part(reading).events.map(
    (event) =>
      `${event.at} ${event.notes.map((note) => `${note.place?.string}.${note.technique?.dead ? 'x' : note.place?.fret}`).join('+')}`,
  );
const doubtful = (text: string): string[] =>
  read(text).doubts.map((doubt) => text.slice(doubt.locus.text?.from, doubt.locus.text?.to));

describe('tab as people type it', () => {
  it('with letters, bar lines and evenly spaced eighths', () => {
    const reading = read(`
Lantern song
e|-----------------|-----------------|
B|-----------------|-----------------|
G|-----------------|-----------------|
D|-----2---2-------|-----2---4-------|
A|---2---2---2-----|---2---2---2---2-|
E|-0-----------3---|-0---------------|
`);
    expect(reading.music.title).toBe('Lantern song');
    expect(reading.music.bars).toBe(2);
    expect(part(reading).tuning).toEqual([40, 45, 50, 55, 59, 64]);
    expect(placed(reading)).toEqual([
      ...['0 6.0', '1/2 5.2', '1 4.2', '3/2 5.2', '2 4.2', '5/2 5.2', '3 6.3'],
      ...['4 6.0', '9/2 5.2', '5 4.2', '11/2 5.2', '6 4.4', '13/2 5.2', '15/2 5.2'],
    ]);
    expect(part(reading).events[0]?.notes[0]?.pitch.midi).toBe(40);
    expect(reading.doubts).toEqual([]);
  });

  it('with chords stacked, frets of two digits, and dead notes', () => {
    const reading = read(`
e|-10--10----x--|
B|-12--12----x--|
G|-12--9-----x--|
D|-12--10-------|
A|-10-----------|
E|--------------|`);
    expect(placed(reading).map((one) => one.split(' ')[1])).toEqual([
      '5.10+4.12+3.12+2.12+1.10',
      '4.10+3.9+2.12+1.10',
      '3.x+2.x+1.x',
    ]);
  });

  it('with any number of strings, with letters or numbers or nothing before them', () => {
    const four = read('G|-------------|\nD|-------------|\nA|----2--5--2--|\nE|-0-----------|\n');
    expect(part(four)).toMatchObject({ kind: 'bass', tuning: [28, 33, 38, 43] });
    const bare = read(
      '--------------\n--------------\n--------------\n--0--2--3-----\n--------------\n--------------\n',
    );
    expect(placed(bare).map((one) => one.split(' ')[1])).toEqual(['4.0', '4.2', '4.3']);
    expect(bare.music.bars).toBe(1);
    const seven = read(
      ['1', '2', '3', '4', '5', '6', '7'].map((n) => `${n}|--${n === '7' ? '0-0-3' : '-----'}--|`).join('\n'),
    );
    expect(part(seven).tuning?.[0]).toBe(35);
    expect(placed(seven)).toHaveLength(3);
  });

  it('spaced behind a dash that is no time, and repeated from the words above', () => {
    const line = (body: string): string =>
      ['e', 'B', 'G', 'D', 'A'].map((label) => `${label}|${'-'.repeat(body.length)}|`).join('\n') + `\nE|${body}|`;
    const sixteen = read(line('-0--0-----3-2---'));
    expect(placed(sixteen).map((one) => one.split(' ')[0])).toEqual(
      placed(read(line('0--0-----3-2----'))).map((one) => one.split(' ')[0]),
    );
    const two = read(`Moth\n\n${line('-0---3---5---7---')}\n\nthe owl comes in:\n${line('-0---3---5---7---')} x4`);
    expect(two.music.repeats).toMatchObject([{ from: 1, to: 2, times: 4 }]);
    expect(two.music.marks).toMatchObject([{ bar: 1, name: 'the owl comes in' }]);
  });

  it('with a tuning said in words, by its letters or by its name, and a capo', () => {
    const body = (labels: string): string =>
      [...labels].map((label, i) => `${label}|${i === 5 ? '--0--5--' : '--------'}|`).join('\n');
    expect(part(read(`Tuning: D A D G B E\nCapo 3\n${body('eBGDAE')}`))).toMatchObject({
      tuning: [38, 45, 50, 55, 59, 64],
      capo: 3,
    });
    expect(part(read(body('dBGDAD'))).tuning).toEqual([38, 45, 50, 55, 59, 62]);
    const down = read(`Tuned to Eb Ab Db Gb Bb Eb\n${body('eBGDAE')}`);
    expect(part(down).tuning).toEqual([39, 44, 49, 54, 58, 63]);
    expect(part(down).events[0]?.notes[0]?.pitch.midi).toBe(39);
    expect(part(read(`3rd fret capo\n${body('eBGDAE')}`)).capo).toBe(3);
    // Moved strings: counted from the usual tuning or a named one, not from one that is spelled as it sounds.
    const standard = [40, 45, 50, 55, 59, 64];
    for (const [words, moved] of [
      ['tuned down a half step', -1],
      ['Tuning: half step down', -1],
      ['1/2 step down', -1],
      ['(guitars tuned a whole step lower)', -2],
      ['Tuned one and a half steps down', -3],
      ['tuned down a step and a half', -3],
      ['Two semitones down', -2],
      ['tuned up a half step', 1],
      ['Half a step down the alley', 0],
    ] as const)
      expect([words, part(read(`Moth\n${words}\n${body('eBGDAE')}`)).tuning]).toEqual([
        words,
        standard.map((pitch) => pitch + moved),
      ]);
    const remarks = read(`Moth\ntuned down a half step\n${body('eBGDAE')}`).remarks.map((one) => one.words);
    expect(remarks.join()).toContain('1 semitone down');
    expect(part(read(`Moth\nDrop D, tuned down a half step\n${body('eBGDAE')}`)).tuning).toEqual([
      37, 44, 49, 54, 58, 63,
    ]);
    expect(part(read(`Moth\nOpen G tuning\n${body('eBGDAE')}`)).tuning).toEqual([38, 43, 50, 55, 59, 62]);
    expect(part(read(`tuned down a half step\nEb Ab Db Gb Bb Eb\n${body('eBGDAE')}`)).tuning?.[0]).toBe(39);
  });

  it('with the usual letters of techniques', () => {
    const reading = read(`
e|-----------------------------------------|
B|-----------------------------------------|
G|-5h7-7p5-5/7-7\\5--7b9--7b9r7--7~~--<12>--|
D|--------------------------------------x--|
A|-----------------------------------------|
E|-----------------------------------------|`);
    const notes = part(reading).events.flatMap((event) => event.notes.filter((note) => note.place?.string === 3));
    expect(notes.map((note) => note.join ?? null)).toEqual([
      'hammer',
      null,
      'pull',
      null,
      'slide',
      null,
      'slide',
      null,
      null,
      null,
      null,
      null,
    ]);
    expect(notes[8]?.technique).toEqual({ bend: 200 });
    expect(notes[9]?.technique).toMatchObject({
      bend: 200,
      bendCurve: [{ cents: 0 }, { cents: 200 }, { cents: 200 }, { cents: 0 }],
    });
    expect(notes[10]?.technique).toEqual({ vibrato: 40 });
    expect(notes[11]?.technique).toEqual({ harmonic: true });
    expect(reading.doubts).toEqual([]);
  });

  it('with slides from and to nowhere, trills, taps, ghost notes and muting over a stretch', () => {
    const reading = read(`
    P.M.--------
e|----------------------------------|
B|----------------------------------|
G|----------------/7----7/----t12---|
D|-------------------------5tr7-----|
A|----------------------------------|
E|-0-0-3-0--(3)---------------------|`);
    const events = part(reading).events;
    expect(events.map((event) => event.mute ?? null).slice(0, 5)).toEqual(['palm', 'palm', 'palm', 'palm', 'palm']);
    expect(events[5]?.mute).toBeUndefined();
    expect(events[4]?.accent).toBe('ghost');
    expect(events.slice(5).map((event) => event.notes[0]?.technique)).toEqual([
      { slideIn: 'lower' },
      { slideOut: 'higher' },
      { trill: 2 },
      { tapped: true },
    ]);
  });

  it('with lengths by letters over it, or counted under it', () => {
    const letters = read(`
   q   e e h   
e|-0---1-3-0---|
B|-------------|
G|-------------|
D|-------------|
A|-------------|
E|-------------|`);
    expect(part(letters).events.map((event) => [event.at, event.dur])).toEqual([
      ['0', '1'],
      ['1', '1/2'],
      ['3/2', '1/2'],
      ['2', '2'],
    ]);
    const counted = read(`
G|-0--2-3-------5--|
D|-----------------|
A|-----------------|
E|-----------------|
   1  & a 2  3  4  `);
    expect(placed(counted).map((one) => one.split(' ')[0])).toEqual(['0', '1/2', '3/4', '3']);
  });

  it('with several systems, sections, chords over them, repeats, and words between', () => {
    const reading = read(`
Song of the lamp
Tempo: 92   3/4

[Intro]
   Am      F
e|-------|-------|
B|-------|-------|
G|-------|-------|
D|-------|-3-----|
A|-0-2-3-|-------|
E|-------|-------| x4
pick gently here

Verse:
e|:------|------:|
B|:------|------:|
G|:------|------:|
D|:-0-2-3|-------|
A|:------|------:|
E|:------|-3-----|
`);
    const { music } = reading;
    expect(music.marks).toEqual([
      { bar: 0, name: 'Intro' },
      { bar: 2, name: 'Verse' },
    ]);
    expect(music.meters).toEqual([{ bar: 0, beats: 3, unit: 4 }]);
    expect(music.tempo[0]?.bpm).toBe(92);
    expect(music.chords.map(({ at, chord }) => `${at} ${chord}`)).toEqual(['0 Am', '3 F']);
    expect(music.repeats.map(({ from, to, times }) => [from, to, times])).toEqual([
      [0, 2, 4],
      [2, 4, 2],
    ]);
    expect(reading.leftOut[0]?.count).toBe(1);
  });

  it('asks which line is the thick string where the letters run the other way', () => {
    const text = 'E|--0--|\nA|-----|\nD|-----|\nG|-----|\nB|-----|\ne|--3--|\n';
    const reading = read(text);
    expect(reading.questions).toMatchObject([{ id: 'string-order', usual: 'thick-first' }]);
    expect(placed(reading)).toEqual(['0 6.0+1.3']);
    expect(placed(read(text, { 'string-order': 'thin-first' }))).toEqual(['0 6.3+1.0']);
    expect(read('G|--0--|\nD|-----|\nA|-----|\nE|-----|\n').questions).toEqual([]);
  });

  it('marks every character that is in doubt, with its place', () => {
    const text = 'e|-----?---|\nB|---------|\nG|-7h5-----|\nD|----(3---|\nA|---------|\nE|-----|\n';
    expect(doubtful(text)).toEqual(['-----|', '?', '7h5', '(']);
    const [pull] = read(text).music.parts[0]?.events ?? [];
    expect(pull?.notes[0]?.join).toBe('pull');
  });

  it('says where times are a guess, and never stumbles over ragged lines', () => {
    const odd = read(
      'e|-0-1--3-0-----2-1---3-|\nB|---|\nG|---------|\nD|----------------------|\nA|-|\nE|--------------------3-|',
    );
    expect(odd.doubts.length).toBeGreaterThan(1);
    expect(part(odd).events.length).toBeGreaterThan(5);
  });
});

describe('what is no tab', () => {
  it('is refused in words', () => {
    expect(readTextTab('Dear theatre,\nno music here.')).toMatchObject({ ok: false, error: { rule: 'no-tab' } });
    expect(readTextTab('e|------|\nB|------|\nG|------|\nD|------|')).toMatchObject({
      ok: false,
      error: { rule: 'no-notes' },
    });
    expect(readTextTab('-'.repeat(TEXT_TAB_LIMITS.characters + 1))).toMatchObject({
      ok: false,
      error: { rule: 'too-large' },
    });
    expect(looksLikeTab('| a | b |\n|---|---|\n| 1 | 2 |')).toBe(false);
    expect(looksLikeTab('--- a line ---\n\n* one\n* two')).toBe(false);
  });

  it('and what is hostile ends soon', () => {
    const began = performance.now();
    readTextTab(`${'e|'.padEnd(2000, '-0')}|\n`.repeat(180));
    readTextTab('-'.repeat(390_000));
    readTextTab(`${'-|'.repeat(1000)}\n`.repeat(190));
    expect(performance.now() - began).toBeLessThan(20_000);
  });
});

describe('text tab written', () => {
  /** One part of the music with what has a place and its own time. */
  const onNeck = (music: Music, one: MusicPart): Music => ({
    ...music,
    parts: [
      {
        ...one,
        events: one.events.flatMap((event) => {
          const notes = event.notes.filter((note) => note.place);
          return notes.length > 0 && !event.grace ? [{ ...event, notes }] : [];
        }),
      },
    ],
  });
  const kept = (music: Music, one: MusicPart, shift: number): string[] =>
    one.events.map((event) => {
      const notes = event.notes.map((note) => `${note.place?.string}.${note.technique?.dead ? 'x' : note.place?.fret}`);
      return `${Math.max(-1, barOf(music.meters, event.at).bar) + shift} ${notes.sort().join(' ')}`;
    });

  it('and read again has every place in its bar and its order', () => {
    fc.assert(
      fc.property(pieceArbitrary, fc.constantFrom(40, 80, 120), (piece, width) => {
        const whole = musicOf(piece, { unfolded: true });
        for (const one of whole.parts) {
          const music = onNeck(whole, one);
          if (music.parts[0]?.events.length === 0) continue;
          const back = read(writeTextTab(music, { width }));
          // A pickup becomes a bar.
          const shift = music.pickup === ZERO ? 0 : 1;
          expect(kept(back.music, part(back), 0)).toEqual(kept(music, music.parts[0] as MusicPart, shift));
          expect(back.music.bars).toBe(music.bars + shift);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('has title, tuning, capo, marks, chords, counts, a legend of what is used, and keeps to its width', () => {
    const piece = formedPiece();
    const music = musicOf(piece, { unfolded: true, parts: ['p0'] });
    const text = writeTextTab(music, { width: 60 });
    expect(text).toContain('Tuning: D A D G B E');
    expect(text).toContain('Capo 2');
    expect(text).toContain('[Refrain]');
    expect(text).toMatch(/1\s+&\s+2\s+&/);
    expect(text).not.toContain('hammer-on');
    expect(text.split('\n').every((line) => line.length <= 60)).toBe(true);
    const back = read(text);
    expect(part(back)).toMatchObject({ tuning: [38, 45, 50, 55, 59, 64], capo: 2 });
    expect(back.music.chords.map((one) => one.chord).slice(0, 2)).toEqual(['F#m', 'Bm7/D']);
    // Evenly divided bars come back to the very time.
    expect(part(back).events.map((event) => event.at)).toEqual(music.parts[0]?.events.map((event) => event.at));
    expect(part(back).events.map((event) => event.notes[0]?.pitch.midi)).toEqual(
      music.parts[0]?.events.map((event) => event.notes[0]?.pitch.midi),
    );
  });
});
