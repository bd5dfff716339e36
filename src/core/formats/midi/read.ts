import { parseMidi, type MidiData, type MidiEvent } from 'midi-file';
import { fail, ok, type Cents, type Midi, type Result, type Finding, finding } from '../../base';
import { MAX_BPM, MIN_BPM } from '../../time';

/** What a file may hold at most. A hostile file meets a wall, not a hang. */
export const MIDI_LIMITS = {
  bytes: 4 * 1024 * 1024,
  events: 400_000,
  notesPerPart: 20_000,
  quarters: 20_000,
  tempos: 2000,
} as const;

/** A note of a file; times in quarter notes from the start, as played. */
export interface MidiNote {
  readonly at: number;
  readonly end: number;
  readonly pitch: Midi;
  /** The pitch wheel while it sounds, from where it stands as the note begins; absent where it rests at 0. */
  readonly bends?: readonly { readonly at: number; readonly cents: Cents }[];
}

/** One channel of one track that has notes. */
export interface MidiPart {
  readonly name: string;
  readonly track: number;
  /** 1 to 16, as instruments show it. */
  readonly channel: number;
  /** Program number 0-127 as in the file. */
  readonly program: number;
  readonly drums: boolean;
  readonly notes: readonly MidiNote[];
  readonly low: Midi;
  readonly high: Midi;
  /** Most notes sounding at once, by attack (chords) and including held ones. */
  readonly chord: number;
  readonly polyphony: number;
  /** Notes struck while the same pitch sounded on their channel: which of them ended is not told by the file. */
  readonly overlaps: number;
}

export interface MidiSong {
  readonly title: string;
  readonly parts: readonly MidiPart[];
  readonly tempo: readonly { readonly at: number; readonly bpm: number }[];
  readonly meters: readonly { readonly at: number; readonly beats: number; readonly unit: number }[];
  readonly keys: readonly { readonly at: number; readonly fifths: number; readonly minor: boolean }[];
  readonly marks: readonly { readonly at: number; readonly name: string }[];
  /** Ticks of a quarter note. */
  readonly ppq: number;
  /** Of files with a track a part, the channels each track uses, those without notes too; from 1. */
  readonly channels: readonly (readonly number[])[];
  /** What was odd about the file and what was made of it. */
  readonly remarks: readonly Finding[];
}

/** Reads a Standard MIDI file of format 0 or 1. Faults say what is wrong with the file; nothing is thrown. */
export function readMidi(bytes: Uint8Array): Result<MidiSong> {
  if (bytes.length > MIDI_LIMITS.bytes)
    return fail(
      'too-large',
      `The file has ${(bytes.length / 1048576).toFixed(1)} MB; ${MIDI_LIMITS.bytes / 1048576} MB at most.`,
      'file',
    );
  if (bytes.length < 14 || String.fromCharCode(...bytes.subarray(0, 4)) !== 'MThd') {
    return fail('not-midi', 'This is no Standard MIDI file: it does not begin with a MIDI header.', { byte: 0 });
  }
  let data: MidiData;
  try {
    data = parseMidi(bytes);
  } catch (reason) {
    // The parser throws strings and range errors on files that end early or lie about lengths.
    return fail(
      'broken-midi',
      `The file is damaged or cut short (${String(reason instanceof Error ? reason.message : reason).slice(0, 120)}). Export it again.`,
      'file',
    );
  }
  if (data.header.format !== 0 && data.header.format !== 1)
    return fail('midi-format', `MIDI format ${data.header.format} is not read; export it as format 0 or 1.`, 'header');
  const ppq = data.header.ticksPerBeat ?? 0;
  if (!(ppq > 0))
    return fail(
      'midi-division',
      'The file counts in film frames instead of beats; export it with ticks per quarter note.',
      'header',
    );
  const count = data.tracks.reduce((sum, list) => sum + list.length, 0);
  if (count > MIDI_LIMITS.events)
    return fail(
      'too-many-events',
      `The file has ${count} events; ${MIDI_LIMITS.events} at most. Export the parts you need.`,
      'file',
    );
  return collect(data, ppq);
}

interface Open {
  readonly at: number;
  readonly pitch: number;
}

/** One channel of a track as it is read. */
interface Channel {
  program: number;
  readonly open: Map<number, Open[]>;
  readonly notes: { at: number; end: number; pitch: number }[];
  readonly wheel: { at: number; cents: number }[];
  /** How far the wheel reaches, in cents. */
  range: number;
  /** The parameter that data entries are for; the wheel's range is the first. */
  rpn: readonly [number, number];
  overlaps: number;
}

const newChannel = (): Channel => ({
  ...{ program: 0, open: new Map(), notes: [], wheel: [], range: 200, rpn: [127, 127], overlaps: 0 },
});

function collect(data: MidiData, ppq: number): Result<MidiSong> {
  const remarks: Finding[] = [];
  const tempo: { at: number; bpm: number }[] = [];
  const meters: { at: number; beats: number; unit: number }[] = [];
  const keys: { at: number; fifths: number; minor: boolean }[] = [];
  const marks: { at: number; name: string }[] = [];
  const parts: MidiPart[] = [];
  const used: number[][] = [];
  let title = '';
  let clamped = false;
  let pedal = false;
  for (const [t, track] of data.tracks.entries()) {
    let ticks = 0;
    let name = '';
    const channels = new Map<number, Channel>();
    for (const event of track) {
      ticks += Math.max(0, event.deltaTime);
      const at = ticks / ppq;
      if (at > MIDI_LIMITS.quarters)
        return fail('too-long', `The file runs past ${MIDI_LIMITS.quarters} quarter notes.`, {
          path: ['track', t + 1],
        });
      if (event.type === 'trackName' && !name) name = tidy(event.text);
      else if (event.type === 'marker') marks.push({ at, name: tidy(event.text) });
      else if (event.type === 'keySignature' && Math.abs(event.key) <= 7)
        keys.push({ at, fifths: event.key, minor: event.scale === 1 });
      else if (event.type === 'setTempo') {
        const bpm = 60_000_000 / Math.max(1, event.microsecondsPerBeat);
        const kept = Math.min(MAX_BPM, Math.max(MIN_BPM, bpm));
        clamped ||= kept !== bpm;
        tempo.push({ at, bpm: Math.round(kept * 1000) / 1000 });
      } else if (event.type === 'timeSignature') meters.push({ at, beats: event.numerator, unit: event.denominator });
      else if ('channel' in event) {
        pedal ||= event.type === 'controller' && event.controllerType === 64 && event.value >= 64;
        channelEvent(channels, event, at);
      }
    }
    used.push(data.header.format === 1 ? [...channels.keys()].sort((a, b) => a - b) : []);
    if (t === 0 && data.tracks.length > 1) title = name;
    for (const [channel, one] of channels) {
      // Notes never ended last to the end of the track.
      for (const open of one.open.values())
        for (const other of open)
          one.notes.push({ at: other.at, end: Math.max(other.at + 0.25, ticks / ppq), pitch: other.pitch });
      if (one.notes.length === 0) continue;
      if (one.notes.length > MIDI_LIMITS.notesPerPart)
        return fail('too-many-notes', `A part has ${one.notes.length} notes; ${MIDI_LIMITS.notesPerPart} at most.`, {
          path: ['track', t + 1],
        });
      parts.push(partOf(name || `Track ${t + 1}`, t, channel, one));
    }
  }
  if (clamped)
    remarks.push(finding('tempo-range', 'warning', `A tempo outside ${MIN_BPM} to ${MAX_BPM} was brought within.`));
  if (tempo.length > MIDI_LIMITS.tempos)
    remarks.push(
      finding('many-tempos', 'warning', `Of ${tempo.length} tempo marks the first ${MIDI_LIMITS.tempos} are kept.`),
    );
  const overlaps = parts.reduce((sum, part) => sum + part.overlaps, 0);
  if (overlaps > 0)
    remarks.push(
      finding(
        'overlap',
        'warning',
        `${overlaps} ${overlaps === 1 ? 'note is' : 'notes are'} struck while the same pitch still sounds: the earlier one ends first.`,
      ),
    );
  if (pedal) remarks.push(finding('pedal', 'warning', 'A sustain pedal was held: notes end where their keys went up.'));
  if (parts.length === 0) return fail('no-notes', 'The file holds no notes.', 'file');
  const byTime = (a: { at: number }, b: { at: number }): number => a.at - b.at;
  for (const lane of [tempo, meters, keys, marks]) lane.sort(byTime);
  return ok({
    title,
    parts,
    tempo: tempo.slice(0, MIDI_LIMITS.tempos),
    meters,
    keys,
    marks,
    ppq,
    channels: used,
    remarks,
  });
}

function channelEvent(channels: Map<number, Channel>, event: MidiEvent, at: number): void {
  if (!('channel' in event)) return;
  const number = event.channel + 1;
  let one = channels.get(number);
  if (!one) {
    one = newChannel();
    channels.set(number, one);
  }
  if (event.type === 'programChange' && one.notes.length === 0) one.program = event.programNumber;
  else if (event.type === 'pitchBend') one.wheel.push({ at, cents: (event.value / 8192) * one.range });
  else if (event.type === 'controller') {
    const { controllerType: type, value } = event;
    if (type === 101) one.rpn = [value, one.rpn[1]];
    else if (type === 100) one.rpn = [one.rpn[0], value];
    else if (one.rpn[0] === 0 && one.rpn[1] === 0) {
      if (type === 6) one.range = value * 100 + (one.range % 100);
      else if (type === 38) one.range = Math.floor(one.range / 100) * 100 + Math.min(99, value);
    }
  }
  if (event.type !== 'noteOn' && event.type !== 'noteOff') return;
  const pitch = event.noteNumber;
  const open = one.open.get(pitch) ?? [];
  if (event.type === 'noteOn' && event.velocity > 0) {
    if (open.length > 0) one.overlaps++;
    one.open.set(pitch, [...open, { at, pitch }]);
  } else {
    const [first, ...rest] = open;
    if (!first) return;
    one.open.set(pitch, rest);
    if (at > first.at) one.notes.push({ at: first.at, end: at, pitch });
  }
}

/** Notes with what the wheel does while they sound. */
function bent({ notes, wheel }: Channel): MidiNote[] {
  const sorted = [...notes].sort((a, b) => a.at - b.at || a.pitch - b.pitch);
  if (wheel.every((step) => step.cents === 0)) return sorted;
  let first = 0;
  return sorted.map((note) => {
    while (first + 1 < wheel.length && (wheel[first + 1]?.at ?? Infinity) <= note.at) first++;
    const bends: { at: number; cents: number }[] = [];
    const start = wheel[first];
    bends.push({ at: note.at, cents: start && start.at <= note.at ? Math.round(start.cents) : 0 });
    for (let i = start && start.at <= note.at ? first + 1 : first; i < wheel.length; i++) {
      const step = wheel[i];
      if (!step || step.at >= note.end) break;
      if (bends.length < 2000) bends.push({ at: step.at, cents: Math.round(step.cents) });
    }
    return bends.every((step) => step.cents === 0) ? note : { ...note, bends };
  });
}

function partOf(name: string, track: number, channel: number, read: Channel): MidiPart {
  const notes = bent(read);
  const steps = notes
    .flatMap((note) => [
      { at: note.at, by: 1 },
      { at: note.end - 1e-6, by: -1 },
    ])
    .sort((a, b) => a.at - b.at || a.by - b.by);
  let sounding = 0;
  let polyphony = 0;
  for (const one of steps) polyphony = Math.max(polyphony, (sounding += one.by));
  const together = new Map<number, number>();
  for (const note of notes) together.set(Math.round(note.at * 24), (together.get(Math.round(note.at * 24)) ?? 0) + 1);
  return {
    name,
    track,
    channel,
    program: read.program,
    notes,
    polyphony,
    overlaps: read.overlaps,
    drums: channel === 10,
    low: notes.reduce((midi, note) => Math.min(midi, note.pitch), 127),
    high: notes.reduce((midi, note) => Math.max(midi, note.pitch), 0),
    chord: [...together.values()].reduce((a, b) => Math.max(a, b), 0),
  };
}

/** A name as it was written: UTF-8, or where it is none, a byte a letter; without what no name has. */
function tidy(text: string): string {
  const bytes = Uint8Array.from(text.slice(0, 1000), (letter) => letter.charCodeAt(0) & 0xff);
  let read = text;
  try {
    read = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    // It stays as its bytes are.
  }
  return [...read]
    .filter((letter) => letter >= ' ' && letter !== '\u007f')
    .join('')
    .trim()
    .slice(0, 80);
}
