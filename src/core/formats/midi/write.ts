import { writeMidi as encode, type MidiEvent } from 'midi-file';
import { signatureOf } from '../../staff';
import { joinPairs, noteEnd, type Note, type Piece, type RiffEvent } from '../../score';
import {
  add,
  barLength,
  barStart,
  bpmAt,
  floorDiv,
  mul,
  quarter,
  sub,
  toNumber,
  ZERO,
  type Quarter,
  type TempoStep,
} from '../../time';
import { guessSetup, musicOf, type Music, type MusicPart } from '../music';

const PPQ = 480;
/** How far the wheel reaches either way, in semitones: a whole octave, so that slides fit. */
const RANGE = 12;
const LOUD: Readonly<Record<string, number>> = { pp: 40, p: 55, mp: 70, mf: 85, f: 100, ff: 118 };

export interface MidiWriting {
  /** A channel for each string, so that bends touch their own note alone; or one for the part. */
  readonly channels?: 'strings' | 'one';
}

/** A piece through its form as a Standard MIDI file of format 1. */
export const pieceToMidi = (piece: Piece, writing: MidiWriting = {}): Uint8Array =>
  writeMidi(musicOf(piece, { unfolded: true }), writing);

/**
 * Music as a Standard MIDI file of format 1: a track of tempo, meter, key and marks, then one a part at sounding pitch,
 * with bends and slides on the wheel. Before a pickup an empty bar stands, so that bar lines stay where they are.
 * Channel 10 is for drums everywhere: parts go round it; where channels run out, a part has one.
 */
export function writeMidi(music: Music, { channels = 'one' }: MidiWriting = {}): Uint8Array {
  const lead = toNumber(leadIn(music));
  const ticks = (at: Quarter): number => Math.max(0, Math.round((toNumber(at) + lead) * PPQ));
  const free = [0, 1, 2, 3, 4, 5, 6, 7, 8, 10, 11, 12, 13, 14, 15];
  let next = 0;
  const tracks = music.parts.map((part, i): MidiEvent[] => {
    const strings = guessSetup(part).setup.open.length;
    // Every part that comes has one channel at least.
    const left = free.length - next - (music.parts.length - i - 1);
    const own = channels === 'strings' && allPlaced(part) && strings <= left ? strings : 1;
    const taken = Array.from({ length: own }, (_, k) => free[(next + k) % free.length] ?? 0);
    next += own;
    return track(partEvents(part, taken, ticks));
  });
  return midiFile([track(conductor(music, ticks)), ...tracks]);
}

/** Bytes of the file's head, and of a track's. */
const SIZES = { head: 14, track: 8 } as const;
/** Events given to the library at once: what it takes grows with the square of their number. */
const AT_ONCE = 256;

/** The bytes of a file of format 1, from tracks of events as the library knows them, in time linear in their number. */
export function midiFile(tracks: readonly (readonly MidiEvent[])[]): Uint8Array {
  const header = { format: 1 as const, numTracks: tracks.length, ticksPerBeat: PPQ };
  const out: number[] = encode({ header, tracks: [] }).slice(0, SIZES.head);
  // The library counts the tracks it is given.
  out.splice(10, 2, tracks.length >> 8, tracks.length & 0xff);
  for (const events of tracks) {
    const bytes: number[] = [];
    for (let at = 0; at < events.length; at += AT_ONCE) {
      const some = encode({ header, tracks: [[...events.slice(at, at + AT_ONCE)]] });
      for (let i = SIZES.head + SIZES.track; i < some.length; i++) bytes.push(some[i] ?? 0);
    }
    const { length } = bytes;
    out.push(
      0x4d,
      0x54,
      0x72,
      0x6b,
      (length >>> 24) & 0xff,
      (length >> 16) & 0xff,
      (length >> 8) & 0xff,
      length & 0xff,
    );
    for (const byte of bytes) out.push(byte);
  }
  return Uint8Array.from(out);
}

/** A text as the format takes it, a byte a letter: UTF-8. */
const lettersOf = (text: string): string => String.fromCharCode(...new TextEncoder().encode(text.slice(0, 400)));

/** What stands before the first bar line: a bar where anything begins before it. */
export const leadIn = (music: Music): Quarter =>
  music.parts.some((part) => part.events[0]?.at.startsWith('-')) ? barLength(music.meters[0] ?? FOUR) : ZERO;

const FOUR = { beats: 4, unit: 4 };

const allPlaced = ({ events }: MusicPart): boolean => events.every((event) => event.notes.every((note) => note.place));

interface Timed {
  readonly tick: number;
  readonly event: MidiEvent;
  /** Of what happens at one tick, the lower comes first: ends, then the wheel, then beginnings. */
  readonly order: number;
}

const meta = (tick: number, event: Record<string, unknown>): Timed => ({
  ...{ tick, order: 0 },
  event: { deltaTime: 0, meta: true, ...event } as unknown as MidiEvent,
});

function conductor(music: Music, ticks: (at: Quarter) => number): Timed[] {
  const begin = (at: Quarter): number => (at === ZERO ? 0 : ticks(at));
  return [
    meta(0, { type: 'trackName', text: lettersOf(music.title) }),
    ...stepped(music.tempo).map((step) =>
      meta(begin(step.at), { type: 'setTempo', microsecondsPerBeat: Math.round(60_000_000 / step.bpm) }),
    ),
    ...music.meters.map((meter) =>
      meta(begin(barStart(music.meters, meter.bar)), {
        ...{ type: 'timeSignature', numerator: meter.beats, denominator: meter.unit },
        ...{ metronome: 24, thirtyseconds: 8 },
      }),
    ),
    ...music.keys.map((key) =>
      meta(begin(key.at), { type: 'keySignature', key: signatureOf(key), scale: key.mode === 'minor' ? 1 : 0 }),
    ),
    ...music.marks.map((mark) =>
      meta(begin(barStart(music.meters, mark.bar)), { type: 'marker', text: lettersOf(mark.name) }),
    ),
  ];
}

function partEvents(part: MusicPart, channels: readonly number[], ticks: (at: Quarter) => number): Timed[] {
  const out: Timed[] = [meta(0, { type: 'trackName', text: lettersOf(part.name) })];
  const bass = part.kind === 'bass';
  for (const channel of channels) {
    const control = (controllerType: number, value: number): Timed => ({
      ...{ tick: 0, order: 0 },
      event: { deltaTime: 0, type: 'controller', channel, controllerType, value },
    });
    out.push(
      {
        tick: 0,
        order: 0,
        event: { deltaTime: 0, type: 'programChange', channel, programNumber: part.program ?? (bass ? 33 : 27) },
      },
      ...[control(101, 0), control(100, 0), control(6, RANGE), control(38, 0), control(101, 127), control(100, 127)],
    );
  }
  let loud = 85;
  const wheel = new Map<number, number>();
  part.events.forEach((event, i) => {
    loud = event.dynamic ? (LOUD[event.dynamic] ?? loud) : loud;
    const leads = joinPairs(event, part.events[i + 1] ?? { notes: [] });
    for (const [k, note] of event.notes.entries()) {
      const channel = channelOf(note, channels);
      const alone = channels.length > 1 || event.notes.length === 1;
      const lead = leads.find((pair) => pair.from === k && pair.how === 'slide');
      const target = lead ? part.events[i + 1]?.notes[lead.to] : undefined;
      const from = ticks(event.at);
      const again = note.place ? ticks(nextOn(part.events, i, note.place.string) ?? FAR) : Infinity;
      const to = Math.max(from + 1, Math.min(again, ticks(noteEnd(event, note))));
      out.push(
        {
          tick: from,
          order: 3,
          event: {
            deltaTime: 0,
            type: 'noteOn',
            channel,
            noteNumber: note.pitch.midi,
            velocity: loudness(event, loud),
          },
        },
        {
          tick: to,
          order: 1,
          event: { deltaTime: 0, type: 'noteOff', channel, noteNumber: note.pitch.midi, velocity: 0 },
        },
      );
      const steps = alone ? bendSteps(note, from, to, target) : [];
      const set = (tick: number, cents: number): void => {
        const value = Math.max(-8192, Math.min(8191, Math.round((cents / (RANGE * 100)) * 8192)));
        if ((wheel.get(channel) ?? 0) === value) return;
        wheel.set(channel, value);
        out.push({ tick, order: 2, event: { deltaTime: 0, type: 'pitchBend', channel, value } });
      };
      if (alone) set(from, steps[0]?.cents ?? note.pitch.cents);
      for (const step of steps) set(step.tick, step.cents);
    }
  });
  return out;
}

/** When a string is struck again: what sounds on it ends there. Null where that is far. */
function nextOn(events: readonly RiffEvent[], index: number, string: number): Quarter | null {
  const next = events
    .slice(index + 1, index + 200)
    .find((event) => event.notes.some((note) => note.place?.string === string));
  return next?.at ?? null;
}

const FAR = quarter(1_000_000);

/** The channel of a note's string, the first for the thinnest. */
const channelOf = (note: Note, channels: readonly number[]): number =>
  channels[Math.min(channels.length, note.place?.string ?? 1) - 1] ?? channels[0] ?? 0;

function loudness(event: RiffEvent, loud: number): number {
  const more = event.accent === 'heavy' ? 25 : event.accent === 'accent' ? 15 : event.accent === 'ghost' ? -35 : 0;
  return Math.max(1, Math.min(127, loud + more - (event.mute === 'palm' ? 10 : 0)));
}

/** The wheel over a note, in steps of a thirty-second of its length: its bend, its shake, or its slide to the next. */
function bendSteps(note: Note, from: number, to: number, target: Note | undefined): { tick: number; cents: number }[] {
  const technique = note.technique ?? {};
  const base = note.pitch.cents;
  const length = to - from;
  const at = (share: number): number => Math.min(to - 1, from + Math.round(share * length));
  const STEPS = 32;
  const even = Array.from({ length: STEPS + 1 }, (_, k) => k / STEPS);
  const along = (cents: (share: number) => number, also: readonly number[] = []): { tick: number; cents: number }[] =>
    [...even, ...also]
      .sort((a, b) => a - b)
      .map((share) => ({ tick: at(share), cents: Math.round(base + cents(share)) }));
  if (target) {
    const by = (target.pitch.midi - note.pitch.midi) * 100;
    if (Math.abs(by) > RANGE * 100) return [];
    // Held, and over in the last fifth.
    return along((share) => (share < 0.8 ? 0 : share >= 0.96 ? by : (by * (share - 0.8)) / 0.16));
  }
  if (technique.bend !== undefined) {
    const points = technique.bendCurve ?? [
      { at: 0, cents: 0 },
      { at: 40, cents: technique.bend },
      { at: 100, cents: technique.bend },
    ];
    // Its own points too, so that it comes as far as it is told to.
    return along(
      (share) => curveAt(points, share * 100),
      points.map((point) => point.at / 100),
    );
  }
  if (technique.vibrato !== undefined) {
    const wide = technique.vibrato;
    return along((share) => wide * Math.sin(share * 2 * Math.PI * 4));
  }
  return [];
}

function curveAt(points: readonly { readonly at: number; readonly cents: number }[], at: number): number {
  const next = points.findIndex((point) => point.at >= at);
  const [a, b] = [points[next - 1], points[next]];
  if (!b) return points.at(-1)?.cents ?? 0;
  if (!a || b.at === a.at) return b.cents;
  return a.cents + ((b.cents - a.cents) * (at - a.at)) / (b.at - a.at);
}

/** A tempo map in steps: the format has no ramps, so one is written as a step every sixteenth. */
function stepped(steps: readonly TempoStep[]): { at: Quarter; bpm: number }[] {
  return steps.flatMap((step, i) => {
    const next = steps[i + 1];
    if (!step.ramp || !next) return [{ at: step.at, bpm: step.bpm }];
    const count = Math.min(400, Math.max(1, floorDiv(sub(next.at, step.at), quarter(1, 4))));
    return Array.from({ length: count }, (_, k) => ({
      at: add(step.at, quarter(k, 4)),
      bpm: bpmAt(steps, add(step.at, mul(quarter(1, 8), 2 * k + 1))),
    }));
  });
}

/** Timed events as a track of deltas; at one tick notes end before others begin. */
function track(timed: readonly Timed[]): MidiEvent[] {
  const sorted = [...timed].sort((a, b) => a.tick - b.tick || a.order - b.order);
  let before = 0;
  const events = sorted.map(({ tick, event }) => {
    const deltaTime = tick - before;
    before = tick;
    return { ...event, deltaTime };
  });
  return [...events, { deltaTime: 0, meta: true, type: 'endOfTrack' }];
}
