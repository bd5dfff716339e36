import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must } from '../base';
import { makeSetup, openPitch, type Setup } from '../instrument';
import {
  bandLine,
  capoPairs,
  chordFrames,
  chordName,
  chordsOfKey,
  classesOf,
  gripMeanings,
  nameOf,
  parseChord,
  planCapo,
  readChords,
  readKey,
  shiftChord,
  singerKeys,
  type ChordFrame,
} from './index';

const setupOf = (instrument: string, tuning?: string, capo: Parameters<typeof makeSetup>[0]['capo'] = 0): Setup =>
  must(makeSetup({ instrument, tuning, capo })).setup;
const guitar = setupOf('acoustic-6');
const chord = (text: string) => must(parseChord(text));
const shape = (frame: ChordFrame | undefined): string => frame?.frets.map((fret) => fret ?? 'x').join('') ?? '';

describe('chord symbols', () => {
  it('are read and written again', () => {
    for (const text of ['C', 'F♯m7', 'B♭', 'D/F♯', 'G5', 'Asus4', 'Cmaj7', 'E7'])
      expect(chordName(chord(text))).toBe(text);
    expect(chordName(chord('Bb'), 'german')).toBe('B');
    for (const bad of ['', 'H', 'Cwobble', 'C/', '4', 'c']) expect(parseChord(bad).ok, bad).toBe(false);
    expect(classesOf(chord('Am'))).toEqual([9, 0, 4]);
    expect(must(readChords('Bb F, Gm | Eb - C')).map((chord) => chordName(chord))).toEqual([
      'B♭',
      'F',
      'Gm',
      'E♭',
      'C',
    ]);
    expect(readChords('G X D')).toMatchObject({ ok: false, error: { locus: { path: ['X'] } } });
  });
  it('move with their key', () => {
    expect(chordName(shiftChord(chord('C/G'), 3, { tonic: 'Eb', mode: 'major' }))).toBe('E♭/B♭');
    expect(chordName(shiftChord(chord('E'), -1, null))).toBe('E♭');
    fc.assert(
      fc.property(
        fc.constantFrom('C', 'F#m', 'Bb7', 'Gsus4', 'D/F#'),
        fc.integer({ min: -11, max: 11 }),
        (text, by) => {
          const there = shiftChord(chord(text), by, null);
          expect(classesOf(there)).toEqual(classesOf(chord(text)).map((c) => (((c + by) % 12) + 12) % 12));
          expect(classesOf(shiftChord(there, -by, null))).toEqual(classesOf(chord(text)));
        },
      ),
    );
    expect(chordsOfKey({ tonic: 'A', mode: 'minor' }).map((chord) => chordName(chord))).toEqual([
      'Am',
      'C',
      'Dm',
      'Em',
      'F',
      'G',
    ]);
  });
  it('name what sounds over its bass', () => {
    expect([
      nameOf([40, 47, 52, 56, 59, 64]),
      nameOf([43, 48, 52]),
      nameOf([45, 52]),
      nameOf([45, 57]),
      nameOf([40, 41, 42]),
    ]).toEqual(['E', 'C/G', 'A5', 'only A', null]);
    expect(nameOf([])).toBeNull();
  });
});

describe('grips', () => {
  it('come out as players know them', () => {
    const best = (text: string): string => shape(must(chordFrames(chord(text), guitar))[0]);
    expect([best('E'), best('Am'), best('C'), best('D'), best('G'), best('G7'), best('Em')]).toEqual([
      '022100',
      'x02210',
      'x32010',
      'xx0232',
      '320003',
      '320001',
      '022000',
    ]);
  });
  it('hold every tone, the bass below, one finger order, in any set-up', () => {
    const setups = [
      guitar,
      setupOf('guitar-6', 'modal-dadgad'),
      setupOf('guitar-6', 'x G2 D3 G3 B3 D4'),
      setupOf('tenor-4'),
      setupOf('guitar-6', 'standard', [{ fret: 2, strings: [5, 4, 3] }]),
    ];
    fc.assert(
      fc.property(
        fc.constantFrom(...setups),
        fc.integer({ min: 0, max: 11 }),
        fc.constantFrom('', 'm', '7', '5', 'maj7', 'sus4'),
        (setup, up, kind) => {
          const wanted = shiftChord(chord(`C${kind}`), up, null);
          const found = chordFrames(wanted, setup, 3);
          if (!found.ok) return;
          const classes = classesOf(wanted);
          for (const frame of found.value) {
            const pitches = frame.frets.flatMap((fret, i) =>
              fret === null ? [] : [openPitch(setup, setup.open.length - i) + fret],
            );
            expect(frame.pitches).toEqual(pitches);
            expect(pitches.every((p) => classes.includes(p % 12))).toBe(true);
            expect((pitches[0] ?? 0) % 12).toBe(classes[0]);
            expect(
              classes
                .filter((c) => c !== ((classes[0] ?? 0) + 7) % 12 || classes.length < 4)
                .every((c) => pitches.some((p) => p % 12 === c)),
            ).toBe(true);
            expect(frame.frets.every((fret, i) => fret === null || !setup.absent.includes(setup.open.length - i))).toBe(
              true,
            );
            expect(new Set(frame.fingers.filter((finger) => finger !== null && finger > 0)).size).toBeLessThanOrEqual(
              4,
            );
            frame.fingers.forEach((finger, i) =>
              expect(finger === null ? frame.frets[i] : (finger === 0) === (frame.frets[i] === 0)).toBe(
                finger === null ? null : true,
              ),
            );
          }
        },
      ),
      { numRuns: 60 },
    );
  });
  it('known from standard tuning mean other chords in other tunings', () => {
    const drop = gripMeanings(setupOf('guitar-6', 'drop-d'));
    const by = (name: string) => drop.find((grip) => grip.name === name);
    expect(by('A')).toMatchObject({ moved: 0, sounds: 'A', odd: [] });
    expect(by('E')).toMatchObject({ moved: null, odd: [6] });
    const down = gripMeanings(setupOf('guitar-6', 'down-2'));
    expect(down.every((grip) => grip.moved === -2)).toBe(true);
    expect(down.find((grip) => grip.name === 'C')?.sounds).toBe('B♭');
    expect(gripMeanings(setupOf('guitar-6', 'standard', 4)).find((grip) => grip.name === 'Am')).toMatchObject({
      moved: 4,
      sounds: 'C♯m',
    });
    expect(gripMeanings(setupOf('bass-4'))).toEqual([]);
    expect(
      gripMeanings(setupOf('guitar-6', 'x A2 D3 G3 B3 E4')).find((grip) => grip.name === 'E')?.frets[0],
    ).toBeNull();
  });
});

describe('the capo planner', () => {
  const key = must(readKey('Bb'));
  const plan = must(planCapo({ setup: guitar, chords: ['Bb', 'F', 'Gm', 'Eb'], key }));

  it('finds where everything is open, with shapes that sound what was asked', () => {
    expect(plan[0]).toMatchObject({ capo: 3, openGrips: 4, shapeKey: { tonic: 'G', mode: 'major' } });
    expect(plan[0]?.chords.map((chord) => chordName(chord.shape))).toEqual(['G', 'D', 'Em', 'C']);
    for (const choice of plan) {
      const capoed: Setup = { ...guitar, capos: choice.capo > 0 ? [{ fret: choice.capo, strings: null }] : [] };
      for (const chord of choice.chords) {
        const sounding = (chord.frame?.frets ?? []).flatMap((fret, i) =>
          fret === null ? [] : [(openPitch(capoed, 6 - i) + fret) % 12],
        );
        expect(
          sounding.every((pc) => classesOf(chord.sounding).includes(pc)),
          `${choice.capo} ${chordName(chord.sounding)}`,
        ).toBe(true);
        expect(classesOf(chord.shape).map((x) => (x + choice.capo) % 12)).toEqual(classesOf(chord.sounding));
      }
    }
    expect(plan.map((choice) => choice.score)).toEqual([...plan.map((choice) => choice.score)].sort((a, b) => b - a));
  });
  it('tells the band, pairs guitars, and follows a tuning', () => {
    expect(bandLine(plan[0] as (typeof plan)[0], key)).toBe(
      'Guitar with capo 3 plays in G major shapes: G D Em C. Everyone else plays what sounds, B♭ major: B♭ F Gm E♭.',
    );
    const plain = must(planCapo({ setup: guitar, chords: ['G', 'C'], key: null })).find((choice) => choice.capo === 0);
    expect(plain && bandLine(plain, null)).toBe('Guitar without capo: G C. Everyone plays what is named.');
    for (const pair of capoPairs(plan)) expect(pair.second.capo - pair.first.capo).toBeGreaterThanOrEqual(2);
    const down = must(planCapo({ setup: setupOf('guitar-6', 'down-2'), chords: ['Bb'], key: null })).find(
      (choice) => choice.capo === 0,
    );
    expect(down && chordName(down.chords[0]?.shape ?? chord('C'))).toBe('C');
    expect(must(planCapo({ setup: guitar, chords: [], key: must(readKey('Am')) }))[0]?.chords).toHaveLength(6);
  });
  it('asks for what it needs', () => {
    expect(planCapo({ setup: guitar, chords: [], key: null })).toMatchObject({
      ok: false,
      error: { locus: { path: ['chords'] } },
    });
    expect(planCapo({ setup: guitar, chords: ['Q'], key: null }).ok).toBe(false);
    const many = ['C', 'D', 'E', 'F', 'G', 'A', 'B'].flatMap((name) => ['', 'm', '7', 'm7'].map((key) => name + key));
    expect(planCapo({ setup: guitar, chords: many, key: null })).toMatchObject({
      ok: false,
      error: { rule: 'many-chords' },
    });
    expect([must(readKey('f# minor')), must(readKey('cm')), must(readKey('Eb major'))]).toEqual([
      { tonic: 'F#', mode: 'minor' },
      { tonic: 'C', mode: 'minor' },
      { tonic: 'Eb', mode: 'major' },
    ]);
    expect(readKey('X').ok).toBe(false);
  });
  it('finds keys a singer can take', () => {
    const keys = must(singerKeys({ tonic: 'C', mode: 'major' }, { low: 60, high: 76 }, { low: 55, high: 72 }));
    expect(keys.every((one) => one.above >= 0 && one.below >= 0)).toBe(true);
    expect(keys[0]).toMatchObject({ semitones: -4, key: { tonic: 'Ab' } });
    const narrow = must(singerKeys({ tonic: 'C', mode: 'major' }, { low: 48, high: 80 }, { low: 55, high: 72 }));
    expect(narrow.length).toBe(3);
    expect(narrow.every((one) => Math.min(one.above, one.below) < 0)).toBe(true);
    expect(singerKeys({ tonic: 'C', mode: 'major' }, { low: 70, high: 60 }, { low: 55, high: 72 })).toMatchObject({
      ok: false,
      error: { locus: { path: ['melody'] } },
    });
    expect(singerKeys({ tonic: 'C', mode: 'major' }, { low: 60, high: 70 }, { low: 75, high: 72 })).toMatchObject({
      ok: false,
      error: { locus: { path: ['voice'] } },
    });
  });
});
