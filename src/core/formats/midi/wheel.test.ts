import fc from 'fast-check';
import { writeMidi as encode, type MidiEvent } from 'midi-file';
import { describe, expect, it } from 'vitest';
import { must } from '../../base';
import { pieceArbitrary } from '../../score/test-support/arbitrary';
import { quarter, toNumber } from '../../time';
import { musicOf, type Music } from '../music';
import { formedPiece } from '../test-support/formed';
import { withoutDoubles } from '../test-support/alike';
import { leadIn, midiToMusic, readMidi, writeMidi } from './index';
import { wheelOf } from './wheel';

const back = (music: Music, channels: 'one' | 'strings'): Music =>
  midiToMusic(must(readMidi(writeMidi(music, { channels }))), { grid: 'auto' }).music;

/** A note a second long with the wheel at times and cents. */
const bent = (...steps: readonly (readonly [at: number, cents: number])[]) =>
  wheelOf({ at: 0, end: 1, pitch: 60, bends: steps.map(([at, cents]) => ({ at, cents })) });
const ramp = (from: number, to: number, a: number, b: number): [number, number][] =>
  Array.from({ length: 9 }, (_, i) => [a + ((b - a) * i) / 8, from + ((to - from) * i) / 8]);

describe('the pitch wheel over a note', () => {
  it('is a bend, released, again, or before the stroke', () => {
    expect(bent(...ramp(0, 200, 0.1, 0.4)).technique).toEqual({ bend: 200 });
    expect(bent(...ramp(0, 200, 0.1, 0.3), ...ramp(200, 0, 0.5, 0.8)).technique).toMatchObject({
      bend: 200,
      bendCurve: [{ cents: 0 }, { cents: 200 }, { cents: 200 }, { cents: 0 }],
    });
    expect(bent([0, 200]).technique).toMatchObject({ bendCurve: [{ cents: 200 }, { cents: 200 }] });
    expect(bent([0, 100], ...ramp(100, 0, 0.3, 0.6)).technique.bendCurve?.at(-1)?.cents).toBe(0);
    const twice = bent(
      ...ramp(0, 200, 0, 0.2),
      ...ramp(200, 0, 0.25, 0.4),
      ...ramp(0, 200, 0.5, 0.7),
      ...ramp(200, 0, 0.8, 0.95),
    );
    expect(twice.technique.bendCurve).toHaveLength(5);
  });

  it('is a shake where it turns again and again, a note out of tune where it rests a little off', () => {
    const shaken = Array.from({ length: 40 }, (_, i): [number, number] => [i / 40, Math.round(30 * Math.sin(i))]);
    expect(bent(...shaken).technique.vibrato).toBeGreaterThan(20);
    expect(bent([0, -35])).toMatchObject({ cents: -35, technique: {}, slide: null });
    expect(bent([0, 0], [0.5, 8])).toMatchObject({ cents: 0, technique: {}, slide: null });
  });

  it('is a slide where it goes down, or further than a finger bends, and stays', () => {
    expect(bent(...ramp(0, -200, 0.4, 0.6)).slide).toMatchObject({ by: -2 });
    const far = bent(...ramp(0, 500, 0.4, 0.6));
    expect(far.slide?.by).toBe(5);
    expect(far.slide?.from).toBeGreaterThan(0.4);
  });
});

describe('a piece as MIDI and back', () => {
  /** Only what lies on strings: the rest shares a channel. */
  const onStrings = (music: Music): Music => ({
    ...music,
    parts: music.parts.map((part) => ({
      ...part,
      events: part.events.flatMap((event, i) => {
        // What a note leads to goes with it: alone it would lead to whatever comes next.
        const leads = part.events[i + 1]?.notes.every((note) => note.place) === true;
        const notes = event.notes
          .filter((note) => note.place)
          .map(({ join, ...note }) => (join && leads ? { ...note, join } : note));
        return notes.length > 0 ? [{ ...event, notes }] : [];
      }),
    })),
  });

  it('has every pitch at its time, and with a channel a string every bend', () => {
    fc.assert(
      fc.property(pieceArbitrary, fc.constantFrom('one' as const, 'strings' as const), (given, channels) => {
        const music = onStrings(musicOf(withoutDoubles(given), { unfolded: true }));
        const parts = music.parts.filter((part) => part.events.length > 0);
        fc.pre(parts.length > 0);
        const heard = back(music, channels);
        const lead = toNumber(leadIn(music));
        const told = (one: Music['parts'][number] | undefined, shift: number): string[] =>
          (one?.events ?? [])
            .flatMap((event) =>
              event.notes.map((note) => {
                const at = Math.round((toNumber(event.at) + shift) * 480);
                return `${at} ${note.pitch.midi} ${channels === 'strings' ? (note.technique?.bend ?? 0) : ''}`;
              }),
            )
            .sort();
        parts.forEach((part, i) => expect(told(heard.parts[i], 0)).toEqual(told(part, lead)));
      }),
      { numRuns: 80 },
    );
  });

  it('knows the strings of a track with a channel for each, and their frets', () => {
    const music = musicOf(formedPiece(), { unfolded: true, parts: ['p1'] });
    const [part] = back(music, 'strings').parts;
    expect(part).toMatchObject({ placed: true, tuning: [28, 33, 38, 43], kind: 'bass', name: 'Bass' });
    const places = (one: Music['parts'][number] | undefined): string[] =>
      (one?.events ?? []).map((event) => `${event.notes[0]?.place?.string}.${event.notes[0]?.place?.fret}`);
    expect(places(part)).toEqual(places(music.parts[0]));
  });

  it('keeps names in any letters, and writes a long part in no time', () => {
    const music = musicOf(formedPiece(), { unfolded: true });
    const [part] = music.parts as [Music['parts'][number]];
    const named = back({ ...music, title: 'Łódź ♭', parts: [{ ...part, name: 'Gîtarre \u{1f989}' }] }, 'one');
    expect([named.title, named.parts[0]?.name]).toEqual(['Łódź ♭', 'Gîtarre \u{1f989}']);
    const events = Array.from({ length: 20_000 }, (_, i) => ({
      ...(part.events[i % 8] as Music['parts'][number]['events'][number]),
      at: quarter(i, 2),
    }));
    const long = writeMidi({ ...music, bars: 2500, parts: [{ ...part, events }] });
    expect(must(readMidi(long)).parts[0]?.notes).toHaveLength(20_000);
  });

  it('goes through the form: tempo, keys, meters and marks, every repeat played', () => {
    const music = musicOf(formedPiece(), { unfolded: true });
    const heard = back(music, 'one');
    expect(heard.marks).toEqual(music.marks.map(({ bar, name }) => ({ bar, name })));
    expect(heard.bars).toBe(music.bars);
    expect(heard.keys.map(({ tonic, mode }) => `${tonic} ${mode}`)).toEqual(['F# minor']);
    expect(heard.tempo[0]?.bpm).toBe(96);
    expect(heard.tempo.at(-1)?.bpm).toBeLessThan(65);
  });
});

describe('files others write', () => {
  it('tell notes struck twice on one pitch, drums, and a pedal that is held', () => {
    const on = (deltaTime: number, noteNumber: number, velocity = 90, channel = 0) =>
      ({ deltaTime, type: 'noteOn', channel, noteNumber, velocity }) as MidiEvent;
    const end = { deltaTime: 0, type: 'endOfTrack', meta: true } as MidiEvent;
    const pedal = { deltaTime: 0, type: 'controller', channel: 0, controllerType: 64, value: 127 } as MidiEvent;
    const tracks = [
      [pedal, on(0, 50), on(120, 50), on(120, 50, 0), on(120, 50, 0), end],
      [on(0, 36, 90, 9), on(120, 36, 0, 9), end],
    ];
    const bytes = Uint8Array.from(encode({ header: { format: 1, numTracks: 2, ticksPerBeat: 480 }, tracks }));
    const reading = midiToMusic(must(readMidi(bytes)), { grid: 'auto' });
    expect(reading.remarks.map((finding) => finding.rule)).toEqual(['overlap', 'pedal']);
    expect(reading.leftOut).toEqual([{ what: 'drums', count: 1, where: 'Track 2' }]);
    expect(reading.music.parts[0]?.events.map((event) => event.at)).toEqual(['0', '1/4']);
  });
});
